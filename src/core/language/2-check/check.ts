import { readWhole, type Expression } from '../1-parse/expression';
import {
  attributesOf,
  sourceOf,
  type Attribute,
  type ElementNode,
  type Template,
  type TemplateNode,
} from '../1-parse/nodes';
import { Source } from '../1-parse/source';
import { writeExpression } from '../1-parse/write';
import { problem, type Problem } from '../problems';
import { any, inWords, objectOf, text, withEmpty, type Type } from '../types/types';
import { checkArrangement } from './arrangement';
import { checkAsk } from './ask';
import { checkDraw, checkTakes, circles, inputType } from './composition';
import { judgeCondition } from './conditions';
import type { ThemeFacts } from './facts';
import { checkIgnored } from './ignored';
import { Inference, pathOf, type Report } from './infer';
import { analysisOf, type Analysis } from './analysis';
import { checkAttributes } from './attributes';
import { checkForReaders, checkWritten } from './page';
import { checkReference } from './refer';
import { known, TypeScope, type Known } from './scope';
import { eachExpression } from './walk';

/**
 * What is wrong with one template: its own syntax problems, and whatever the theme and the shop around it show. Needs no
 * rendering.
 */
export function checkTemplate(template: Template, theme: ThemeFacts): Problem[] {
  const checker = new Checker(template, theme);
  checker.run();
  const problems = [
    ...template.problems,
    ...checker.problems,
    ...checkArrangement(template, theme, (node) => checker.inference.types.get(node.expression) ?? any),
    ...circles(template, theme),
  ];
  const once = new Map(
    problems.map((one) => [
      `${one.layer} ${one.code} ${one.from} ${one.to} ${one.message} ${JSON.stringify(one.fix)}`,
      one,
    ]),
  );
  return [...once.values()].sort((a, b) => a.from - b.from);
}

/** What the checker makes of a template: the type of every expression, and the names in reach inside each element and at its root (null). */
export interface Understood {
  types: ReadonlyMap<Expression, Type>;
  scopes: ReadonlyMap<ElementNode | null, TypeScope>;
}

const understood = new WeakMap<Template, { theme: ThemeFacts; made: Understood }>();

/** Types and names of a template, worked out once for a theme. */
export function understand(template: Template, theme: ThemeFacts): Understood {
  const known = understood.get(template);
  if (known?.theme === theme) return known.made;
  const checker = new Checker(template, { ...factsOf(theme), site: null });
  checker.run();
  const result = { types: checker.inference.types, scopes: checker.scopes };
  understood.set(template, { theme, made: result });
  return result;
}

/** The type of an expression that stands by itself, in a scope of a template; null for what cannot be read. */
export function typeOf(text: string, scope: TypeScope, template: Template, theme: ThemeFacts): Type | null {
  const problems: Problem[] = [];
  const expression = readWhole(new Source(template.source.file, text), 0, text.length, problems);
  if (expression.kind === 'bad' || problems.length) return null;
  const inference = new Inference(
    { ...factsOf(theme), site: null },
    () => {},
    () => {},
  );
  return inference.infer(expression, scope);
}

/** A theme's facts as a plain object: the methods of a class are on its prototype, and a copy would lack them. */
const factsOf = (theme: ThemeFacts): ThemeFacts => ({
  template: (name) => theme.template(name),
  templateNames: () => theme.templateNames(),
  phrase: (key) => theme.phrase(key),
  phraseKeys: () => theme.phraseKeys(),
  assetPaths: () => theme.assetPaths(),
  menus: theme.menus,
  schemes: theme.schemes,
  locale: theme.locale,
  types: theme.types,
  site: theme.site,
});

/** Problems of one template. */
const maxProblems = 1000;

/** Where an element stands. */
interface Around {
  /** Elements around it, printed ones and the language's own, outermost first. */
  elements: readonly ElementNode[];
}

