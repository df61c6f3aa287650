import type { z } from 'zod';
import type { copyRequest, DraftItem } from '@/contract/drafts';
import type { ReleaseItem, ReleasesAnswer } from '@/contract/releases';
import { ClosedDrafts, firstProduct, type StateRow } from '@/store';
import { madeNow, refuse } from '@/server/http';
import type { Shop } from './shop';

/** The draft of that name, or a refusal that names it. */
export function draftOf(shop: Shop, slug: string): StateRow {
  return shop.themes.draft(slug) ?? refuse(404, 'draft', `There is no draft “${slug}”.`);
}

/** Where one is in the workbench when nothing says where: the oldest draft, and the first product's page. null: there is no shop yet. */
export function beginning(shop: Shop, source = true): { draft: string; page: string } | null {
  const draft = shop.themes.firstDraft(!source);
  const product = firstProduct(shop.sql);
  return draft === null ? null : { draft, page: product === null ? '/' : `/product/${product}` };
}

/** A draft as it stands now: it may have changed since it was read, or be gone. */
export const draftNow = (shop: Shop, { slug }: StateRow): StateRow => draftOf(shop, slug ?? '');

/** A state by its name: `draft/spring`, `release/3`, `live`; refused when there is none. */
export function stateOf(shop: Shop, name: string): StateRow {
  const [kind, which = ''] = name.split('/');
  if (kind === 'live') return shop.themes.live() ?? refuse(404, 'release', 'Nothing is live yet.');
  if (kind === 'draft') return draftOf(shop, which);
  const release = shop.themes.release(Number(which)) ?? refuse(404, 'release', `There is no release ${which}.`);
  return { ...release, address: `/release/${which}` };
}

/** The files that serve in a state, by path: their hashes, and the name of their layer. */
export function servedHashes(shop: Shop, stateId: number): Map<string, { hash: string; layer: string }> {
  const served = new Map<string, { hash: string; layer: string }>();
  for (const layer of shop.themes.layers(stateId))
    for (const [path, { hash }] of shop.themes.hashes(layer.id)) served.set(path, { hash, layer: layer.name });
  return served;
}

function below(shop: Shop, stateId: number) {
  const layers = shop.themes.layers(stateId).slice(0, -1);
  return layers.map(({ kind, name, version }) => ({ kind, name, version }));
}

const calledOf = (shop: Shop, id: number | null, source: boolean): string | null =>
  id === null || (!source && new ClosedDrafts(shop.sql).has(id)) ? null : (shop.themes.state(id)?.name ?? null);

export function draftItem(shop: Shop, state: StateRow, source = true): DraftItem {
  const live = shop.themes.live();
  const [mine, theirs] = [servedHashes(shop, state.id), live ? servedHashes(shop, live.id) : new Map<string, never>()];
  const paths = new Set([...mine.keys(), ...theirs.keys()]);
  const differs = [...paths].filter((path) => mine.get(path)?.hash !== theirs.get(path)?.hash).length;
  const { slug, name, note, madeAt, madeBy, removedAt, fromId } = state;
  const changes = shop.themes.changeCount(state.id);
  const from = calledOf(shop, fromId, source);
  return {
    slug: slug ?? '',
    name,
    note,
    madeAt,
    madeBy,
    from,
    changes,
    below: below(shop, state.id),
    differs,
    closed: new ClosedDrafts(shop.sql).has(state.id),
    removedAt,
  };
}

/** The drafts, and those that were deleted; without `source` only those that are for all who work here, and none that were deleted. */
export function draftItems(shop: Shop, source = true): { drafts: DraftItem[]; removed: DraftItem[] } {
  const closed = new ClosedDrafts(shop.sql).ids();
  const items = (removed: boolean) =>
    shop.themes
      .drafts(removed)
      .filter(({ id }) => source || !closed.has(id))
      .map((state) => draftItem(shop, state, source));
  return { drafts: items(false), removed: source ? items(true) : [] };
}

/** Keeps a draft to those who see the source, or opens it to all who work here. One at least is for all. */
export function closeDraft(shop: Shop, draft: StateRow, closed: boolean): void {
  const drafts = new ClosedDrafts(shop.sql);
  if (closed) refuseLastOpen(shop, draft, 'keep it to developers');
  drafts.set(draft.id, closed);
}

function refuseLastOpen(shop: Shop, draft: StateRow, what: string): void {
  const closed = new ClosedDrafts(shop.sql).ids();
  if (closed.has(draft.id) || shop.themes.drafts().some(({ id }) => id !== draft.id && !closed.has(id))) return;
  refuse(409, 'last', `“${draft.name}” is the only draft that staff and readers see: make another before you ${what}.`);
}

/** A name in addresses that no draft has, made of a name for people. */
function freeSlug(shop: Shop, name: string): string {
  const plain = name
    .normalize('NFD')
    .toLowerCase()
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 50)
    .replace(/-+$/, '');
  const first = plain || 'draft';
  for (let number = 1; ; number++) {
    const slug = number === 1 ? first : `${first}-${number}`;
    if (!shop.themes.taken(slug)) return slug;
  }
}

/** Makes a draft that begins as another, or as a release; gives its name in addresses. */
export function copyState(shop: Shop, { from, name, note }: z.output<typeof copyRequest>, by: string): string {
  const state = stateOf(shop, from);
  return shop.themes.transaction(() => {
    const slug = freeSlug(shop, name);
    const id = shop.themes.copy(state.id, slug, madeNow(name, by), note);
    const closed = new ClosedDrafts(shop.sql);
    if (closed.has(state.id)) closed.set(id, true);
    return slug;
  });
}

/** Deletes a draft; it can be put back. The last one stays. */
export function removeDraft(shop: Shop, draft: StateRow): void {
  if (shop.themes.drafts().length < 2)
    refuse(409, 'last', `“${draft.name}” is the only draft: make another before you delete it.`);
  refuseLastOpen(shop, draft, 'delete it');
  shop.themes.remove(draft.id, new Date().toISOString());
}

export function restoreDraft(shop: Shop, slug: string): void {
  const state = shop.themes.drafts(true).find((one) => one.slug === slug);
  if (!state) refuse(404, 'draft', `There is no deleted draft “${slug}”.`);
  else shop.themes.remove(state.id, null);
}

export function releaseItems(shop: Shop, source = true): ReleasesAnswer {
  const live = shop.themes.live();
  const releases = shop.themes.releases().map((state): ReleaseItem => ({
    number: state.number ?? 0,
    name: state.name,
    note: state.note,
    madeAt: state.madeAt,
    madeBy: state.madeBy,
    from: calledOf(shop, state.fromId, source),
    live: state.id === live?.id,
    below: below(shop, state.id),
  }));
  return { releases, turn: shop.themes.liveTurn() };
}
