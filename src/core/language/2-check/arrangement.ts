import { defaultTreeAdapter, html as names, parse, parseFragment, type DefaultTreeAdapterMap } from 'parse5';
import { flatElements, rawElements, svgParts } from '../1-parse/names';
import type { ElementNode, Template, TemplateNode } from '../1-parse/nodes';
import { problem, type Problem, type ProblemCode } from '../problems';
import { any, type Type } from '../types/types';
import type { ThemeFacts } from './facts';
import { PlainMarkup } from './plain-markup';
import { fixedName } from './walk';

type Parsed = DefaultTreeAdapterMap['node'];
type ValueNode = TemplateNode & { type: 'value' };

/**
 * Markup that a browser would rearrange. The template is written out as HTML with everything that it draws, each element
 * and text numbered, and parse5 builds of it the tree that a browser would; where an element has another parent than in the
 * template, the template means something that no page can be.
 */
export function checkArrangement(
  template: Template,
  theme: ThemeFacts,
  typeOf: (value: ValueNode) => Type,
  inContext = true,
): Problem[] {
  const outline = new Outline(template, theme, typeOf, inContext);
  // Most markup cannot be rearranged by its kind: then it need not be parsed again.
  if (outline.plain.isSure) return outline.misplaced;
  const { first } = outline;
  const within = first === null ? [] : (likely[first] ?? (svgParts.has(first.toLowerCase()) ? ['svg'] : []));
  const contexts = outline.isDocument ? [null] : ['body', ...within];
  let least: Problem[] | null = null;
  for (const context of contexts) {
    const found = outline.faults(context);
    if (!least || found.length < least.length) least = found;
    if (!found.length) break;
  }
  return [...(least ?? []), ...outline.misplaced];
}

/** Where a piece is likely drawn that begins with this element. */
const likely: Record<string, string[]> = {
  tr: ['tbody'],
  td: ['tr'],
  th: ['tr'],
  thead: ['table'],
  tbody: ['table'],
  tfoot: ['table'],
  caption: ['table'],
  colgroup: ['table'],
  col: ['colgroup'],
  option: ['select'],
  optgroup: ['select'],
};

const doesNotNest: ReadonlySet<ProblemCode> = new Set(['unclosed', 'unopened', 'nesting', 'self-closing', 'tag']);

/** One numbered thing of the outline. */
interface Item {
  /** Element, or a text with its first words. */
  name: string;
  text: boolean;
  parent: number;
  /** Where it is written. */
  node: TemplateNode;
  /** The draw in the checked template that brought it in; null where it is the template's own. */
  by: ElementNode | null;
}

interface Drawing {
  /** Contents for gaps, from where the template is drawn. */
  fills: Map<string, () => void>;
  by: ElementNode | null;
  path: readonly string[];
}

/** Nodes of a page that are looked at, and levels of it; a template that draws more is said to. */
const maxOutline = 60_000;
const maxLevels = 700;

class Outline {
  #html = '';
  #visits = 0;
  #levels = 0;
  #tooMuch = false;
  readonly #items: Item[] = [];
  readonly plain = new PlainMarkup();
  #parent = -1;
  first: string | null = null;
  /** Questions outside the order form (only of pages: a piece does not know where it is drawn), and elements where only text can stand. */
  readonly misplaced: Problem[] = [];
  #forms = 0;

  constructor(
    readonly template: Template,
    readonly theme: ThemeFacts,
    readonly typeOf: (value: ValueNode) => Type,
    /** Whether what a drawn piece does only where it is drawn is reported too. */
    readonly inContext: boolean,
  ) {
    this.#template(template, { fills: new Map(), by: null, path: [] }, false);
  }

  get isDocument(): boolean {
    return /<!doctype|<html[\s>]/i.test(this.#html);
  }

  /** A template’s contents. Of one that does not nest only what is put into it: the rest would be guessed. */
  #template({ children, problems }: Template, drawing: Drawing, flat: boolean): void {
    if (!problems.some(({ code }) => doesNotNest.has(code))) this.#nodes(children, drawing, flat);
    else if (drawing.by) drawing.fills.get('')?.();
  }

