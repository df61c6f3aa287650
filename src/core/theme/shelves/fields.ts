import { type Definitions, fieldSubjects } from '@/core/catalogue';
import {
  fits,
  inputType,
  nearestOf,
  objectOf,
  type ObjectTypes,
  type Take,
  type ThemeFacts,
  type Type,
} from '@/core/language';

/** A field of a page's subject that an input may be bound to. */
export interface BoundField {
  /** `product.summary`, `product.fields.lead_time`. */
  path: string;
  /** The object that has it, and where in that: `Product`, `['fields', 'lead_time']`. */
  object: string;
  steps: string[];
  type: Type;
}

/** The fields of the subject of a kind of page, its custom ones too. */
export function* boundFields(types: ObjectTypes, kind: string): Generator<BoundField> {
  const object = types.page(kind)?.get(kind)?.object;
  if (!object) return;
  for (const [name, type] of types.fields(object) ?? []) {
    const custom = name === 'fields' && type.object ? types.fields(type.object) : null;
    if (!custom) yield { path: `${kind}.${name}`, object, steps: [name], type };
    for (const [key, inner] of custom ?? [])
      yield { path: `${kind}.fields.${key}`, object, steps: ['fields', key], type: inner };
  }
}

/** What a field gives to the input that is bound to it: a custom field for pictures holds a path, and gives the picture. */
export function givenBy(path: string, type: Type, definitions: Definitions | null): Type {
  const [, subject, key] = /^(\w+)\.fields\.(\w+)$/.exec(path) ?? [];
  const of = fieldSubjects.find((one) => one === subject);
  const field = of && definitions?.(of).find((one) => one.key === key);
  return field?.type === 'picture' && !field.several ? objectOf('Media') : type;
}

/** Whether an input can be bound to a field of a type: a text prints no markup, and no yes or no. */
export function canBind(take: Take, type: Type): boolean {
  const wanted = inputType(take);
  if (wanted.kind === 'Text' && (type.kind === 'Html' || type.kind === 'Flag')) return false;
  if (wanted.kind === 'Flag' && type.kind !== 'Flag') return false;
  return type.kind !== 'Any' && fits(type, wanted);
}

/** The type of a field of the subject of a kind of page (null: of any), or what is wrong with it; null: not known. */
export function boundType(path: string, kind: string | null, { types }: ThemeFacts): Type | { wrong: string } | null {
  if (!types) return null;
  const [root = '', ...names] = path.split('.');
  const kinds = kind === null ? ['product', 'category', 'listing', 'content', 'article'] : [kind];
  const subject = kinds.map((one) => types.page(one)?.get(root)).find((one) => one !== undefined);
  if (!subject) return { wrong: `Such a page has no “${root}”` };
  let type: Type = subject;
  for (const name of names) {
    const fields = type.object ? types.fields(type.object) : null;
    if (!fields) return type.kind === 'Record' ? null : { wrong: `“${path}” goes through what is not an object` };
    const field = fields.get(name);
    if (!field) {
      const near = nearestOf(name, fields.keys());
      return { wrong: `${type.object} has no field “${name}”${near ? `; did you mean “${near.name}”?` : ''}` };
    }
    type = field;
  }
  return type;
}
