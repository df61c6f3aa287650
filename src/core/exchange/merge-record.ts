import { sameValue } from './differences';

type Fields = Readonly<Record<string, unknown>>;

/** A value of a record that two changed to different ones: where it stands, and what it was, was to be, and is. `undefined`: it is not there. */
export interface Overlap {
  /** Names from the record down: `fields`, `lead_time`; of a list, what names the entry. */
  path: readonly string[];
  before: unknown;
  after: unknown;
  now: unknown;
}

/** A value of a record that differs from what it was. */
export type ValueChange = Omit<Overlap, 'now'>;

/** What names an entry of each list of a record: two entries of one name are the same entry, changed. */
const keys: Record<string, string> = {
  variants: 'sku',
  options: 'slug',
  values: 'slug',
  attributes: 'name',
  media: 'path',
};

/** Texts, by language. */
const byLanguage = new Set(['texts', 'fieldTexts']);

const isObject = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Nothing, and an object with nothing in it: texts of a language that there are none in. */
const isBlank = (value: unknown): boolean =>
  value === undefined || (isObject(value) && Object.keys(value).length === 0);

/** A list by the names of its entries, which it must have and no two the same; null for any other value. */
function entriesOf(name: string, list: unknown): Map<string, unknown> | null {
  if (!Array.isArray(list)) return null;
  const key = keys[name];
  const entries = new Map<string, unknown>();
  for (const one of list as unknown[]) {
    const called = typeof one === 'string' ? one : isObject(one) && key ? one[key] : undefined;
    if (typeof called !== 'string' || entries.has(called)) return null;
    entries.set(called, one);
  }
  return entries;
}

const namesOf = (...maps: readonly { keys(): Iterable<string> }[]): string[] => [
  ...new Set(maps.flatMap((one) => [...one.keys()])),
];
const mapOf = (fields: Fields) => new Map(Object.entries(fields));

/** The names of one list in the order of another, as far as both have them. */
const asIn = (names: readonly string[], order: readonly string[]): string[] => {
  const there = new Set(names);
  return order.filter((name) => there.has(name));
};

/** Entries in the order that the one who moved them gave them; what the order does not name goes after what it stood after. */
function ordered(names: readonly string[], before: string[], after: string[], now: string[]): string[] {
  const moved = !sameValue(asIn(before, after), asIn(after, before));
  const [order, other] = moved ? [after, now] : [now, after];
  const result = asIn(names, order);
  for (const name of names) {
    if (result.includes(name)) continue;
    const at = other.indexOf(name);
    const ahead = other.slice(0, at).findLast((one) => result.includes(one));
    const behind = other.slice(at + 1).find((one) => result.includes(one));
    const place =
      ahead !== undefined ? result.indexOf(ahead) + 1 : behind !== undefined ? result.indexOf(behind) : Infinity;
    result.splice(place, 0, name);
  }
  return result;
}

/**
 * Does to a value what made `after` of `before`, wherever else it was changed: fields, texts and entries of lists each by itself. Where both
 * changed the same, what is there stays and is told as an overlap; with `force`, `after` takes its place.
 */
export function mergeValue(change: Overlap, overlaps: Overlap[], force: boolean): unknown {
  const merged = merge(change, overlaps, force);
  // A language without texts is none.
  return isObject(merged) && byLanguage.has(change.path.at(-1) ?? '')
    ? Object.fromEntries(Object.entries(merged).filter(([, texts]) => !isBlank(texts)))
    : merged;
}

function merge({ path, before, after, now }: Overlap, overlaps: Overlap[], force: boolean): unknown {
  if (sameValue(before, after) || sameValue(now, after)) return now;
  if (sameValue(now, before) || (isBlank(now) && isBlank(before))) return after;
  if (isObject(before) && isObject(after) && isObject(now)) {
    const [was, will, is] = [mapOf(before), mapOf(after), mapOf(now)];
    const merged = namesOf(is, will).map((name): [string, unknown] => [name, one(name, was, will, is)]);
    return Object.fromEntries(merged.filter(([, value]) => value !== undefined));
  }
  const name = path.at(-1) ?? '';
  const [was, will, is] = [before, after, now].map((list) => entriesOf(name, list));
  if (was && will && is) {
    const merged = new Map(namesOf(is, will).map((entry) => [entry, one(entry, was, will, is)]));
    const left = [...merged].flatMap(([entry, value]) => (value === undefined ? [] : [entry]));
    const order = ordered(left, [...was.keys()], [...will.keys()], [...is.keys()]);
    return order.map((entry) => merged.get(entry));
  }
  overlaps.push({ path, before, after, now });
  return force ? after : now;

  function one(name: string, was: Map<string, unknown>, will: Map<string, unknown>, is: Map<string, unknown>) {
    return mergeValue(
      { path: [...path, name], before: was.get(name), after: will.get(name), now: is.get(name) },
      overlaps,
      force,
    );
  }
}

/** The same for the fields of a record that a change names. Gives what they come to, and where both changed the same. */
export function mergeFields(
  before: Fields,
  after: Fields,
  now: Fields,
  force = false,
): { fields: Record<string, unknown>; overlaps: Overlap[] } {
  const overlaps: Overlap[] = [];
  const names = Object.keys({ ...before, ...after });
  const fields = Object.fromEntries(
    names.map((name) => [
      name,
      mergeValue({ path: [name], before: before[name], after: after[name], now: now[name] }, overlaps, force),
    ]),
  );
  return { fields, overlaps };
}

/** What differs between two values, each difference where it stands: single fields, texts and entries, not the lists that hold them. */
export function* valueChanges(path: readonly string[], before: unknown, after: unknown): Generator<ValueChange> {
  if (sameValue(before, after)) return;
  const name = path.at(-1) ?? '';
  const parts =
    isObject(before) && isObject(after)
      ? [mapOf(before), mapOf(after)]
      : [entriesOf(name, before), entriesOf(name, after)];
  const [was, will] = parts;
  if (!was || !will) return yield { path, before, after };
  let found = false;
  for (const one of namesOf(was, will))
    for (const change of valueChanges([...path, one], was.get(one), will.get(one))) {
      found = true;
      yield change;
    }
  // The same entries in another order.
  if (!found) yield { path, before, after };
}
