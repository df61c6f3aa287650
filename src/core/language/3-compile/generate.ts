import { decodeHTMLAttribute } from 'entities';
import type { Argument, Expression } from '../1-parse/expression';
import { textElements } from '../1-parse/names';
import type { Attribute, ElementNode, Template, TemplateNode } from '../1-parse/nodes';
import { fixedName } from '../2-check/check';
import { attributePlace } from '../2-check/places';
import { filterTable } from '../filters/table';
import { functionTable } from '../filters/functions';

/**
 * Writes the JavaScript of one template: the body of `(h) => (rt, inp, fills, p) => html`.
 *
 * `h` holds the helpers of runtime.ts; `rt` is the render; `inp` the inputs, each under `$name` so that no name of JavaScript's
 * own is ever met; `fills` the contents for gaps, by `$gap`; `p` is 1 where only text can stand. Only names, numbers and
 * JSON-quoted texts of a template reach the code, so no template can write code of its own.
 */
export function generate(template: Template): string {
  return new Generator(template).write();
}

interface Scope {
  names: Map<string, string>;
  /** Position variables of loops, by name: their fields are worked out in place. */
  positions: Map<string, { list: string; at: string }>;
  outer: Scope | null;
}

class Generator {
  #code = '';
  /** Literal text not yet written: joined with what follows as long as nothing comes between. */
  #text = '';
  #count = 0;
  #scope: Scope = { names: new Map(), positions: new Map(), outer: null };
  /** Names that come from outside the template. */
  readonly #free = new Set<string>();
  readonly #fields = new Set<string>();
  #once = 0;

  constructor(readonly template: Template) {}

