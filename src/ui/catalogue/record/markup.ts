import { defaultTreeAdapter as tree, parseFragment, serialize, type DefaultTreeAdapterTypes as Tree } from 'parse5';

type Parent = Tree.ParentNode;

const elementsIn = (parent: Parent): Tree.Element[] =>
  parent.childNodes.flatMap((node) => (tree.isElementNode(node) ? [node, ...elementsIn(node)] : []));

const textIn = (parent: Parent): string =>
  parent.childNodes
    .map((node) => (tree.isTextNode(node) ? node.value : tree.isElementNode(node) ? textIn(node) : ''))
    .join('');

/** Elements that run, load or hide something: the server takes them out. */
const forbidden = new Set([
  'script',
  'style',
  'iframe',
  'object',
  'embed',
  'template',
  'noscript',
  'base',
  'link',
  'meta',
]);

/** Markup without what would run or load, so that a browser may read it. The server cleans it again, and more strictly. */
export function safeMarkup(markup: string): string {
  if (!markup.includes('<')) return markup;
  const fragment = parseFragment(markup);
  for (const element of elementsIn(fragment)) {
    if (forbidden.has(element.tagName)) tree.detachNode(element);
    else element.attrs = element.attrs.filter(({ name }) => !name.startsWith('on') && name !== 'style');
  }
  return serialize(fragment);
}

/** Names that say the same: the editor writes the second. */
const same: Record<string, string> = { b: 'strong', i: 'em', strike: 's', del: 's' };
/** What the editor adds and leaves out at will, and what it says. */
const ignored = new Set(['tbody', 'thead', 'colgroup', 'col', 'p', 'br']);

/** Elements and attributes of markup, each with how often it is there. */
function partsOf(fragment: Parent): Map<string, number> {
  const parts = new Map<string, number>();
  const count = (part: string) => parts.set(part, (parts.get(part) ?? 0) + 1);
  for (const { tagName, attrs } of elementsIn(fragment)) {
    if (ignored.has(tagName) && !attrs.length) continue;
    const called = `<${same[tagName] ?? tagName}>`;
    count(called);
    for (const { name } of attrs) count(`${name} of ${called}`);
  }
  return parts;
}

/** What markup lacks of what it was made from, in words: elements, attributes, text. */
export function lostIn(before: string, after: string): string[] {
  const [was, is] = [parseFragment(before), parseFragment(after)];
  const left = partsOf(is);
  const lost = [...partsOf(was)].flatMap(([part, count]) => ((left.get(part) ?? 0) < count ? [part] : []));
  const letters = (fragment: Parent) => textIn(fragment).replace(/\s/g, '');
  return letters(was) === letters(is) ? lost : [...lost, 'text'];
}

const holders = new Set(['li', 'td', 'th']);
const isElement = (node: Tree.ChildNode | undefined, ...names: string[]): node is Tree.Element =>
  node !== undefined && tree.isElementNode(node) && names.includes(node.tagName);

/** Markup as pages have it: nothing for no text, and no paragraph around what an item or a cell says, since that alone stands in it. */
export function tidyMarkup(markup: string): string {
  const fragment = parseFragment(markup);
  const all = elementsIn(fragment);
  for (const element of all) {
    const [first, second, ...more] = element.childNodes;
    const alone = !second || (element.tagName === 'li' && !more.length && isElement(second, 'ul', 'ol'));
    if (holders.has(element.tagName) && alone && isElement(first, 'p')) {
      for (const child of [...first.childNodes]) {
        tree.detachNode(child);
        tree.insertBefore(element, child, first);
      }
      tree.detachNode(first);
    }
    if (element.tagName === 'colgroup') tree.detachNode(element);
    element.attrs = element.attrs.filter(
      ({ name, value }) => name !== 'style' && !(/^(?:col|row)span$/.test(name) && value === '1'),
    );
  }
  const holdsSomething = textIn(fragment).trim() || all.some(({ tagName }) => /^(?:img|hr|table)$/.test(tagName));
  return holdsSomething ? serialize(fragment) : '';
}
