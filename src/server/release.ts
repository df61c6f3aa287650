import type { ChangesAnswer } from '@/contract/api';
import type { StateRow } from '@/store/themes';
import { compareStates } from './compare';
import { titleOf } from './files';
import { refuse } from './refusal';
import type { Shop } from './shop';

/** What a draft would change of what is live, and what would keep it from being published. */
export function changesOf(shop: Shop, draft: StateRow): ChangesAnswer {
  const { theme } = shop.theme(draft);
  const live = shop.themes.live();
  const now = live ? shop.theme(live).theme : null;
  const paths = new Set([...theme.paths(), ...(now?.paths() ?? [])]);
  const files: ChangesAnswer['files'] = [];
  for (const path of [...paths].sort()) {
    const [mine, theirs] = [theme.file(path)?.hash, now?.file(path)?.hash];
    if (mine === theirs) continue;
    files.push({ path, change: theirs === undefined ? 'added' : mine === undefined ? 'removed' : 'changed' });
  }
  return { files, problems: [...theme.checkAll()] };
}

/** What someone looked at before deciding: the draft's revision, and how often live had changed. */
export interface Reviewed {
  revision?: number | undefined;
  turn?: number | undefined;
}

/**
 * Puts a draft live in one step: exactly what was reviewed. Refused while a template has an error, when the draft was changed
 * since it was looked at or checked, and when another release went live since.
 */
export function publish(
  shop: Shop,
  draft: StateRow,
  { note, turn, revision = draft.revision }: { note: string } & Reviewed,
  by = '',
  /** What is wrong with the draft as it is given here; left out: looked up. */
  problems?: ChangesAnswer['problems'],
): { number: number } {
  refuseRevision(shop, draft, revision);
  const found = problems ?? changesOf(shop, draft).problems;
  const errors = found.filter((one) => one.severity === 'error');
  const [first] = errors;
  if (first) {
    const more = errors.length > 1 ? ` (and ${errors.length - 1} more)` : '';
    refuse(409, 'problems', `Not published: ${first.file}, line ${first.line}: ${first.message}${more}.`, {
      problems: errors,
    });
  }
  const release = shop.themes.transaction(() => {
    refuseTurn(shop, turn, 'published');
    // What was checked is what is published: both are the revision that was reviewed.
    refuseRevision(shop, draft, revision);
    refuseRevision(shop, draft, draft.revision);
    return shop.themes.publish(draft.id, note, new Date().toISOString(), by);
  });
  return { number: release.number ?? 0 };
}

/** Refuses when a draft is not any more what someone looked at, with who changed what. */
function refuseRevision(shop: Shop, draft: StateRow, revision: number): void {
  const now = shop.themes.state(draft.id);
  if (!now || now.removedAt !== null) refuse(404, 'draft', `There is no draft “${draft.slug ?? ''}” any more.`);
  if (now.revision === revision) return;
  const since = shop.themes.changes(draft.id, Math.max(1, now.revision - revision));
  const who = [...new Set(since.map(({ madeBy }) => madeBy).filter(Boolean))].join(' and ');
  const what = [...new Set(since.map(({ title }) => title))].slice(0, 3).join('; ');
  refuse(
    409,
    'revision',
    `Not published: ${now.name} was changed${who ? ` by ${who}` : ''} since you looked at it (${what}). Look at what differs now, then decide again.`,
  );
}

/** Makes an earlier release the one that visitors see, in one step. */
export function putBack(shop: Shop, number: number, turn: number | undefined, by = ''): void {
  const release = shop.themes.release(number) ?? refuse(404, 'release', `There is no release ${number}.`);
  shop.themes.transaction(() => {
    refuseTurn(shop, turn, 'put live');
    if (shop.themes.live()?.id === release.id) refuse(409, 'same', `Release ${number} is live already.`);
    shop.themes.putLive(release.id, new Date().toISOString(), by);
  });
}

/** Refuses when live is not any more what someone looked at, with who changed it and which files that are. */
function refuseTurn(shop: Shop, turn: number | undefined, done: string): void {
  const turns = shop.themes.wentLive();
  if (turn === undefined || turn === turns.length) return;
  const [latest] = turns;
  const before = turns[turns.length - turn];
  const live = shop.themes.live();
  const was = before && shop.themes.state(before.stateId);
  const files = was && live ? compareStates(shop, was, live).files.map(({ path }) => path) : [];
  const who = latest?.by ? ` by ${latest.by}` : '';
  const what = files.length ? ` It changed ${titleOf(files)}.` : '';
  refuse(
    409,
    'turn',
    `Not ${done}: ${live?.name ?? 'another release'} went live meanwhile${who}.${what} Look at what differs now, then decide again.`,
  );
}
