import { placementOfShelf, shelfWithin } from './fit';
import { type InputEntry, over, placement, readShelves, type ShelfEntry, type WrittenEntry } from './file';

/** A placement that can be arranged: it has an id, by which layers change it. */
export type Placed = ShelfEntry & { id: string };

/** Why placements cannot be arranged as they are written: a sentence for people. */
export class CannotArrange extends Error {}

const hasId = (one: ShelfEntry): one is Placed => one.id !== undefined;

/**
 * All placements, those of the shop's own file over those of the layers below, as they are arranged. Throws CannotArrange where the shop's file
 * could not be written again without losing something.
 */
export function arrangementOf(own: string | null, below: readonly ShelfEntry[]): Placed[] {
  const { entries, wrong } = readShelves(own, below);
  const [first] = wrong;
  if (first)
    throw new CannotArrange(`shelves.json has a mistake: ${first.text}. Put it right in its source; nothing is lost.`);
  if (!below.every(hasId))
    throw new CannotArrange(
      'A layer below has placements without an id, which nothing above can change. Give them ids first.',
    );
  const taken = new Set(entries.flatMap(({ id }) => id ?? []));
  const named = entries.map((one): Placed => {
    if (hasId(one)) return one;
    const id = newId(one.piece, taken);
    taken.add(id);
    return { ...one, id };
  });
  // A file without ids stood in place of those below; with ids it is merged with them.
  const gone = below.filter(hasId).filter(({ id }) => !taken.has(id));
  return [...named, ...gone.map((one) => ({ ...one, hidden: true }))];
}

/** An id for a placement of a piece: `banner`, `banner-2`. */
export function newId(piece: string, taken: ReadonlySet<string>): string {
  const name = piece
    .slice(piece.lastIndexOf('/') + 1)
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');
  const plain = name || 'piece';
  let id = plain;
  for (let number = 2; taken.has(id); number++) id = `${plain}-${number}`;
  return id;
}

/**
 * The shop's `shelves.json` that makes, over the layers below, these placements: of each of below only what differs, the
 * shop's own whole, shelf by shelf. What stands on one shelf keeps its order; what is below and not among them is hidden. Null: nothing differs from below.
 */
export function writeArrangement(wanted: readonly Placed[], below: readonly ShelfEntry[]): string | null {
  const under = new Map(below.filter(hasId).map((one) => [one.id, one]));
  const there = new Set(wanted.map(({ id }) => id));
  const hidden = [...under.values()].filter(({ id }) => !there.has(id)).map((one) => ({ ...one, hidden: true }));
  const stays = unmoved(wanted, [...under.values()]);
  const before = new Map<string, string>();
  const shelves = [...new Set([...below.map(({ shelf }) => shelf), ...wanted.map(({ shelf }) => shelf).sort()])];
  const rank = (one: ShelfEntry) => shelves.indexOf(one.shelf);
  const ordered = [...wanted, ...hidden].sort((a, b) => rank(a) - rank(b));
  const written = ordered.flatMap((one): WrittenEntry[] => {
    const last = before.get(one.shelf);
    before.set(one.shelf, one.id);
    const base = under.get(one.id);
    const said = base ? difference(one, base) : one;
    const next = wanted.find(({ id, shelf }) => shelf === one.shelf && stays.has(id))?.id;
    const place = stays.has(one.id) || !there.has(one.id) ? {} : last ? { after: last } : next ? { before: next } : {};
    const entry: WrittenEntry = { id: one.id, ...without(said, 'id'), ...place };
    return base && Object.keys(entry).length === 1 ? [] : [entry];
  });
  return written.length ? `${JSON.stringify({ placements: written.map(plain) }, null, 2)}\n` : null;
}

const without = <T extends object>(one: T, key: string) =>
  Object.fromEntries(Object.entries(one).filter(([name]) => name !== key)) as Partial<T>;

/** Without what says nothing: no inputs, a `hidden` that is not. */
const plain = ({ inputs, ...rest }: WrittenEntry) => ({
  ...rest,
  ...(inputs && Object.keys(inputs).length ? { inputs } : {}),
});

/** Those of below that stay on their shelf, in an order that they have there: the most that can. The others are placed by the one before them. */
function unmoved(wanted: readonly Placed[], below: readonly Placed[]): ReadonlySet<string> {
  const rank = new Map(below.map(({ id, shelf }, at) => [id, { shelf, at }]));
  const stays = new Set<string>();
  for (const shelf of new Set(wanted.map((one) => one.shelf))) {
    const ids = wanted.filter((one) => one.shelf === shelf && rank.get(one.id)?.shelf === shelf).map(({ id }) => id);
    for (const id of longestRising(ids, (one) => rank.get(one)?.at ?? 0)) stays.add(id);
  }
  return stays;
}