  write(): string {
    this.#children(this.template.children, this.template.chains, 'p');
    this.#flush();
    const takes = new Map(this.template.takes.map((take) => [take.name, take]));
    const names = [...this.#free].map((name) => {
      const given = `inp.$${name}`;
      const global = name === 'shop' || name === 'look' || name === 'visit' ? ` ?? rt.globals.${name}` : '';
      return `const $${name} = ${given}${takes.has(name) ? '' : global};`;
    });
    const fields = [...this.#fields].map(
      (name) => `const f_${name} = (o) => o !== null && typeof o === 'object' && o[R] === true ? o.${name} : null;`,
    );
    const chains = Array.from({ length: this.template.chainCount }, (_, at) => `c${at} = false`);
    return [
      "'use strict';",
      'const { R, t, e, x, g, lst, pos, eq, has, add, sub, mul, div, rem, neg, lt, le, gt, ge, F, N, a1, am, cls, adr, ads, sst, css, atr, js, step, draw, keyed } = h;',
      ...fields,
      'return function render(rt, inp, fills, p) {',
      ...names,
      chains.length ? `let ${chains.join(', ')};` : '',
      "let o = '';",
      this.#code,
      'return o;',
      '};',
    ].join('\n');
  }

  #line(code: string): void {
    this.#flush();
    this.#code += `${code}\n`;
  }

  #print(text: string): void {
    this.#text += text;
  }

  #flush(): void {
    if (!this.#text) return;
    const text = this.#text;
    this.#text = '';
    this.#code += `o += ${quote(text)};\n`;
  }

  #fresh(prefix: string): string {
    return `${prefix}${this.#count++}`;
  }

  #within(fill: () => void): void {
    const outer = this.#scope;
    this.#scope = { names: new Map(), positions: new Map(), outer };
    fill();
    this.#scope = outer;
  }

  #children(nodes: TemplateNode[], chains: number[], place: string): void {
    for (const chain of chains) this.#line(`c${chain} = false;`);
    for (const node of nodes) {
      if (node.type === 'text') this.#print(node.text);
      else if (node.type === 'value') {
        if (node.expression.kind === 'text' && !/[&<>"']/.test(node.expression.value))
          this.#print(node.expression.value);
        else this.#line(`o += t(${this.#expression(node.expression)}, ${place}, rt);`);
      } else if (node.type === 'element') this.#element(node, place);
    }
  }

  /** The order on one element: gate, each, let, when; then once; then what it prints. */
  #element(element: ElementNode, place: string): void {
    const { gate, each, lets, when, once } = element.directives;
    const chain = element.chain >= 0 ? `c${element.chain}` : null;
    let open = 0;
    const block = (head: string) => {
      this.#line(`${head} {`);
      open++;
    };
    this.#within(() => {
      if (gate) {
        const test = gate.kind === 'or-when' ? ` && !${this.#test(gate.test)}` : '';
        block(`if (!${chain ?? 'false'}${test})`);
      }
      if (each) this.#loop(each, block);
      for (const { name, value } of lets) {
        const variable = this.#fresh('v');
        this.#line(`const ${variable} = ${this.#expression(value)};`);
        this.#scope.names.set(name, variable);
      }
      if (when) block(`if (!${this.#test(when)})`);
      if (chain && (gate || each || when)) this.#line(`${chain} = true;`);
      if (once) block(`if (rt.once(${quote(`${element.source.file}:${this.#once++}:${element.from}`)}))`);
      if (lets.length && !open) block('');
      if (element.own) this.#own(element, place);
      else this.#printed(element, place);
    });
    if (open) this.#line('}'.repeat(open));
  }

  #loop(each: NonNullable<ElementNode['directives']['each']>, block: (head: string) => void): void {
    const list = this.#fresh('l');
    const at = this.#fresh('i');
    const item = this.#fresh('v');
    const expression = this.#expression(each.list);
    block('');
    this.#line(`const ${list} = lst(${expression});`);
    block(`for (let ${at} = 0; ${at} < ${list}.length; ${at}++)`);
    this.#line(`step(rt, o.length); const ${item} = ${list}[${at}];`);
    this.#scope.names.set(each.item, item);
    if (each.at) {
      this.#scope.names.set(each.at, `pos(${list}, ${at})`);
      this.#scope.positions.set(each.at, { list, at });
    }
  }

  #printed(element: ElementNode, place: string): void {
    const { source, directives } = element;
    if (directives.literal) {
      this.#print(source.slice(element.from, element.nameTo));
      this.#attributes(element);
      this.#print(source.slice(element.tailFrom, element.to));
      return;
    }
    const inside = textElements.has(element.name.toLowerCase()) ? '1' : place;
    const wrapped = directives.wrapWhen ? this.#fresh('w') : null;
    if (wrapped) this.#line(`const ${wrapped} = !${this.#test(directives.wrapWhen as Expression)}; if (${wrapped}) {`);
    this.#print(source.slice(element.from, element.nameTo));
    this.#attributes(element);
    this.#print(source.slice(element.tailFrom, element.openTo));
    if (wrapped) this.#line('}');
    if (directives.json) this.#line(`o += js(${this.#expression(directives.json)});`);
    else this.#children(element.children, element.chains, inside);
    if (element.closeFrom >= element.to) return;
    if (wrapped) this.#line(`if (${wrapped}) {`);
    this.#print(source.slice(element.closeFrom, element.to));
    if (wrapped) this.#line('}');
  }

  #attributes(element: ElementNode): void {
    const refreshes = element.attributes.some((attribute) => attribute.name === 'http-equiv');
    for (const attribute of element.attributes) {
      if (attribute.name === 'do:attributes' && element.directives.attributes) {
        const written = element.attributes
          .filter((one) => !one.name.startsWith('do:'))
          .map((one) => one.name.toLowerCase());
        const expression = this.#expression(element.directives.attributes);
        this.#line(`o += atr(${expression}, ${quote(element.name)}, ${JSON.stringify(written)}, rt);`);
      } else if (attribute.name.startsWith('do:')) continue;
      else if (!attribute.parts) this.#print(element.source.slice(attribute.leadFrom, attribute.to));
      else this.#attribute(element, attribute, attribute.parts, refreshes);
    }
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
    const bare = quote(lead + name);
    const pieces = () =>
      `[${parts.map((part) => (typeof part === 'string' ? quote(part) : `[${this.#expression(part)}]`)).join(', ')}]`;
    if (place === 'class') this.#line(`o += cls(${pieces()}, ${start}, ${quote(sign)}, rt);`);
    else if (place === 'style')
      this.#line(`o += ${quote(`${lead}${name}=${sign}`)} + css(${pieces()}, rt) + ${quote(sign)};`);
    else if (place === 'address' || place === 'loading') {
      const loads = place === 'loading';
      if (whole) this.#line(`o += adr(${this.#expression(whole)}, ${start}, ${bare}, ${quote(sign)}, ${loads}, rt);`);
      else this.#line(`o += ${start} + ads(${pieces()}, ${loads}, rt) + ${quote(sign)};`);
    } else if (place === 'candidates') this.#line(`o += sst(${pieces()}, ${start}, ${quote(sign)}, rt);`);
    else if (whole) {
      const kind = place === 'words' ? 1 : place === 'alt' ? 2 : 0;
      this.#line(`o += a1(${this.#expression(whole)}, ${start}, ${bare}, ${quote(sign)}, ${kind}, rt);`);
    } else {
      this.#print(`${lead}${name}=${sign}`);
      for (const part of parts) {
        if (typeof part === 'string') this.#print(part);
        else this.#line(`o += am(${this.#expression(part)}, ${place === 'words' ? 1 : 0}, rt);`);
      }
      this.#print(sign);
    }
  }

  #own(element: ElementNode, place: string): void {
    if (element.name === 'draw') this.#draw(element, place, null);
    else if (element.name === 'gap') this.#gap(element, place);
    else if (element.name === 'ask') this.#draw(element, place, `pieces/ask/${fixedName(element, 'type') ?? 'text'}`);
    else if (element.name === 'group' || element.name === 'shelf')
      this.#children(element.children, element.chains, place);
    // <takes> and <amend> print nothing; a <fill> in its place is taken up by its draw, elsewhere it is an error and prints nothing.
  }

  #gap(element: ElementNode, place: string): void {
    const fill = `fills.${gapKey(fixedName(element) ?? '')}`;
    this.#line(`if (fills !== null && ${fill} !== undefined) o += ${fill}(${place}); else {`);
    this.#children(element.children, element.chains, place);
    this.#line('}');
  }

  #draw(element: ElementNode, place: string, fixed: string | null): void {
    const { source } = element;
    const inputs: string[] = [];
    const written: string[] = [];
    let name = fixed === null ? 'null' : quote(fixed);
    for (const attribute of element.attributes) {
      if (attribute.name.startsWith('do:')) continue;
      const { parts, value } = attribute;
      const text = value ? decodeHTMLAttribute(source.slice(value.from, value.to)) : null;
      const given = parts ? this.#joined(parts) : text === null ? 'true' : quote(text);
      if (attribute.name === 'name' && fixed === null) {
        name = given;
        continue;
      }
      const key = source.slice(attribute.from, attribute.from + attribute.name.length);
      if (!/^[A-Za-z_][A-Za-z0-9_]*$/.test(key)) continue;
      inputs.push(`$${key}: ${given}`);
      if (!parts && text !== null) written.push(key);
    }
    const fills = this.#fills(element);
    const origin = `[${quote(source.file)}, ${element.from}, ${element.openTo}]`;
    this.#line(
      `o += draw(rt, ${name}, { ${inputs.join(', ')} }, ${written.length ? JSON.stringify(written) : 'null'}, ${fills}, ${place}, ${origin});`,
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
    if (!empty) fills.unshift(`$: ${this.#function(() => this.#children(rest, element.chains, 'p'))}`);
    return fills.length ? `{ ${fills.join(', ')} }` : 'null';
  }

  #fill(element: ElementNode): string {
    const { when, lets } = element.directives;
    const key = gapKey(fixedName(element, 'gap') ?? '');
    const body = this.#function(() => {
      for (const { name, value } of lets) {
        const variable = this.#fresh('v');
        this.#line(`const ${variable} = ${this.#expression(value)};`);
        this.#scope.names.set(name, variable);
      }
      this.#children(element.children, element.chains, 'p');
    });
    if (!when) return `${key}: ${body}`;
    let test = '';
    this.#within(() => {
      // The names of a fill's do:let are in reach of its do:when: both are worked out where the draw stands.
      const wraps = lets.map(({ name, value }) => {
        const variable = this.#fresh('v');
        const given = this.#expression(value);
        this.#scope.names.set(name, variable);
        return [variable, given] as const;
      });
      test = wraps.reduceRight(
        (inner, [variable, given]) => `((${variable}) => ${inner})(${given})`,
        `!${this.#test(when)}`,
      );
    });
    return `${key}: ${test} ? ${body} : undefined`;
  }

  /** A function expression that prints what `write` writes. */
  #function(write: () => void): string {
    this.#flush();
    const outer = this.#code;
    this.#code = '';
    this.#within(write);
    this.#flush();
    const body = this.#code;
    this.#code = outer;
    return `(p) => { let o = '';\n${body}return o; }`;
  }

  /** An input's value: one expression keeps its type; with text around, it is joined to text. */
  #joined(parts: (string | Expression)[]): string {
    if (parts.length === 1) return this.#expression(parts[0] as Expression);
    const texts = parts.map((part) =>
      typeof part === 'string' ? quote(decodeHTMLAttribute(part)) : `x(${this.#expression(part)}, rt)`,
    );
    return `(${texts.join(' + ')})`;
  }

  #test(expression: Expression): string {
    return `e(${this.#expression(expression)})`;
  }

  #expression(expression: Expression): string {
    switch (expression.kind) {
      case 'text':
        return quote(expression.value);
      case 'number':
      case 'flag':
        return String(expression.value);
      case 'none':
      case 'bad':
        return 'null';
      case 'list':
        return `[${expression.items.map((item) => this.#expression(item)).join(', ')}]`;
      case 'name':
        return this.#name(expression.name);
      case 'field':
        return this.#field(expression.of, expression.name);
      case 'item':
        return `g(${this.#expression(expression.of)}, ${this.#expression(expression.key)})`;
      case 'minus':
        return `neg(${this.#expression(expression.of)})`;
      case 'not':
        return this.#test(expression.of);
      case 'and':
        return this.#either(expression.left, (left) => `e(${left}) ? ${left} : ${this.#expression(expression.right)}`);
      case 'or':
        return this.#either(expression.left, (left) => `e(${left}) ? ${this.#expression(expression.right)} : ${left}`);
      case 'choice':
        return `(${this.#test(expression.test)} ? ${this.#expression(expression.no)} : ${this.#expression(expression.yes)})`;
      case 'binary':
        return this.#binary(expression.operator, this.#expression(expression.left), this.#expression(expression.right));
      case 'call':
        return this.#call(expression.name, expression.args);
      case 'filter':
        return this.#filter(expression);
    }
  }

  /** `and` and `or` look at their left side twice: it is worked out once, into a parameter. */
  #either(left: Expression, make: (name: string) => string): string {
    const name = this.#fresh('u');
    return `((${name}) => ${make(name)})(${this.#expression(left)})`;
  }

  #binary(operator: string, left: string, right: string): string {
    const names: Record<string, string> = {
      '*': 'mul',
      '/': 'div',
      '%': 'rem',
      '-': 'sub',
      '==': 'eq',
      '<': 'lt',
      '<=': 'le',
      '>': 'gt',
      '>=': 'ge',
      in: 'has',
    };
    if (operator === '+') return `add(${left}, ${right}, rt.print)`;
    if (operator === '!=') return `!eq(${left}, ${right})`;
    if (operator === 'not in') return `!has(${left}, ${right})`;
    return `${names[operator]}(${left}, ${right})`;
  }

  #name(name: string): string {
    for (let scope: Scope | null = this.#scope; scope; scope = scope.outer) {
      const variable = scope.names.get(name);
      if (variable) return variable;
    }
    this.#free.add(name);
    return `$${name}`;
  }

  #field(of: Expression, name: string): string {
    if (of.kind === 'name') {
      for (let scope: Scope | null = this.#scope; scope; scope = scope.outer) {
        if (!scope.names.has(of.name)) continue;
        const position = scope.positions.get(of.name);
        if (position) return positionField(position, name);
        break;
      }
    }
    this.#fields.add(name);
    return `f_${name}(${this.#expression(of)})`;
  }

  #call(name: string, args: Argument[]): string {
    if (name === 'filled') {
      const gap = args[0]?.value.kind === 'text' ? args[0].value.value : '';
      return `(fills !== null && fills.${gapKey(gap)} !== undefined)`;
    }
    if (!functionTable.has(name)) return 'null';
    const { positional, named } = this.#arguments(args);
    return `N.${name}.run(rt, [${positional.join(', ')}], ${named})`;
  }

  #filter(expression: Expression & { kind: 'filter' }): string {
    const filter = filterTable.get(expression.name);
    const of = this.#expression(expression.of);
    if (!filter) return of;
    const args = [...expression.args];
    const parts = ['rt', of];
    if (filter.byItem) {
      // `by` stands first, or is left out; a text alone is the direction of sort_by.
      const by = args.shift();
      parts.push(by ? this.#byItem(by.value) : 'null');
    }
    for (const argument of args) parts.push(this.#expression(argument.value));
    return `F.${expression.name}.run(${parts.join(', ')})`;
  }

  #byItem(expression: Expression): string {
    const variable = this.#fresh('it');
    let body = '';
    this.#within(() => {
      this.#scope.names.set('it', variable);
      body = this.#expression(expression);
    });
    return `(${variable}) => { step(rt, 0); return ${body}; }`;
  }

  #arguments(args: Argument[]): { positional: string[]; named: string } {
    const positional: string[] = [];
    const named: string[] = [];
    for (const { name, value } of args) {
      if (name === null) positional.push(this.#expression(value));
      else named.push(`[${quote(name)}, ${this.#expression(value)}]`);
    }
    return { positional, named: `keyed([${named.join(', ')}])` };
  }
}

function positionField({ list, at }: { list: string; at: string }, name: string): string {
  const fields: Record<string, string> = {
    number: `(${at} + 1)`,
    index: at,
    first: `(${at} === 0)`,
    final: `(${at} === ${list}.length - 1)`,
    count: `${list}.length`,
    previous: `(${at} > 0 ? ${list}[${at} - 1] : null)`,
    next: `(${at} + 1 < ${list}.length ? ${list}[${at} + 1] : null)`,
  };
  return Object.hasOwn(fields, name) ? (fields[name] as string) : 'null';
}

/** A gap's name as a key that no name of JavaScript's own can equal. */
function gapKey(name: string): string {
  return `$${name.replace(/[^A-Za-z0-9]/g, (sign) => `_${sign.charCodeAt(0).toString(36)}_`)}`;
}

function quote(text: string): string {
  return JSON.stringify(text).replace(/[\u2028\u2029]/g, (sign) => (sign === '\u2028' ? '\\u2028' : '\\u2029'));
}
