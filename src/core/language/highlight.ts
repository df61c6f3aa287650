import type { Attribute, TemplateNode } from './1-parse/nodes';
import { parseTemplate } from './1-parse/template';

export interface Highlight {
  from: number;
  to: number;
  kind: 'value' | 'directive' | 'expression' | 'own' | 'comment';
}

/** Where a template's own parts stand, for an editor to colour: in order, without overlaps. */
export function highlights(text: string): Highlight[] {
  const found: Highlight[] = [];
  const tag = (from: number, name: string, kind: Highlight['kind']) =>
    found.push({ from, to: from + name.length, kind });
  const attribute = (one: Attribute) => {
    if (one.name.startsWith('do:')) {
      tag(one.from, one.name, 'directive');
      if (one.value) found.push({ ...one.value, kind: 'expression' });
      return;
    }
    let at = one.value?.from ?? 0;
    for (const part of one.parts ?? []) {
      if (typeof part === 'string') {
        at = text.indexOf(part, at) + part.length;
        continue;
      }
      const from = text.lastIndexOf('{', part.from);
      const close = text.indexOf('}', part.to);
      const to = close < 0 ? part.to : close + 1;
      if (from >= at) found.push({ from, to, kind: 'value' });
      at = to;
    }
  };
  const walk = (nodes: readonly TemplateNode[]): void => {
    for (const node of nodes) {
      if (node.type === 'value') found.push({ from: node.from, to: node.to, kind: 'value' });
      else if (node.type === 'comment') found.push({ from: node.from, to: node.to, kind: 'comment' });
      else if (node.type === 'element') {
        if (node.own) tag(node.from + 1, node.name, 'own');
        node.attributes.forEach(attribute);
        if (!node.directives.asWritten) walk(node.children);
        if (node.own && node.closeFrom < node.to) tag(node.closeFrom + 2, node.name, 'own');
      }
    }
  };
  walk(parseTemplate('', text).children);
  return found.filter((one) => one.to > one.from).sort((a, b) => a.from - b.from);
}
