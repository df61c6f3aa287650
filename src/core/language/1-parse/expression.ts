import { problem, rewrite, type Fix, type Problem } from '../problems';
import { operatorElsewhere } from './elsewhere';
import type { Source, Span } from './source';

export interface Argument extends Span {
  name: string | null;
  value: Expression;
}

export type BinaryOperator = '*' | '/' | '%' | '+' | '-' | '==' | '!=' | '<' | '<=' | '>' | '>=' | 'in' | 'not in';

/** What may stand between braces, as a tree. `bad` stands where text could not be read; it gives none. */
export type Expression = Span &
  (
    | { kind: 'text'; value: string }
    | { kind: 'number'; value: number }
    | { kind: 'flag'; value: boolean }
    | { kind: 'none' }
    | { kind: 'bad' }
    | { kind: 'list'; items: Expression[] }
    | { kind: 'name'; name: string }
    | { kind: 'field'; of: Expression; name: string }
    | { kind: 'item'; of: Expression; key: Expression }
    | { kind: 'call'; name: string; args: Argument[] }
    | { kind: 'minus'; of: Expression }
    | { kind: 'not'; of: Expression }
    | { kind: 'binary'; operator: BinaryOperator; left: Expression; right: Expression }
    | { kind: 'and'; left: Expression; right: Expression }
    | { kind: 'or'; left: Expression; right: Expression }
    | { kind: 'choice'; test: Expression; yes: Expression; no: Expression }
    | { kind: 'filter'; of: Expression; name: string; nameAt: Span; args: Argument[] }
  );

const words = new Set(['and', 'or', 'not', 'in', 'true', 'false', 'none']);

/** Expressions larger than this are refused: nothing that a person writes comes near. */
const maxNodes = 2000;
/** Brackets, signs and conditions inside one another. */
const maxNesting = 100;
/** Levels of the tree, chains of operators and filters included: it is walked by recursion. */
const maxDepth = 200;

/** The expressions right inside one. */
export function partsOf(expression: Expression): Expression[] {
  switch (expression.kind) {
    case 'list':
      return expression.items;
    case 'field':
    case 'minus':
    case 'not':
      return [expression.of];
    case 'item':
      return [expression.of, expression.key];
    case 'call':
      return expression.args.map((argument) => argument.value);
    case 'binary':
    case 'and':
    case 'or':
      return [expression.left, expression.right];
    case 'choice':
      return [expression.test, expression.yes, expression.no];
    case 'filter':
      return [expression.of, ...expression.args.map((argument) => argument.value)];
    default:
      return [];
  }
}

/** Thrown where reading cannot go on. No Error: a file of mistakes must not pay for stacks that nobody reads. */
class Unreadable {
  constructor(
    readonly at: Span,
    readonly message: string,
    readonly fix?: Fix,
  ) {}
}

/**
 * Reads one expression from `from`, not past `limit`. Returns it with the offset after it (white space skipped),
 * or, after reporting, null with the offset where reading stopped.
 */
export function readExpression(
  source: Source,
  from: number,
  limit: number,
  problems: Problem[],
): { expression: Expression | null; end: number } {
  const reader = new ExpressionReader(source.text, from, limit);
  try {
    const expression = reader.piped();
    reader.space();
    reader.refuseElsewhere();
    return { expression, end: reader.at };
  } catch (error) {
    if (!(error instanceof Unreadable)) throw error;
    const reported = problem('expression', source, error.at, { text: error.message });
    if (error.fix) reported.fix = error.fix;
    problems.push(reported);
    return { expression: null, end: error.at.from };
  }
}

/** Reads an expression that must fill all of `from` to `to`: the value of a directive. */
export function readWhole(source: Source, from: number, to: number, problems: Problem[]): Expression {
  const braced = /^\s*\{+([^]*?)\}+\s*$/.exec(source.slice(from, to));
  if (braced) {
    const reported = problem(
      'expression',
      source,
      { from, to },
      { text: 'A directive takes its expression without braces' },
    );
    reported.fix = rewrite('Take the braces out', { from, to }, (braced[1] as string).trim());
    problems.push(reported);
    return { kind: 'bad', from, to };
  }
  const { expression, end } = readExpression(source, from, to, problems);
  if (expression && end >= to) return expression;
  if (expression) {
    const rest = source.slice(end, to);
    problems.push(
      problem('expression', source, { from: end, to }, { text: `The expression ends before “${shown(rest)}”` }),
    );
  }
  return { kind: 'bad', from, to };
}

