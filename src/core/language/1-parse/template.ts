import { problem, rewrite, type About, type Problem, type ProblemCode } from '../problems';
import { readAttributes } from './attributes';
import { readDirectives, noDirectives } from './directives';
import { readExpression } from './expression';
import {
  amendElements,
  endedBy,
  flatElements,
  integrationPoints,
  ownElements,
  ownVoid,
  rawElements,
  svgParts,
  voidElements,
} from './names';
import { bareIsPlain, settle } from './loose';
import { endTagOf, htmlCommentEnd, scriptEnd } from './ends';
import type {
  Attribute,
  Directives,
  ElementNode,
  Space,
  Placeable,
  Take,
  Template,
  TemplateNode,
  Writable,
} from './nodes';
import { Source, type Span } from './source';

/** Deeper than this is refused: the tree is walked by recursion. */
const maxNesting = 400;

/** Beyond this many mistakes a file is not a template any more, and nobody reads a longer list. */
const maxProblems = 200;

/** Of a template with more nodes only so many are read: everything that follows walks its tree. */
export const maxNodes = 50_000;

/**
 * Reads a template file. Never fails: what is wrong is reported, and reading goes on after it.
 * Time grows with the length of the text only.
 */
export function parseTemplate(file: string, text: string, layer = ''): Template {
  return new TemplateReader(new Source(file, text, layer)).read();
}

/** An element whose end has not come yet. Once it has, the element goes into the tree and no longer changes. */
interface Open {
  element: Begun;
  /** The namespace that its content is in. */
  inside: Space;
  /** The tree has no room for it. */
  left: boolean;
}
type Begun = Omit<Writable<ElementNode>, 'children' | 'chains'> & { children: TemplateNode[]; chains: number[] };

interface End {
  closeFrom: number;
  to: number;
  plainEnd: boolean;
  unsound: boolean;
}

/** Longer than most files: one reader; its methods share its place in the text and the elements that are open. */
class TemplateReader {
  readonly #text: string;
  readonly #problems: Problem[] = [];
  readonly #root: TemplateNode[] = [];
  readonly #open: Open[] = [];
  readonly #takes: Take[] = [];
  readonly #placeables: Placeable[] = [];
  /** Names closed out of turn, whose late end tags were already reported. */
  readonly #crossed = new Map<string, number>();
  readonly #rootChains: number[] = [];
  #chainCount = 0;
  /** Open elements by name, so that an end tag finds in one check whether there is one to close. */
  readonly #openNames = new Map<string, number>();
  #at = 0;
  #textFrom = 0;
  #literal = 0;
  #amend = 0;
  #nodes = 0;
  /** Each `<` since the last node that begins no tag; `open`: it begins a comment or the like that never ends. */
  #bare: { at: number; open: boolean }[] = [];

  constructor(readonly source: Source) {
    this.#text = source.text;
  }

