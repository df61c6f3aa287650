import type { BringAnswer, CompareAnswer } from '@/contract/drafts';
import { differencesOf } from '@/core/alternates';
import { mergeFile, type Content } from '@/core/theme';
import type { FileWrite, StateRow } from '@/store';
import { asBuffer } from './edits';
import { layerItem, titleOf, writeFiles } from './files';
import { refuse } from '@/server/http';
import { textual, type Shop, wordingOf, servedHashes } from '@/server/shop';

/** What differs between two states: layers below, files as they serve, and assignments. */
export function compareStates(shop: Shop, a: StateRow, b: StateRow): CompareAnswer {
  // Read before what it speaks of: what comes meanwhile makes the looker one turn late, never early.
  const turn = shop.themes.liveTurn();
  const [mine, theirs] = [servedHashes(shop, a.id), servedHashes(shop, b.id)];
  const files: CompareAnswer['files'] = [];
  for (const path of [...new Set([...mine.keys(), ...theirs.keys()])].sort()) {
    const [one, other] = [mine.get(path), theirs.get(path)];
    if (one?.hash === other?.hash) continue;
    files.push({
      path,
      change: !one ? 'added' : !other ? 'removed' : 'changed',
      a: one?.hash ?? null,
      b: other?.hash ?? null,
      text: textual.test(path),
      layer: (other ?? one)?.layer ?? '',
    });
  }
  const [left, right] = [a, b].map((state) => shop.themes.layers(state.id).slice(0, -1)) as [Row[], Row[]];
  const below = [];
  for (const name of new Set([...left, ...right].map((one) => one.name))) {
    const [one, other] = [left, right].map((layers) => layers.find((layer) => layer.name === name));
    if (one?.id !== other?.id) below.push({ a: one ? layerOf(one) : null, b: other ? layerOf(other) : null });
  }
  const assignments = differencesOf(shop.theme(a).alternates, shop.theme(b).alternates, wordingOf(shop));
  return { a: a.name, b: b.name, below, files, assignments, revision: b.revision, turn };
}

type Row = ReturnType<Shop['themes']['layers']>[number];
const layerOf = (row: Row) => layerItem(row);

/** Bytes of a path by their hash, as a content to merge. */
export function contentOf(shop: Shop, path: string, hash: string | null): Content | null {
  if (hash === null) return null;
  const bytes = shop.themes.bytes(hash);
  return bytes && { hash, text: textual.test(path) ? bytes.toString('utf8') : null };
}

/** What would come into a draft from another state: files that the other changed since both were one. */
export function planBring(shop: Shop, into: StateRow, from: StateRow): { answer: BringAnswer; writes: FileWrite[] } {
  const own = (stateId: number) => shop.themes.hashes(shop.themes.layers(stateId).at(-1)?.id ?? 0);
  const common = shop.themes.common(into.id, from.id);
  const [both, mine, theirs] = [common === null ? new Map() : shop.themes.hashes(common), own(into.id), own(from.id)];
  const files: BringAnswer['files'] = [];
  const writes: FileWrite[] = [];
  for (const path of [...new Set([...both.keys(), ...theirs.keys()])].sort()) {
    const hashes = [both, mine, theirs].map((files) => (files.get(path)?.hash as string | undefined) ?? null);
    const [was, here, there] = hashes as [string | null, string | null, string | null];
    if (was === there || here === there) continue;
    const contents = hashes.map((hash) => contentOf(shop, path, hash)) as (Content | null)[];
    const outcome = mergeFile(path, contents[0] ?? null, contents[1] ?? null, contents[2] ?? null);
    if (outcome.kind === 'kept') continue;
    const one = { path, mine: here, theirs: there, both: was };
    const origin = theirs.get(path)?.origin ?? null;
    if (outcome.kind === 'taken') {
      files.push({
        ...one,
        outcome: 'taken',
        says: there === null ? 'removed' : was === null ? 'added' : 'changed there',
      });
      writes.push({ path, bytes: there === null ? null : shop.themes.bytes(there), expected: here, origin });
    } else if (outcome.kind === 'merged') {
      files.push({ ...one, outcome: 'merged', says: 'changed on both sides, in different places' });
      writes.push({ path, bytes: Buffer.from(outcome.text), expected: here });
    } else files.push({ ...one, outcome: 'conflict', says: outcome.why });
  }
  return { answer: { files }, writes };
}

/** What comes into a draft, worked out; `revisions`: of the draft and of the other state, as they were read. */
export interface PlannedBring {
  revisions: [into: number, from: number];
  writes: FileWrite[];
  title: string;
  left: BringAnswer['files'];
}

/** Clean merges among `paths` (all when not said), and conflicts that are named there, as the other has them. */
export function planBringing(
  shop: Shop,
  into: StateRow,
  from: StateRow,
  paths: readonly string[] | undefined,
): PlannedBring {
  const { answer, writes } = planBring(shop, into, from);
  const wanted = writes.filter(({ path }) => !paths || paths.includes(path));
  for (const { path, mine, theirs, outcome } of answer.files)
    if (outcome === 'conflict' && paths?.includes(path))
      wanted.push({ path, bytes: theirs === null ? null : shop.themes.bytes(theirs), expected: mine });
  if (!wanted.length) refuse(409, 'same', 'There is nothing to bring in.');
  return {
    revisions: [into.revision, from.revision],
    writes: wanted,
    title: `Brought in from ${from.name}: ${titleOf(wanted.map(({ path }) => path))}`,
    left: answer.files.filter(({ path }) => !wanted.some((one) => one.path === path)),
  };
}

/** Brings another state's changes into a draft as one change. */
export function applyBring(
  shop: Shop,
  into: StateRow,
  from: StateRow,
  { writes, title, left }: PlannedBring,
  by: string,
): BringAnswer {
  return shop.themes.transaction(() => {
    writeFiles(shop, into, writes.map(asBuffer), title, by);
    // All of it is here now: the next time begins from there.
    if (!left.length) shop.themes.noteBrought(into.id, shop.themes.freeze(from.id));
    return { files: left };
  });
}

/** The same, planned at once. */
export const bring = (
  shop: Shop,
  into: StateRow,
  from: StateRow,
  paths: readonly string[] | undefined,
  by: string,
): BringAnswer => applyBring(shop, into, from, planBringing(shop, into, from, paths), by);