  #nodes(nodes: readonly TemplateNode[], drawing: Drawing, flat: boolean): void {
    if (this.#levels >= maxLevels)
      this.#end(drawing, `it nests elements more than ${maxLevels} deep with what it draws`);
    this.#levels++;
    for (const node of nodes) {
      if (this.#tooMuch) break;
      if (++this.#visits > maxOutline) {
        const limit = maxOutline.toLocaleString('en');
        this.#end(drawing, `with what it draws it has more than ${limit} elements, texts and values`, node);
        break;
      }
      if (node.type === 'text') {
        // Comments and doctypes stay as they are; what a reader would see is numbered.
        if (/^\s*<!/.test(node.text)) this.#html += node.text;
        else if (!flat && /\S/.test(node.text)) this.#text(node, node.text.trim(), drawing);
      } else if (node.type === 'value') {
        if (!flat) this.#value(node, drawing);
      } else if (node.type === 'element') this.#element(node, drawing, flat);
    }
    this.#levels--;
  }

  /** Says that the template draws too much to be looked at whole. */
  #end(drawing: Drawing, why: string, node: TemplateNode | null = null): void {
    if (this.#tooMuch) return;
    this.#tooMuch = true;
    const { source } = this.template;
    const at = drawing.by ?? (node?.source === source ? node : null);
    const span = at ? { from: at.from, to: at.type === 'element' ? at.openTo : at.to } : { from: 0, to: 0 };
    const name = source.file.replace(/\.html$/, '');
    this.misplaced.push(problem('budget', at?.source ?? source, span, { name, why }));
  }

  #add(name: string, text: boolean, node: TemplateNode, { by }: Drawing): number {
    return this.#items.push({ name, text, parent: this.#parent, node, by }) - 1;
  }