  read(): Template {
    const text = this.#text;
    // A byte order mark is not part of the text.
    if (text.charCodeAt(0) === 0xfeff) this.#at = this.#textFrom = 1;
    while (this.#at < text.length) {
      if (this.#nodes > maxNodes) {
        const why = `it has more than ${maxNodes.toLocaleString('en')} elements, texts and values; the rest is left out`;
        this.#report('budget', this.#at, this.#at + 1, { name: this.source.file, why });
        this.#textFrom = text.length;
        break;
      }
      if (this.#problems.length > maxProblems) {
        const why = `it has more than ${maxProblems} mistakes; the rest of the file is left out`;
        this.#report('budget', this.#at, this.#at + 1, { name: this.source.file, why });
        this.#textFrom = text.length;
        break;
      }
      const code = text.charCodeAt(this.#at);
      if (code === 60 /* < */) this.#markup();
      else if (code === 123 /* { */ && !this.#literal) this.#value();
      else this.#at = this.#plainEnd();
    }
    this.#endText(text.length);
    for (let open = this.#open.pop(); open; open = this.#open.pop()) {
      const { from, nameTo, name, directives } = open.element;
      const reported = this.#report('unclosed', from, nameTo, { what: `<${name}>` });
      const end = { closeFrom: text.length, to: text.length, plainEnd: true, unsound: directives.asWritten };
      this.#reportOpen(this.#put(open, end), reported);
    }
    return {
      source: this.source,
      children: settle(this.#root, ({ from }, at) => this.#reportLoose(from + at, '&')),
      chains: this.#rootChains,
      chainCount: this.#chainCount,
      takes: this.#takes,
      placeables: this.#placeables,
      problems: this.#problems.sort((a, b) => a.from - b.from),
    };
  }

  #plainEnd(): number {
    const text = this.#text;
    let at = this.#at + 1;
    for (; at < text.length; at++) {
      const code = text.charCodeAt(at);
      if (code === 60 || code === 123) break;
    }
    return at;
  }

  #markup(): void {
    const text = this.#text;
    const from = this.#at;
    const next = text.charCodeAt(from + 1);
    if (isLetter(next)) return this.#startTag();
    if (next === 47 /* / */) return this.#endTag();
    if (text.startsWith('<!--:', from) && !this.#literal) return this.#templateComment();
    if (next === 33 /* ! */) return this.#declaration();
    if (next === 63 /* ? */) return this.#passTo('>');
    this.#sign();
  }

  /** A `<` that begins no tag; `open`: it begins what never ends. */
  #sign(open = false): void {
    if (!this.#literal || open) this.#bare.push({ at: this.#at, open });
    this.#at++;
  }

  /** Ends that were looked for in vain: they are not further on either. */
  readonly #unended = new Set<string>();

  /** Goes past a declaration or the like, up to its end. */
  #passTo(end: string): void {
    const from = this.#at;
    const at = this.#unended.has(end) ? -1 : this.#text.indexOf(end, from + 2);
    if (at >= 0) {
      this.#at = at + end.length;
      return;
    }
    if (!this.#unended.has(end)) {
      const what = `“${this.#text.slice(from, from + 12).split('\n')[0]}”`;
      this.#report('unclosed', from, from + 2, { what, until: `its “${end}” is missing` });
    }
    this.#unended.add(end);
    this.#sign(true);
  }

  /** Reports a sign that what comes next could complete. */
  #reportLoose(at: number, sign: '<' | '&'): void {
    const reported = this.#report('tag', at, at + 1, {
      text:
        sign === '<'
          ? 'A bare “<” may begin a tag with what comes next on the page: write &lt; for the sign'
          : 'An “&” may begin an entity with what comes next on the page: write &amp; for the sign',
    });
    const entity = sign === '<' ? '&lt;' : '&amp;';
    reported.fix = rewrite(`Write ${entity}`, { from: at, to: at + 1 }, entity);
  }

  #value(): void {
    const from = this.#at;
    this.#endText(from);
    const { expression, end } = this.#braced(from, this.#text.length);
    if (expression) this.#push({ type: 'value', source: this.source, expression, from, to: end });
    this.#at = this.#textFrom = end;
  }

  #push(node: TemplateNode): void {
    if (this.#hasRoom()) this.#children().push(node);
  }

  /** Counts a node of the tree; false when there is no room for it. */
  #hasRoom(): boolean {
    return this.#nodes++ <= maxNodes;
  }

  /** Puts an element into the tree, now that its end is known. */
  #put({ element, left }: Pick<Open, 'element' | 'left'>, end: End): ElementNode {
    element.closeFrom = end.closeFrom;
    element.to = end.to;
    element.plainEnd = end.plainEnd;
    element.unsound = end.unsound;
    if (!left) this.#children().push(element);
    return element;
  }

  /** `{…}` from its brace: the expression, or null after reporting; and where to go on. */
  #braced(from: number, limit: number) {
    const own: Problem[] = [];
    const { expression, end } = readExpression(this.source, from + 1, limit, own);
    if (expression && end < limit && this.#text.charCodeAt(end) === 125) return { expression, end: end + 1 };
    const on = expression ? end : recovery(this.#text, from + 1, end, limit);
    if (this.#refuseBraces(from, limit)) return { expression: null, end: this.#at };
    // Where reading ran on into markup, what is wrong is the brace, not what the markup looks like as an expression.
    if (expression || on < end)
      this.#report('expression', from, from + 1, { text: 'The brace “{” is not closed by “}”' });
    else this.#problems.push(...own);
    return { expression: null, end: expression ? recovery(this.#text, from + 1, end, limit) : on };
  }

  /** Pairs of braces and tags in braces, as other languages have them: named as such. Leaves off after them. */
  #refuseBraces(from: number, limit: number): boolean {
    const text = this.#text.slice(from, Math.min(limit, from + 400));
    const [double, inner = ''] = /^\{\{([^{}\n]*)\}\}/.exec(text) ?? [];
    const tag = double === undefined ? /^\{[%#][^\n]*?[%#]\}/.exec(text)?.[0] : undefined;
    const found = double ?? tag;
    if (found === undefined) return false;
    const at = { from, to: from + found.length };
    const says = double
      ? 'A value stands in one pair of braces'
      : '“{%” and “{#” are not of this language: conditions and loops are do:when and do:each, comments <!--: … :-->';
    const reported = this.#report('expression', at.from, at.to, { text: says });
    if (double) reported.fix = rewrite('Write one pair', at, `{${inner.trim()}}`);
    this.#at = at.to;
    return true;
  }

  #declaration(): void {
    const text = this.#text;
    const from = this.#at;
    if (text.startsWith('<!--', from)) {
      const end = htmlCommentEnd(text, from, this.#unended.has('-->'));
      if (end < 0) {
        if (!this.#unended.has('-->')) this.#report('unclosed', from, from + 4, { what: 'The comment “<!--”' });
        this.#unended.add('-->');
        this.#sign(true);
        return;
      }
      this.#endText(from);
      this.#at = end;
      this.#push({
        type: 'text',
        source: this.source,
        from,
        to: end,
        text: text.slice(from, end),
        blank: true,
        loose: [],
      });
      this.#textFrom = end;
      return;
    }
    this.#passTo(text.startsWith('<![CDATA[', from) && this.#inside() !== 'html' ? ']]>' : '>');
  }

  #templateComment(): void {
    const text = this.#text;
    const from = this.#at;
    const end = text.indexOf(':-->', from + 5);
    if (end < 0) {
      this.#report('unclosed', from, from + 5, { what: 'The template comment “<!--:”' });
      this.#endText(from);
      this.#at = this.#textFrom = text.length;
      return;
    }
    const inner = text.slice(from + 5, end).indexOf('<!--:');
    if (inner >= 0) this.#report('comment', from + 5 + inner, from + 10 + inner);
    this.#at = end + 4;
    this.#takeLine(from, this.#at);
    this.#push({ type: 'comment', source: this.source, from, to: this.#at });
    this.#at = Math.max(this.#at, this.#textFrom);
  }

  #endTag(): void {
    const text = this.#text;
    const from = this.#at;
    if (!isLetter(text.charCodeAt(from + 2))) {
      if (this.#literal) this.#at = after(text, '>', from + 2);
      else this.#sign();
      return;
    }
    let at = from + 2;
    while (at < text.length && !endsName(text.charCodeAt(at))) at++;
    const written = text.slice(from + 2, at);
    const name = written.toLowerCase();
    const close = text.indexOf('>', at);
    if (written.includes('{') && !this.#literal) {
      this.#report('tag', from, at, { text: 'A tag’s name is written out: a value cannot stand in it' });
    }
    if (close < 0) {
      this.#report('unclosed', from, at, { what: `The tag “</${written}”` });
      this.#endText(from);
      this.#at = this.#textFrom = text.length;
      return;
    }
    const to = close + 1;
    const more = /[^\s/]/.test(text.slice(at, close));
    if (more && !this.#literal) {
      const reported = this.#report('tag', at, close, {
        text: `An end tag holds its name only: what stands in “</${written}” is never printed`,
      });
      reported.fix = rewrite(`Write </${written}>`, { from: at, to: close }, '');
    }
    if (!this.#openNames.get(name)) {
      const late = this.#crossed.get(name);
      if (late) this.#crossed.set(name, late - 1);
      else {
        const reported = this.#report('unopened', from, to, { what: `</${written}>` });
        if (voidElements.has(name)) reported.fix = rewrite('Remove it', reported, '');
      }
      this.#endText(from);
      this.#at = this.#textFrom = to;
      return;
    }
    for (;;) {
      const { element } = this.#open[this.#open.length - 1] as Open;
      if (element.name.toLowerCase() === name) {
        this.#at = to;
        if (element.own) this.#takeLine(from, to);
        else this.#endText(from);
        this.#close(from, to, more);
        if (!element.own) this.#textFrom = to;
        return;
      }
      const reported = this.#report('nesting', from, to, {
        end: `</${written}>`,
        open: `<${element.name}>`,
        line: this.source.place(element.from).line,
      });
      const late = element.name.toLowerCase();
      this.#crossed.set(late, (this.#crossed.get(late) ?? 0) + 1);
      this.#endText(from);
      this.#reportOpen(this.#close(from, from, true), reported);
    }
  }

  /** Ends the innermost element that is open. */
  #close(closeFrom: number, to: number, plain: boolean): ElementNode {
    const open = this.#open.pop() as Open;
    const { name, own, openTo, directives, unfinished } = open.element;
    const key = name.toLowerCase();
    this.#openNames.set(key, (this.#openNames.get(key) ?? 1) - 1);
    if (directives.asWritten) this.#literal--;
    if (own && name === 'amend') this.#amend--;
    const unsound =
      directives.asWritten && this.#problems.some((one) => one.from >= openTo && nestingCodes.has(one.code));
    return this.#put(open, { closeFrom, to, plainEnd: plain || unfinished, unsound });
  }

  #startTag(): void {
    const text = this.#text;
    const from = this.#at;
    let nameTo = from + 1;
    while (nameTo < text.length && !endsName(text.charCodeAt(nameTo))) nameTo++;
    const written = text.slice(from + 1, nameTo);
    if (written.includes('{') && !this.#literal) {
      this.#report('tag', from, nameTo, { text: 'A tag’s name is written out: a value cannot stand in it' });
    }
    const key = written.toLowerCase();
    const outside = this.#inside();
    const own = !this.#literal && (ownElements.has(key) || (this.#amend > 0 && amendElements.has(key)));
    const svg =
      key === 'svg' || (outside === 'html' && svgParts.has(key) && this.#open.every((one) => one.element.own));
    const space: Space = own ? outside : svg ? 'svg' : key === 'math' ? 'math' : outside;
    const name = space === 'html' || own ? key : written;

    const tag = readAttributes(
      this.source,
      nameTo,
      { literal: this.#literal > 0, own, html: space === 'html' },
      this.#problems,
    );
    if (tag.unfinished) {
      this.#report('unclosed', from, nameTo, { what: `The tag “<${written}”`, until: 'its “>” is missing' });
    }
    const directives = this.#literal ? noDirectives : readDirectives(this.source, tag.attributes, this.#problems);
    const isVoid = own ? ownVoid.has(key) : space === 'html' && voidElements.has(key);
    /** Its `/>` looks closed to a reader, but a browser takes the element as open. */
    const looksClosed = tag.selfClosing && !own && space === 'html' && !isVoid;
    /** In SVG it is closed, but where a browser reads it as HTML it is open, and what follows is its text. */
    const perhapsOpen = tag.selfClosing && !own && (rawElements.has(key) || flatElements.has(key));
    // What is printed as written is taken as a browser takes it.
    const childless = isVoid || (tag.selfClosing && !((looksClosed || perhapsOpen) && this.#literal));
    if (looksClosed && !this.#literal) {
      const reported = this.#report('self-closing', from, tag.to, { name: written });
      reported.fix = rewrite(
        `Write </${written}>`,
        { from: text.lastIndexOf('/', tag.to), to: tag.to },
        `></${written}>`,
      );
    }
    this.#at = tag.to;
    const lineTaken = own && !(childless && (name === 'kept' || !ownVoid.has(name)));
    if (lineTaken) this.#takeLine(from, tag.to);
    else this.#endText(from);
    const element: Begun = {
      type: 'element',
      source: this.source,
      name,
      space,
      own,
      attributes: tag.attributes,
      directives,
      from,
      nameTo,
      openTo: tag.to,
      tailFrom: tag.tailFrom,
      childless,
      closeFrom: tag.to,
      to: tag.to,
      unfinished: tag.unfinished,
      plainEnd: false,
      unsound: false,
      children: [],
      chain: this.#chainOf(directives, { from, to: nameTo }),
      chains: [],
    };
    const left = !this.#hasRoom();
    if (!lineTaken) this.#textFrom = tag.to;
    this.#at = Math.max(this.#at, this.#textFrom);
    if (own && (name === 'takes' || name === 'placeable')) this.#declare(name, tag.attributes, { from, to: tag.to });
    const deep = this.#open.length >= maxNesting && !childless && !tag.unfinished;
    if (childless || tag.unfinished || deep) {
      const plainEnd = deep || (tag.unfinished && !isVoid) || ((looksClosed || perhapsOpen) && !this.#literal);
      const end = { closeFrom: tag.to, to: tag.to, plainEnd, unsound: false };
      this.#put({ element, left }, end);
      if (deep)
        this.#report('element', from, nameTo, { text: `Elements are nested more than ${maxNesting} deep here` });
      return;
    }
    this.#open.push({ element, inside: insideOf(space, name, own), left });
    this.#openNames.set(key, (this.#openNames.get(key) ?? 0) + 1);
    if (directives.asWritten) this.#literal++;
    if (own && name === 'amend') this.#amend++;
    if (own ? directives.asWritten && amendElements.has(key) : rawElements.has(key)) this.#raw(key, space);
    else if (!own && flatElements.has(key) && space === 'html') this.#flat(key);
  }

  /** The inside of a script or style: text up to its end tag. */
  #raw(name: string, space: Space): void {
    const end =
      name === 'script' && space === 'html' ? scriptEnd(this.#text, this.#at) : endTagOf(this.#text, name, this.#at);
    // In SVG and MathML a browser reads scripts and styles like any other text.
    if (space !== 'html') this.#bareIn(this.#at, end < 0 ? this.#text.length : end);
    this.#at = end < 0 ? this.#text.length : end;
    this.#endText(this.#at);
    this.#textFrom = this.#at;
  }

  /** Each `<` of a stretch, sections of CDATA aside. */
  #bareIn(from: number, to: number): void {
    const pattern = /<!\[CDATA\[[^]*?(?:\]\]>|$)|</g;
    const text = this.#text.slice(from, to);
    for (const { 0: found, index } of text.matchAll(pattern))
      if (!found.endsWith(']]>')) this.#bare.push({ at: from + index, open: false });
  }

  /** The inside of a title, textarea and the like: text and values up to its end tag. */
  #flat(name: string): void {
    const end = endTagOf(this.#text, name, this.#at);
    const limit = end < 0 ? this.#text.length : end;
    while (this.#at < limit) {
      const code = this.#text.charCodeAt(this.#at);
      if (code === 123 && !this.#literal) {
        const from = this.#at;
        this.#endText(from);
        const braced = this.#braced(from, limit);
        if (braced.expression) {
          this.#push({ type: 'value', source: this.source, expression: braced.expression, from, to: braced.end });
        }
        this.#at = this.#textFrom = braced.end;
      } else if (code === 60 && !this.#literal && this.#ownTagAt(this.#at)) {
        this.#markup();
        if (this.#at > limit) return;
      } else if (code === 60) {
        this.#sign();
      } else {
        this.#at++;
      }
    }
  }

  /** Whether a tag of the language's own stands here: those work in a title too. */
  #ownTagAt(at: number): boolean {
    const match = /^<\/?([a-z]+)(?=[\s/>])/.exec(this.#text.slice(at, at + 12));
    return (match !== null && ownElements.has(match[1] as string)) || this.#text.startsWith('<!--:', at);
  }

  /** An input of the template, or what it is called by those who place it. */
  #declare(element: 'takes' | 'placeable', attributes: readonly Attribute[], at: Span): void {
    const fixed = (name: string): string | null => {
      const attribute = attributes.find((a) => a.name === name);
      if (!attribute) return null;
      if (attribute.parts) {
        this.#report('takes', attribute.from, attribute.to, {
          text: `“${name}” of <${element}> is written out, never a value`,
        });
      }
      return attribute.value ? this.source.slice(attribute.value.from, attribute.value.to) : '';
    };
    const list = (name: string): string[] => (fixed(name) || null)?.split(',').map((one) => one.trim()) ?? [];
    const number = (name: string) => {
      const text = fixed(name)?.trim();
      return text && Number.isFinite(Number(text)) ? Number(text) : null;
    };
    const { source } = this;
    if (element === 'placeable') {
      const [label, help] = [fixed('label'), fixed('help')];
      this.#placeables.push({ source, label, help, shelves: list('shelves'), ...at });
      return;
    }
    this.#takes.push({
      source,
      name: fixed('name') ?? '',
      type: fixed('type') ?? 'text',
      required: fixed('required') !== null,
      default: fixed('default'),
      label: fixed('label'),
      help: fixed('help'),
      options: list('options'),
      least: number('least'),
      most: number('most'),
      unit: fixed('unit'),
      served: fixed('served') !== null,
      ...at,
    });
  }

  /** The chain of conditions that an element is part of: its own, or with a gate that of the one before it. */
  #chainOf({ gate, when, each }: Directives, at: Span): number {
    if (gate) {
      const before = this.#before();
      const { directives } = before ?? {};
      if (before && before.chain >= 0 && (directives?.gate?.kind !== 'otherwise' || directives.each))
        return before.chain;
      this.#report('otherwise', at.from, at.to, { name: gate.kind });
    } else if (!when && !each) return -1;
    this.#chainsHere().push(this.#chainCount);
    return this.#chainCount++;
  }

  /** The element before this place, as the file is written. */
  #before(): ElementNode | null {
    const node = this.#children().findLast(
      (one) => one.type !== 'comment' && !(one.type === 'text' && (one.blank || !/\S/.test(one.text))),
    );
    return node?.type === 'element' ? node : null;
  }

  /** Ends the text before a tag of the language's own, or a template comment. One alone on its line takes the line with it. */
  #takeLine(from: number, to: number): void {
    const text = this.#text;
    let lineFrom = from;
    while (lineFrom > this.#textFrom && isBlank(text.charCodeAt(lineFrom - 1))) lineFrom--;
    let lineTo = to;
    while (lineTo < text.length && isBlank(text.charCodeAt(lineTo))) lineTo++;
    const begins = lineFrom === 0 || text.charCodeAt(lineFrom - 1) === 10;
    const windows = text.charCodeAt(lineTo) === 13 && text.charCodeAt(lineTo + 1) === 10;
    const ends = lineTo >= text.length || text.charCodeAt(lineTo) === 10 || windows;
    if (begins && ends) {
      this.#endText(lineFrom);
      this.#textFrom = Math.min(text.length, lineTo + (windows ? 2 : 1));
    } else {
      this.#endText(from);
      this.#textFrom = to;
    }
    this.#at = Math.max(this.#at, this.#textFrom);
  }

  #endText(to: number): void {
    const from = this.#textFrom;
    if (to > from) {
      const text = this.#text.slice(from, to);
      const loose = this.#loose(from, to);
      this.#push({ type: 'text', source: this.source, from, to, text, blank: false, loose });
    }
    this.#textFrom = Math.max(to, from);
    this.#bare = [];
  }

  /** The offsets in a text of each `<` that what comes next could complete to a tag. */
  #loose(from: number, to: number): number[] {
    if (!this.#bare.length) return [];
    return this.#bare.flatMap(({ at, open }) => {
      if (at < from || at >= to) return [];
      if (!open && bareIsPlain(at + 1 < to ? this.#text[at + 1] : undefined)) return [];
      if (!open) this.#reportLoose(at, '<');
      return [at - from];
    });
  }

  #children(): TemplateNode[] {
    const top = this.#open[this.#open.length - 1];
    return top ? top.element.children : this.#root;
  }

  #chainsHere(): number[] {
    const top = this.#open[this.#open.length - 1];
    return top ? top.element.chains : this.#rootChains;
  }

  #inside(): Space {
    const top = this.#open[this.#open.length - 1];
    return top ? top.inside : 'html';
  }

  #report(code: ProblemCode, from: number, to: number, about: About = {}): Problem {
    const reported = problem(code, this.source, { from, to }, about);
    this.#problems.push(reported);
    return reported;
  }

  /** Where HTML would let the end tag be left out, it is plain where it belongs. */
  #reportOpen(element: ElementNode, made: Problem): void {
    const ends = endedBy.get(element.name);
    if (!ends || element.space !== 'html' || element.own) return;
    const next = endedWithin(element, ends);
    let at = next?.from ?? element.closeFrom;
    while (at > element.openTo && /\s/.test(this.#text[at - 1] as string)) at--;
    made.fix = rewrite(`Write </${element.name}>`, { from: at, to: at }, `</${element.name}>`);
  }
}

