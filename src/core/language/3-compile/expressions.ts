import { kindNow } from '../values/renamed';
import type { Argument, BinaryOperator, Expression } from '../1-parse/expression';
import { filterTable } from '../filters/table';
import { functionTable } from '../filters/functions';
import type { Analysis, Maker } from '../2-check/analysis';
import { filterSignatures } from '../types/signatures';
import { Scope, type Binding, type Kept } from './scope';

const operators: Partial<Record<BinaryOperator, string>> = {
  '*': 'mul',
  '/': 'div',
  '%': 'rem',
  '-': 'sub',
  '<': 'lt',
  '<=': 'le',
  '>': 'gt',
  '>=': 'ge',
};

/** Comparisons whose result is true or false, never another value. */
const flags = new Set<BinaryOperator>(['==', '!=', '<', '<=', '>', '>=', 'in', 'not in']);

/**
 * Writes expressions as JavaScript. Only names, numbers and JSON-quoted texts of a template reach the code. Each method
 * gives the code of an expression that has no side effect but the temporaries declared by `temporaries`.
 */
export class ExpressionWriter {
  scope = new Scope(null);
  /** Names that come from outside the template. */
  readonly free = new Set<string>();
  /** Those of them that are read as records. */
  readonly freeRecords = new Set<string>();
  readonly temporaries: string[] = [];
  /** What each name that was written is bound to, for following values back to the data. */
  readonly bindings = new Map<Expression, Binding>();
  /** Variables that keep fields of names from outside. */
  readonly #freeKept = new Map<string, Kept>();
  #count = 0;

  constructor(readonly analysis: Analysis) {}

  /** Variables for the fields of a name that are read more than once: a field of the catalogue may have to be looked up, and is the same all page long. */
  keptOf(maker: Maker): Kept {
    return new Map((this.analysis.repeated.get(maker) ?? []).map((path) => [path, this.fresh('q')]));
  }

  /** Variables of the template's function, to be declared at its beginning. */
  variables(): string[] {
    return [...this.temporaries, ...[...this.#freeKept.values()].flatMap((kept) => [...kept.values()])];
  }

  /** A field's reading: the first one of several keeps the value. */
  #keep(kept: Kept, path: string, code: string): string {
    const variable = kept.get(path);
    return variable ? `(${variable} ?? (${variable} = ${code}))` : code;
  }

  /** Where the fields of a path of plain fields are kept; null for any other expression. */
  #path(expression: Expression): { kept: Kept; path: string } | null {
    if (expression.kind === 'name') {
      const known = this.scope.find(expression.name);
      this.bindings.set(expression, known?.binding ?? { kind: 'outside' });
      if (known) return known.kept && !known.position ? { kept: known.kept, path: '' } : null;
      this.free.add(expression.name);
      let variables = this.#freeKept.get(expression.name);
      if (!variables) this.#freeKept.set(expression.name, (variables = this.keptOf(expression.name)));
      return { kept: variables, path: '' };
    }
    if (expression.kind !== 'field') return null;
    const of = this.#path(expression.of);
    return of && { kept: of.kept, path: `${of.path}.${expression.name}` };
  }

  fresh(prefix: string): string {
    return `${prefix}${this.#count++}`;
  }

  /** Writes with names of its own inside, which end with it. */
  within(write: () => void): void {
    const outer = this.scope;
    this.scope = new Scope(outer);
    write();
    this.scope = outer;
  }

  /** A variable of the template's function, for a value that is looked at twice. */
  temporary(): string {
    const name = this.fresh('u');
    this.temporaries.push(name);
    return name;
  }