class Checker {
  readonly problems: Problem[] = [];
  readonly inference: Inference;
  readonly scopes = new Map<ElementNode | null, TypeScope>();
  #source: Source;
  readonly #analysis: Analysis;
  readonly #declared: Known[] = [];
  readonly #questions = new Set<string>();

  constructor(
    readonly template: Template,
    readonly theme: ThemeFacts,
  ) {
    this.#source = template.source;
    this.#analysis = analysisOf(template);
    this.inference = new Inference(theme, this.#report, (call, report) =>
      checkReference(call, template, theme, report),
    );
    this.inference.onCondition = (test) => judgeCondition(test, this.inference);
  }

  readonly #report: Report = (code, span, about, fix) => {
    if (this.problems.length > maxProblems) return;
    if (this.problems.length === maxProblems) {
      const why = `it has more than ${maxProblems} problems; the rest is not told`;
      this.problems.push(problem('budget', this.#source, span, { name: this.#source.file, why }));
      return;
    }
    const reported = problem(code, this.#source, span, about);
    if (fix) reported.fix = fix;
    this.problems.push(reported);
  };

  /** The same for a part of another file, which amendments bring in. */
  readonly #reportIn = (source: Source): Report => {
    this.#source = source;
    return this.#report;
  };

  run(): void {
    const { template, theme } = this;
    checkTakes(template, theme, this.#reportIn);
    this.#source = template.source;
    const scope = this.#names();
    this.scopes.set(null, scope);
    checkWritten(null, template.children, theme, this.#reportIn);
    this.#children(template.children, scope, { elements: [] });
    this.#children(template.unplaced ?? [], scope, { elements: [] });
    this.#source = template.source;
    // One that prints nothing stands there for upper layers to fill: its inputs are for them.
    if (
      template.children.every(
        (node) =>
          node.type === 'comment' ||
          (node.type === 'element' && node.own && (node.name === 'takes' || node.name === 'placeable')) ||
          (node.type === 'text' && !node.text.trim()),
      )
    )
      return;
    template.takes.forEach((take, at) => {
      this.#source = take.source;
      if (!this.#declared[at]?.used) this.#report('unused-input', take, { name: take.name });
    });
  }

  /** The names that the template begins with, by the folder that it stands in. */
  #names(): TypeScope {
    const scope = new TypeScope(null);
    const { types } = this.theme;
    for (const [name, type] of types?.globals ?? []) scope.set(name, known(type));
    const kind = this.template.source.file.split('/')[0] as string;
    for (const [name, type] of types?.page(kind) ?? []) scope.set(name, known(type));
    for (const take of this.template.takes) this.#declared.push(scope.set(take.name, known(inputType(take))));
    return scope;
  }

  #children(nodes: readonly TemplateNode[], scope: TypeScope, around: Around): void {
    for (const node of nodes) {
      this.#source = node.source;
      if (node.type === 'value') this.#value(node.expression, scope);
      else if (node.type === 'element') this.#element(node, scope, around);
    }
  }

  #value(expression: Expression, scope: TypeScope): void {
    const type = this.inference.infer(expression, scope);
    this.#prints(expression, type);
    this.#countEmpty(expression, scope);
  }

  #prints(expression: Expression, type: Type): void {
    if (type.kind !== 'None' && type.kind !== 'Record' && type.kind !== 'List') return;
    const shown = writeExpression(expression);
    if (type.kind === 'None' && expression.kind !== 'bad') {
      if (this.theme.types || expression.kind === 'none')
        this.#report('prints-nothing', expression, { text: `${shown} is always none, and prints nothing` });
    } else if (type.kind === 'Record') {
      const fields = type.object ? this.theme.types?.fields(type.object) : type.fields;
      const field = ['name', 'title', 'label', 'url'].find((one) => fields?.has(one));
      const advice = field ? `: print one of its fields, {${shown}.${field}}` : '';
      this.#report('prints-nothing', expression, {
        text: `${shown} is ${type.object ? `an object (${type.object})` : 'a record'}, and prints nothing${advice}`,
      });
    } else if (type.kind === 'List' && type.of?.kind === 'Record') {
      const { object, fields: own } = type.of;
      const fields = object ? this.theme.types?.fields(object) : own;
      const field = ['name', 'title', 'label', 'url'].find((one) => fields?.has(one));
      const advice = field ? `, or print a field of each, {${shown} | pluck(it.${field})}` : '';
      this.#report('prints-nothing', expression, {
        text: `${shown} is ${inWords(type)}, and prints nothing: go through it with do:each${advice}`,
      });
    }
  }

  /** A field of a subject that is printed as it is, with no condition around that asks for it. */
  #countEmpty(expression: Expression, scope: TypeScope): void {
    const { site } = this.theme;
    const path = site && pathOf(expression, scope);
    const object = path?.root.type.object;
    if (!path || !object || !path.fields.length || scope.asks(path.root, path.fields)) return;
    const found = site.emptiness(object, path.fields);
    if (!found || !found.empty) return;
    const number = (n: number) => n.toLocaleString('en');
    this.#report('empty-field', expression, {
      path: writeExpression(expression.kind === 'filter' ? coreOf(expression) : expression),
      empty: number(found.empty),
      total: number(found.total),
      noun: nouns[object] ?? 'subjects',
      example: found.example,
    });
  }

  #condition(test: Expression, scope: TypeScope): void {
    this.inference.infer(test, scope);
    judgeCondition(test, this.inference);
  }

  /** Notes the fields that a condition asks for: inside it they are there. */
  #asked(test: Expression, outer: TypeScope, inner: TypeScope): void {
    eachExpression(test, (part) => {
      const path = pathOf(part, outer);
      if (!path?.fields.length) return;
      inner.ask(path.root, path.fields);
      const { object } = this.inference.types.get(part.kind === 'field' ? part.of : part) ?? {};
      const implied = object ? this.theme.types?.implied?.(object, path.fields.at(-1) ?? '') : undefined;
      for (const name of implied ?? []) inner.ask(path.root, [...path.fields.slice(0, -1), name]);
    });
  }

  #element(element: ElementNode, outer: TypeScope, around: Around): void {
    const { gate, each, lets, when, wrapWhen } = element.directives;
    const scope = outer.inner();
    this.scopes.set(element, scope);
    if (gate?.kind === 'or-when') {
      this.#condition(gate.test, outer);
      this.#asked(gate.test, outer, scope);
    }
    if (each) this.#loop(element, each, outer, scope);
    const given: [string, Known][] = [];
    for (const { name, value, from, to } of lets) {
      const type = this.inference.infer(value, scope);
      const path = pathOf(value, scope);
      given.push([name, scope.set(name, known(type, { given: { from, to }, path }))]);
    }
    if (when) {
      this.#condition(when, scope);
      this.#asked(when, scope, scope);
    }
    if (wrapWhen) this.#condition(wrapWhen, scope);
    checkIgnored(element, this.#report);
    if (!element.directives.asWritten) checkWritten(element, element.children, this.theme, this.#reportIn);
    this.#source = element.source;
    if (!element.directives.asWritten) {
      if (element.own) this.#own(element, scope, around);
      else this.#printed(element, scope);
      const elements = [...around.elements, element];
      this.#children(element.children, scope, { elements });
    }
    this.#source = element.source;
    for (const [name, { used, given: span }] of given)
      if (!used && span) this.#report('unused-name', trimmed(element, span), { name });
  }

  #loop(
    element: ElementNode,
    each: NonNullable<ElementNode['directives']['each']>,
    outer: TypeScope,
    scope: TypeScope,
  ): void {
    const type = this.inference.infer(each.list, outer);
    this.#asked(each.list, outer, scope);
    if (type.kind !== 'List' && type.kind !== 'Any' && (this.theme.types || type.literal !== undefined))
      this.#report('list', each.list, { type: inWords(type) });
    else if (type.kind === 'List' && type.empty === 'yes')
      this.#report('never', each.list, { why: 'the list is always empty' });
    const item = type.kind === 'List' ? (type.of ?? any) : any;
    scope.set(each.item, known(withEmpty(item, item.kind === 'Record' ? 'no' : item.empty)));
    if (each.at) {
      const position = this.theme.types ? objectOf('Position', 'no') : any;
      scope.set(each.at, known(position, { filtered: element.directives.when !== null }));
    }
  }

  /** An element of the page: what it prints in its attributes, and where. */
  #printed(element: ElementNode, scope: TypeScope): void {
    checkAttributes(element, this.theme, this.#analysis.places, this.#reportIn);
    checkForReaders(element, this.template.children, this.#reportIn);
    this.#source = element.source;
    const { attributes, json } = element.directives;
    for (const expression of [attributes, json]) if (expression) this.inference.infer(expression, scope);
    for (const attribute of attributesOf(element)) {
      // An amendment may have given it.
      this.#source = sourceOf(element, attribute);
      if (attribute.given) this.#condition(attribute.given.when, scope);
      const parts = attribute.parts ?? [];
      for (const part of parts) {
        if (typeof part === 'string') continue;
        const type = this.inference.infer(part, scope);
        const place = this.#analysis.places.get(attribute);
        if (place !== 'class') this.#prints(part, type.kind === 'None' ? any : type);
        const shown = parts.length === 1 && (place === 'address' || place === 'loading');
        const before = parts[parts.indexOf(part) - 1];
        const inStyle = place === 'style' && typeof before === 'string' && /url\(\s*["']?$/i.test(before);
        if (shown || inStyle) this.#countEmpty(part, scope);
      }
    }
    this.#source = element.source;
  }

  #own(element: ElementNode, scope: TypeScope, around: Around): void {
    const outer = around.elements[around.elements.length - 1];
    const types = new Map<Attribute, Type>();
    for (const attribute of attributesOf(element)) {
      for (const part of attribute.parts ?? []) {
        if (typeof part === 'string') continue;
        const type = this.inference.infer(part, scope);
        types.set(attribute, attribute.parts?.length === 1 ? type : text);
      }
    }
    if (element.name === 'draw')
      checkDraw(element, this.theme, this.#report, (attribute) => types.get(attribute) ?? any);
    else if (element.name === 'ask') checkAsk(element, this.#questions, this.#report);
    else if (element.name === 'fill' && !(outer?.own && outer.name === 'draw')) {
      const where = outer ? `<fill> stands in <${outer.name}>: it` : '<fill>';
      this.#report('gap', element, { text: `${where} belongs directly inside a <draw>` });
    } else if ((element.name === 'takes' || element.name === 'placeable') && outer) {
      const text = `<${element.name}> stands at the top of a file, outside every element`;
      this.#report('takes', element, { text });
    } else if (
      element.name === 'shelf' &&
      !element.attributes.some((one) => one.name === 'name' && one.value && !one.parts)
    ) {
      this.#report('element', element, {
        text: '<shelf> needs a name that is written out: <shelf name="below-price">',
      });
    } else if (element.name === 'amend') {
      this.#report(
        'amend',
        { from: element.from, to: element.openTo },
        {
          text: '<amend> is the only element of its file, and changes a file of that name in a layer below, or the template that its “of” names; here it prints nothing',
        },
      );
    }
  }
}

const nouns: Record<string, string> = {
  Product: 'products',
  Category: 'categories',
  Content: 'content pages',
  Article: 'articles',
};

const coreOf = (expression: Expression): Expression =>
  expression.kind === 'filter' ? coreOf(expression.of) : expression;

function trimmed({ source }: ElementNode, { from, to }: { from: number; to: number }): { from: number; to: number } {
  const text = source.slice(from, to);
  return { from: from + text.length - text.trimStart().length, to: from + text.trimEnd().length };
}
