import type { Argument, BinaryOperator, Expression } from '../1-parse/expression';
import type { Span } from '../1-parse/source';
import { writeExpression } from '../1-parse/write';
import { filterTable } from '../filters/table';
import { functionTable } from '../filters/functions';
import { nearestOf } from '../nearest';
import { kindNow } from '../values/renamed';
import { noneElsewhere } from '../1-parse/elsewhere';
import { rewrite, type About, type Fix, type ProblemCode } from '../problems';
import { filterSignatures, functionSignatures, type Parameter, type Signature } from '../types/signatures';
import {
  any,
  either,
  fits,
  flag,
  inWords,
  listOf,
  money,
  none,
  number,
  recordOf,
  sureNumber,
  text,
  withEmpty,
  type Kind,
  type Type,
} from '../types/types';
import type { ThemeFacts } from './facts';
import { known, type Known, type TypeScope } from './scope';

export type Report = (code: ProblemCode, span: Span, about?: About, fix?: Fix) => void;

/** What is asked of functions whose argument names a thing of the theme or the shop. */
export type Referred = (call: Expression & { kind: 'call' }, report: Report) => void;

const comparisons = new Set<BinaryOperator>(['==', '!=', '<', '<=', '>', '>=', 'in', 'not in']);
const ordered = new Set<Kind>(['Text', 'Number', 'Money', 'Day']);

/**
 * Works out the type of every expression of a template, and reports what cannot be meant.
 * Longer than most files: one walk, with a method for each kind of expression.
 */
export class Inference {
  readonly types = new Map<Expression, Type>();
  /** Why a comparison always or never holds. */
  readonly reasons = new Map<Expression, string>();
  /** Called for each condition inside an expression: the test of a choice, keep and drop. */
  onCondition: (test: Expression) => void = () => {};

  constructor(
    readonly theme: ThemeFacts,
    readonly report: Report,
    readonly referred: Referred,
  ) {}

  infer(expression: Expression, scope: TypeScope): Type {
    const type = this.#infer(expression, scope);
    this.types.set(expression, type);
    return type;
  }