/** The longest part of a list, in its order, whose ranks rise. */
function longestRising<T>(list: readonly T[], rankOf: (one: T) => number): T[] {
  const best: T[][] = [];
  for (const one of list) {
    const before = best.filter((chain) => rankOf(chain.at(-1) as T) < rankOf(one));
    const longest = before.reduce<T[]>((a, b) => (b.length > a.length ? b : a), []);
    best.push([...longest, one]);
  }
  return best.reduce<T[]>((a, b) => (b.length > a.length ? b : a), []);
}

/** What a placement says otherwise than the one below with its id; null takes a key or an input away. */
function difference(one: Placed, base: ShelfEntry): Partial<WrittenEntry> {
  const said: Record<string, unknown> = {};
  const keys = new Set([...Object.keys(one), ...Object.keys(base)]) as Set<keyof ShelfEntry>;
  for (const key of keys)
    if (key !== 'inputs' && !same(one[key], base[key])) said[key] = one[key] ?? (key === 'hidden' ? false : null);
  const inputs: Record<string, InputEntry | null> = {};
  for (const name of new Set([...Object.keys(one.inputs), ...Object.keys(base.inputs)]))
    if (!same(one.inputs[name], base.inputs[name])) inputs[name] = one.inputs[name] ?? null;
  return Object.keys(inputs).length ? { ...said, inputs } : said;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A placement with other keys; undefined removes one. */
export function withKeys(one: Placed, changes: Partial<ShelfEntry>): Placed {
  const made = Object.fromEntries(Object.entries({ ...one, ...changes }).filter(([, value]) => value !== undefined));
  return placement.parse(over(undefined, made as WrittenEntry)) as Placed;
}

/** A placement and all that stands on shelves of its own, however deep: their ids. */
export function withinPlacement(all: readonly Placed[], id: string): ReadonlySet<string> {
  const ids = new Set([id]);
  // A set that grows while it is walked goes on to what came in.
  for (const one of ids) for (const other of all) if (placementOfShelf(other.shelf)?.id === one) ids.add(other.id);
  return ids;
}

/** Puts a placement on a shelf right before another one there; null: last. On a shelf of its own it stays where it was. */
export function movedTo(all: readonly Placed[], id: string, shelf: string, before: string | null): Placed[] {
  const one = all.find((other) => other.id === id);
  if (!one || withinPlacement(all, id).has(placementOfShelf(shelf)?.id ?? '')) return [...all];
  const rest = all.filter((other) => other.id !== id);
  const at = before === null ? rest.length : rest.findIndex((other) => other.id === before);
  return rest.toSpliced(at < 0 ? rest.length : at, 0, { ...one, shelf });
}

/** Removes a placement with all that stands on its own shelves: what is of a layer below is hidden, the shop's own is gone. */
export function removedFrom(all: readonly Placed[], id: string, below: readonly ShelfEntry[]): Placed[] {
  const under = new Set(below.map((one) => one.id));
  const ids = withinPlacement(all, id);
  return all.flatMap((one) => {
    if (!ids.has(one.id)) return one;
    // What stands on a shelf that shows nowhere need not be hidden itself.
    if (under.has(one.id)) return one.id === id ? { ...one, hidden: true } : one;
    return under.has(id) ? one : [];
  });
}

/** A second one of a placement, right after it, with second ones of all that stands on its own shelves. */
export function duplicated(all: readonly Placed[], id: string, changes: Partial<ShelfEntry> = {}): Placed[] {
  const taken = new Set(all.map((one) => one.id));
  const copies = new Map<string, string>();
  for (const old of withinPlacement(all, id)) {
    const one = all.find((other) => other.id === old);
    if (!one) continue;
    const made = newId(one.piece, taken);
    taken.add(made);
    copies.set(old, made);
  }
  return all.flatMap((one) => {
    const made = copies.get(one.id);
    if (made === undefined) return one;
    if (one.id === id) return [one, { ...withKeys(one, changes), id: made }];
    const of = placementOfShelf(one.shelf);
    return [one, { ...one, id: made, shelf: of ? shelfWithin(copies.get(of.id) ?? of.id, of.shelf) : one.shelf }];
  });
}
