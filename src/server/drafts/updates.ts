import { type MadeTheme, textual, type Shop, copyState } from '@/server/shop';
import type { UpdateAnswer, VersionItem } from '@/contract/layers';
import { planUpdate, type UpdatePlan, type Layer, type LayerFile } from '@/core/theme';
import { hashOf, type FileWrite, type LayerRow, type StateRow } from '@/store';
import { asBuffer } from './edits';
import { writeFiles } from './files';
import { ownFiles } from './layers';
import { refuse } from '@/server/http';
import type { ThemeFiles } from './travel';

/** Versions of bases and add-ons that were brought in, the latest first. */
export function versionItems(shop: Shop): VersionItem[] {
  return shop.themes.versions().map(({ id, kind, name, version }) => ({
    id,
    kind,
    name,
    version,
    files: shop.themes.hashes(id).size,
  }));
}

/** Keeps a version of a base or an add-on; no draft stands on it yet. One that is there already is the same one again. */
export function addVersion(
  shop: Shop,
  { about, files }: ThemeFiles,
  /** What it is, where `about.json` does not say and no version of that name is known. */
  asked: 'base' | 'add-on' | null = null,
): VersionItem {
  return shop.themes.transaction(() => {
    const same = shop.themes.versions().find(({ name, version }) => name === about.name && version === about.version);
    if (same) {
      const there = shop.themes.files(same.id);
      const equal =
        there.length === files.length &&
        there.every(({ path, bytes }) => files.some((one) => one.path === path && one.bytes.equals(bytes)));
      if (!equal)
        refuse(
          409,
          'version',
          `${about.name} ${about.version} is here already with other files: give the new one a version of its own in about.json.`,
        );
      return itemOf(shop, same);
    }
    if (about.kind === 'shop')
      refuse(
        422,
        'kind',
        `${about.name} is a shop’s own layer, no base or add-on: put it in the place of a draft’s own files.`,
      );
    const known = shop.themes.versions().find(({ name, kind }) => name === about.name && kind !== 'shop')?.kind;
    const kind =
      about.kind ??
      (known === 'base' || known === 'add-on' ? known : null) ??
      asked ??
      refuse(
        422,
        'kind',
        `${about.name} does not say what it is: a base, which a theme stands on, or an add-on above one. Choose, or write "kind": "base" or "kind": "add-on" into its about.json.`,
      );
    const id = shop.themes.addLayer(
      kind,
      about.name,
      about.version,
      files.map(({ path, bytes }) => [path, bytes]),
    );
    return itemOf(shop, { id, kind, name: about.name, version: about.version });
  });
}

const itemOf = (shop: Shop, { id, kind, name, version }: LayerRow): VersionItem => ({
  id,
  kind,
  name,
  version,
  files: shop.themes.hashes(id).size,
});

function layerWith(shop: Shop, { id, kind, name, version }: LayerRow): Layer {
  const files = shop.themes
    .files(id)
    .map(({ path, hash, bytes }): [string, { hash: string; text: string | null }] => [
      path,
      { hash, text: textual.test(path) ? bytes.toString('utf8') : null },
    ]);
  return { kind, name, version, files: new Map(files) };
}

/** The layers below a state's own with another version in its place; an add-on that is new comes above the others. */
function exchanged(layers: LayerRow[], to: LayerRow): { layers: LayerRow[]; from: LayerRow | null } {
  const at = layers.findIndex((one) => (to.kind === 'base' ? one.kind === 'base' : one.name === to.name));
  if (at < 0) return { layers: [...layers, to], from: null };
  return { layers: layers.map((one, place) => (place === at ? to : one)), from: layers[at] ?? null };
}

function planned(shop: Shop, draft: StateRow, versionId: number) {
  const to =
    shop.themes.versions().find(({ id }) => id === versionId) ?? refuse(404, 'version', 'There is no such version.');
  const now = shop.themes.layers(draft.id).slice(0, -1);
  const { layers, from } = exchanged(now, to);
  if (from?.id === to.id) refuse(409, 'same', `“${draft.name}” stands on ${to.name} ${to.version} already.`);
  const made = (rows: LayerRow[]) => rows.map((row) => layerWith(shop, row));
  const plan = planUpdate(made(now), made(layers), ownFiles(shop, draft.id), shop.themeOf([]).theme);
  return { to, from, layers, plan };
}