  #infer(expression: Expression, scope: TypeScope): Type {
    switch (expression.kind) {
      case 'text':
        return { kind: 'Text', empty: /\S/.test(expression.value) ? 'no' : 'yes', literal: expression.value };
      case 'number':
        return { ...sureNumber, literal: expression.value };
      case 'flag':
        return { kind: 'Flag', empty: expression.value ? 'no' : 'yes', literal: expression.value };
      case 'none':
        return none;
      case 'bad':
        return any;
      case 'list': {
        const items = expression.items.map((item) => this.infer(item, scope));
        return listOf(items.length ? items.reduce(either) : any, items.length ? 'no' : 'yes');
      }
      case 'name':
        return this.#name(expression, scope);
      case 'field':
        return this.#field(expression, this.infer(expression.of, scope), scope);
      case 'item':
        return this.#item(expression, scope);
      case 'call':
        return this.#call(expression, scope);
      case 'minus': {
        const of = this.infer(expression.of, scope);
        return of.kind === 'Number' || of.kind === 'Money' ? { kind: of.kind, empty: of.empty } : any;
      }
      case 'not': {
        const { empty } = this.infer(expression.of, scope);
        return withEmpty(flag, empty === 'yes' ? 'no' : empty === 'no' ? 'yes' : 'perhaps');
      }
      case 'and': {
        const [left, right] = [this.infer(expression.left, scope), this.infer(expression.right, scope)];
        const never = left.empty === 'yes' || right.empty === 'yes';
        const empty = never ? 'yes' : left.empty === 'no' ? right.empty : 'perhaps';
        return withEmpty(left.empty === 'no' ? right : either(left, right), empty);
      }
      case 'or': {
        const [left, right] = [this.infer(expression.left, scope), this.infer(expression.right, scope)];
        const always = left.empty === 'no' || right.empty === 'no';
        const empty = always ? 'no' : left.empty === 'yes' ? right.empty : 'perhaps';
        return withEmpty(left.empty === 'yes' ? right : either(left, right), empty);
      }
      case 'choice': {
        this.infer(expression.test, scope);
        this.onCondition(expression.test);
        return either(this.infer(expression.yes, scope), this.infer(expression.no, scope));
      }
      case 'binary':
        return this.#binary(expression, scope);
      case 'filter':
        return this.#filter(expression, scope);
    }
  }

  #name(expression: Expression & { kind: 'name' }, scope: TypeScope): Type {
    const found = scope.find(expression.name);
    if (found) {
      found.used = true;
      return found.type;
    }
    if (!this.theme.types) return any;
    if (noneElsewhere.has(expression.name)) {
      const hint = 'what is not there is “none”';
      this.report(
        'name',
        expression,
        { name: expression.name, near: '', hint },
        rewrite('Write “none”', expression, 'none'),
      );
      return none;
    }
    const near = nearestOf(expression.name, scope.names());
    const hint = near
      ? ''
      : (nameHints[expression.name] ?? 'declare it with <takes>, and give it where the template is drawn');
    this.report('name', expression, { name: expression.name, near: near?.name ?? '', hint }, fixOf(near, expression));
    return any;
  }

  #field(expression: Expression & { kind: 'field' }, of: Type, scope: TypeScope): Type {
    const { name } = expression;
    const at = { from: expression.to - name.length, to: expression.to };
    if (
      expression.of.kind === 'name' &&
      scope.find(expression.of.name)?.filtered &&
      (name === 'final' || name === 'first')
    )
      this.report('at-final', expression, { name: writeExpression(expression) });
    if (of.kind === 'Any') return any;
    if (of.kind === 'None') return none;
    const part = of.kind === 'Day' ? this.theme.types?.fields('Day')?.get(name) : undefined;
    if (part) return withEmpty(part, of.empty === 'no' ? 'no' : 'perhaps');
    if (of.kind !== 'Record') {
      if (!this.theme.types) return none;
      const hint = of.kind === 'List' ? (listHints[name] ?? 'go through it with do:each, or take one item: [0]') : '';
      this.report('field', at, { type: capital(inWords(of)), name, near: '', hint });
      return none;
    }
    const fields = of.object ? (this.theme.types?.fields(of.object) ?? null) : (of.fields ?? null);
    if (!fields) return any;
    const found = fields.get(name);
    if (found) return of.empty === 'no' ? found : withEmpty(found, found.empty === 'no' ? 'perhaps' : found.empty);
    const near = nearestOf(name, fields.keys());
    this.report('field', at, { type: inWords(of), name, near: near?.name ?? '' }, fixOf(near, at));
    return any;
  }

  #item(expression: Expression & { kind: 'item' }, scope: TypeScope): Type {
    const of = this.infer(expression.of, scope);
    const key = this.infer(expression.key, scope);
    if (of.kind === 'List') return withEmpty(of.of ?? any, 'perhaps');
    if (of.kind !== 'Record' || typeof key.literal !== 'string') return any;
    const fields = of.object ? (this.theme.types?.fields(of.object) ?? null) : (of.fields ?? null);
    const found = fields?.get(key.literal);
    if (!fields || found) return found ?? any;
    const near = nearestOf(key.literal, fields.keys());
    this.report('field', expression.key, { type: inWords(of), name: key.literal, near: near?.name ?? '' });
    return any;
  }

  #binary(expression: Expression & { kind: 'binary' }, scope: TypeScope): Type {
    const { operator } = expression;
    const types = [this.infer(expression.left, scope), this.infer(expression.right, scope)] as const;
    const left = this.#withKindNow(expression.left, types[0], types[1]);
    const right = this.#withKindNow(expression.right, types[1], types[0]);
    if (comparisons.has(operator)) {
      const [holds, why] = this.#compare(operator, left, right);
      if (why) this.reasons.set(expression, why);
      return withEmpty(flag, holds === null ? 'perhaps' : holds ? 'no' : 'yes');
    }
    const result = arithmetic(operator, left, right);
    if (result)
      return withEmpty(result, left.empty === 'no' && right.empty === 'no' && operator !== '/' ? 'no' : 'perhaps');
    this.report('kind', expression, {
      text: `“${operator}” of ${inWords(left)} and ${inWords(right)} gives none`,
    });
    return none;
  }

  /** The type of a kind that is written out, by the name that it has now; an old name is reported, with what it is called. */
  #withKindNow(written: Expression, type: Type, { options }: Type): Type {
    if (written.kind !== 'text' || !options || options.includes(written.value)) return type;
    const now = kindNow(written.value);
    if (!options.includes(now)) return type;
    const inside = { from: written.from + 1, to: written.to - 1 };
    this.report('renamed', written, { name: written.value, now }, rewrite(`Write “${now}”`, inside, now));
    return { ...type, literal: now };
  }

  /** Whether a comparison can only come out one way, and why; null when it can come out either way. */
  #compare(operator: BinaryOperator, left: Type, right: Type): [boolean | null, string] {
    const unknown = left.kind === 'Any' || right.kind === 'Any';
    const negated = operator === '!=' || operator === 'not in';
    if (operator === 'in' || operator === 'not in') {
      if (right.kind === 'Any' || right.kind === 'None') return [null, ''];
      if (right.kind !== 'List' && right.kind !== 'Text')
        return [negated, `${inWords(right)} holds nothing: “in” looks in a list or a text`];
      if (right.kind === 'Text' && left.kind !== 'Text' && left.kind !== 'Any')
        return [negated, `a text holds only texts, and this is ${inWords(left)}`];
      const object = right.of?.object;
      if (typeof left.literal === 'string' && (object === 'Tag' || object === 'Category' || object === 'Brand')) {
        const there = this.theme.site?.named(object);
        if (there && !there.has(left.literal)) {
          const near = nearestOf(left.literal, there);
          return [
            negated,
            `the shop has no ${object.toLowerCase()} “${left.literal}”${near ? `; did you mean “${near.name}”?` : ''}`,
          ];
        }
      }
      return [null, ''];
    }
    if (unknown) return [null, ''];
    if (operator === '==' || operator === '!=') {
      if (left.literal !== undefined && right.literal !== undefined)
        return [(left.literal === right.literal) !== negated, 'both sides are written out'];
      if (left.kind === 'None' || right.kind === 'None') {
        const other = left.kind === 'None' ? right : left;
        const there = other.empty === 'no' && other.kind !== 'Flag';
        return there ? [negated, 'the value is always there'] : [null, ''];
      }
      if (left.kind !== right.kind) return [negated, `${inWords(left)} never equals ${inWords(right)}`];
      const [options, literal] = left.options ? [left.options, right.literal] : [right.options, left.literal];
      if (options && typeof literal === 'string' && !options.includes(literal)) {
        const near = nearestOf(literal, options);
        return [negated, `it is one of ${options.join(', ')}${near ? `; did you mean “${near.name}”?` : ''}`];
      }
      const type = (left.isType && right.literal) || (right.isType && left.literal);
      const types = typeof type === 'string' ? this.theme.site?.named('Type') : null;
      if (types && typeof type === 'string' && !types.has(type)) {
        const near = nearestOf(type, types);
        return [
          negated,
          `no product of the shop has the type “${type}”${near ? `; did you mean “${near.name}”?` : ''}`,
        ];
      }
      return [null, ''];
    }
    if (left.kind === 'None' || right.kind === 'None') return [false, 'none is neither less nor more'];
    if (left.kind !== right.kind || !ordered.has(left.kind))
      return [false, `${inWords(left)} and ${inWords(right)} have no order`];
    return [null, ''];
  }

  #filter(expression: Expression & { kind: 'filter' }, scope: TypeScope): Type {
    const of = this.infer(expression.of, scope);
    const signature = filterSignatures[expression.name];
    if (!signature || !filterTable.has(expression.name)) {
      if (functionTable.has(expression.name)) {
        const { from, to } = expression.nameAt;
        const { signature = '' } = functionTable.get(expression.name) ?? {};
        this.report(
          'filter',
          { from, to },
          { name: expression.name, near: '', hint: `it is a function, ${signature}` },
        );
        for (const { value } of expression.args) this.#quietly(value, scope);
        return any;
      }
      const near = nearestOf(expression.name, filterTable.keys());
      this.report(
        'filter',
        expression.nameAt,
        { name: expression.name, near: near?.name ?? '' },
        fixOf(near, expression.nameAt),
      );
      for (const { value } of expression.args) this.#quietly(value, scope);
      return any;
    }
    const args = [...expression.args];
    let by: Type = of.of ?? any;
    if (signature.byItem) {
      const first = args[0]?.name === null || args[0]?.name === 'e' ? args.shift() : undefined;
      if (first) {
        by = this.#byItem(first.value, of, scope);
        if (expression.name === 'keep' || expression.name === 'drop') this.onCondition(first.value);
        if (by.literal !== undefined)
          this.report('argument', first, {
            text: `“${expression.name}” takes an expression over “it”, worked out for each item: ${expression.name}(it.…)`,
          });
      } else if (signature.byItem === 'required') {
        this.report('argument', expression.nameAt, {
          text: `“${expression.name}” takes an expression over “it”: ${expression.name}(it.…)`,
        });
      }
    }
    const types = this.#arguments(expression.name, expression.nameAt, args, signature, scope);
    if (!worksOn(expression.name, signature, of)) {
      const wanted =
        expression.name === 'sized'
          ? 'a Media'
          : expression.name === 'split_by'
            ? 'a list of Product'
            : signature.on
                .map((kind) => (kind === 'List' ? 'a list' : kind === 'Record' ? 'a record' : kind))
                .join(' or ');
      if (this.theme.types || of.literal !== undefined)
        this.report('kind', expression.nameAt, {
          text: `“${expression.name}” works on ${signature.on.length > 5 ? 'what can be printed' : wanted}; this is ${inWords(of)}`,
        });
      return of.kind === 'Record' || of.kind === 'List' ? any : none;
    }
    return signature.gives(of, types, by);
  }

  #byItem(expression: Expression, list: Type, scope: TypeScope): Type {
    const inner = scope.inner();
    inner.set('it', known(withEmpty(list.of ?? any, list.of?.empty ?? 'perhaps')));
    return this.infer(expression, inner);
  }

  #quietly(expression: Expression, scope: TypeScope): void {
    const inner = scope.inner();
    inner.set('it', known(any));
    this.infer(expression, inner);
  }

  #call(expression: Expression & { kind: 'call' }, scope: TypeScope): Type {
    const { name } = expression;
    const signature = functionSignatures[name];
    const at = { from: expression.from, to: expression.from + name.length };
    if (filterTable.has(name) && !functionTable.has(name)) return this.#calledFilter(expression, scope);
    if (!signature || !functionTable.has(name)) {
      const near = nearestOf(name, functionTable.keys());
      this.report('function', at, { name, near: near?.name ?? '' }, fixOf(near, at));
      for (const { value } of expression.args) this.infer(value, scope);
      return any;
    }
    const types = this.#arguments(name, at, expression.args, signature, scope);
    this.referred(expression, this.report);
    if (name === 'record') {
      const named = expression.args.flatMap((one) =>
        one.name === null ? [] : [[one.name, this.types.get(one.value) ?? any] as const],
      );
      return recordOf(Object.fromEntries(named));
    }
    return signature.gives(none, types, any);
  }

  /** A filter that is written as a function: `upper(name)` for `name | upper`. */
  #calledFilter(expression: Expression & { kind: 'call' }, scope: TypeScope): Type {
    const { name, args } = expression;
    const [of, ...rest] = args;
    for (const { value } of args) this.#quietly(value, scope);
    const written = (list: readonly Argument[]) =>
      list.map((one) => (one.name === null ? '' : `${one.name}: `) + writeExpression(one.value)).join(', ');
    const instead =
      of && of.name === null ? `(${written([of])} | ${name}${rest.length ? `(${written(rest)})` : ''})` : '';
    const at = { from: expression.from, to: expression.to };
    const hint = `it is a filter${instead ? `: ${instead.slice(1, -1)}` : ''}`;
    this.report(
      'function',
      at,
      { name, near: '', hint },
      instead ? rewrite('Write it as a filter', at, instead) : undefined,
    );
    return any;
  }

  /** The types of arguments in the order of the parameters, after holding each against its parameter. */
  #arguments(
    name: string,
    at: Span,
    args: readonly Argument[],
    signature: Signature,
    scope: TypeScope,
  ): (Type | undefined)[] {
    const { parameters, open } = signature;
    const given: (Type | undefined)[] = parameters.map(() => undefined);
    let next = 0;
    for (const argument of args) {
      const type = this.infer(argument.value, scope);
      let index = next;
      if (argument.name !== null) {
        index = parameters.findIndex((one) => one.name === argument.name);
        if (index < 0) {
          if (open) continue;
          const near = nearestOf(
            argument.name,
            parameters.map((one) => one.name),
          );
          const span = { from: argument.from, to: argument.from + argument.name.length };
          this.report(
            'argument',
            span,
            { text: `“${name}” takes no “${argument.name}”${near ? `; did you mean “${near.name}”?` : ''}` },
            fixOf(near, span),
          );
          continue;
        }
      } else next++;
      const parameter = parameters[index];
      if (!parameter) {
        if (!open) this.report('argument', argument, { text: tooMany(name, parameters, signature) });
        continue;
      }
      given[index] = type;
      this.#holdArgument(name, argument, type, parameter);
    }
    for (const [index, parameter] of parameters.entries())
      if (!parameter.optional && !given[index])
        this.report('argument', at, { text: `“${name}” needs ${parameter.name}: ${usage(name)}` });
    return given;
  }

  #holdArgument(name: string, argument: Argument, type: Type, parameter: Parameter): void {
    if (
      type.kind !== 'Any' &&
      type.kind !== 'None' &&
      !parameter.kinds.some((kind) => kind === type.kind || kind === 'Any')
    ) {
      this.report('argument', argument.value, {
        text: `“${parameter.name}” of “${name}” is ${parameter.kinds.join(' or ')}; this is ${inWords(type)}`,
      });
    } else if (parameter.options && typeof type.literal === 'string' && !parameter.options.includes(type.literal)) {
      const near = nearestOf(type.literal, parameter.options);
      const inner = { from: argument.value.from + 1, to: argument.value.to - 1 };
      this.report(
        'argument',
        argument.value,
        {
          text: `“${parameter.name}” of “${name}” is one of ${parameter.options.join(', ')}${near ? `; did you mean “${near.name}”?` : ''}`,
        },
        fixOf(near, inner),
      );
    }
  }
}

