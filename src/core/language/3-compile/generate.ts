import { decodeHTMLAttribute } from 'entities';
import type { Expression } from '../1-parse/expression';
import { sealed } from '../1-parse/loose';
import { integrationPoints, rawElements, textElements } from '../1-parse/names';
import { staysRaw } from '../1-parse/ends';
import type { ElementNode, Template, TemplateNode } from '../1-parse/nodes';
import type { Source } from '../1-parse/source';
import type { Analysis, Maker } from '../2-check/analysis';
import { fixedName, holdsData } from '../2-check/walk';
import { escapeText } from '../values/escape';
import { AttributeWriter } from './attributes';
import { ExpressionWriter, gapKey, positionRecord, quote } from './expressions';
import { takesPrelude } from './inputs';
import { Output } from './output';
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
 * Where something stands, as far as its template knows: `code` gives 1 where only text can stand, 2 inside SVG or MathML, else
 * 0. `marked`: no element around it holds text only, as far as this template goes.
 */
interface Place {
  code: string;
  marked: boolean;
  /** Of elements in it: known to be read as HTML or as SVG; null: as what is around the template. */
  space: 'html' | 'foreign' | null;
}
/** As the caller says. */
const given: Place = { code: 'p', marked: true, space: null };
const textOnly: Place = { code: '1', marked: false, space: null };

/** Where a traced template reports every name in reach: inside an element, or at the file's root (null); undefined: nowhere. */
export type Probe = ElementNode | null | undefined;

/**
 * Writes the JavaScript of one template: the body of `(h, S) => (rt, inp, w, fills, p) => html`.
 *
 * `h` holds the helpers of runtime.ts; `rt` is the render; `inp` the inputs, each under `$name` so that no name of JavaScript's
 * own is ever met; `w` names those written as fixed text; `fills` the contents for gaps, by `$gap`; `p` is 1 where only text can
 * stand, 2 inside SVG or MathML. Only names, numbers and JSON-quoted texts of a template reach the code, so no template can write code of its own.
 *
 * A traced template takes `f` besides, the number of its frame, and `T`, the trace: its elements carry marks, and its
 * conditions and loops tell how they came out. It is a second way of writing; a plain template's code knows nothing of it.
 */
export function generate(template: Template, analysis: Analysis, traced = false, probe: Probe = undefined): Generated {
  return new Generator(template, analysis, traced, probe).write();
}

/** Longer than most files: one writer with a method for each kind of node; all share the code written so far. */
class Generator {
  readonly #output = new Output();
  readonly #expressions: ExpressionWriter;
  readonly #attributes: AttributeWriter;
  readonly #sites: Site[] = [];
  /** The variable that holds the number of the frame that is written. */
  #frame = 'f';
  #once = 0;
  /** Chains of conditions whose outcome is asked for: others need not be remembered. */
  readonly #asked: ReadonlySet<number>;
  readonly #constants: string[] = [];
  readonly #sources: Source[] = [];

  constructor(
    readonly template: Template,
    analysis: Analysis,
    readonly traced: boolean,
    readonly probe: Probe,
  ) {
    this.#asked = analysis.asked;
    this.#expressions = new ExpressionWriter(analysis);
    this.#attributes = new AttributeWriter(this.#output, this.#expressions, analysis.places);
  }

