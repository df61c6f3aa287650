import { objectSchema } from '@/core/catalogue';
import {
  parseTemplate,
  understand,
  eachExpression,
  expressionsOf,
  filterTable,
  functionTable,
  type Expression,
  type TemplateNode,
  inWords,
} from '@/core/language';
import type { Theme } from '@/core/theme';
import { directiveSays, elementSays } from './spelling';
import { thingAt, thingWords } from './things';

/** What is known of the word at an offset. */
export interface Hover {
  from: number;
  to: number;
  title: string;
  says: string;
}

/** Explains the directive, element, filter, function, field or named thing at an offset of a template's text. */
export function hoverAt(theme: Theme, file: string, layer: string, text: string, offset: number): Hover | null {
  const name = file.replace(/\.html$/, '');
  const template = theme.template(name) ?? parseTemplate(file, text);
  const { types } = understand(template, theme);
  let best: Hover | null = null;
  const take = (from: number, to: number, title: string, says: string): void => {
    if (offset < from || offset > to) return;
    if (!best || to - from < best.to - best.from) best = { from, to, title, says };
  };
  const expression = (given: Expression): void =>
    eachExpression(given, (inner) => {
      if (offset < inner.from || offset > inner.to) return;
      const type = types.get(inner);
      const shown = type
        ? inWords(type) + (type.empty === 'perhaps' && type.kind !== 'Flag' ? ', can be empty' : '')
        : '';
      if (inner.kind === 'name') take(inner.from, inner.to, `${inner.name}: ${shown || 'a value'}`, '');
      else if (inner.kind === 'field') {
        const of = types.get(inner.of);
        const says = (of?.object && objectSchema[of.object]?.[inner.name]?.says) || '';
        take(
          inner.to - inner.name.length,
          inner.to,
          `${of?.object ? `${of.object}.` : ''}${inner.name}: ${shown || 'a value'}`,
          says,
        );
      } else if (inner.kind === 'filter') {
        const filter = filterTable.get(inner.name);
        if (filter) take(inner.nameAt.from, inner.nameAt.to, filter.signature, filter.says);
      } else if (inner.kind === 'call') {
        const called = functionTable.get(inner.name);
        if (called) take(inner.from, inner.from + inner.name.length, called.signature, called.says);
      }
    });
  const walk = (nodes: readonly TemplateNode[]): void => {
    for (const node of nodes) {
      if (node.type === 'element') walk(node.children);
      if (node.source.file !== file || node.source.layer !== template.source.layer) {
        if (node.source.layer !== layer) continue;
      }
      if (node.type === 'value') expression(node.expression);
      if (node.type !== 'element') continue;
      if (node.own && elementSays[node.name])
        take(node.from + 1, node.nameTo, `<${node.name}>`, elementSays[node.name] as string);
      for (const attribute of node.attributes) {
        const says = directiveSays[attribute.name];
        if (says) take(attribute.from, attribute.from + attribute.name.length, attribute.name, says);
      }
      expressionsOf(node).forEach(expression);
    }
  };
  walk(template.children);
  const use = thingAt(theme, file, layer, text, offset);
  if (use && use.thing.kind !== 'input') {
    const { kind, name: called } = use.thing;
    take(use.from, use.to, `${thingWords[kind]} ${called}`, saysOf(theme, kind, called));
  }
  return best;
}

function saysOf(theme: Theme, kind: string, name: string): string {
  if (kind === 'phrase') {
    const phrase = theme.phrase(name);
    return typeof phrase === 'string'
      ? `“${phrase}”`
      : phrase
        ? Object.entries(phrase)
            .map(([form, text]) => `${form}: “${text}”`)
            .join(', ')
        : 'There is no such phrase';
  }
  if (kind === 'piece') {
    const takes =
      theme.template(name)?.takes.map((take) => `${take.name}${take.required ? '' : '?'}: ${take.type}`) ?? [];
    return takes.length ? `takes ${takes.join(', ')}` : 'takes nothing';
  }
  return '';
}