  #text(node: TemplateNode, text: string, drawing: Drawing): void {
    const number = this.#add(text.length > 24 ? `${text.slice(0, 24)}…` : text, true, node, drawing);
    this.#html += `\ue000${number}\ue001`;
  }

  #value(node: ValueNode, drawing: Drawing): void {
    const type = drawing.by === null ? this.typeOf(node) : null;
    if (type?.kind === 'Html' && !type.inline) {
      const number = this.#add('rich text', false, node, drawing);
      this.#html += `<div data-n="${number}"></div>`;
      this.plain.open('div', 'html', true);
      this.plain.close();
    } else this.#text(node, node.source.slice(node.from, node.to), drawing);
  }

  #element(element: ElementNode, drawing: Drawing, flat: boolean): void {
    if (element.own) return this.#own(element, drawing, flat);
    if (flat) {
      const node = drawing.by ?? element;
      const what = drawing.by
        ? `“${fixedName(drawing.by) ?? ''}” prints <${element.name}>`
        : `<${element.name}> stands`;
      const text = `${what} where only text can stand: a browser shows its tags`;
      this.misplaced.push(problem('rearranged', node.source, { from: node.from, to: node.openTo }, { text }));
      return;
    }
    const { name } = element;
    this.first ??= name;
    const number = this.#add(name, false, element, drawing);
    this.#html += `<${name} data-n="${number}"`;
    for (const attribute of element.attributes)
      if (!attribute.parts && (attribute.name === 'type' || attribute.name === 'encoding'))
        this.#html += ` ${element.source.slice(attribute.from, attribute.to)}`;
    this.#html += element.closeFrom >= element.to && element.space !== 'html' ? '/>' : '>';
    const ends = element.closeFrom < element.to;
    this.plain.open(name, element.space, ends);
    if (!ends) return;
    const outer = this.#parent;
    const key = name.toLowerCase();
    const form = key === 'form' && /^post$/i.test(fixedName(element, 'method') ?? '');
    this.#parent = number;
    if (form) this.#forms++;
    const onlyText = flatElements.has(key) && element.space === 'html';
    if (!rawElements.has(key) && !element.directives.asWritten) this.#nodes(element.children, drawing, onlyText);
    this.#parent = outer;
    if (form) this.#forms--;
    this.#html += `</${name}>`;
    this.plain.close();
  }

  #own(element: ElementNode, drawing: Drawing, flat: boolean): void {
    const { name, children } = element;
    if (name === 'group' || name === 'shelf') this.#nodes(children, drawing, flat);
    else if (name === 'gap') {
      const fill = drawing.fills.get(fixedName(element) ?? '');
      if (fill) fill();
      else this.#nodes(children, drawing, flat);
    } else if (name === 'draw' || name === 'ask') {
      if (name === 'ask') this.#asked(element, drawing);
      const drawn = name === 'ask' ? `pieces/ask/${fixedName(element, 'type') ?? 'text'}` : fixedName(element);
      const template = drawn === null ? null : this.theme.template(drawn);
      if (!template || drawn === null || drawing.path.includes(drawn) || drawing.path.length > 12) return;
      const fills = new Map<string, () => void>();
      const rest = children.filter((child) => !(child.type === 'element' && child.own && child.name === 'fill'));
      if (rest.some((node) => node.type !== 'comment' && !(node.type === 'text' && !/\S/.test(node.text))))
        fills.set('', () => this.#nodes(rest, drawing, flat));
      for (const child of children)
        if (child.type === 'element' && child.own && child.name === 'fill')
          fills.set(fixedName(child, 'gap') ?? '', () => this.#nodes(child.children, drawing, flat));
      this.#template(template, { fills, by: drawing.by ?? element, path: [...drawing.path, drawn] }, flat);
    }
  }

  #asked(element: ElementNode, { by }: Drawing): void {
    if (this.#forms || this.template.source.file.startsWith('pieces/')) return;
    const node = by ?? element;
    const about = { name: fixedName(element) ?? '' };
    this.misplaced.push(problem('outside-order-form', node.source, { from: node.from, to: node.openTo }, about));
  }

  /** What a browser would have elsewhere, as a document or inside an element of this name. */
  faults(context: string | null): Problem[] {
    if (this.#tooMuch) return [];
    const space = context === 'svg' ? names.NS.SVG : names.NS.HTML;
    const root =
      context === null
        ? parse(this.#html, { scriptingEnabled: false })
        : parseFragment(defaultTreeAdapter.createElement(context, space, []), this.#html, { scriptingEnabled: false });
    const parents: number[] = this.#items.map(() => missing);
    const twice = new Set<number>();
    const note = (number: number, parent: number) => {
      if (parents[number] !== missing) twice.add(number);
      else parents[number] = parent;
    };
    const walk = (node: Parsed, parent: number): void => {
      let inside = parent;
      if ('attrs' in node) {
        const number = node.attrs.find((one) => one.name === 'data-n')?.value;
        if (number !== undefined) note((inside = Number(number)), parent);
      } else if (node.nodeName === '#text' && 'value' in node) {
        for (const [, number] of node.value.matchAll(/\ue000(\d+)\ue001/g)) note(Number(number), parent);
      }
      if ('content' in node) walk(node.content, inside);
      else if ('childNodes' in node) for (const child of node.childNodes) walk(child, inside);
    };
    walk(root, -1);
    return this.#compare(parents, twice);
  }

  readonly #sound = new Map<string, boolean>();

  #soundAlone(draw: ElementNode): boolean {
    const name = fixedName(draw) ?? '';
    let sound = this.#sound.get(name);
    if (sound === undefined) {
      const drawn = this.theme.template(name);
      sound = this.inContext && drawn !== null && checkArrangement(drawn, this.theme, () => any, false).length === 0;
      this.#sound.set(name, sound);
    }
    return sound;
  }

  #compare(parents: readonly number[], twice: ReadonlySet<number>): Problem[] {
    const problems: Problem[] = [];
    const reported = new Set<number>();
    this.#items.forEach((item, number) => {
      const { parent } = item;
      const actual = parents[number] as number;
      const split = twice.has(number);
      if ((actual === parent && !split) || reported.has(parent) || reported.has(number)) return;
      // What comes after a fault in the same element is its consequence, and what an element holds goes along with it.
      reported.add(parent);
      reported.add(number);
      const outer = this.#items[parent];
      // A fault between two nodes of a drawn piece is that piece's own, unless only what is around it here makes it one.
      if (item.by && (!outer || outer.by === item.by) && !this.#soundAlone(item.by)) return;
      const what = item.text ? `the text “${item.name}”` : item.name === 'rich text' ? 'rich text' : `<${item.name}>`;
      const where = outer ? `<${outer.name}>` : 'this place';
      const brought = item.by ? `, which “${fixedName(item.by) ?? ''}” prints,` : '';
      const text = split
        ? `A browser splits ${what}${brought} in ${where}`
        : actual === missing
          ? `A browser leaves out ${what}${brought} in ${where}: it may not stand there`
          : `A browser moves ${what}${brought} out of ${where}: it may not stand there`;
      const node = item.by ?? item.node;
      const span = node.type === 'element' ? { from: node.from, to: node.openTo } : { from: node.from, to: node.to };
      if (node.type === 'text') {
        const lead = node.text.length - node.text.trimStart().length;
        span.from = Math.min(span.from + lead, span.to);
      }
      problems.push(problem('rearranged', node.source, span, { text }));
    });
    return problems;
  }
}

const missing = -2;