  write(): Generated {
    if (this.probe === null) this.#tell();
    this.#children(this.template.children, this.template.chains, given);
    const written = this.#output.finish();
    const { free, freeRecords } = this.#expressions;
    const chains = [...this.#asked].map((chain) => `c${chain} = false`);
    const variables = [...chains, ...this.#expressions.variables()];
    const code = [
      "'use strict';",
      'const { R, rec, t, e, jn, fl, g, lst, pos, eq, has, add, sub, mul, div, rem, neg, lt, le, gt, ge, F, N, s, ad, a1, am, bo, cl, cls, adr, ads, sst, css, atr, js, ask, unmark } = h;',
      ...this.#constants.map((constant, at) => `const k${at} = ${constant};`),
      `return function render(rt, inp, w, fills, p${this.traced ? ', f, T' : ''}) {`,
      takesPrelude(this.template.takes, free),
      ...[...freeRecords].map((name) => `const r_${name} = $${name} instanceof R ? $${name} : rec($${name});`),
      variables.length ? `let ${variables.join(', ')};` : '',
      "let o = '';",
      written,
      'return o;',
      '};',
    ].join('\n');
    return { code, sources: this.#sources, sites: this.#sites, bindings: this.#expressions.bindings };
  }

  /** Puts a name in reach; gives the declaration of the variables that keep its fields. */
  #name(name: string, maker: Maker, made: Omit<Name, 'position' | 'kept'>): string {
    const variables = this.#expressions.keptOf(maker);
    this.#expressions.scope.set(name, { ...made, position: null, kept: variables });
    return variables.size ? `let ${[...variables.values()].join(', ')};` : '';
  }

  #site(kind: SiteKind, at: { source: Site['source']; from: number; to: number }, more: Partial<Site> = {}): number {
    const { source, from, to } = at;
    return (
      this.#sites.push({ kind, source, from, to, expression: null, parts: [], element: null, inside: null, ...more }) -
      1
    );
  }

  /** Tells the trace of every name in reach here, with its value. */
  #tell(): void {
    const { scope } = this.#expressions;
    const names = new Set([...scope.names(), ...this.template.takes.map((take) => take.name)]);
    const inside = [...names].filter((name) => scope.find(name)?.binding.kind !== 'it');
    const values = inside.map((name) => {
      const known = scope.find(name);
      if (known?.position) return `${quote(name)}: ${positionRecord(known.position)}`;
      return `${quote(name)}: ${this.#expressions.value({ kind: 'name', name, from: 0, to: 0 })}`;
    });
    this.#output.line(`T.probe(${this.#frame}, inp, { __proto__: null${values.map((one) => `, ${one}`).join('')} });`);
  }