const item = (row: LayerRow) => ({ kind: row.kind, name: row.name, version: row.version });

function answerOf({ to, from, plan }: { to: LayerRow; from: LayerRow | null; plan: UpdatePlan }): UpdateAnswer {
  // The texts themselves are written, not sent.
  const touched = plan.touched.map((one) => ({ ...one, text: undefined }));
  return { from: from && item(from), to: item(to), files: plan.files, touched };
}

/** What another version below would change, and what it does to the shop's own files. Nothing is written. */
export function updatePlan(shop: Shop, draft: StateRow, versionId: number): UpdateAnswer {
  return answerOf(planned(shop, draft, versionId));
}

/** The theme as the draft would have it on another version, with what merges cleanly merged. */
export function updatedTheme(shop: Shop, draft: StateRow, versionId: number): MadeTheme {
  const { layers, plan } = planned(shop, draft, versionId);
  const own = new Map<string, LayerFile>(ownFiles(shop, draft.id));
  for (const { path, outcome, text } of plan.touched) {
    if (outcome === 'needless') own.delete(path);
    else if (text !== undefined) own.set(path, { hash: hashOf(Buffer.from(text)), text });
  }
  const shopRow = shop.themes.layers(draft.id).at(-1);
  const top: Layer = { kind: 'shop', name: shopRow?.name ?? '', version: shopRow?.version ?? '', files: own };
  return shop.themeOf([...layers.map((row) => layerWith(shop, row)), top]);
}

/** A move of a draft to another version, worked out: what is written into the copy that stands on it. */
export interface PlannedUpdate {
  /** Of the draft that it was planned on. */
  revision: number;
  /** The version, in words. */
  called: string;
  /** Numbers of the layers below, the lowest first. */
  below: number[];
  writes: FileWrite[];
  plan: UpdateAnswer;
}

export function planDraftUpdate(shop: Shop, draft: StateRow, versionId: number): PlannedUpdate {
  const update = planned(shop, draft, versionId);
  const { to, layers, plan } = update;
  const own = ownFiles(shop, draft.id);
  const served = new Map(
    layers.flatMap((row) => [...shop.themes.hashes(row.id)]).map(([path, { hash }]) => [path, hash]),
  );
  const writes = plan.touched.flatMap(({ path, outcome, text }): FileWrite[] => {
    const origin = served.get(path) ?? null;
    const file = own.get(path);
    if (!file) return [];
    const bytes = text === undefined ? shop.themes.bytes(file.hash) : Buffer.from(text);
    if (['merged', 'fits', 'moved', 'unsure', 'covers'].includes(outcome))
      return [{ path, bytes, expected: file.hash, origin }];
    // What has lost a mark is told the nearest one by what it was taken from.
    if (outcome === 'lost' && text !== undefined) return [{ path, bytes, expected: file.hash }];
    return outcome === 'needless' ? [{ path, bytes: null, expected: file.hash }] : [];
  });
  const below = layers.map(({ id }) => id);
  return { revision: draft.revision, called: `${to.name} ${to.version}`, below, writes, plan: answerOf(update) };
}

/**
 * Makes a draft of this one that stands on another version: clean merges are written, the rest waits to be looked at. It is
 * one change, which can be undone whole. Gives the new draft's name in addresses.
 */
export function applyUpdate(
  shop: Shop,
  draft: StateRow,
  { called, below, writes, plan }: PlannedUpdate,
  by: string,
): { slug: string; plan: UpdateAnswer } {
  return shop.themes.transaction(() => {
    const slug = copyState(shop, { from: `draft/${draft.slug ?? ''}`, name: `${draft.name}, ${called}`, note: '' }, by);
    const copy = shop.themes.draft(slug) as StateRow;
    writeFiles(shop, copy, writes.map(asBuffer), `Update to ${called}`, by, { below });
    return { slug, plan };
  });
}

/** The same, planned at once. */
export const updateDraft = (shop: Shop, draft: StateRow, versionId: number, by: string) =>
  applyUpdate(shop, draft, planDraftUpdate(shop, draft, versionId), by);
