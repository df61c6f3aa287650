import { allExpressions, eachExpression, parseTemplate, type Expression, type TemplateNode } from '@/core/language';
import { lineAt, usesOf } from '@/core/editing';
import type { Theme } from '@/core/theme';

/** Phrases that the shop itself asks for: names of its listings (core/storefront/find.ts), the answer to a yes-or-no question (server/storefront/cart.ts). */
const ofTheShop: ReadonlySet<string> = new Set(['listing.all', 'listing.search', 'listing.offer', 'ask.yes']);

/** What begins the keys that a call puts together: `cart.message.` of `t('cart.message.' + cart.message)`. None for a key written whole. */
function beginningsIn(one: Expression): string[] {
  if (one.kind !== 'call' || one.name !== 't') return [];
  const [first] = one.args;
  if (!first || first.value.kind === 'text') return [];
  const found: string[] = [];
  eachExpression(first.value, (inner) => {
    if (inner.kind === 'text' && inner.value.endsWith('.')) found.push(inner.value);
  });
  return found;
}

/**
 * Gives how often a phrase is named: by `t('…')`, by a call that puts its key together, by the shop itself, or as a text that may come to one (an input, a
 * choice, a setting).
 */
export function phraseUses(theme: Theme): (key: string) => number {
  const named = new Map<string, number>();
  const beginnings = new Map<string, number>();
  const count = (all: Map<string, number>, name: string) => void all.set(name, (all.get(name) ?? 0) + 1);
  const fixed = (nodes: readonly TemplateNode[]): void => {
    for (const node of nodes) {
      if (node.type !== 'element') continue;
      if (node.own)
        for (const { value, parts } of node.attributes)
          if (value && !parts) count(named, node.source.slice(value.from, value.to));
      fixed(node.children);
    }
  };
  for (const name of theme.names()) {
    const nodes = theme.template(name)?.children ?? [];
    allExpressions(nodes, (one) => {
      if (one.kind === 'text') count(named, one.value);
      for (const beginning of beginningsIn(one)) count(beginnings, beginning);
    });
    fixed(nodes);
  }
  for (const path of theme.paths())
    if (path.endsWith('.json') && !path.startsWith('words/') && !path.startsWith('assets/'))
      for (const { text } of theme.everywhere(path))
        for (const [, value = ''] of (text ?? '').matchAll(/"([a-z0-9_-]+(?:\.[a-z0-9_-]+)+)"/gi)) count(named, value);
  return (key) =>
    (named.get(key) ?? 0) +
    (ofTheShop.has(key) ? 1 : 0) +
    [...beginnings].reduce((sum, [beginning, times]) => sum + (key.startsWith(beginning) ? times : 0), 0);
}

/** A place that names a phrase. Offsets are those of its file. */
export interface PhrasePlace {
  file: string;
  layer: string;
  from: number;
  line: number;
  /** The line, as written. */
  text: string;
}

/** Every place that names a phrase, in all layers; those too that put its key together. */
export function phrasePlaces(theme: Theme, key: string): PhrasePlace[] {
  const places = usesOf(theme, { kind: 'phrase', name: key, of: '' }).map(({ file, layer, from, line, text }) => ({
    ...{ file, layer, from, line, text },
  }));
  const group = key.slice(0, key.lastIndexOf('.') + 1);
  for (const { name, files } of theme.layers)
    for (const [file, { text }] of files) {
      if (!group || !file.endsWith('.html') || !text?.includes(group.slice(0, group.indexOf('.') + 1))) continue;
      allExpressions(parseTemplate(file, text, name).children, (one) => {
        if (beginningsIn(one).some((beginning) => key.startsWith(beginning)))
          places.push({ file, layer: name, from: one.from, ...lineAt(text, one.from) });
      });
    }
  return places;
}
