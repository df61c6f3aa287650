import { findNodeAtLocation, getLocation, parseTree } from 'jsonc-parser';
import { choicesAt, keysAt, typeAt } from '@/core/language';
import { fileSchemas, shelfNames, type Theme } from '@/core/theme';
import type { Suggestion, Suggestions } from './complete';
import type { Hover } from './hover';

const suggestion = (label: string, kind: Suggestion['kind'], writes: string, detail = ''): Suggestion => ({
  ...{ label, kind, detail, writes },
  says: '',
  rank: 0,
});

/** Names that a value of `shelves.json` or `alternates.json` may be, besides what its schema lists. */
function namesFor(theme: Theme, file: string, path: readonly (string | number)[]): string[] {
  const key = path[path.length - 1];
  if (file === 'shelves.json') {
    if (key === 'shelf') return shelfNames(theme);
    if (key === 'piece') return theme.templateNames().filter((one) => one.startsWith('pieces/'));
    if (key === 'template') return theme.templateNames().filter((one) => !/^(?:pieces|layouts)\//.test(one));
  }
  if (file === 'alternates.json' && key === 'alternate')
    return ['default', ...new Set(theme.assignments.alternates.alternates.map(({ name }) => name))];
  return [];
}

/** Keys that the object at a path has already. */
function keysThere(text: string, path: readonly (string | number)[]): Set<string> {
  const root = parseTree(text);
  const object = root && (path.length ? findNodeAtLocation(root, [...path]) : root);
  return new Set(object?.children?.flatMap(({ children }) => String(children?.[0]?.value ?? '')));
}

/** What can be written at an offset of a file of data: keys that may stand there, values that a key takes; null: nothing is known. */
export function completeJson(theme: Theme, file: string, text: string, offset: number): Suggestions | null {
  const schema = fileSchemas[file];
  if (!schema) return null;
  const { path, previousNode, isAtPropertyKey } = getLocation(text, offset);
  const inside = previousNode && offset > previousNode.offset && offset <= previousNode.offset + previousNode.length;
  const inQuotes = inside && (previousNode.type === 'string' || previousNode.type === 'property');
  const from = inQuotes ? previousNode.offset + 1 : offset - (/[\w-]*$/.exec(text.slice(0, offset))?.[0].length ?? 0);
  const isClosed = inQuotes && /^[^"\n]*"/.test(text.slice(offset));
  const written = (name: string) => (inQuotes ? `${name}${isClosed ? '' : '"'}` : `"${name}"`);
  if (isAtPropertyKey) {
    const there = keysThere(text, path.slice(0, -1));
    const own = inQuotes ? String(previousNode.value ?? '') : '';
    return {
      from,
      options: keysAt(schema, path.slice(0, -1))
        .filter((name) => name === own || !there.has(name))
        .map((name) =>
          suggestion(
            name,
            'input',
            isClosed ? name : `${written(name)}: |`,
            typeAt(schema, [...path.slice(0, -1), name]),
          ),
        ),
    };
  }
  const listed = choicesAt(schema, path);
  const names = [...listed, ...namesFor(theme, file, path)];
  if (!names.length) return null;
  const isWord = (name: string) => listed.includes(name) && /^(?:true|false)$/.test(name);
  return { from, options: names.map((name) => suggestion(name, 'text', isWord(name) ? name : written(name))) };
}

/** What a key of a file of data takes. */
export function hoverJson(file: string, text: string, offset: number): Hover | null {
  const schema = fileSchemas[file];
  if (!schema) return null;
  const { path, previousNode, isAtPropertyKey } = getLocation(text, offset);
  if (!previousNode || !isAtPropertyKey || offset > previousNode.offset + previousNode.length) return null;
  const type = typeAt(schema, path);
  if (!type) return null;
  const { offset: from, length } = previousNode;
  return { from, to: from + length, title: String(path[path.length - 1]), says: `Takes ${type}.` };
}
