import { partsOf, type Expression } from '../1-parse/expression';
import { attributesOf, type Attribute, type Directives, type ElementNode, type Let } from '../1-parse/nodes';
import type { Template, TemplateNode } from '../1-parse/nodes';
import { attributePlace, type AttributePlace } from './places';
import { eachElement, expressionsOf } from './walk';

/** What makes a name: a loop, a `do:let`, or, where it comes from outside the template, nothing but the name. */
export type Maker = NonNullable<Directives['each']> | Let | string;

/** What a template says by itself, whatever theme it stands in: the checker asks it, and the compiler. */
export interface Analysis {
  /** What each attribute of a printed element that takes a value does with it. */
  readonly places: ReadonlyMap<Attribute, AttributePlace>;
  /** Chains of conditions whose outcome a later part asks for. */
  readonly asked: ReadonlySet<number>;
  /**
   * Fields that are read more than once, by what makes the name they begin with: paths such as `.price.amount`; with `!` at the
   * end, the value as a record.
   */
  readonly repeated: ReadonlyMap<Maker, readonly string[]>;
}

const known = new WeakMap<Template, Analysis>();

/** The analysis of a template: worked out once for each. */
export function analysisOf(template: Template): Analysis {
  let analysis = known.get(template);
  if (!analysis) known.set(template, (analysis = analyse(template)));
  return analysis;
}

function analyse(template: Template): Analysis {
  const places = new Map<Attribute, AttributePlace>();
  const asked = new Set<number>();
  for (const nodes of [template.children, template.unplaced ?? []])
    eachElement(nodes, (element) => {
      const { name, directives, chain, attributes } = element;
      if (directives.gate) asked.add(chain);
      if (element.own) return;
      let refreshes: boolean | null = null;
      for (const one of attributesOf(element)) {
        if (!one.parts && !one.added) continue;
        refreshes ??= attributes.some((other) => other.name === 'http-equiv');
        places.set(one, attributePlace(name, one.name, refreshes));
      }
    });
  return { places, asked, repeated: new Reads().of(template.children) };
}

/** The names in reach, innermost last, each with what makes it; null: its fields are never kept. */
type Reach = ReadonlyMap<string, Maker | null>;

/** Counts how often each field is read, as it would be written out with nothing kept. */
class Reads {
  readonly #counts = new Map<Maker, Map<string, number>>();

  of(nodes: readonly TemplateNode[]): ReadonlyMap<Maker, readonly string[]> {
    this.#nodes(nodes, new Map());
    const repeated = [...this.#counts].map(([maker, counts]): [Maker, string[]] => [
      maker,
      [...counts].filter(([, times]) => times > 1).map(([path]) => path),
    ]);
    return new Map(repeated.filter(([, paths]) => paths.length));
  }

  #nodes(nodes: readonly TemplateNode[], reach: Reach): void {
    for (const node of nodes) {
      if (node.type === 'value') this.#value(node.expression, reach);
      else if (node.type === 'element') this.#element(node, reach);
    }
  }

  #element(element: ElementNode, outer: Reach): void {
    const { each, lets, asWritten } = element.directives;
    const reach = each || lets.length ? this.#named(element, outer) : outer;
    for (const one of expressionsOf(element)) {
      // What a name is made from is read before the name is in reach.
      const isMaking = one === each?.list || lets.some(({ value }) => value === one);
      if (!isMaking) this.#value(one, reach);
    }
    if (!asWritten) this.#nodes(element.children, reach);
  }

  /** The names in reach of an element that makes some. */
  #named({ directives: { each, lets } }: ElementNode, outer: Reach): Reach {
    const reach = new Map(outer);
    if (each) {
      this.#value(each.list, outer);
      reach.set(each.item, each);
      if (each.at) reach.set(each.at, null);
    }
    for (const one of lets) {
      this.#value(one.value, reach);
      reach.set(one.name, one);
    }
    return reach;
  }

  #value(expression: Expression, reach: Reach): void {
    if (expression.kind === 'field') {
      const start = this.#start(expression, reach);
      if (start) this.#read(start, expression, reach);
      else this.#value(expression.of, reach);
      return;
    }
    if (expression.kind !== 'filter') {
      for (const part of partsOf(expression)) this.#value(part, reach);
      return;
    }
    // What a filter asks of each item is asked with the item's name in reach.
    const inner = new Map(reach).set('it', null);
    const [of, ...args] = partsOf(expression);
    if (of) this.#value(of, reach);
    for (const one of args) this.#value(one, inner);
  }

  /** What makes the name that a path of fields begins with, and the path; null where none of it can be kept. */
  #start(expression: Expression, reach: Reach): { maker: Maker; path: string } | null {
    if (expression.kind === 'name') {
      const maker = reach.has(expression.name) ? reach.get(expression.name) : expression.name;
      return maker ? { maker, path: '' } : null;
    }
    if (expression.kind !== 'field') return null;
    const of = this.#start(expression.of, reach);
    return of && { maker: of.maker, path: `${of.path}.${expression.name}` };
  }

  /** One reading of a field. To read it, what it is a field of is read as a record: the first time only, where it is kept. */
  #read({ maker, path }: { maker: Maker; path: string }, field: Expression & { kind: 'field' }, reach: Reach): void {
    if (this.#count(maker, path) > 1 || field.of.kind !== 'field') return;
    const of = this.#start(field.of, reach);
    if (of && this.#count(maker, `${of.path}!`) === 1) this.#read(of, field.of, reach);
  }

  #count(maker: Maker, path: string): number {
    let counts = this.#counts.get(maker);
    if (!counts) this.#counts.set(maker, (counts = new Map()));
    const times = (counts.get(path) ?? 0) + 1;
    counts.set(path, times);
    return times;
  }
}