/** Names that other languages give without being asked. */
const nameHints: Record<string, string> = {
  at: 'a position is named where the loop is: do:each="x, at in list"',
  loop: 'a position is named where the loop is: do:each="x, at in list"',
  index: 'a position is named where the loop is: do:each="x, at in list", then at.index',
  it: 'it is the item inside filters such as keep(it.stock > 0)',
  item: 'an item is named where the loop is: do:each="item in list"',
};

const listHints: Record<string, string> = {
  length: 'use the filter count',
  size: 'use the filter count',
  count: 'use the filter count',
  first: 'use the filter first',
  last: 'use the filter final',
};

const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

function usage(name: string): string {
  return filterTable.get(name)?.signature ?? functionTable.get(name)?.signature ?? name;
}

function tooMany(name: string, parameters: readonly Parameter[], signature: Signature): string {
  const count = parameters.length + (signature.byItem ? 1 : 0);
  return `“${name}” takes ${count === 0 ? 'nothing more' : `at most ${count}`}: ${usage(name)}`;
}

function worksOn(name: string, signature: Signature, of: Type): boolean {
  if (of.kind === 'Any' || of.kind === 'None') return true;
  if (!signature.on.includes(of.kind)) return false;
  if (name === 'sized') return !of.object || of.object === 'Media';
  if (name === 'split_by') return !of.of || fits(of.of, { kind: 'Record', empty: 'no', object: 'Product' });
  return true;
}

