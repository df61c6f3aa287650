import type { ElementNode, TextNode, TemplateNode } from './nodes';

/**
 * What a template begins, nothing that comes next on the page may complete: a value after `<` would become a tag, one after
 * `&#` an entity (HTML standard, 13.2.5: tag open state and character reference state).
 */

/** A text that ends in what may be the beginning of an entity. */
const entityStart = /&(?:#(?:[0-9]*|[xX][0-9a-fA-F]*)|[A-Za-z][A-Za-z0-9]*)?$/;
/** An end tag of which only the beginning is written. In a `title`, a `noscript` and the like a browser looks for nothing else. */
const endTagStart = /<(?:\/[A-Za-z]*)?$/;

/** Offset of an entity that a text begins and does not end; -1 when there is none. */
export const openEntity = (text: string): number => text.search(entityStart);

/** Offset of an end tag that a text begins and does not end; -1 when there is none. */
export const openEndTag = (text: string): number => text.search(endTagStart);

/** Whether a `<` before these signs is only a sign: white space, a digit or `=` follows it. */
export const bareIsPlain = (next: string | undefined): boolean => next !== undefined && /[\s0-9=]/.test(next);

/** A text as it may be printed with anything after it: `before` a value, and in the contents of an element. */
export function sealed(text: string, loose: readonly number[]): string {
  let out = '';
  let run = 0;
  for (const at of loose) {
    out += text.slice(run, at) + (text[at] === '&' ? '&amp;' : '&lt;');
    run = at + 1;
  }
  return out + text.slice(run);
}

/** The written part of an attribute before a value: what it begins and the value could complete is printed as signs. */
export function sealedBefore(text: string): string {
  const loose = [openEntity(text), openEndTag(text)].filter((at) => at >= 0);
  return loose.length ? sealed(text, loose) : text;
}

/**
 * Reports each text that ends in the beginning of an entity where something may come next that is not always the same, and
 * gives the nodes with that noted. Asked again when amendments have changed what follows.
 */
export function settle(
  nodes: readonly TemplateNode[],
  report: (node: TextNode, at: number) => void,
  /** Whether the nodes are followed by an end tag that is always printed. */
  closed = false,
): readonly TemplateNode[] {
  let settled: TemplateNode[] | null = null;
  for (let at = 0; at < nodes.length; at++) {
    const node = nodes[at] as TemplateNode;
    const one = node.type === 'text' ? noted(node, nodes[at + 1], closed, report) : inside(node, report);
    if (one !== node) (settled ??= [...nodes])[at] = one;
  }
  return settled ?? nodes;
}

/** An element, or what is none, with its contents settled. */
function inside(node: TemplateNode, report: (node: TextNode, at: number) => void): TemplateNode {
  if (node.type !== 'element' || node.directives.asWritten) return node;
  const children = settle(node.children, report, endsPlainly(node));
  return children === node.children ? node : { ...node, children };
}

/** A text with the entity noted that it begins, where nothing that follows is sure to end it. */
function noted(
  node: TextNode,
  next: TemplateNode | undefined,
  closed: boolean,
  report: (node: TextNode, at: number) => void,
): TextNode {
  const offset = openEntity(node.text);
  if (offset < 0 || node.loose.includes(offset) || (next ? endsText(next) : closed)) return node;
  report(node, offset);
  return { ...node, loose: [...node.loose, offset] };
}

const endsPlainly = (element: ElementNode): boolean => !element.own && !element.directives.wrapWhen;

/** Whether a node always prints something that ends a text before it. */
function endsText(node: TemplateNode): boolean {
  if (node.type === 'text') return !/^[#;A-Za-z0-9]/.test(node.text);
  if (node.type !== 'element' || node.own) return false;
  const { gate, each, when, wrapWhen, once } = node.directives;
  return !gate && !each && !when && !wrapWhen && !once && node.chain < 0;
}
