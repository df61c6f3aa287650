import { parseTree, type Node } from 'jsonc-parser';
import { allExpressions, nearestOf, problem, rewrite, Source, type Problem, type Template } from '@/core/language';

import type { Phrase } from './words';

/** A theme, as far as what its phrases are given is looked at. */
interface Phrased {
  locale: string;
  names(): string[];
  paths(): string[];
  template(name: string): Template | null;
  phrase(key: string): Phrase | null;
  everywhere(path: string): { text: string | null; layer: { name: string } }[];
}

/**
 * Places in the phrases of further languages that no template fills: `{nmae}` where all give `name`. Those of the theme's own language are told where
 * they are asked for.
 */
export function phraseValueProblems(theme: Phrased): Problem[] {
  const own = new Set([theme.locale, theme.locale.split('-')[0]].map((one) => `words/${one}.json`));
  const found: Problem[] = [];
  let given: Map<string, Set<string>> | null = null;
  for (const path of theme.paths()) {
    if (!/^words\/.+\.json$/.test(path) || own.has(path)) continue;
    for (const { text, layer } of theme.everywhere(path)) {
      const root = text === null ? undefined : parseTree(text);
      if (!root) continue;
      const source = new Source(path, text ?? '', layer.name);
      for (const { key, at, name } of placesIn(root, source.text)) {
        const names = (given ??= valuesGiven(theme)).get(key);
        // What the theme's own language has too is a mistake of whoever asks for it.
        if (!names || names.has(name) || names.has('') || JSON.stringify(theme.phrase(key)).includes(`{${name}}`))
          continue;
        const near =
          nearestOf(name, names) ?? (names.size === 1 ? { name: [...names][0] as string, certain: false } : null);
        const meant = near ? `; did you mean “{${near.name}}”?` : '';
        const span = { from: at, to: at + name.length };
        const says = `No template gives “${key}” a value “${name}”${meant}`;
        const fix = near?.certain ? rewrite(`Change to “{${near.name}}”`, span, near.name) : null;
        found.push({ ...problem('json-value', source, span, { text: says }), ...(fix && { fix }) });
      }
    }
  }
  return found;
}

/** The places of each phrase of a file: `name` of `{name}`, and where it stands. */
function* placesIn(node: Node, text: string, path = ''): Generator<{ key: string; at: number; name: string }> {
  for (const { children } of node.children ?? []) {
    const [key, value] = children ?? [];
    if (!key || !value) continue;
    const here = path ? `${path}.${String(key.value)}` : String(key.value);
    if (value.type === 'object') yield* placesIn(value, text, here);
    else if (value.type === 'string') {
      const written = text.slice(value.offset, value.offset + value.length);
      for (const { index, 1: name = '' } of written.matchAll(/\{([A-Za-z_]\w*)\}/g)) {
        const at = value.offset + index + 1;
        // A plural form is part of its phrase.
        yield { key: /\.(?:zero|one|two|few|many|other)$/.test(here) ? path : here, at, name };
      }
    }
  }
}

/** The names of the values that templates give each phrase; '' where they are not written out. */
export function valuesGiven(theme: Pick<Phrased, 'names' | 'template'>): Map<string, Set<string>> {
  const given = new Map<string, Set<string>>();
  for (const template of theme.names())
    allExpressions(theme.template(template)?.children ?? [], (one) => {
      if (one.kind !== 'call' || one.name !== 't') return;
      const [first, ...rest] = one.args;
      if (first?.value.kind !== 'text') return;
      const names = given.get(first.value.value) ?? new Set();
      for (const { name } of rest) names.add(name ?? '');
      given.set(first.value.value, names);
    });
  return given;
}