/** What an operator gives; null when it can only give none. */
function arithmetic(operator: BinaryOperator, left: Type, right: Type): Type | null {
  if (left.kind === 'Any' || right.kind === 'Any') return any;
  const pair = `${left.kind} ${right.kind}`;
  if (left.kind === 'None' || right.kind === 'None') return null;
  switch (operator) {
    case '+':
      if (left.kind === 'Text' || right.kind === 'Text')
        return [left, right].some(({ kind }) => kind === 'Record' || kind === 'List') ? null : text;
      if (pair === 'Number Number') return number;
      if (pair === 'Money Money') return money;
      if (pair === 'List List') return listOf(left.of && right.of ? either(left.of, right.of) : any);
      return pair === 'Day Number' || pair === 'Number Day' ? { kind: 'Day', empty: 'perhaps' } : null;
    case '-':
      if (pair === 'Number Number' || pair === 'Day Day') return number;
      if (pair === 'Money Money') return money;
      return pair === 'Day Number' ? { kind: 'Day', empty: 'perhaps' } : null;
    case '*':
      return pair === 'Number Number' ? number : pair === 'Money Number' || pair === 'Number Money' ? money : null;
    case '/':
      return pair === 'Number Number' || pair === 'Money Money' ? number : pair === 'Money Number' ? money : null;
    default:
      return pair === 'Number Number' ? number : null;
  }
}

/** Writing the near name instead, where it is the one that must be meant. */
export function fixOf(near: { name: string; certain: boolean } | null, span: Span): Fix | undefined {
  return near?.certain ? rewrite(`Write “${near.name}”`, span, near.name) : undefined;
}

/** Filters that show a value in another way: what they give is empty where the value is. */
const showing = new Set(
  'upper lower trim plain shorten replace slug json join number percent money date round sized'.split(' '),
);

/** The name and the fields of an expression that is a plain path; filters that only show it differently are skipped. Null for any other. */
export function pathOf(expression: Expression, scope: TypeScope): { root: Known; fields: string[] } | null {
  if (expression.kind === 'filter') return showing.has(expression.name) ? pathOf(expression.of, scope) : null;
  if (expression.kind === 'name') {
    const root = scope.find(expression.name);
    return root && (root.path ?? { root, fields: [] });
  }
  if (expression.kind !== 'field') return null;
  const of = pathOf(expression.of, scope);
  return of && { root: of.root, fields: [...of.fields, expression.name] };
}
