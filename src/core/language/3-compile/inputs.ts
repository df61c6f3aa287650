import type { Take } from '../1-parse/nodes';
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
