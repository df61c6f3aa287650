import type { Take } from '../1-parse/nodes';
import { Html, type Value } from '../values/values';
import { quote } from './expressions';

/** Types of input whose fixed text is another value than the text. */
const read = new Set(['number', 'boolean', 'html', 'list', 'content', 'product', 'category']);

/** JavaScript that gives the names used in a template their values: what was given, fixed text read as its type, none as the default. */
export function takesPrelude(takes: readonly Take[], names: Iterable<string>): string {
  const declared = new Map(takes.map((take) => [take.name, take]));
  const lines: string[] = [];
  for (const name of names) {
    const take = declared.get(name);
    if (!take) {
      const global = name === 'shop' || name === 'look' || name === 'visit' ? ` ?? rt.globals.${name}` : '';
      lines.push(`const $${name} = inp.$${name}${global};`);
      continue;
    }
    lines.push(`let $${name} = inp.$${name};`);
    const { type } = take;
    if (read.has(type))
      lines.push(`if (w !== null && w.includes(${quote(name)})) $${name} = rt.read($${name}, ${quote(type)});`);
    if (take.default === null) continue;
    const otherwise = read.has(type) ? `rt.read(${quote(take.default)}, ${quote(type)})` : quote(take.default);
    lines.push(`if ($${name} === null || $${name} === undefined) $${name} = ${otherwise};`);
  }
  return lines.join('\n');
}

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
