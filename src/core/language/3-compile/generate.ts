import { decodeHTMLAttribute } from 'entities';
import type { Expression } from '../1-parse/expression';
import { textElements } from '../1-parse/names';
import type { Attribute, ElementNode, Template, TemplateNode } from '../1-parse/nodes';
import type { Source } from '../1-parse/source';
import { eachElement, fixedName } from '../2-check/walk';
import { attributePlace, type AttributePlace } from '../2-check/places';
import { ExpressionWriter, gapKey, quote } from './expressions';
import { stylePlace } from '../values/style';
import { takesPrelude } from './inputs';
import type { Binding, Name } from './scope';
import { markAttribute, type Site, type SiteKind } from './sites';

/** The JavaScript of one template, and for a traced one its sites. */
export interface Generated {
  code: string;
  /** The files that its origins name, by number: `S` of the code. */
  sources: Source[];
  sites: Site[];
  bindings: Map<Expression, Binding>;
}

/**
 * Writes the JavaScript of one template: the body of `(h, S) => (rt, inp, w, fills, p) => html`.
 *
 * `h` holds the helpers of runtime.ts; `rt` is the render; `inp` the inputs, each under `$name` so that no name of JavaScript's
 * own is ever met; `w` names those written as fixed text; `fills` the contents for gaps, by `$gap`; `p` is 1 where only text can
 * stand. Only names, numbers and JSON-quoted texts of a template reach the code, so no template can write code of its own.
 *
 * A traced template takes `f` besides, the number of its frame, and `T`, the trace: its elements carry marks, and its
 * conditions and loops tell how they came out. It is a second way of writing; a plain template's code knows nothing of it.
 */
export function generate(template: Template, traced = false): Generated {
  return new Generator(template, traced).write();
}

class Generator {
  #code = '';
  /** What is to be printed and is not written yet: joined with what follows as long as nothing comes between. */
  #parts: (string | Tag)[] = [];
  #text = '';
  readonly #expressions = new ExpressionWriter();
  readonly #sites: Site[] = [];
  /** The variable that holds the number of the frame that is written. */
  #frame = 'f';
  #once = 0;
  /** Of each name inside the template: the fields that are kept beside it. */
  readonly #kept: NonNullable<Name['kept']>[] = [];
  /** Chains of conditions whose outcome is asked for: others need not be remembered. */
  readonly #asked = new Set<number>();
  readonly #constants: string[] = [];
  readonly #sources: Source[] = [];

  constructor(
    readonly template: Template,
    readonly traced: boolean,
  ) {
    eachElement(template.children, ({ directives, chain }) => {
      if (directives.gate) this.#asked.add(chain);
    });
  }

  write(): Generated {
    this.#children(this.template.children, this.template.chains, 'p');
    this.#flush();
    const { free, freeRecords, freeKept, temporaries } = this.#expressions;
    const declared = [...freeKept.values()].flatMap((kept) => ExpressionWriter.declared(kept));
    const chains = [...this.#asked].map((chain) => `c${chain} = false`);
    const variables = [...chains, ...temporaries, ...declared];
    const code = [
      "'use strict';",
      'const { R, NONE, rec, t, e, x, g, lst, pos, eq, has, add, sub, mul, div, rem, neg, lt, le, gt, ge, F, N, s, ad, a1, am, cl, cls, adr, ads, sst, css, atr, js, ask, unmark } = h;',
      ...this.#constants.map((constant, at) => `const k${at} = ${constant};`),
      `return function render(rt, inp, w, fills, p${this.traced ? ', f, T' : ''}) {`,
      takesPrelude(this.template.takes, free),
      ...[...freeRecords].map((name) => `const r_${name} = $${name} instanceof R ? $${name} : NONE;`),
      variables.length ? `let ${variables.join(', ')};` : '',
      "let o = '';",
      this.#finished(),
      'return o;',
      '};',
    ].join('\n');
    return { code, sources: this.#sources, sites: this.#sites, bindings: this.#expressions.bindings };
  }

  #finished(): string {
    const code = this.#code.replace(/\u0002(\d+)\u0002/g, (_, number: string) => {
      const names = ExpressionWriter.declared(this.#kept[Number(number)] ?? new Map());
      return names.length ? `let ${names.join(', ')};` : '';
    });
    return this.#expressions.finished(code);
  }

