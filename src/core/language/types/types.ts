/**
 * What the checker knows of a value before any page is made: its kind, of a list what it holds, of a record its fields, and
 * whether it can be empty.
 */
export interface Type {
  kind: Kind;
  /** `yes`: always empty. `no`: never. A number, an amount or a record is empty only where it is none. */
  empty: 'yes' | 'no' | 'perhaps';
  /** Of a list: its items. */
  of?: Type;
  /** Of a record of the catalogue: its name in the schema. */
  object?: string;
  /** Of a record made in the template: its fields. */
  fields?: ReadonlyMap<string, Type>;
  /** Of a text: the only ones that it can be. */
  options?: readonly string[];
  /** Of a text: it is the type of a product, which the shop has some of. */
  isType?: boolean;
  /** Written out in the template. */
  literal?: string | number | boolean;
  /** Of rich text: only what may stand within a line, such as an icon. */
  inline?: boolean;
}

export type Kind = 'Any' | 'None' | 'Text' | 'Number' | 'Flag' | 'Money' | 'Day' | 'Html' | 'List' | 'Record';

const plain = (kind: Kind, empty: Type['empty'] = 'perhaps'): Type => Object.freeze({ kind, empty });

export const any = plain('Any');
export const none = plain('None', 'yes');
export const text = plain('Text');
export const fullText = plain('Text', 'no');
export const number = plain('Number');
/** A number that is always there: a condition on it always holds. */
export const sureNumber = plain('Number', 'no');
export const flag = plain('Flag');
export const money = plain('Money');
export const day = plain('Day');
export const html = plain('Html');
export const openRecord = plain('Record', 'no');

export const listOf = (of: Type, empty: Type['empty'] = 'perhaps'): Type => ({ kind: 'List', empty, of });
export const objectOf = (object: string, empty: Type['empty'] = 'perhaps'): Type => ({ kind: 'Record', empty, object });
export const recordOf = (fields: Record<string, Type>): Type => ({
  kind: 'Record',
  empty: 'no',
  fields: new Map(Object.entries(fields)),
});

/** The same, with another answer to whether it can be empty. */
export const withEmpty = (type: Type, empty: Type['empty']): Type => (type.empty === empty ? type : { ...type, empty });

/** A type as the schema and `<takes>` write it: `Text`, `List of Tag`, `Product`. */
export function readType(name: string, empty: Type['empty'] = 'perhaps'): Type {
  const item = /^List of (.+)$/.exec(name)?.[1];
  if (item) return listOf(readType(item, 'no'), empty);
  switch (name) {
    case 'Text':
    case 'Number':
    case 'Flag':
    case 'Money':
    case 'Day':
    case 'Html':
      return plain(name, empty);
    case 'Any':
      return any;
    case 'Record':
      return plain('Record', empty);
    default:
      return objectOf(name, empty);
  }
}

/** A type in words: “a list of Tag”, “Money”, “none”. */
export function inWords(type: Type): string {
  if (type.kind === 'List') return type.of && type.of.kind !== 'Any' ? `a list of ${bare(type.of)}` : 'a list';
  if (type.kind === 'Record') return type.object ?? 'a record';
  if (type.kind === 'None') return 'none';
  return type.kind === 'Any' ? 'a value' : type.kind;
}
const bare = (type: Type): string => inWords(type).replace(/^a (?=record|list)/, '');

/** What a value is that is one or the other. */
export function either(a: Type, b: Type): Type {
  const empty = a.empty === b.empty ? a.empty : 'perhaps';
  if (a.kind === 'None') return withEmpty(b, empty);
  if (b.kind === 'None') return withEmpty(a, empty);
  if (a.kind !== b.kind || a.object !== b.object) return withEmpty(any, empty);
  if (a.kind === 'List') return listOf(a.of && b.of ? either(a.of, b.of) : any, empty);
  if (a.kind === 'Record') return a.object ? objectOf(a.object, empty) : { kind: 'Record', empty };
  const options = a.options && b.options ? [...new Set([...a.options, ...b.options])] : undefined;
  return options ? { kind: a.kind, empty, options } : { kind: a.kind, empty };
}

/** Whether a value of this type may be given where that one is wanted. What is not known is let through. */
export function fits(given: Type, wanted: Type): boolean {
  if (given.kind === 'Any' || wanted.kind === 'Any' || given.kind === 'None') return true;
  if (wanted.kind === 'Flag') return true;
  if (wanted.kind === 'Text') return given.kind !== 'Record' && given.kind !== 'List';
  if (wanted.kind === 'Html') return given.kind === 'Html' || given.kind === 'Text';
  if (given.kind !== wanted.kind) return false;
  if (wanted.kind === 'List') return !given.of || !wanted.of || fits(given.of, wanted.of);
  if (wanted.kind === 'Record') return !wanted.object || given.object === wanted.object;
  return true;
}

/** The objects that templates reach, with their fields: what the catalogue's schema gives the checker. */
export interface ObjectTypes {
  /** Fields of an object by name; null for no such object. */
  fields(object: string): ReadonlyMap<string, Type> | null;
  /** Fields that are there wherever this one is not empty. */
  implied?(object: string, field: string): readonly string[];
  /** Names of all objects. */
  objects: Iterable<string>;
  /** The names that a page of this kind sees besides shop, look and visit; null: of no known kind. */
  page(kind: string): ReadonlyMap<string, Type> | null;
  /** shop, look and visit. */
  globals: ReadonlyMap<string, Type>;
}
