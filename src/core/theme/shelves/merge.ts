import { newId } from './arrange';
import { placementOfShelf, shelfWithin } from './fit';
import { written, placementNodes, valueOf, type WrittenEntry } from './file';

/** The file of a shop that places nothing itself. */
export const noPlacements = '{"placements": []}';

/** What two people made of one `shelves.json`, put together. */
export interface MergedShelves {
  /** With mine where both changed the same, and with theirs. */
  mine: string;
  theirs: string;
  /** Ids of placements of which both changed the same key or input, each otherwise. */
  both: string[];
}

type Entries = ReadonlyMap<string, WrittenEntry>;

/** The placements of a file by their ids; null: it cannot be read, or one has no id. */
function entriesOf(text: string): Map<string, WrittenEntry> | null {
  const entries = new Map<string, WrittenEntry>();
  for (const node of placementNodes(text)) {
    const read = written.safeParse(valueOf(node));
    if (!read.success || read.data.id === undefined) return null;
    entries.set(read.data.id, read.data);
  }
  // What has nothing in it must be such a file all the same.
  return entries.size || /^\s*\{\s*"placements"\s*:\s*\[\s*\]\s*\}\s*$/.test(text) ? entries : null;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** One value that two sides have, from what both began with. */
const pick = <T>(was: T, mine: T, theirs: T, mineWins: boolean): { value: T; clash: boolean } => {
  if (same(mine, theirs) || same(was, theirs)) return { value: mine, clash: false };
  if (same(was, mine)) return { value: theirs, clash: false };
  return { value: mineWins ? mine : theirs, clash: true };
};

/** Merges objects key by key; `inner` names the key whose object is merged so too. */
function byKeys(
  was: Record<string, unknown>,
  mine: Record<string, unknown>,
  theirs: Record<string, unknown>,
  mineWins: boolean,
  inner?: string,
): { value: Record<string, unknown>; clash: boolean } {
  const value: Record<string, unknown> = {};
  let clash = false;
  for (const key of new Set([...Object.keys(mine), ...Object.keys(theirs)])) {
    const of = [was[key], mine[key], theirs[key]] as const;
    const [before, here, there] = of.map((one) => (one ?? {}) as Record<string, unknown>);
    const one =
      key === inner ? byKeys(before as never, here as never, there as never, mineWins) : pick<unknown>(...of, mineWins);
    if (one.value !== undefined) value[key] = one.value;
    clash ||= one.clash;
  }
  return { value, clash };
}

/** Ids in an order that keeps that of `first`; what only `second` has stands after what it follows there. */
function orderOf(first: readonly string[], second: readonly string[]): string[] {
  const order = [...first];
  second.forEach((id, at) => {
    if (order.includes(id)) return;
    const before = second.slice(0, at).findLast((one) => order.includes(one));
    let place = before === undefined ? 0 : order.indexOf(before) + 1;
    // After what the first put in the same place.
    while (place < order.length && !second.includes(order[place] as string)) place++;
    order.splice(place, 0, id);
  });
  return order;
}

/** Mine with other ids where both added something under the same one: two pieces that are put somewhere at once are two. */
function apart(was: Entries, mine: Entries, theirs: Entries): Entries {
  const taken = new Set([...mine.keys(), ...theirs.keys()]);
  const names = new Map<string, string>();
  for (const [id, one] of mine)
    if (!was.has(id) && theirs.has(id) && !same(one, theirs.get(id))) {
      const name = newId(one.piece ?? id, taken);
      taken.add(name);
      names.set(id, name);
    }
  const called = (id: string) => names.get(id) ?? id;
  return new Map(
    [...mine].map(([id, one]) => {
      const { shelf, before, after } = one;
      const of = shelf === undefined ? null : placementOfShelf(shelf);
      return [
        called(id),
        {
          ...one,
          id: called(id),
          ...(of ? { shelf: shelfWithin(called(of.id), of.shelf) } : {}),
          ...(before === undefined ? {} : { before: called(before) }),
          ...(after === undefined ? {} : { after: called(after) }),
        },
      ];
    }),
  );
}

function mergedBy(was: Entries, mine: Entries, theirs: Entries, mineWins: boolean): { text: string; both: string[] } {
  const both: string[] = [];
  const entries = new Map<string, WrittenEntry>();
  for (const id of new Set([...mine.keys(), ...theirs.keys()])) {
    const [before, here, there] = [was.get(id), mine.get(id), theirs.get(id)];
    if (here && there) {
      const { value, clash } = byKeys({ ...before }, { ...here }, { ...there }, mineWins, 'inputs');
      if (clash) both.push(id);
      entries.set(id, value as WrittenEntry);
      continue;
    }
    const left = (here ?? there) as WrittenEntry;
    // Removed by one, as it was for the other: it is gone. What the other changed meanwhile is theirs to lose.
    if (before && same(before, left)) continue;
    if (before) both.push(id);
    if (!before || (mineWins ? here : there)) entries.set(id, left);
  }
  // Whoever moved something says the order; both: the one that wins.
  const common = [...was.keys()].filter((id) => mine.has(id) && theirs.has(id));
  const stays = (side: Entries) =>
    same(
      [...side.keys()].filter((id) => common.includes(id)),
      common,
    );
  const mineFirst = !stays(mine) && (mineWins || stays(theirs));
  const [first, second] = mineFirst ? [mine, theirs] : [theirs, mine];
  const order = orderOf([...first.keys()], [...second.keys()]).filter((id) => entries.has(id));
  const known = (id: string | undefined) => id === undefined || entries.has(id) || !(mine.has(id) || theirs.has(id));
  const placements = order.map((id) => {
    const { before, after, ...entry } = entries.get(id) as WrittenEntry;
    return {
      ...entry,
      ...(before !== undefined && known(before) ? { before } : {}),
      ...(after !== undefined && known(after) ? { after } : {}),
    };
  });
  return { text: `${JSON.stringify({ placements }, null, 2)}\n`, both };
}

/**
 * Puts together what two made of one file of placements, placement by placement, key by key, input by input. `was`: what both began with; null: it is
 * not known. null: one of them cannot be read so.
 */
export function mergeShelves(was: string | null, mine: string, theirs: string): MergedShelves | null {
  const [before, here, there] = [
    was === null ? new Map<string, WrittenEntry>() : entriesOf(was),
    entriesOf(mine),
    entriesOf(theirs),
  ];
  if (!before || !here || !there) return null;
  // Where it is not known what both began with, what has the same id may be one and the same.
  const own = was === null ? here : apart(before, here, there);
  const kept = mergedBy(before, own, there, true);
  return { mine: kept.text, theirs: mergedBy(before, own, there, false).text, both: kept.both };
}