export function isName(text: string): boolean {
  return /^[A-Za-z_][A-Za-z0-9_]*$/.test(text) && !words.has(text);
}

function shown(text: string): string {
  const short = text.trim().split('\n')[0] ?? '';
  return short.length > 24 ? `${short.slice(0, 24)}…` : short;
}

/** Longer than most files: one reader, with a method for each level of the grammar. */
class ExpressionReader {
  #nodes = 0;
  #depth = 0;
  readonly #levels = new WeakMap<Expression, number>();

  constructor(
    readonly text: string,
    public at: number,
    readonly limit: number,
  ) {}

  space(): void {
    while (this.at < this.limit && isSpace(this.text.charCodeAt(this.at))) this.at++;
  }

  piped(): Expression {
    if (++this.#depth > maxNesting) this.fail(this.at, 'The expression is nested too deeply');
    let left = this.choice();
    for (;;) {
      this.refuseElsewhere();
      if (!this.takes('|')) break;
      const nameFrom = this.skipTo();
      const name = this.word();
      if (!name) this.unexpected('a filter’s name');
      const nameAt = { from: nameFrom, to: this.at };
      const args = this.peek() === '(' ? this.args() : [];
      left = this.node({ kind: 'filter', of: left, name, nameAt, args, from: left.from, to: this.at });
    }
    this.#depth--;
    return left;
  }

  choice(): Expression {
    const test = this.or();
    this.refuseElsewhere();
    if (!this.takes('?')) return test;
    if (++this.#depth > maxNesting) this.fail(this.at, 'The expression is nested too deeply');
    const yes = this.choice();
    if (!this.takes(':')) this.unexpected('“:” and what is meant otherwise');
    const no = this.choice();
    this.#depth--;
    return this.node({ kind: 'choice', test, yes, no, from: test.from, to: no.to });
  }

  or(): Expression {
    let left = this.and();
    while (this.takesWord('or')) {
      const right = this.and();
      left = this.node({ kind: 'or', left, right, from: left.from, to: right.to });
    }
    return left;
  }

  and(): Expression {
    let left = this.not();
    while (this.takesWord('and')) {
      const right = this.not();
      left = this.node({ kind: 'and', left, right, from: left.from, to: right.to });
    }
    return left;
  }

  not(): Expression {
    const from = this.skipTo();
    if (!this.takesWord('not')) return this.comparison();
    if (++this.#depth > maxNesting) this.fail(this.at, 'The expression is nested too deeply');
    const of = this.not();
    this.#depth--;
    return this.node({ kind: 'not', of, from, to: of.to });
  }

  comparison(): Expression {
    let left = this.sum();
    for (;;) {
      const operator = this.comparisonOperator();
      if (!operator) return left;
      const right = this.sum();
      left = this.node({ kind: 'binary', operator, left, right, from: left.from, to: right.to });
    }
  }

  comparisonOperator(): BinaryOperator | null {
    this.refuseElsewhere();
    for (const operator of ['==', '!=', '<=', '>=', '<', '>'] as const) if (this.takes(operator)) return operator;
    if (this.takesWord('in')) return 'in';
    const before = this.at;
    if (this.takesWord('not')) {
      if (this.takesWord('in')) return 'not in';
      this.at = before;
    }
    return null;
  }

  sum(): Expression {
    let left = this.product();
    for (;;) {
      const operator = this.takes('+') ? '+' : this.takes('-') ? '-' : null;
      if (!operator) return left;
      const right = this.product();
      left = this.node({ kind: 'binary', operator, left, right, from: left.from, to: right.to });
    }
  }

  product(): Expression {
    let left = this.unary();
    for (;;) {
      const operator = this.takes('*') ? '*' : this.takes('/') ? '/' : this.takes('%') ? '%' : null;
      if (!operator) return left;
      const right = this.unary();
      left = this.node({ kind: 'binary', operator, left, right, from: left.from, to: right.to });
    }
  }

  unary(): Expression {
    const from = this.skipTo();
    if (!this.takes('-')) return this.path();
    if (++this.#depth > maxNesting) this.fail(from, 'The expression is nested too deeply');
    const of = this.unary();
    this.#depth--;
    return this.node({ kind: 'minus', of, from, to: of.to });
  }

  path(): Expression {
    let left = this.single();
    for (;;) {
      this.space();
      if (this.peek() === '.') {
        const dot = this.at++;
        const name = isWordStart(this.text.charCodeAt(this.at)) && this.at < this.limit ? this.word() : '';
        if (!name) this.fail(dot, 'A field’s name is missing after “.”', dot + 1);
        if (this.peek() === '(') this.refuseMethod(left, name);
        left = this.node({ kind: 'field', of: left, name, from: left.from, to: this.at });
      } else if (this.peek() === '[') {
        this.at++;
        const key = this.piped();
        if (!this.takes(']')) this.unexpected('“]”');
        left = this.node({ kind: 'item', of: left, key, from: left.from, to: this.at });
      } else {
        return left;
      }
    }
  }

  single(): Expression {
    const from = this.skipTo();
    const code = from < this.limit ? this.text.charCodeAt(from) : -1;
    if (code === 40 /* ( */) {
      this.at++;
      const inner = this.piped();
      if (!this.takes(')')) this.unexpected('“)”');
      const bracketed = { ...inner, from, to: this.at };
      this.#levels.set(bracketed, this.#levels.get(inner) ?? 0);
      return bracketed;
    }
    if (code === 91 /* [ */) return this.list(from);
    if (code === 39 || code === 34) return this.quoted(from, code);
    if (code >= 48 && code <= 57) return this.digits(from);
    if (code === 33 /* ! */) {
      const at = { from, to: from + 1 };
      throw new Unreadable(at, '“!” is not of this language: write “not”', rewrite('Write “not”', at, 'not '));
    }
    if (!isWordStart(code)) this.unexpected('a value');
    const name = this.word();
    if (name === 'true' || name === 'false')
      return this.node({ kind: 'flag', value: name === 'true', from, to: this.at });
    if (name === 'none') return this.node({ kind: 'none', from, to: this.at });
    if (words.has(name)) this.fail(from, `A value is missing before “${name}”`, this.at);
    if (this.peek() === '(') {
      const args = this.args();
      return this.node({ kind: 'call', name, args, from, to: this.at });
    }
    return this.node({ kind: 'name', name, from, to: this.at });
  }

  list(from: number): Expression {
    this.at++;
    const items: Expression[] = [];
    while (!this.takes(']')) {
      if (items.length && !this.takes(',')) this.unexpected('“,” or “]”');
      if (items.length && this.takes(']')) break;
      items.push(this.piped());
    }
    return this.node({ kind: 'list', items, from, to: this.at });
  }

  quoted(from: number, quote: number): Expression {
    let value = '';
    let run = from + 1;
    for (let at = run; at < this.limit; at++) {
      const code = this.text.charCodeAt(at);
      if (code === 92 /* \ */ && at + 1 < this.limit) {
        const next = this.text[at + 1] as string;
        value += this.text.slice(run, at) + (next === 'n' ? '\n' : next === 't' ? '\t' : next);
        run = ++at + 1;
      } else if (code === quote) {
        this.at = at + 1;
        return this.node({ kind: 'text', value: value + this.text.slice(run, at), from, to: this.at });
      }
    }
    return this.fail(from, 'The text is not closed: its quote is missing', Math.min(this.limit, from + 1));
  }

  digits(from: number): Expression {
    while (this.at < this.limit && isDigit(this.text.charCodeAt(this.at))) this.at++;
    if (this.peek() === '.' && this.at + 1 < this.limit && isDigit(this.text.charCodeAt(this.at + 1))) {
      this.at++;
      while (this.at < this.limit && isDigit(this.text.charCodeAt(this.at))) this.at++;
    }
    const value = Number(this.text.slice(from, this.at));
    if (!Number.isFinite(value)) this.fail(from, 'The number is too large', this.at);
    return this.node({ kind: 'number', value, from, to: this.at });
  }

  args(): Argument[] {
    this.at++;
    const args: Argument[] = [];
    while (!this.takes(')')) {
      if (args.length && !this.takes(',')) this.unexpected('“,” or “)”');
      if (args.length && this.takes(')')) break;
      const from = this.skipTo();
      let name: string | null = null;
      if (isWordStart(this.text.charCodeAt(from)) && from < this.limit) {
        const word = this.word();
        if (!words.has(word) && this.takes(':')) name = word;
        else {
          this.space();
          const assigned = this.peek() === '=' && this.text[this.at + 1] !== '=';
          const at = { from: this.at, to: this.at + 1 };
          if (assigned)
            throw new Unreadable(
              at,
              `An argument’s name stands before a colon: ${word}: …`,
              rewrite('Write “:”', at, ':'),
            );
          this.at = from;
        }
      } else if (this.peek() === "'" || this.peek() === '"') {
        const key = this.quoted(from, this.text.charCodeAt(from));
        if (key.kind === 'text' && this.takes(':')) name = key.value;
        else this.at = from;
      }
      const value = this.piped();
      args.push({ name, value, from, to: this.at });
    }
    return args;
  }

  /** An operator of another language, named as such. */
  refuseElsewhere(): void {
    this.space();
    const code = this.at < this.limit ? this.text.charCodeAt(this.at) : 0;
    // Only what begins with one of & | = ! < ? can be one.
    if (code !== 38 && code !== 124 && code !== 61 && code !== 33 && code !== 60 && code !== 63) return;
    const found = operatorElsewhere(this.text.slice(this.at, Math.min(this.limit, this.at + 12)));
    if (!found) return;
    const at = { from: this.at, to: this.at + found.length };
    const fix = found.instead === null ? undefined : rewrite(`Write “${found.instead}”`, at, found.instead);
    throw new Unreadable(at, found.says, fix);
  }

  /** A field that is called: filters do that here. */
  refuseMethod(of: Expression, name: string): never {
    const at = { from: of.from, to: this.at };
    const path = this.text.slice(of.from, of.to);
    throw new Unreadable(at, `A field is not called: a filter would be written {${path} | ${name}}`);
  }

  word(): string {
    const from = this.at;
    while (this.at < this.limit && isWordPart(this.text.charCodeAt(this.at))) this.at++;
    return this.text.slice(from, this.at);
  }

  peek(): string {
    return this.at < this.limit ? (this.text[this.at] as string) : '';
  }

  skipTo(): number {
    this.space();
    return this.at;
  }

  takes(sign: string): boolean {
    this.space();
    if (this.at + sign.length > this.limit || !this.text.startsWith(sign, this.at)) return false;
    this.at += sign.length;
    return true;
  }

  takesWord(word: string): boolean {
    const before = this.at;
    this.space();
    if (this.at + word.length <= this.limit && this.text.startsWith(word, this.at)) {
      const after = this.at + word.length;
      if (after >= this.limit || !isWordPart(this.text.charCodeAt(after))) {
        this.at = after;
        return true;
      }
    }
    this.at = before;
    return false;
  }

  node<T extends Expression>(made: T): T {
    if (++this.#nodes > maxNodes) this.fail(made.from, 'The expression is too long', made.to);
    let level = 0;
    for (const part of partsOf(made)) level = Math.max(level, this.#levels.get(part) ?? 0);
    if (level >= maxDepth)
      this.fail(made.from, 'The expression is too long: give a part of it a name with do:let', made.to);
    this.#levels.set(made, level + 1);
    return made;
  }

  unexpected(wanted: string): never {
    const stopped = this.at;
    this.space();
    const rest = this.text.slice(this.at, this.limit);
    if (!rest || /^[}<]/.test(rest)) {
      // Where an expression is cut short, its last sign is marked: after it may be nothing to mark.
      let end = stopped;
      while (end > 1 && isSpace(this.text.charCodeAt(end - 1))) end--;
      return this.fail(end - 1, `The expression ends early: ${wanted} is missing`, end);
    }
    return this.fail(
      this.at,
      `${wanted[0]?.toUpperCase()}${wanted.slice(1)} is missing before “${shown(rest.slice(0, 12))}”`,
    );
  }

  fail(from: number, message: string, to = from + 1): never {
    throw new Unreadable({ from, to: Math.min(Math.max(to, from), Math.max(this.limit, from)) }, message);
  }
}

function isSpace(code: number): boolean {
  return code === 32 || code === 10 || code === 13 || code === 9 || code === 12;
}
function isDigit(code: number): boolean {
  return code >= 48 && code <= 57;
}
function isWordStart(code: number): boolean {
  return (code >= 97 && code <= 122) || (code >= 65 && code <= 90) || code === 95;
}
function isWordPart(code: number): boolean {
  return isWordStart(code) || isDigit(code);
}