/** Problems that say that the tags of something printed as written do not nest. */
const nestingCodes: ReadonlySet<ProblemCode> = new Set(['unclosed', 'unopened', 'nesting']);

/** The first element inside that would end this one, where everything between the two was left open as well. */
function endedWithin(element: ElementNode, ends: ReadonlySet<string>): ElementNode | null {
  for (const child of element.children) {
    if (child.type !== 'element') continue;
    if (ends.has(child.name)) return child;
    const found = child.closeFrom === child.to && !child.childless ? endedWithin(child, ends) : null;
    if (found) return found;
  }
  return null;
}

function insideOf(space: Space, name: string, own: boolean): Space {
  if (own) return space;
  return space !== 'html' && integrationPoints.has(name.toLowerCase()) ? 'html' : space;
}

/** Where to go on after an expression that could not be read: past its brace, or at whatever can only be markup. */
function recovery(text: string, from: number, stopped: number, limit: number): number {
  for (let at = from; at < limit; at++) {
    const code = text.charCodeAt(at);
    if (code === 60 && text.charCodeAt(at + 1) === 47) return at;
    if (at < stopped) continue;
    if (code === 125) return at + 1;
    if (code === 10 || code === 123 || (code === 60 && isLetter(text.charCodeAt(at + 1)))) return at;
  }
  return limit;
}

function after(text: string, sign: string, from: number): number {
  const at = text.indexOf(sign, from);
  return at < 0 ? text.length : at + sign.length;
}

function isLetter(code: number): boolean {
  return (code >= 97 && code <= 122) || (code >= 65 && code <= 90);
}

function isBlank(code: number): boolean {
  return code === 32 || code === 9;
}

function endsName(code: number): boolean {
  return code === 32 || code === 9 || code === 10 || code === 12 || code === 13 || code === 47 || code === 62;
}
