import { parse, parseFragment, type DefaultTreeAdapterMap } from 'parse5';
import { parseTemplate, type TemplateNode } from '../index';

type Node = DefaultTreeAdapterMap['node'];

/** Elements as a browser nests them, by parse5. Frames that a browser adds where none are written count as none: `tbody`. */
export function browserTree(html: string, document: boolean): string {
  const tree = (node: Node): string => {
    if (!('childNodes' in node)) return '';
    const inner = node.childNodes.map(tree).join('');
    return 'tagName' in node && node.tagName !== 'tbody' ? `<${node.tagName}>${inner}</${node.tagName}>` : inner;
  };
  return tree(document ? parse(html) : parseFragment(html));
}

/** Elements as their tags are written: each start with its own end. Null when they do not nest. */
export function writtenTree(html: string): string | null {
  const tree = (nodes: readonly TemplateNode[]): string =>
    nodes
      .map((node) => {
        if (node.type !== 'element') return '';
        return node.name === 'tbody' ? tree(node.children) : `<${node.name}>${tree(node.children)}</${node.name}>`;
      })
      .join('');
  const read = parseTemplate('page', html.replace(/\{/g, '&#123;'));
  return read.problems.length ? null : tree(read.children);
}

/** All elements of a fragment, outer before inner. */
export function elementsOf(html: string): DefaultTreeAdapterMap['element'][] {
  const all = (node: Node): DefaultTreeAdapterMap['element'][] =>
    'childNodes' in node ? node.childNodes.flatMap((child) => ('tagName' in child ? [child, ...all(child)] : [])) : [];
  return all(parseFragment(html));
}
