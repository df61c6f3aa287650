import { add } from '../values/arithmetic';
import { equal, order } from '../values/compare';
import { fieldNames } from '../values/json';
import { workOn } from '../values/meter';
import {
  asList,
  Day,
  Html,
  isEmpty,
  isRecord,
  keyOf,
  Money,
  record,
  type RecordValue,
  type Value,
} from '../values/values';
import { countCharacters } from './text';
import type { ByItem, Filter, FilterContext, ItemFilter } from './filter';

const isNone = (value: Value) => value === null || value === undefined;
const whole = (value: Value): number | null => (typeof value === 'number' ? Math.max(0, Math.trunc(value)) : null);

/** The items, charged for. Text is not a list here. */
function itemsOf(context: FilterContext, value: Value): Value[] {
  const items = asList(value);
  context.charge(items.length);
  return items;
}

const each = (by: ByItem | null): ByItem => by ?? ((item) => item);

/** A name by which a value finds its equals; null for a list, which is compared item by item. */
function nameOf(value: Value): unknown {
  if (isNone(value)) return null;
  if (typeof value !== 'object' || value === null) return `${typeof value} ${String(value)}`;
  if (value instanceof Money) return `money ${value.amount} ${value.currency}`;
  if (value instanceof Day) return `day ${value.number}`;
  if (value instanceof Html) return `html ${value.markup}`;
  if (Array.isArray(value)) return value.length === 0 ? 'list' : undefined;
  // A record that the catalogue does not know is equal to nothing but itself.
  const key = keyOf(value as RecordValue);
  return key === null ? value : `record ${key}`;
}

/** Groups items whose `key` is equal, in the order in which keys come up. */
function distinct(context: FilterContext, items: Value[], key: ByItem): { key: Value; items: Value[] }[] {
  const groups: { key: Value; items: Value[] }[] = [];
  const known = new Map<unknown, { key: Value; items: Value[] }>();
  const lists: { key: Value; items: Value[] }[] = [];
  for (const item of items) {
    context.work(1);
    const found = key(item);
    const name = nameOf(found);
    let group = name === undefined ? lists.find((one) => equal(one.key, found, context)) : known.get(name);
    if (!group) {
      group = { key: found, items: [] };
      groups.push(group);
      if (name === undefined) lists.push(group);
      else known.set(name, group);
    }
    group.items.push(item);
  }
  return groups;
}

/** By the locale's collation for texts, by size for the rest; 0 for what has no order. */
function compare(context: FilterContext, a: Value, b: Value): number {
  context.work(1);
  if (typeof a === 'string' && typeof b === 'string') {
    workOn(a.length < b.length ? a : b, context);
    return context.format.compare(a, b);
  }
  return order(a, b, context) ?? 0;
}

function sorted(context: FilterContext, items: Value[], key: ByItem, down: boolean): Value[] {
  const keyed = items.map((item) => ({ item, key: key(item) }));
  const present = keyed.filter((one) => !isNone(one.key));
  const absent = keyed.filter((one) => isNone(one.key));
  present.sort((a, b) => (down ? compare(context, b.key, a.key) : compare(context, a.key, b.key)));
  return [...present, ...absent].map((one) => one.item);
}

/** What kind of value can be added up or put in order with another; null for what cannot. */
function kindOf(value: Value): string | null {
  if (typeof value === 'number' || typeof value === 'string') return typeof value;
  if (value instanceof Money) return `money ${value.currency}`;
  return value instanceof Day ? 'day' : null;
}

/** The values that `by` gives, none passed over; null when they are not all of one kind. */
function ofOneKind(context: FilterContext, value: Value, by: ByItem | null): Value[] | null {
  const values: Value[] = [];
  for (const item of itemsOf(context, value)) {
    const found = each(by)(item);
    if (!isNone(found)) values.push(found);
  }
  const kind = values.length ? kindOf(values[0]) : '';
  return kind !== null && values.every((one) => kindOf(one) === kind || kind === '') ? values : null;
}

function extreme(context: FilterContext, values: Value[] | null, better: (comparison: number) => boolean): Value {
  return (values ?? []).reduce<Value>(
    (best, value, at) => (at === 0 || better(compare(context, value, best)) ? value : best),
    null,
  );
}

export const listFilters: Record<string, Filter | ItemFilter> = {
  count: {
    signature: 'count',
    says: 'how many items, or characters of a text as readers count them; 0 of none',
    run: (context, value) => (typeof value === 'string' ? countCharacters(context, value) : asList(value).length),
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
      const count = whole(n) ?? 0;
      return count ? items.slice(-count) : [];
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
      const texts = itemsOf(context, value).map((item) => {
        context.work(1);
        return context.print(item);
      });
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
    run: (context, value, by) => itemsOf(context, value).filter((item) => !isEmpty(each(by)(item), context)),
  },
  drop: {
    signature: 'drop(e)',
    says: 'the items for which e is empty',
    byItem: true,
    run: (context, value, by) => itemsOf(context, value).filter((item) => isEmpty(each(by)(item), context)),
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
    run: (context, value, by) => distinct(context, itemsOf(context, value), each(by)).map((group) => group.items[0]),
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
    run: (context, value, by) =>
      distinct(context, itemsOf(context, value), each(by)).map((group) => record({ ...group })),
  },
  sum: {
    signature: 'sum, sum(e)',
    says: 'of numbers, or of Money in one currency; none is passed over; anything else gives none',
    byItem: true,
    run: (context, value, by) => {
      if (!isNone(value) && !Array.isArray(value)) return null;
      const values = ofOneKind(context, value, by);
      const [first] = values ?? [];
      if (!values || (first !== undefined && typeof first !== 'number' && !(first instanceof Money))) return null;
      return values.reduce<Value>((total, item, at) => (at ? add(total, item, context) : item), 0);
    },
  },
  min: {
    signature: 'min, min(e)',
    says: 'the least, of texts by collation; none is passed over; of mixed kinds none',
    byItem: true,
    run: (context, value, by) => extreme(context, ofOneKind(context, value, by), (comparison) => comparison < 0),
  },
  max: {
    signature: 'max, max(e)',
    says: 'the greatest, of texts by collation; none is passed over; of mixed kinds none',
    byItem: true,
    run: (context, value, by) => extreme(context, ofOneKind(context, value, by), (comparison) => comparison > 0),
  },
};
