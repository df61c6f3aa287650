import type { ElementNode, Template, TemplateNode } from '@/core/language';

/** The `<amend>` of a file whose only element it is, white space and comments aside; null for any other file. */
export function amendmentOf(template: Template): ElementNode | null {
  let found: ElementNode | null = null;
  for (const node of template.children) {
    if (node.type === 'element') {
      if (found || !node.own || node.name !== 'amend') return null;
      found = node;
    } else if (!isSpace(node)) return null;
  }
  return found;
}

/** White space, or a comment of either kind. */
export const isSpace = (node: TemplateNode): boolean =>
  node.type === 'comment' || (node.type === 'text' && (node.blank || !/\S/.test(node.text)));

/** The template that an amendment changes instead of the file below: `<amend of="product/default">`; null: none is named. */
export function amendsOther(template: Template): string | null {
  const root = amendmentOf(template);
  return root && literalAttribute(root, 'of');
}

/** An attribute as it is written; '' without a value, null where it is not there. */
export function literalAttribute(element: ElementNode, name: string): string | null {
  const attribute = element.attributes.find((one) => one.name === name);
  if (!attribute) return null;
  return attribute.value ? element.source.slice(attribute.value.from, attribute.value.to) : '';
}

/**
 * The element that a path names: `main > section:2 > p:1`, from the file's root, each step the n-th child element of that
 * name (the first where no number stands). `text` says where the path ends when it names none.
 */
export function elementAt(nodes: readonly TemplateNode[], path: string): { element: ElementNode | null; text: string } {
  let inside = nodes;
  let element: ElementNode | null = null;
  let walked = '';
  for (const step of path.split('>').map((one) => one.trim())) {
    const [, name = '', count] = /^([A-Za-z][\w:-]*?)(?::(\d+))?$/.exec(step) ?? [];
    if (!name) return { element: null, text: `: “${step}” is not a step of a path` };
    const wanted = Number(count ?? 1);
    const named = inside.filter((node): node is ElementNode => node.type === 'element' && node.name === name);
    element = named[wanted - 1] ?? null;
    if (!element) {
      const there = named.length === 1 ? 'one' : named.length ? String(named.length) : 'no';
      return { element: null, text: `: ${walked ? `in “${walked}”` : 'at its top'} stands ${there} <${name}>` };
    }
    walked += `${walked ? ' > ' : ''}${step}`;
    inside = element.children;
  }
  return { element, text: '' };
}

/** The path of elements to an element of this tree, as `at="…"` writes it; null for one that is not in it. */
export function pathTo(nodes: readonly TemplateNode[], wanted: ElementNode): string | null {
  for (const node of nodes) {
    if (node.type !== 'element') continue;
    const inner = node === wanted ? '' : pathTo(node.children, wanted);
    if (inner === null) continue;
    const twins = nodes.filter((one): one is ElementNode => one.type === 'element' && one.name === node.name);
    const step = twins.length > 1 ? `${node.name}:${twins.indexOf(node) + 1}` : node.name;
    return inner ? `${step} > ${inner}` : step;
  }
  return null;
}
