import type { ChangesAnswer } from '@/contract/drafts';
import type { Problem } from '@/core/language';
import type { StateRow } from '@/store';
import { compareStates } from './compare';
import { titleOf } from './files';
import { refuse } from '@/server/http';
import { errorPagesOf, rehearse, type PageFault } from '@/server/storefront';
import type { Shop } from '@/server/shop';

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
  const all = theme.checkAll();
  return { files, problems: firstOf(all), count: all.filter(({ severity }) => severity !== 'note').length };
}

/** The most problems that are listed of one file, and of a theme. */
const maxOfFile = 200;
const maxOfTheme = 2000;

/** The first problems of each file, as many as a reader can use. */
function firstOf(all: readonly Problem[]): ChangesAnswer['problems'] {
  const told = new Map<string, number>();
  const first: ChangesAnswer['problems'] = [];
  for (const one of all) {
    const key = `${one.layer} ${one.file}`;
    const count = (told.get(key) ?? 0) + 1;
    told.set(key, count);
    if (count <= maxOfFile && first.length < maxOfTheme) first.push(one);
  }
  return first;
}

/** What is found out about a draft before it goes live. */
export interface Checked {
  problems: ChangesAnswer['problems'];
  /** Pages that cannot be made whole. */
  faults: PageFault[];
  errorPages: Record<string, string>;
}

/** Checks a draft's templates, and makes its pages, as they would go live. */
export function checkedFor(shop: Shop, draft: StateRow): Checked {
  const { problems } = changesOf(shop, draft);
  if (problems.some(({ severity }) => severity === 'error')) return { problems, faults: [], errorPages: {} };
  return { problems, faults: rehearse(shop, draft), errorPages: errorPagesOf(shop, draft) };
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
  /** What was found out about the draft as it is given here; left out: it is now. */
  { problems, faults, errorPages }: Checked = checkedFor(shop, draft),
): { number: number } {
  refuseRevision(shop, draft, revision);
  const errors = problems.filter((one) => one.severity === 'error');
  const [first] = errors;
  if (first) {
    const more = errors.length > 1 ? ` (and ${errors.length - 1} more)` : '';
    refuse(409, 'problems', `Not published: ${first.file}, line ${first.line}: ${first.message}${more}.`, {
      problems: errors,
    });
  }
  const [fault] = faults;
  if (fault) {
    const where = fault.line ? `${fault.file}, line ${fault.line}` : fault.file;
    refuse(409, 'pages', `Not published: ${fault.page} cannot be made whole. ${where}: ${fault.message}.`, {
      problems: faults.map(({ page: _, ...one }) => one),
    });
  }
  const release = shop.themes.transaction(() => {
    refuseTurn(shop, turn, 'published');
    // What was checked is what is published: both are the revision that was reviewed.
    refuseRevision(shop, draft, revision);
    refuseRevision(shop, draft, draft.revision);
    return shop.themes.publish(draft.id, note, new Date().toISOString(), by, errorPages);
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
