import type { Attribute, ElementNode, Template, TemplateNode } from './1-parse/nodes';
import { flatElements, rawElements } from './1-parse/names';
import { parseTemplate } from './1-parse/template';
import type { ProblemCode } from './problems';

export interface Highlight {
  from: number;
  to: number;
  kind: 'value' | 'directive' | 'expression' | 'own' | 'comment';
}

/** Where a template's own parts stand, for an editor to colour: in order, without overlaps. */
export const highlights = (text: string): Highlight[] => highlightsOf(parseTemplate('', text), text);

function highlightsOf(template: Template, text: string): Highlight[] {
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
  walk(template.children);
  return found.filter((one) => one.to > one.from).sort((a, b) => a.from - b.from);
}

/** The extent of an element, or of the whole text. */
interface Extent {
  from: number;
  to: number;
  openTo: number;
  closeFrom: number;
  /** Its contents are read as any text of a page is; else they are all or nothing. */
  open: boolean;
  children: Extent[];
}

/** A stretch of a text, with the highlights that it has now. */
interface Stretch {
  from: number;
  to: number;
  found: readonly Highlight[];
}

/** Problems with which what stands there is read by what comes before or after it. */
const unsettled: ReadonlySet<ProblemCode> = new Set([
  ...(['unclosed', 'unopened', 'nesting', 'expression', 'comment', 'self-closing', 'budget', 'tag'] as const),
]);

/**
 * The highlights of a text that is being typed in. A change is read with the elements beside it only, where those begin and
 * end with themselves; what follows is moved along.
 */
export class Highlighter {
  #text = '';
  #root!: Extent;
  #found: Highlight[] = [];
  /** A change could not be followed: all is to be read again. */
  #stale = false;

  constructor(text: string) {
    this.read(text);
  }

  /** Those of the text as it stands, unless `stale`. */
  get found(): readonly Highlight[] {
    return this.#found;
  }

  get stale(): boolean {
    return this.#stale;
  }

  /** Reads a text as a whole. */
  read(text: string): void {
    const template = parseTemplate('', text);
    const children = extentsOf(template.children);
    this.#text = text;
    this.#found = highlightsOf(template, text);
    this.#stale = false;
    const open = !hasAmend(template.children) && isSettled(template);
    this.#root = { from: 0, to: text.length, openTo: 0, closeFrom: text.length, open, children };
  }

  /** The text changed in a way that is not followed: it is to be read as a whole. */
  lose(): void {
    this.#stale = true;
  }

  /** Follows a change; gives the stretch whose highlights are new, or null where the text has to be read as a whole. */
  change(from: number, to: number, insert: string): Stretch | null {
    if (this.#stale) return null;
    this.#text = this.#text.slice(0, from) + insert + this.#text.slice(to);
    const followed = this.#follow(from, to, insert.length - (to - from));
    this.#stale = followed === null;
    return followed;
  }

  #follow(from: number, to: number, by: number): Stretch | null {
    if (!this.#root.open) return null;
    const around = [this.#root];
    for (;;) {
      const inner = around[0]?.children.find((one) => one.open && one.openTo <= from && to <= one.closeFrom);
      if (!inner) break;
      around.unshift(inner);
    }
    const container = around[0] ?? this.#root;
    const { children } = container;
    const before = children.findLastIndex((one) => one.to <= from);
    const after = children.findIndex((one, at) => at > before && one.from >= to);
    const start = children[before]?.to ?? container.openTo;
    const end = children[after]?.from ?? container.closeFrom;
    const text = this.#text.slice(start, end + by);
    const template = parseTemplate('', text);
    if (!isSettled(template) || !isPlain(template.children)) return null;

    const fresh = extentsOf(template.children);
    for (const one of fresh) shift(one, start);
    const rest = after < 0 ? [] : children.slice(after);
    for (const one of rest) shift(one, by);
    container.children = [...children.slice(0, before + 1), ...fresh, ...rest];
    around.forEach((one, at) => {
      one.closeFrom += by;
      one.to += by;
      const outer = around[at + 1];
      if (outer) for (const next of outer.children.slice(outer.children.indexOf(one) + 1)) shift(next, by);
    });
    const found = highlightsOf(template, text);
    for (const one of found) move(one, start);
    const all = this.#found;
    let first = 0;
    while (first < all.length && (all[first] as Highlight).to <= start) first++;
    let next = first;
    while (next < all.length && (all[next] as Highlight).from < end) next++;
    for (let at = next; at < all.length; at++) move(all[at] as Highlight, by);
    all.splice(first, next - first, ...found);
    return { from: start, to: end + by, found };
  }
}

function move(one: { from: number; to: number }, by: number): void {
  one.from += by;
  one.to += by;
}

function extentsOf(nodes: readonly TemplateNode[]): Extent[] {
  return nodes.flatMap((node) => {
    if (node.type !== 'element') return [];
    const { from, to, openTo, closeFrom } = node;
    const open = isOpen(node);
    return [{ from, to, openTo, closeFrom, open, children: open ? extentsOf(node.children) : [] }];
  });
}

function isOpen({ name, space, childless, directives }: ElementNode): boolean {
  const key = name.toLowerCase();
  return space === 'html' && !childless && !directives.asWritten && !rawElements.has(key) && !flatElements.has(key);
}

function shift(one: Extent, by: number): void {
  move(one, by);
  one.openTo += by;
  one.closeFrom += by;
  for (const child of one.children) shift(child, by);
}

const isSettled = ({ problems }: Template): boolean => !problems.some(({ code }) => unsettled.has(code));

/** Whether it makes no difference to these nodes where they stand: nothing of SVG, no amendment. */
const isPlain = (nodes: readonly TemplateNode[]): boolean =>
  nodes.every((node) => node.type !== 'element' || (node.space === 'html' && isPlain(node.children))) &&
  !hasAmend(nodes);

const hasAmend = (nodes: readonly TemplateNode[]): boolean =>
  nodes.some((node) => node.type === 'element' && ((node.own && node.name === 'amend') || hasAmend(node.children)));