  /** The value of an expression. */
  value(expression: Expression): string {
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
        return `[${expression.items.map((item) => this.value(item)).join(', ')}]`;
      case 'name':
        return this.#name(expression, expression.name);
      case 'field':
        return this.#field(expression);
      case 'item':
        return `g(${this.value(expression.of)}, ${this.value(expression.key)})`;
      case 'minus':
        return `neg(${this.value(expression.of)})`;
      case 'not':
        return this.holds(expression);
      case 'and': {
        const left = this.temporary();
        return `(e(${left} = ${this.value(expression.left)}, rt) ? ${left} : ${this.value(expression.right)})`;
      }
      case 'or': {
        const left = this.temporary();
        return `(e(${left} = ${this.value(expression.left)}, rt) ? ${this.value(expression.right)} : ${left})`;
      }
      case 'choice':
        return `(${this.holds(expression.test)} ? ${this.value(expression.yes)} : ${this.value(expression.no)})`;
      case 'binary':
        return this.#binary(expression.operator, expression.left, expression.right);
      case 'call':
        return this.#call(expression.name, expression.args);
      case 'filter':
        return this.#filter(expression);
    }
  }

  /** Whether an expression is not empty: JavaScript's true or false. */
  holds(expression: Expression): string {
    switch (expression.kind) {
      case 'not':
        return `!${this.holds(expression.of)}`;
      case 'and':
        return `(${this.holds(expression.left)} && ${this.holds(expression.right)})`;
      case 'or':
        return `(${this.holds(expression.left)} || ${this.holds(expression.right)})`;
      case 'flag':
        return String(expression.value);
      case 'binary':
        if (flags.has(expression.operator)) return this.value(expression);
    }
    return `!e(${this.value(expression)}, rt)`;
  }

  /**
   * The same, telling a trace which part decided: the last one looked at, with its value (of a comparison, its two sides).
   * `part` gives a part's number.
   */
  holdsTraced(expression: Expression, part: (expression: Expression) => number): string {
    switch (expression.kind) {
      case 'not':
        return `!${this.holdsTraced(expression.of, part)}`;
      case 'and':
        return `(${this.holdsTraced(expression.left, part)} && ${this.holdsTraced(expression.right, part)})`;
      case 'or':
        return `(${this.holdsTraced(expression.left, part)} || ${this.holdsTraced(expression.right, part)})`;
    }
    const set = `T.part = ${part(expression)}`;
    if (expression.kind === 'binary' && flags.has(expression.operator)) {
      const [left, right] = [this.temporary(), this.temporary()];
      const given = `T.value = ${left} = ${this.value(expression.left)}, T.other = ${right} = ${this.value(expression.right)}`;
      return `(${set}, ${given}, ${comparison(expression.operator, left, right)})`;
    }
    return `(${set}, T.other = undefined, !e(T.value = ${this.value(expression)}, rt))`;
  }

  /** An expression as a record: the empty record where it is none. */
  #record(expression: Expression): string {
    const path = expression.kind === 'field' ? this.#path(expression) : null;
    if (path) return this.#keep(path.kept, `${path.path}!`, `rec(${this.value(expression)})`);
    if (expression.kind !== 'name') return `rec(${this.value(expression)})`;
    const known = this.scope.find(expression.name);
    if (!known) {
      this.bindings.set(expression, { kind: 'outside' });
      this.free.add(expression.name);
      this.freeRecords.add(expression.name);
      return `r_${expression.name}`;
    }
    this.bindings.set(expression, known.binding);
    return known.record ?? `rec(${known.variable})`;
  }

  #name(expression: Expression, name: string): string {
    const known = this.scope.find(name);
    this.bindings.set(expression, known?.binding ?? { kind: 'outside' });
    if (known) return known.variable;
    this.free.add(name);
    return `$${name}`;
  }

  #field(expression: Expression & { kind: 'field' }): string {
    const { of, name } = expression;
    if (of.kind === 'name') {
      const known = this.scope.find(of.name);
      if (known?.position) {
        this.bindings.set(of, known.binding);
        return positionField(known.position, name);
      }
    }
    const path = this.#path(expression);
    const code = `${this.#record(of)}.${name}`;
    return path ? this.#keep(path.kept, path.path, code) : code;
  }

  #binary(operator: BinaryOperator, left: Expression, right: Expression): string {
    const [a, b] = [this.value(withKindNow(left, right)), this.value(withKindNow(right, left))];
    if (operator === '+') return `add(${a}, ${b}, rt)`;
    const named = operators[operator];
    if (named && !flags.has(operator)) return `${named}(${a}, ${b})`;
    const plain = [left, right].some(({ kind }) => kind === 'text' || kind === 'flag' || kind === 'number');
    if (plain && operator === '==') return `(${a} === ${b})`;
    if (plain && operator === '!=') return `(${a} !== ${b})`;
    return comparison(operator, a, b);
  }

  #call(name: string, args: Argument[]): string {
    if (name === 'filled') {
      const gap = args[0]?.value.kind === 'text' ? args[0].value.value : '';
      return `(fills !== null && fills.${gapKey(gap)} !== undefined)`;
    }
    if (!functionTable.has(name)) return 'null';
    const positional = args.filter((one) => one.name === null).map((one) => this.value(one.value));
    const named = args.flatMap((one) => (one.name === null ? [] : `[${quote(one.name)}]: ${this.value(one.value)}`));
    return `N.${name}.run(rt, [${positional.join(', ')}], { __proto__: null${named.map((one) => `, ${one}`).join('')} })`;
  }

  #filter(expression: Expression & { kind: 'filter' }): string {
    const filter = filterTable.get(expression.name);
    const of = this.value(expression.of);
    if (!filter) return of;
    const signature = filterSignatures[expression.name];
    const args = [...expression.args];
    const parts = ['rt', of];
    if (filter.byItem) {
      const by = args[0]?.name === null || args[0]?.name === 'e' ? args.shift() : undefined;
      parts.push(by ? this.#byItem(by.value, expression.of) : 'null');
    }
    const given: string[] = [];
    let next = 0;
    for (const { name, value } of args) {
      const at = name === null ? next++ : (signature?.parameters.findIndex((one) => one.name === name) ?? -1);
      if (at >= 0) given[at] = this.value(value);
    }
    for (let at = 0; at < given.length; at++) parts.push(given[at] ?? 'undefined');
    return `F.${expression.name}.run(${parts.join(', ')})`;
  }

  #byItem(expression: Expression, list: Expression): string {
    const variable = this.fresh('it');
    const record = this.fresh('r');
    let body = '';
    this.within(() => {
      this.scope.set('it', { variable, record, position: null, kept: null, binding: { kind: 'it', list } });
      body = this.value(expression);
    });
    const declared = body.includes(`${record}.`) ? `const ${record} = rec(${variable}); ` : '';
    return `(${variable}) => { rt.work(1); ${declared}return ${body}; }`;
  }
}

