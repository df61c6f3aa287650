import { add } from '../values/arithmetic';
import { equal, order } from '../values/compare';
import { asList, isEmpty, isRecord, Money, record, type Value } from '../values/values';
import { fieldNames } from '../values/json';
import type { ByItem, Filter, FilterContext, ItemFilter } from './table';

const isNone = (value: Value) => value === null || value === undefined;
const whole = (value: Value): number | null => (typeof value === 'number' ? Math.max(0, Math.trunc(value)) : null);

/** The items, charged for. Text is no list here. */
function itemsOf(context: FilterContext, value: Value): Value[] {
  const items = asList(value);
  context.charge(items.length);
  return items;
}

const each = (by: ByItem | null): ByItem => by ?? ((item) => item);

/** Keeps the first of those whose `key` is equal; texts and numbers are looked up, the rest compared. */
function distinct(items: Value[], key: ByItem): { key: Value; items: Value[] }[] {
  const groups: { key: Value; items: Value[] }[] = [];
  const known = new Map<unknown, { key: Value; items: Value[] }>();
  const complex: { key: Value; items: Value[] }[] = [];
  for (const item of items) {
    const found = key(item);
    const simple = typeof found !== 'object' || found === null;
    const name = isNone(found) ? null : found instanceof Money ? `${found.amount} ${found.currency}` : found;
    let group = simple ? known.get(name) : complex.find((one) => equal(one.key, found));
    if (!group) {
      group = { key: found, items: [] };
      groups.push(group);
      if (simple) known.set(name, group);
      else complex.push(group);
    }
    group.items.push(item);
  }
  return groups;
}

function sorted(context: FilterContext, items: Value[], key: ByItem, down: boolean): Value[] {
  const keyed = items.map((item) => ({ item, key: key(item) }));
  const compare = (a: Value, b: Value): number => {
    if (typeof a === 'string' && typeof b === 'string') return context.format.compare(a, b);
    return order(a, b) ?? 0;
  };
  const present = keyed.filter((one) => !isNone(one.key));
  const absent = keyed.filter((one) => isNone(one.key));
  present.sort((a, b) => (down ? compare(b.key, a.key) : compare(a.key, b.key)));
  return [...present, ...absent].map((one) => one.item);
}

function extreme(items: Value[], key: ByItem, better: (comparison: number) => boolean): Value {
  let best: Value = null;
  for (const item of items) {
    const value = key(item);
    if (isNone(value)) continue;
    if (isNone(best) || better(order(value, best) ?? 0)) best = value;
  }
  return best;
}

export const listFilters: Record<string, Filter | ItemFilter> = {
  count: {
    signature: 'count',
    says: 'how many items, or characters of a text; 0 of none',
    run: (_, value) => (typeof value === 'string' ? Array.from(value).length : asList(value).length),
  },
  first: {
    signature: 'first, first(n)',
    says: 'the first item, or a list of the first n',
    run: (context, value, n) => {
      const items = itemsOf(context, value);
      return n === undefined ? items[0] : items.slice(0, whole(n) ?? 0);
    },
  },
  final: {
    signature: 'final, final(n)',
    says: 'the last item, or a list of the last n',
    run: (context, value, n) => {
      const items = itemsOf(context, value);
      if (n === undefined) return items[items.length - 1];
      const most = whole(n) ?? 0;
      return most ? items.slice(-most) : [];
    },
  },
  skip: {
    signature: 'skip(n)',
    says: 'without the first n',
    run: (context, value, n) => itemsOf(context, value).slice(whole(n) ?? 0),
  },
  reverse: {
    signature: 'reverse',
    says: 'the other way round',
    run: (context, value) => [...itemsOf(context, value)].reverse(),
  },
  join: {
    signature: "join(s=', ')",
    says: 'one text, with s between',
    run: (context, value, by) => {
      if (!Array.isArray(value)) return isNone(value) ? null : context.print(value);
      const texts = itemsOf(context, value).map((item) => context.print(item));
      const between = typeof by === 'string' ? by : ', ';
      context.charge(texts.reduce((sum, text) => sum + text.length + between.length, 0));
      return texts.filter((text) => text !== '').join(between);
    },
  },
  rows: {
    signature: 'rows(n)',
    says: 'lists of n items each',
    run: (context, value, n) => {
      const items = itemsOf(context, value);
      const size = whole(n) || 1;
      return Array.from({ length: Math.ceil(items.length / size) }, (_, at) =>
        items.slice(at * size, at * size + size),
      );
    },
  },
  entries: {
    signature: 'entries',
    says: 'a record’s fields as records of key and value',
    run: (context, value) => {
      if (!isRecord(value)) return [];
      const names = fieldNames(value);
      context.charge(names.length);
      return names.map((key) => record({ key, value: value[key] }));
    },
  },
  keep: {
    signature: 'keep(e)',
    says: 'the items for which e is not empty',
    byItem: true,
    run: (context, value, by) => itemsOf(context, value).filter((item) => !isEmpty(each(by)(item))),
  },
  drop: {
    signature: 'drop(e)',
    says: 'the items for which e is empty',
    byItem: true,
    run: (context, value, by) => itemsOf(context, value).filter((item) => isEmpty(each(by)(item))),
  },
  pluck: {
    signature: 'pluck(e)',
    says: 'e of each item',
    byItem: true,
    run: (context, value, by) => itemsOf(context, value).map(each(by)),
  },
  unique: {
    signature: 'unique, unique(e)',
    says: 'the first item of each e',
    byItem: true,
    run: (context, value, by) => distinct(itemsOf(context, value), each(by)).map((group) => group.items[0]),
  },
  sort_by: {
    signature: "sort_by(e, 'down')",
    says: 'in the locale’s order of e, numbers in natural order, none last; stable',
    byItem: true,
    run: (context, value, by, direction) => sorted(context, itemsOf(context, value), each(by), direction === 'down'),
  },
  group_by: {
    signature: 'group_by(e)',
    says: 'records of key and items, in the order in which keys come up',
    byItem: true,
    run: (context, value, by) => distinct(itemsOf(context, value), each(by)).map((group) => record({ ...group })),
  },
  sum: {
    signature: 'sum, sum(e)',
    says: 'of numbers, or of Money in one currency; none is passed over',
    byItem: true,
    run: (context, value, by) => {
      const values = itemsOf(context, value)
        .map(each(by))
        .filter((item) => !isNone(item));
      return values.reduce<Value>((total, item, at) => (at ? add(total, item, context) : item), 0);
    },
  },
  min: {
    signature: 'min, min(e)',
    says: 'the least; none is passed over',
    byItem: true,
    run: (context, value, by) => extreme(itemsOf(context, value), each(by), (comparison) => comparison < 0),
  },
  max: {
    signature: 'max, max(e)',
    says: 'the greatest; none is passed over',
    byItem: true,
    run: (context, value, by) => extreme(itemsOf(context, value), each(by), (comparison) => comparison > 0),
  },
};