  #line(code: string): void {
    this.#flush();
    this.#code += `${code}\n`;
  }

  #print(text: string): void {
    this.#text += text;
  }

  /** Prints what a piece of code gives: a text, and nothing but a text. */
  #printCode(code: string): void {
    this.#endText();
    this.#parts.push(code);
  }

  #endText(): void {
    const text = this.#text;
    this.#text = '';
    const last = this.#parts[this.#parts.length - 1];
    if (!text) return;
    if (last && typeof last === 'object') {
      last.quick.push(quote(text));
      last.general.push(quote(text));
    } else this.#parts.push(quote(text));
  }

  #flush(): void {
    this.#endText();
    if (!this.#parts.length) return;
    // One statement a run: the pieces are joined first, then put behind the page.
    this.#code += `o += ${this.#parts.map(written).join(' + ')};\n`;
    this.#parts = [];
  }

  /** Puts a name in reach; gives the token that stands for the declaration of its kept fields. */
  #name(name: string, made: Omit<Name, 'position' | 'kept'>): string {
    const kept: Name['kept'] = new Map();
    this.#expressions.scope.set(name, { ...made, position: null, kept });
    return `\u0002${this.#kept.push(kept) - 1}\u0002`;
  }

  #site(kind: SiteKind, at: { source: Site['source']; from: number; to: number }, more: Partial<Site> = {}): number {
    const { source, from, to } = at;
    return this.#sites.push({ kind, source, from, to, expression: null, parts: [], inside: null, ...more }) - 1;
  }

  #children(nodes: TemplateNode[], chains: number[], place: string, inside: number | null = null): void {
    for (const chain of chains) if (this.#asked.has(chain)) this.#line(`c${chain} = false;`);
    // A value that is all that its element holds needs no mark of its own.
    const only = inside !== null && nodes.length === 1;
    for (const node of nodes) {
      if (node.type === 'text') this.#print(node.text);
      else if (node.type === 'value') this.#value(node, place, only ? inside : null);
      else if (node.type === 'element') this.#element(node, place);
    }
  }

  #value(node: TemplateNode & { type: 'value' }, place: string, inside: number | null): void {
    const { expression } = node;
    const fixed =
      expression.kind === 'text' && !/[&<>"'\ud800-\udfff]/.test(expression.value) ? expression.value : null;
    const code = fixed === null ? `t(${this.#expressions.value(expression)}, ${place}, rt)` : null;
    const marked = this.traced && place !== '1' && code !== null;
    if (marked) {
      const site = this.#site('value', node, { expression, inside });
      if (inside === null) {
        this.#print('<!--last ');
        this.#printCode(this.#frame);
        this.#print(`.${site}-->`);
      }
    }
    if (code === null) this.#print(fixed as string);
    else this.#printCode(code);
    if (marked && inside === null) this.#print('<!--/last-->');
  }

  /** The order on one element: gate, each, let, when; then once; then what it prints. */
  #element(element: ElementNode, place: string): void {
    const { gate, each, lets, when, once } = element.directives;
    const chain = this.#asked.has(element.chain) ? `c${element.chain}` : null;
    const frame = this.#frame;
    let open = 0;
    const block = (head: string) => {
      this.#line(`${head} {`);
      open++;
    };
    this.#expressions.within(() => {
      if (gate) block(`if (${this.#gate(element, gate, chain ?? 'false')})`);
      if (each) this.#loop(element, each, block);
      this.#lets(lets);
      if (when) block(`if (${this.#holds(when, element)})`);
      if (chain && (gate || each || when)) this.#line(`${chain} = true;`);
      if (once)
        block(
          `if (rt.once(${quote(`${element.source.layer} ${element.source.file} ${this.#once++} ${element.from}`)}))`,
        );
      if (lets.length && !open) block('');
      if (element.own) this.#own(element, place);
      else this.#printed(element, place);
    });
    if (open) this.#line('}'.repeat(open));
    this.#frame = frame;
  }

  #gate(element: ElementNode, gate: NonNullable<ElementNode['directives']['gate']>, chain: string): string {
    if (gate.kind === 'or-when') return `!${chain} && ${this.#holds(gate.test, element)}`;
    if (!this.traced) return `!${chain}`;
    const attribute = element.attributes.find((one) => one.name === 'do:otherwise');
    const site = this.#site('condition', { source: element.source, ...span(attribute ?? element) });
    return `T.held(${this.#frame}, ${site}, !${chain}, true)`;
  }

  /** A condition of an element, as JavaScript's true or false. */
  #holds(test: Expression, element: ElementNode): string {
    if (!this.traced) return this.#expressions.holds(test);
    const parts: Expression[] = [];
    const code = this.#expressions.holdsTraced(test, (part) => parts.push(part) - 1);
    const site = this.#site('condition', { source: element.source, ...span(test) }, { expression: test, parts });
    return `T.held(${this.#frame}, ${site}, ${code}, false)`;
  }

  #lets(lets: ElementNode['directives']['lets']): void {
    for (const { name, value } of lets) {
      const variable = this.#expressions.fresh('v');
      const record = this.#expressions.fresh('r');
      const code = this.#expressions.value(value);
      const kept = this.#name(name, { variable, record, binding: { kind: 'let', value } });
      this.#line(`const ${variable} = ${code}, ${record} = ${variable} instanceof R ? ${variable} : NONE; ${kept}`);
    }
  }

  #loop(
    element: ElementNode,
    each: NonNullable<ElementNode['directives']['each']>,
    block: (head: string) => void,
  ): void {
    const [list, at, item, record] = ['l', 'i', 'v', 'r'].map((prefix) => this.#expressions.fresh(prefix)) as [
      string,
      string,
      string,
      string,
    ];
    const expression = this.#expressions.value(each.list);
    const loop = this.#site('loop', { source: element.source, ...span(each.list) }, { expression: each.list });
    block('');
    this.#line(`const ${list} = lst(${expression});`);
    if (this.traced) this.#line(`T.loop(${this.#frame}, ${loop}, ${list}.length);`);
    block(`for (let ${at} = 0; ${at} < ${list}.length; ${at}++)`);
    const kept = this.#name(each.item, { variable: item, record, binding: { kind: 'item', loop, list: each.list } });
    const budget = 'if (--rt.steps < 0 || o.length > rt.size) rt.spent(o.length);';
    this.#line(`${budget} const ${item} = ${list}[${at}], ${record} = ${item} instanceof R ? ${item} : NONE; ${kept}`);
    if (this.traced) {
      const frame = this.#expressions.fresh('f');
      this.#line(`const ${frame} = T.item(${this.#frame}, ${loop}, ${at});`);
      this.#frame = frame;
    }
    if (!each.at) return;
    this.#expressions.scope.set(each.at, {
      variable: `pos(${list}, ${at})`,
      record: null,
      position: { list, at },
      kept: null,
      binding: { kind: 'position', loop },
    });
  }

  #printed(element: ElementNode, place: string): void {
    const { source, directives } = element;
    const site = this.traced && place !== '1' ? this.#site('element', element) : null;
    const start = () => {
      this.#print(source.slice(element.from, element.nameTo));
      if (site !== null) {
        this.#print(` ${markAttribute}="`);
        this.#printCode(this.#frame);
        this.#print(`.${site}"`);
      }
      this.#attributes(element);
    };
    if (directives.literal) {
      start();
      this.#print(source.slice(element.tailFrom, element.to));
      return;
    }
    const inside = textElements.has(element.name.toLowerCase()) ? '1' : place;
    const wrapped = directives.wrapWhen ? this.#expressions.fresh('w') : null;
    if (wrapped)
      this.#line(`const ${wrapped} = ${this.#holds(directives.wrapWhen as Expression, element)}; if (${wrapped}) {`);
    start();
    this.#print(source.slice(element.tailFrom, element.openTo));
    if (wrapped) this.#line('}');
    if (directives.json) this.#printCode(`js(${this.#expressions.value(directives.json)}, rt)`);
    else this.#children(element.children, element.chains, inside, wrapped ? null : site);
    if (element.closeFrom >= element.to) return;
    if (wrapped) this.#line(`if (${wrapped}) {`);
    this.#print(source.slice(element.closeFrom, element.to));
    if (wrapped) this.#line('}');
  }

  #attributes(element: ElementNode): void {
    const refreshes = element.attributes.some((attribute) => attribute.name === 'http-equiv');
    let tag: Tag | null = null;
    for (const attribute of element.attributes) {
      const { parts } = attribute;
      const place = parts ? attributePlace(element.name, attribute.name, refreshes) : null;
      if (attribute.name === 'do:attributes' && element.directives.attributes) {
        const written = element.attributes
          .filter((one) => !one.name.startsWith('do:'))
          .map((one) => one.name.toLowerCase());
        const expression = this.#expressions.value(element.directives.attributes);
        this.#printCode(`atr(${expression}, ${quote(element.name)}, ${JSON.stringify(written)}, rt)`);
        tag = null;
      } else if (attribute.name.startsWith('do:')) continue;
      else if (!parts) this.#print(element.source.slice(attribute.leadFrom, attribute.to));
      else if (parts.length === 1 && place !== null && quickPlaces.has(place)) {
        tag = this.#quick(element, attribute, parts[0] as Expression, place, tag);
      } else {
        this.#attribute(element, attribute, parts, refreshes);
        tag = null;
      }
    }
  }

  /**
   * An attribute that is one value. Where all such values of a tag are texts or numbers, as nearly always, the tag is written
   * in one go; else each attribute looks whether it is there at all.
   */
  #quick(element: ElementNode, attribute: Attribute, value: Expression, place: AttributePlace, open: Tag | null): Tag {
    const { source } = element;
    const tag: Tag = open ?? { values: [], quick: [], general: [] };
    if (open) this.#endText();
    else {
      // The text before goes along, so that it is joined with the first attribute.
      if (this.#text) {
        tag.quick.push(quote(this.#text));
        tag.general.push(quote(this.#text));
        this.#text = '';
      }
      this.#parts.push(tag);
    }
    const name = source.slice(attribute.from, attribute.from + attribute.name.length);
    const lead = source.slice(attribute.leadFrom, attribute.from);
    const sign = attribute.quote || '"';
    const start = quote(`${lead}${name}=${sign}`);
    const bare = quote(lead + name);
    const variable = this.#expressions.temporary();
    tag.values.push([variable, this.#expressions.value(value)]);
    if (place === 'address' || place === 'loading') {
      const loads = place === 'loading';
      tag.quick.push(start, `ad(${variable}, ${loads}, rt)`, quote(sign));
      tag.general.push(`adr(${variable}, ${start}, ${bare}, ${quote(sign)}, ${loads}, rt)`);
    } else {
      const kind = place === 'words' ? 1 : place === 'alt' ? 2 : 0;
      tag.quick.push(start, `s(${variable}, rt)`, quote(sign));
      tag.general.push(`a1(${variable}, ${start}, ${bare}, ${quote(sign)}, ${kind}, rt)`);
    }
    return tag;
  }

  #attribute(element: ElementNode, attribute: Attribute, parts: (string | Expression)[], refreshes: boolean): void {
    const { source } = element;
    const name = source.slice(attribute.from, attribute.from + attribute.name.length);
    const lead = source.slice(attribute.leadFrom, attribute.from);
    const sign = attribute.quote || '"';
    const whole = parts.length === 1 ? (parts[0] as Expression) : null;
    const place = attributePlace(element.name, attribute.name, refreshes);
    // Places that take no value are errors beforehand; should one be rendered all the same, the attribute is left out.
    if (place === 'script' || place === 'fixed') return;
    const start = quote(`${lead}${name}=${sign}`);
    const value = (expression: Expression) => this.#expressions.value(expression);
    const pieces = () =>
      `[${parts.map((part) => (typeof part === 'string' ? quote(part) : `[${value(part)}]`)).join(', ')}]`;
    const around = (code: string) => {
      this.#print(`${lead}${name}=${sign}`);
      this.#printCode(code);
      this.#print(sign);
    };
    if (place === 'class' && whole?.kind === 'list' && plainClass(whole.items[0])) {
      this.#classes(whole.items, `${lead}${name}=${sign}`, sign);
    } else if (place === 'class') {
      this.#printCode(`cls(${pieces()}, ${start}, ${quote(sign)}, rt)`);
    } else if (place === 'style') around(`css(${pieces()}, ${simpleStyle(parts)}, rt)`);
    else if (place === 'address' || place === 'loading') {
      const loads = place === 'loading';
      around(`ads(${pieces()}, ${loads}, rt)`);
    } else if (place === 'candidates') this.#printCode(`sst(${pieces()}, ${start}, ${quote(sign)}, rt)`);
    else {
      this.#print(`${lead}${name}=${sign}`);
      for (const part of parts) {
        if (typeof part === 'string') this.#print(part);
        else this.#printCode(`am(${value(part)}, ${place === 'words' ? 1 : 0}, rt)`);
      }
      this.#print(sign);
    }
  }

  /** A list of classes of which the first is written out: the attribute is always there, and most of it is known beforehand. */
  #classes(items: Expression[], start: string, end: string): void {
    this.#print(start);
    items.forEach((item, at) => {
      const space = at ? ' ' : '';
      const name = plainClass(item);
      const [test, yes, no] =
        item.kind === 'and'
          ? [item.left, plainClass(item.right), '']
          : item.kind === 'choice'
            ? [item.test, plainClass(item.yes), item.no.kind === 'none' ? '' : plainClass(item.no)]
            : [null, null, null];
      if (name) this.#print(space + name);
      else if (test && yes && no !== null)
        this.#printCode(`(${this.#expressions.holds(test)} ? ${quote(` ${yes}`)} : ${quote(no && ` ${no}`)})`);
      else this.#printCode(`cl(${this.#expressions.value(item)}, rt)`);
    });
    this.#print(end);
  }

  #own(element: ElementNode, place: string): void {
    if (element.name === 'draw') this.#draw(element, place, null);
    else if (element.name === 'gap') this.#gap(element, place);
    else if (element.name === 'ask') this.#draw(element, place, `pieces/ask/${fixedName(element, 'type') ?? 'text'}`);
    else if (element.name === 'shelf') this.#shelf(element, place);
    else if (element.name === 'group') this.#children(element.children, element.chains, place);
    // <takes> and <amend> print nothing; a <fill> in its place is taken up by its draw, elsewhere it is an error and prints nothing.
  }

  #gap(element: ElementNode, place: string): void {
    const fill = `fills.${gapKey(fixedName(element) ?? '')}`;
    let call = `${fill}(${place})`;
    if (this.traced) {
      call = `${fill}(${place}, ${this.#frame}, ${this.#site('gap', element)})`;
      // Where only text can stand, marks would be seen.
      if (place === '1') call = `unmark(${call})`;
    }
    this.#line(`if (fills !== null && ${fill} !== undefined) o += ${call}; else {`);
    this.#children(element.children, element.chains, place);
    this.#line('}');
  }

  #shelf(element: ElementNode, place: string): void {
    const name = quote(fixedName(element) ?? '');
    const shelf = this.#expressions.fresh('s');
    const frame = this.traced ? `, ${this.#frame}, ${this.#site('shelf', element)}` : '';
    this.#line(`const ${shelf} = rt.shelf(${name}, ${place}, ${this.#origin(element)}${frame});`);
    this.#line(`if (${shelf} !== null) o += ${shelf}; else {`);
    this.#children(element.children, element.chains, place);
    this.#line('}');
  }

  /** Made once for the template, not at each render. */
  #constant(code: string): string {
    return `k${this.#constants.push(code) - 1}`;
  }

  #origin({ source, from, openTo }: ElementNode): string {
    const at = this.#sources.indexOf(source);
    const number = at < 0 ? this.#sources.push(source) - 1 : at;
    return this.#constant(`[S[${number}], ${from}, ${openTo}]`);
  }

  #draw(element: ElementNode, place: string, question: string | null): void {
    const { source } = element;
    const inputs: string[] = [];
    const written: string[] = [];
    const given = new Map<string, Expression>();
    let name = question === null ? 'null' : quote(question);
    for (const attribute of element.attributes) {
      if (attribute.name.startsWith('do:')) continue;
      const { parts, value } = attribute;
      const text = value ? decodeHTMLAttribute(source.slice(value.from, value.to)) : null;
      const code = parts ? this.#joined(parts) : text === null ? 'true' : quote(text);
      if (attribute.name === 'name' && question === null) {
        name = code;
        continue;
      }
      const key = source.slice(attribute.from, attribute.from + attribute.name.length);
      if (!/^[A-Za-z_][A-Za-z0-9_]*$/.test(key)) continue;
      inputs.push(`$${key}: ${code}`);
      if (parts?.length === 1) given.set(key, parts[0] as Expression);
      if (!parts && text !== null) written.push(key);
    }
    if (question !== null) inputs.push(`$question: ask({ ${inputs.join(', ')} }, rt)`);
    const fills = this.#fills(element);
    const site = this.traced ? `, ${this.#frame}, ${this.#site('draw', element, { inputs: given })}` : '';
    this.#printCode(
      `rt.draw(${name}, { ${inputs.join(', ')} }, ${written.length ? this.#constant(JSON.stringify(written)) : 'null'}, ${fills}, ${place}, ${this.#origin(element)}${site})`,
    );
  }

  /** The fills of a draw as an object of functions, or `null`. Each sees the names of this template. */
  #fills(element: ElementNode): string {
    const fills: string[] = [];
    const rest: TemplateNode[] = [];
    for (const child of element.children) {
      if (child.type === 'element' && child.own && child.name === 'fill') fills.push(this.#fill(child));
      else rest.push(child);
    }
    const empty = rest.every((node) => node.type === 'comment' || (node.type === 'text' && !/\S/.test(node.text)));
    if (!empty) fills.unshift(`$: ${this.#function(element, () => this.#children(rest, element.chains, 'p'))}`);
    return fills.length ? `{ ${fills.join(', ')} }` : 'null';
  }

  #fill(element: ElementNode): string {
    const { when, lets } = element.directives;
    const key = gapKey(fixedName(element, 'gap') ?? '');
    const body = this.#function(element, () => {
      this.#lets(lets);
      this.#children(element.children, element.chains, 'p');
    });
    if (!when) return `${key}: ${body}`;
    let test = '';
    this.#expressions.within(() => {
      // The names of a fill's do:let are in reach of its do:when: both are worked out where the draw stands.
      const names = lets.map(({ name, value }) => {
        const variable = this.#expressions.fresh('v');
        const given = this.#expressions.value(value);
        const binding: Binding = { kind: 'let', value };
        this.#expressions.scope.set(name, { variable, record: null, position: null, kept: null, binding });
        return [variable, given] as const;
      });
      const holds = this.#holds(when, element);
      test = names.reduceRight((inner, [variable, given]) => `((${variable}) => ${inner})(${given})`, holds);
    });
    return `${key}: ${test} ? ${body} : undefined`;
  }

  /** A function expression that prints what `write` writes. */
  #function(element: ElementNode, write: () => void): string {
    const outer = { code: this.#code, parts: this.#parts, text: this.#text, frame: this.#frame };
    [this.#code, this.#parts, this.#text] = ['', [], ''];
    let head = '(p) => {';
    if (this.traced) {
      const frame = this.#expressions.fresh('f');
      head = `(p, gf, gs) => { const ${frame} = T.fill(${outer.frame}, ${this.#site('fill', element)}, gf, gs);`;
      this.#frame = frame;
    }
    this.#expressions.within(write);
    this.#flush();
    const body = this.#code;
    this.#code = outer.code;
    this.#parts = outer.parts;
    this.#text = outer.text;
    this.#frame = outer.frame;
    return `${head} let o = '';\n${body}return o; }`;
  }

  /** An input's value: one expression keeps its type; with text around, it is joined to text. */
  #joined(parts: (string | Expression)[]): string {
    if (parts.length === 1) return this.#expressions.value(parts[0] as Expression);
    const texts = parts.map((part) =>
      typeof part === 'string' ? quote(decodeHTMLAttribute(part)) : `x(${this.#expressions.value(part)}, rt)`,
    );
    return `(${texts.join(' + ')})`;
  }
}