function comparison(operator: BinaryOperator, a: string, b: string): string {
  if (operator === '==') return `eq(${a}, ${b}, rt)`;
  if (operator === '!=') return `!eq(${a}, ${b}, rt)`;
  if (operator === 'in') return `has(${a}, ${b}, rt)`;
  if (operator === 'not in') return `!has(${a}, ${b}, rt)`;
  return `${operators[operator]}(${a}, ${b}, rt)`;
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

/** JavaScript that gives a loop's position as a record. */
export function positionRecord(position: { list: string; at: string }): string {
  const names = ['number', 'index', 'first', 'final', 'count', 'previous', 'next'];
  return `h.position({ ${names.map((name) => `${name}: ${positionField(position, name)}`).join(', ')} })`;
}

/** A gap's name as a key that no name of JavaScript's own can equal. */
export function gapKey(name: string): string {
  return `$${name.replace(/[^A-Za-z0-9]/g, (sign) => `_${sign.charCodeAt(0).toString(36)}_`)}`;
}

/** A text as a JavaScript literal. */
export function quote(text: string): string {
  return JSON.stringify(text).replace(/[\u2028\u2029]/g, (sign) => (sign === '\u2028' ? '\\u2028' : '\\u2029'));
}

/** A kind that is written out and compared with a field called `kind`: by the name that it has now. */
const withKindNow = (written: Expression, other: Expression): Expression =>
  written.kind === 'text' && other.kind === 'field' && other.name === 'kind'
    ? { ...written, value: kindNow(written.value) }
    : written;
