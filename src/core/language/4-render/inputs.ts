import { Html, type Value } from '../values/values';

/** Types of input that name a subject by its slug. */
export type SubjectType = 'content' | 'product' | 'category';

/** Fixed text as a value of an input's type; null for what cannot be read as one. */
export function readInput(text: string, type: string, find: (kind: SubjectType, slug: string) => Value): Value {
  switch (type) {
    case 'number':
      return /^\s*-?\d+(?:\.\d+)?\s*$/.test(text) ? Number(text) : null;
    case 'boolean':
      return text.trim() === 'true' || text.trim() === '' ? true : text.trim() === 'false' ? false : null;
    case 'html':
      return new Html(text);
    case 'list':
      return text.split(',').map((item) => item.trim());
    case 'content':
    case 'product':
    case 'category':
      return find(type, text);
    default:
      return text;
  }
}
