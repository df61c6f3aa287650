import {
  any,
  day,
  flag,
  fullText,
  html,
  listOf,
  money,
  number,
  objectOf,
  openRecord,
  recordOf,
  sureNumber,
  text,
  withEmpty,
  type Kind,
  type Type,
} from './types';

/** One argument of a filter or function. */
export interface Parameter {
  name: string;
  kinds: readonly Kind[];
  optional: boolean;
  /** The texts to choose from. */
  options?: readonly string[];
}

/** What a filter or function takes and gives. `byItem`: the first argument is worked out for each item as `it`. */
export interface Signature {
  /** Kinds that a filter works on; others give none. Of a function: none. */
  on: readonly Kind[];
  parameters: readonly Parameter[];
  byItem?: 'required' | 'optional';
  /** Of a function that takes any named argument: t(), record(). */
  open?: boolean;
  gives(of: Type, args: readonly (Type | undefined)[], by: Type): Type;
}

const printable: readonly Kind[] = ['Text', 'Html', 'Number', 'Flag', 'Money', 'Day', 'List'];
const needs = (name: string, ...kinds: Kind[]): Parameter => ({ name, kinds, optional: false });
const may = (name: string, ...kinds: Kind[]): Parameter => ({ name, kinds, optional: true });
const choice = (name: string, ...options: string[]): Parameter => ({ name, kinds: ['Text'], optional: true, options });

const onText = (parameters: Parameter[] = [], gives: Type = text): Signature => ({
  on: printable,
  parameters,
  gives: (of) => (gives === text && of.empty === 'no' && of.kind !== 'List' ? fullText : gives),
});
const onList = (gives: Signature['gives'], parameters: Parameter[] = [], byItem?: Signature['byItem']): Signature => ({
  on: ['List'],
  parameters,
  gives,
  ...(byItem ? { byItem } : {}),
});
const perhaps = (type: Type) => withEmpty(type, 'perhaps');
const item = (of: Type): Type => perhaps(of.of ?? any);
const same = (of: Type): Type => perhaps(of);

export const filterSignatures: Record<string, Signature> = {
  upper: onText(),
  lower: onText(),
  trim: onText(),
  plain: { ...onText(), gives: () => text },
  shorten: onText([needs('n', 'Number'), may('tail', 'Text')]),
  replace: { ...onText([needs('a', 'Text'), needs('b', 'Text', 'Number')]), gives: () => text },
  split: onText([needs('s', 'Text')], listOf(text)),
  slug: { ...onText(), gives: () => text },
  to_number: { on: ['Text', 'Number'], parameters: [], gives: () => number },
  json: { on: ['Any', 'Record', ...printable], parameters: [], gives: () => fullText },
  count: { on: ['List', 'Text'], parameters: [], gives: () => sureNumber },
  first: onList((of, [n]) => (n ? same(of) : item(of)), [may('n', 'Number')]),
  final: onList((of, [n]) => (n ? same(of) : item(of)), [may('n', 'Number')]),
  skip: onList(same, [needs('n', 'Number')]),
  reverse: onList((of) => of),
  join: { ...onList(() => text, [may('s', 'Text')]), on: ['List', 'Text', 'Number', 'Money', 'Day', 'Flag', 'Html'] },
  rows: onList((of) => listOf(withEmpty(of, 'no'), of.empty), [needs('n', 'Number')]),
  entries: { on: ['Record'], parameters: [], gives: () => listOf(recordOf({ key: fullText, value: any })) },
  keep: onList(same, [], 'required'),
  drop: onList(same, [], 'required'),
  pluck: onList((of, _, by) => listOf(by, of.empty), [], 'required'),
  unique: onList((of) => of, [], 'optional'),
  sort_by: onList((of) => of, [choice('direction', 'up', 'down')], 'optional'),
  group_by: onList((of, _, by) => listOf(recordOf({ key: by, items: withEmpty(of, 'no') }), of.empty), [], 'required'),
  sum: onList((_, __, by) => (by.kind === 'Money' ? money : by.kind === 'Number' ? sureNumber : any), [], 'optional'),
  min: onList((_, __, by) => perhaps(by), [], 'optional'),
  max: onList((_, __, by) => perhaps(by), [], 'optional'),
  round: { on: ['Number'], parameters: [may('d', 'Number')], gives: (of) => of },
  number: { on: ['Number'], parameters: [may('d', 'Number')], gives: (of) => withEmpty(text, of.empty) },
  percent: { on: ['Number'], parameters: [may('d', 'Number')], gives: (of) => withEmpty(text, of.empty) },
  money: {
    on: ['Money'],
    parameters: [choice('style', 'plain', 'short', 'code')],
    gives: (of) => withEmpty(text, of.empty),
  },
  date: {
    on: ['Day'],
    parameters: [choice('style', 'short', 'medium', 'long', 'full')],
    gives: (of) => withEmpty(text, of.empty),
  },
  sized: {
    on: ['Record'],
    parameters: [
      may('width', 'Number'),
      may('height', 'Number'),
      { ...choice('crop', 'centre', 'top', 'right', 'bottom', 'left'), kinds: ['Text', 'Flag'] },
    ],
    gives: (of) => withEmpty(text, of.empty),
  },
  split_by: onList(
    (of) => listOf(objectOf('Tile', 'no'), of.empty),
    [may('option', 'Text', 'Record'), may('pictures', 'Number'), may('values', 'List')],
  ),
  structured: { on: ['Record', 'List'], parameters: [], gives: (of) => withEmpty(openRecord, of.empty) },
  embed: { on: ['Text'], parameters: [], gives: () => text },
};

const call = (gives: Type | Signature['gives'], ...parameters: Parameter[]): Signature => ({
  on: [],
  parameters,
  gives: typeof gives === 'function' ? gives : () => gives,
});

export const functionSignatures: Record<string, Signature> = {
  t: { ...call(fullText, needs('key', 'Text')), open: true },
  asset: call(text, needs('path', 'Text')),
  icon: call({ ...html, inline: true }, needs('name', 'Text')),
  content: call(objectOf('Content'), needs('slug', 'Text')),
  menu: call(listOf(objectOf('MenuItem', 'no')), needs('slug', 'Text')),
  products: call(
    listOf(objectOf('Product', 'no')),
    may('category', 'Text', 'Record'),
    may('tag', 'Text', 'Record'),
    may('type', 'Text'),
    choice('sort', 'chosen', 'name', 'price', 'price-down', 'newest'),
    may('limit', 'Number'),
    may('search', 'Text'),
  ),
  categories: call(listOf(objectOf('Category', 'no'))),
  articles: call(listOf(objectOf('Article', 'no')), may('limit', 'Number')),
  // Its fields are those given: the checker makes the type.
  record: { ...call(openRecord), open: true },
  range: call(listOf(sureNumber), needs('from', 'Number'), needs('to', 'Number')),
  day: call(day, needs('date', 'Text')),
  listing_url: call(
    fullText,
    may('tag', 'Text', 'Record'),
    may('brand', 'Text', 'Record'),
    may('search', 'Text'),
    may('category', 'Text', 'Record'),
    may('offer', 'Flag'),
  ),
  money: call(money, needs('amount', 'Number')),
  filled: call(flag, needs('gap', 'Text')),
  fragment: { ...call(text, needs('piece', 'Text')), open: true },
};
