import { parseTree, type Node } from 'jsonc-parser';
import { phraseNow, problem, rewrite, type Problem, type Source } from '@/core/language';

/** A text, or its plural forms by CLDR category. */
export type Phrase = string | Record<string, string>;

/** The phrases of one language, by dotted key. */
export type Words = Map<string, Phrase>;

const forms = new Set(['zero', 'one', 'two', 'few', 'many', 'other']);

/**
 * Flattens a words file: `{"cart": {"items": {"one": …, "other": …}}}` gives `cart.items`. A phrase that was renamed is read under
 * its new name. Throws on anything but a JSON object.
 */
export function readWords(text: string): Words {
  const words: Words = new Map();
  const read: unknown = JSON.parse(text);
  if (typeof read !== 'object' || read === null || Array.isArray(read))
    throw new TypeError('A words file holds one JSON object');
  const walk = (node: object, path: string): void => {
    for (const [name, value] of Object.entries(node)) {
      const key = path ? `${path}.${name}` : name;
      if (typeof value === 'string') words.set(phraseNow(key), value);
      else if (typeof value === 'object' && value !== null && !Array.isArray(value)) {
        const entries = Object.entries(value as Record<string, unknown>);
        const plural =
          entries.length > 0 && entries.every(([form, text]) => forms.has(form) && typeof text === 'string');
        if (plural) words.set(phraseNow(key), value as Record<string, string>);
        else walk(value as object, key);
      }
    }
  };
  walk(read, '');
  return words;
}

/** What a words file holds that is no phrase: anything but texts, their plural forms, and groups of them. */
export function wordProblems(source: Source): Problem[] {
  const found: Problem[] = [];
  const report = (node: Node, text: string) =>
    found.push(problem('json-value', source, { from: node.offset, to: node.offset + node.length }, { text }));
  const walk = (node: Node, path: string): void => {
    if (node.type === 'string') return;
    if (node.type !== 'object')
      return void report(
        node,
        `${path ? `“${path}”` : 'The file'} must be ${path ? 'a text in quotes, or a group of phrases' : 'an object of phrases'}`,
      );
    const seen = new Set<string>();
    for (const { children } of node.children ?? []) {
      const [key, value] = children ?? [];
      if (!key || !value) continue;
      const name = String(key.value);
      const inner = path ? `${path}.${name}` : name;
      if (seen.has(name)) report(key, `“${inner}” stands here twice: the later one counts`);
      seen.add(name);
      walk(value, inner);
    }
    // Plural forms and others side by side are read as a group: the plain phrase that is asked for is not there.
    const names = [...seen];
    if (names.some((one) => one === 'other') && names.some((one) => !forms.has(one)))
      report(node, `“${path}” mixes plural forms (${[...forms].join(', ')}) with other names`);
  };
  const root = parseTree(source.text);
  if (root) walk(root, '');
  return found;
}

/** Phrases of a words file that are called otherwise now, each with its new name as the fix. */
export function renamedPhrases(source: Source): Problem[] {
  const found: Problem[] = [];
  const walk = (node: Node | undefined): void => {
    for (const property of node?.children ?? []) {
      const [name, value] = property.children ?? [];
      if (property.type !== 'property' || !name) continue;
      const written = name.value as string;
      const now = phraseNow(written);
      if (now !== written) {
        const inside = { from: name.offset + 1, to: name.offset + name.length - 1 };
        const reported = problem('renamed', source, inside, { name: written, now });
        reported.fix = rewrite(`Write “${now}”`, inside, now);
        found.push(reported);
      }
      walk(value);
    }
  };
  walk(parseTree(source.text));
  return found;
}
