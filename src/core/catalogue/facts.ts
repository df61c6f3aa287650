import { isFieldSubject, severalValues, type FieldDefinition, type FieldSubject, type FieldType } from './rows';
import type { Subject } from '@/core/address';

export type SubjectKind = Subject['kind'];

/** What a fact's values are. Money in minor units, days as ISO 8601; a set holds several texts. */
export type FactType = 'text' | 'set' | 'number' | 'money' | 'day' | 'flag';

/** A value of a fact; null: the subject has none. */
export type FactValue = string | number | boolean | null | readonly string[];

/** Something that a rule can ask about a subject. */
export interface FactSpec {
  fact: string;
  type: FactType;
  /** What it is called: in a rule, and in what explains it. */
  label: string;
  /** Texts of it are slugs of these, and picked from a list. */
  of?: 'tag' | 'category' | 'brand' | 'type';
}

/** A fact of one subject kind; attributes and custom fields are named beside it. */
export interface FactName {
  fact: string;
  /** Name of an attribute, key of a custom field. */
  name?: string | undefined;
}

/** The facts of one subject. */
export type Facts = (asked: FactName) => FactValue;

const slug: FactSpec = { fact: 'slug', type: 'text', label: 'slug' };
const added: FactSpec = { fact: 'added', type: 'day', label: 'came in' };

/** What rules can ask about the subjects of each kind, attributes and custom fields aside. */
export const factSpecs: Record<SubjectKind, readonly FactSpec[]> = {
  product: [
    { fact: 'tag', type: 'set', label: 'tag', of: 'tag' },
    { fact: 'type', type: 'text', label: 'type', of: 'type' },
    { fact: 'category', type: 'set', label: 'category', of: 'category' },
    { fact: 'brand', type: 'text', label: 'brand', of: 'brand' },
    { fact: 'price', type: 'money', label: 'price' },
    { fact: 'stock', type: 'number', label: 'stock' },
    added,
    slug,
  ],
  category: [
    { fact: 'below', type: 'set', label: 'below', of: 'category' },
    { fact: 'level', type: 'number', label: 'level' },
    { fact: 'products', type: 'number', label: 'products' },
    { ...slug, of: 'category' },
  ],
  listing: [
    { fact: 'kind', type: 'text', label: 'kind' },
    { fact: 'tag', type: 'text', label: 'tag', of: 'tag' },
    { fact: 'brand', type: 'text', label: 'brand', of: 'brand' },
    { fact: 'query', type: 'text', label: 'search' },
    { fact: 'view', type: 'text', label: 'view' },
  ],
  content: [slug, { ...added, label: 'written' }],
  article: [slug, { ...added, label: 'written' }],
  home: [],
  articles: [],
  cart: [],
};

/** What a custom field's values are to a rule. */
const fieldTypes: Record<FieldType, FactType> = {
  text: 'text',
  html: 'text',
  link: 'text',
  picture: 'text',
  number: 'number',
  flag: 'flag',
  day: 'day',
};

/** Custom fields of a kind of subject, as the shop defines them. */
export type Definitions = (kind: FieldSubject) => readonly FieldDefinition[];

/** The fact of that name; null where subjects of the kind have none such: an unknown one, or a field that is not defined. */
export function specOf(kind: SubjectKind, { fact, name }: FactName, definitions: Definitions): FactSpec | null {
  if (fact === 'attribute' && kind === 'product' && name) return { fact, type: 'text', label: `attribute ${name}` };
  if (fact === 'field' && isFieldSubject(kind)) {
    const found = definitions(kind).find(({ key }) => key === name);
    return found ? { fact, type: found.several ? 'set' : fieldTypes[found.type], label: found.name } : null;
  }
  return factSpecs[kind].find((one) => one.fact === fact) ?? null;
}

/** A custom field's value as a rule sees it, from how it is stored; what is not a number or day of its type is none. */
export function fieldFact(type: FieldType, stored: string, several = false): FactValue {
  if (several) return severalValues(stored);
  if (type === 'flag') return stored === 'true';
  if (type === 'number') return stored.trim() !== '' && Number.isFinite(Number(stored)) ? Number(stored) : null;
  if (type === 'day') return /^\d{4}-\d{2}-\d{2}$/.test(stored) ? stored : null;
  return stored === '' ? null : stored;
}

/** Names one fact of a kind in one word: the key of its column. */
export const factKey = ({ fact, name }: FactName): string => (name === undefined ? fact : `${fact} ${name}`);