/** A start tag with values: its code where all of them are texts or numbers, and for any other. */
interface Tag {
  /** Variables, and what is put into them first. */
  values: [variable: string, code: string][];
  quick: string[];
  general: string[];
}

/** Places whose attribute is there as it is when its value is a text or a number. */
const quickPlaces: ReadonlySet<AttributePlace> = new Set(['plain', 'words', 'alt', 'address', 'loading']);

function written(part: string | Tag): string {
  if (typeof part === 'string') return part;
  const { values, quick, general } = part;
  const set = values.map(([variable, code]) => `${variable} = ${code}`).join(', ');
  const plain = values.map(([variable]) => `(typeof ${variable} === 'string' || typeof ${variable} === 'number')`);
  return `((${set}, ${plain.join(' && ')}) ? ${joined(quick)} : ${joined(general)})`;
}

/** Pieces of code joined, literals that meet made one. */
function joined(parts: readonly string[]): string {
  const met: string[] = [];
  for (const part of parts) {
    const last = met[met.length - 1];
    if (last?.startsWith('"') && part.startsWith('"')) met[met.length - 1] = last.slice(0, -1) + part.slice(1);
    else met.push(part);
  }
  return met.join(' + ');
}

/** A class that is written out and needs neither escaping nor folding; null for any other expression. */
function plainClass(item: Expression | undefined): string | null {
  return item?.kind === 'text' && /^[\w-]+(?: [\w-]+)*$/.test(item.value) ? item.value : null;
}

/** Whether a style attribute is written so plainly that plain values can do nothing in it. */
function simpleStyle(parts: (string | Expression)[]): boolean {
  let before = '';
  for (const part of parts) {
    if (typeof part !== 'string') {
      if (stylePlace(before) !== 'value') return false;
      before += '0';
    } else if (/[()"'\\&*]/.test(part)) return false;
    else before += part;
  }
  return true;
}

const span = ({ from, to }: { from: number; to: number }) => ({ from, to });