  #children(
    nodes: readonly TemplateNode[],
    chains: readonly number[],
    place: Place,
    inside: number | null = null,
  ): void {
    for (const chain of chains) if (this.#asked.has(chain)) this.#output.line(`c${chain} = false;`);
    // A value that is all that its element holds needs no mark of its own.
    const only = inside !== null && nodes.length === 1;
    for (const node of nodes) {
      if (node.type === 'text') this.#output.print(sealed(node.text, node.loose));
      else if (node.type === 'value') this.#value(node, place, only ? inside : null);
      else if (node.type === 'element') this.#element(node, place);
    }
  }

  #value(node: TemplateNode & { type: 'value' }, place: Place, inside: number | null): void {
    const { expression } = node;
    const fixed =
      expression.kind === 'text' && !/[&<>"'\ud800-\udfff]/.test(expression.value) ? expression.value : null;
    const code = fixed === null ? `t(${this.#expressions.value(expression)}, ${place.code}, rt)` : null;
    const marked = this.traced && place.marked && code !== null;
    if (marked) {
      const site = this.#site('value', node, { expression, inside });
      if (inside === null) this.#opensMark(site);
    }
    if (code === null) this.#output.print(fixed as string);
    else this.#output.printCode(code);
    if (marked && inside === null) this.#output.print('<!--/last-->');
  }

  /** Begins what has no element of its own to be marked: a value in running text, a shelf. */
  #opensMark(site: number): void {
    this.#output.print('<!--last ');
    this.#output.printCode(this.#frame);
    this.#output.print(`.${site}-->`);
  }

  /** The order on one element: gate, each, let, when; then once; then what it prints. */
  #element(element: ElementNode, place: Place): void {
    const { gate, each, lets, when, once } = element.directives;
    const chain = this.#asked.has(element.chain) ? `c${element.chain}` : null;
    const frame = this.#frame;
    let open = 0;
    const block = (head: string) => {
      this.#output.line(`${head} {`);
      open++;
    };
    this.#expressions.within(() => {
      if (gate) block(`if (${this.#gate(element, gate, chain ?? 'false')})`);
      if (each) this.#loop(element, each, block);
      this.#lets(lets);
      if (element === this.probe) this.#tell();
      if (when) block(`if (${this.#holds(when, element)})`);
      if (chain && (gate || each || when)) this.#output.line(`${chain} = true;`);
      if (once)
        block(
          `if (rt.once(${quote(`${element.source.layer} ${element.source.file} ${this.#once++} ${element.from}`)}))`,
        );
      if (lets.length && !open) block('');
      if (element.own) this.#own(element, place);
      else this.#printed(element, place);
    });
    if (open) this.#output.line('}'.repeat(open));
    this.#frame = frame;
  }

  #gate(element: ElementNode, gate: NonNullable<ElementNode['directives']['gate']>, chain: string): string {
    if (gate.kind === 'or-when') return `!${chain} && ${this.#holds(gate.test, element)}`;
    if (!this.traced) return `!${chain}`;
    const attribute = element.attributes.find((one) => one.name === 'do:otherwise');
    const site = this.#site('condition', { source: element.source, ...span(attribute ?? element) }, { element });
    return `T.held(${this.#frame}, ${site}, !${chain}, true)`;
  }

  /** A condition of an element, as JavaScript's true or false. */
  #holds(test: Expression, element: ElementNode): string {
    if (!this.traced) return this.#expressions.holds(test);
    const parts: Expression[] = [];
    const code = this.#expressions.holdsTraced(test, (part) => parts.push(part) - 1);
    const site = this.#site(
      'condition',
      { source: element.source, ...span(test) },
      { expression: test, parts, element },
    );
    return `T.held(${this.#frame}, ${site}, ${code}, false)`;
  }

  #lets(lets: ElementNode['directives']['lets']): void {
    for (const one of lets) {
      const { name, value } = one;
      const variable = this.#expressions.fresh('v');
      const record = this.#expressions.fresh('r');
      const code = this.#expressions.value(value);
      const declared = this.#name(name, one, { variable, record, binding: { kind: 'let', value } });
      this.#output.line(
        `const ${variable} = ${code}, ${record} = ${variable} instanceof R ? ${variable} : rec(${variable}); ${declared}`,
      );
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
    const loop = this.#site('loop', { source: element.source, ...span(each.list) }, { expression: each.list, element });
    block('');
    this.#output.line(`const ${list} = lst(${expression});`);
    if (this.traced) this.#output.line(`T.loop(${this.#frame}, ${loop}, ${list}.length);`);
    block(`for (let ${at} = 0; ${at} < ${list}.length; ${at}++)`);
    const declared = this.#name(each.item, each, {
      variable: item,
      record,
      binding: { kind: 'item', loop, list: each.list },
    });
    const budget = 'if (--rt.steps < 0 || o.length > rt.size) rt.spent(o.length);';
    this.#output.line(
      `${budget} const ${item} = ${list}[${at}], ${record} = ${item} instanceof R ? ${item} : rec(${item}); ${declared}`,
    );
    if (this.traced) {
      const frame = this.#expressions.fresh('f');
      this.#output.line(`const ${frame} = T.item(${this.#frame}, ${loop}, ${at});`);
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

  #printed(element: ElementNode, place: Place): void {
    const { source, directives } = element;
    const site = this.traced && place.marked ? this.#site('element', element, { element }) : null;
    const start = () => {
      this.#output.print(source.slice(element.from, element.nameTo));
      if (site !== null) {
        this.#output.print(` ${markAttribute}="`);
        this.#output.printCode(this.#frame);
        this.#output.print(`.${site}"`);
      }
      this.#attributes.write(element);
    };
    const opened = source.slice(element.tailFrom, element.openTo) + (element.unfinished ? '>' : '');
    const closed = endTag(element);
    const raw = rawElements.has(element.name.toLowerCase());
    if (directives.asWritten) {
      start();
      const contents = source.slice(element.openTo, element.closeFrom);
      this.#output.print(opened + (element.unsound ? escapeText(contents) : contents) + closed);
      return;
    }
    // Without its tags a script or style would be seen: it goes as a whole.
    const wrapped = directives.wrapWhen && !raw ? this.#expressions.fresh('w') : null;
    const only = textElements.has(element.name.toLowerCase());
    const inside: Place = !only
      ? insideOf(element, place)
      : wrapped
        ? { ...place, code: `(${wrapped} ? 1 : ${place.code})`, marked: false }
        : textOnly;
    if (wrapped)
      this.#output.line(
        `const ${wrapped} = ${this.#holds(directives.wrapWhen as Expression, element)}; if (${wrapped}) {`,
      );
    start();
    this.#output.print(opened);
    if (wrapped) this.#output.line('}');
    if (directives.json) {
      if (holdsData(element)) this.#output.printCode(`js(${this.#expressions.value(directives.json)}, rt)`);
    } else if (raw) this.#raw(element, place);
    else this.#children(element.children, element.chains, inside, wrapped ? null : site);
    if (closed === '') return;
    if (wrapped) this.#output.line(`if (${wrapped}) {`);
    this.#output.print(closed);
    if (wrapped) this.#output.line('}');
  }

  /** In SVG and MathML a browser reads the text of a script or style for tags: there only one without any is printed. */
  #raw(element: ElementNode, { space }: Place): void {
    const text = rawText(element);
    const read = element.space === 'html' && /<[a-zA-Z!/?]/.test(text);
    if (read && space === null) this.#output.printCode(`(p === 2 ? '' : ${quote(text)})`);
    else if (!read || space === 'html') this.#output.print(text);
  }

  #own(element: ElementNode, place: Place): void {
    if (element.name === 'draw') this.#draw(element, place, null);
    else if (element.name === 'gap') this.#gap(element, place);
    else if (element.name === 'ask') this.#draw(element, place, `pieces/ask/${fixedName(element, 'type') ?? 'text'}`);
    else if (element.name === 'shelf') this.#shelf(element, place);
    else if (element.name === 'group') this.#children(element.children, element.chains, place);
    // <takes> and <amend> print nothing; a <fill> in its place is read by its draw; anywhere else it is an error and prints nothing.
  }

  #gap(element: ElementNode, place: Place): void {
    const fill = `fills.${gapKey(fixedName(element) ?? '')}`;
    let call = `${fill}(${place.code})`;
    if (this.traced) {
      call = `${fill}(${place.code}, ${this.#frame}, ${this.#site('gap', element, { element })})`;
      // Where only text can stand, marks would be seen.
      if (!place.marked) call = `(${place.code} === 1 ? unmark(${call}) : ${call})`;
    }
    this.#output.line(
      `if (fills !== null && ${fill} !== undefined) { if (--rt.steps < 0 || o.length > rt.size) rt.spent(o.length); o += ${call}; } else {`,
    );
    this.#children(element.children, element.chains, place);
    this.#output.line('}');
  }

  #shelf(element: ElementNode, place: Place): void {
    const name = quote(fixedName(element) ?? '');
    const shelf = this.#expressions.fresh('s');
    const site = this.traced ? this.#site('shelf', element, { element }) : null;
    const frame = site === null ? '' : `, ${this.#frame}, ${site}`;
    // An empty one too has its place on the page.
    const marked = site !== null && place.marked;
    if (marked) this.#opensMark(site);
    const number = (attribute: string) => /^\d{1,4}$/.exec(fixedName(element, attribute)?.trim() ?? '')?.[0];
    // A piece that is placed has its shelves to itself, once for each placement.
    const own = this.template.placeables.length > 0;
    const bounds = `${number('least') ?? 1}, ${number('most') ?? 'Infinity'}`;
    this.#output.line(
      `const ${shelf} = rt.shelf(${name}, ${own}, ${bounds}, ${place.code}, ${this.#origin(element)}${frame});`,
    );
    this.#output.line(`if (${shelf} !== null) o += ${shelf}; else {`);
    this.#children(element.children, element.chains, place);
    this.#output.line('}');
    if (marked) this.#output.print('<!--/last-->');
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

  #draw(element: ElementNode, place: Place, question: string | null): void {
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
    const site = this.traced ? `, ${this.#frame}, ${this.#site('draw', element, { inputs: given, element })}` : '';
    this.#output.printCode(
      `rt.draw(${name}, { ${inputs.join(', ')} }, ${written.length ? this.#constant(JSON.stringify(written)) : 'null'}, ${fills}, ${place.code}, ${this.#origin(element)}${site})`,
    );
  }

  /** The fills of a draw as an object of functions, or `null`. Each sees the names of this template. */
  #fills(element: ElementNode): string {
    const fills: [key: string, body: string][] = [];
    const rest: TemplateNode[] = [];
    for (const child of element.children) {
      if (child.type === 'element' && child.own && child.name === 'fill') fills.push(this.#fill(child));
      else rest.push(child);
    }
    const empty = rest.every((node) => node.type === 'comment' || (node.type === 'text' && !/\S/.test(node.text)));
    if (!empty) fills.unshift(['$', this.#function(element, () => this.#children(rest, element.chains, given))]);
    if (!fills.length) return 'null';
    const several = new Set(fills.map(([key]) => key)).size < fills.length;
    if (several) return `fl([${fills.map(([key, body]) => `[${quote(key)}, ${body}]`).join(', ')}])`;
    return `{ ${fills.map(([key, body]) => `${key}: ${body}`).join(', ')} }`;
  }

  #fill(element: ElementNode): [key: string, body: string] {
    const { gate, when, lets } = element.directives;
    const key = gapKey(fixedName(element, 'gap') ?? '');
    const body = this.#function(element, () => {
      this.#lets(lets);
      if (element === this.probe) this.#tell();
      this.#children(element.children, element.chains, given);
    });
    const chain = this.#asked.has(element.chain) ? `c${element.chain}` : null;
    if (!when && !gate) return [key, body];
    const tests: string[] = [];
    if (gate) tests.push(this.#gate(element, gate, chain ?? 'false'));
    if (when) {
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
        tests.push(names.reduceRight((inner, [variable, given]) => `((${variable}) => ${inner})(${given})`, holds));
      });
    }
    const test = tests.join(' && ');
    // The first of a chain starts it over; each tells the next whether one of them was there.
    if (!chain) return [key, `${test} ? ${body} : undefined`];
    return [key, `(${gate ? '' : `${chain} = false, `}${test} && (${chain} = true)) ? ${body} : undefined`];
  }

  /** A function expression that prints what `write` writes. */
  #function(element: ElementNode, write: () => void): string {
    const frame = this.#frame;
    let head = '(p) => {';
    if (this.traced) {
      const inner = this.#expressions.fresh('f');
      head = `(p, gf, gs) => { const ${inner} = T.fill(${frame}, ${this.#site('fill', element, { element })}, gf, gs);`;
      this.#frame = inner;
    }
    const body = this.#output.nested(() => this.#expressions.within(write));
    this.#frame = frame;
    return `${head} ${body} }`;
  }

  /** An input's value: one expression keeps its type; with text around, it is joined to text. */
  #joined(parts: readonly (string | Expression)[]): string {
    if (parts.length === 1) return this.#expressions.value(parts[0] as Expression);
    const texts = parts.map((part) =>
      typeof part === 'string' ? quote(decodeHTMLAttribute(part)) : `[${this.#expressions.value(part)}]`,
    );
    return `jn([${texts.join(', ')}], rt)`;
  }
}

/** The place inside an element in which elements may stand. */
function insideOf({ name, space }: ElementNode, place: Place): Place {
  if (space === 'html' || place.code === '1') return place;
  const html = integrationPoints.has(name.toLowerCase());
  if (place.space === (html ? 'html' : 'foreign')) return place;
  return { ...place, code: `(${place.code} === 1 ? 1 : ${html ? 0 : 2})`, space: html ? 'html' : 'foreign' };
}

/** What is printed at an element's end; '' where there is nothing to end. */
function endTag({ source, name, closeFrom, to, plainEnd }: ElementNode): string {
  if (plainEnd) return `</${name}>`;
  return closeFrom < to ? source.slice(closeFrom, to) : '';
}

/** The text of a script or style; nothing where it would not stay inside. */
function rawText({ name, children }: ElementNode): string {
  const text = children.map((node) => (node.type === 'text' ? sealed(node.text, node.loose) : '')).join('');
  return staysRaw(name.toLowerCase(), text) ? text : '';
}

const span = ({ from, to }: { from: number; to: number }) => ({ from, to });
