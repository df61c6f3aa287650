import type { Expression } from '../1-parse/expression';
import type { Template } from '../1-parse/nodes';
import { writeExpression } from '../1-parse/write';
import type { Value } from '../values/values';
import { maxFrames, maxOutcomes, OverBudget } from './budget';
import type { Binding } from '../3-compile/scope';
import type { Site } from '../3-compile/sites';

/** A template's sites, as its traced form has them. */
export interface TracedTemplate {
  name: string;
  template: Template;
  sites: readonly Site[];
  bindings: ReadonlyMap<Expression, Binding>;
}

/**
 * What one traced render did, beside its page. Its elements say where they come from by `frame.site`: the site is a place of
 * a template, the frame the way there, through draws, turns of loops, and gaps.
 */
export class Trace {
  readonly templates: TracedTemplate[] = [];
  readonly #numbers = new Map<string, number>();

  /** Of each frame: the frame it stands in, the site that made it, its template, the item's index (-1: no loop's), and for what fills a gap where the gap is. */
  readonly parents: number[] = [];
  readonly madeAt: number[] = [];
  readonly templateOf: number[] = [];
  readonly indexes: number[] = [];
  readonly gaps = new Map<number, { frame: number; site: number }>();

  /** Of each condition looked at, in order: frame, site, 1 where it held, number of the part that decided. */
  readonly conditions: number[] = [];
  /** Of each: the value of the part that decided; of a comparison, that and what it was compared with. */
  readonly decided: (Value | [Value, Value])[] = [];
  /** Conditions and loops that were reported. */
  #outcomes = 0;
  /** Of each loop: frame, site, number of items. */
  readonly loops: number[] = [];

  /** Of each frame that a placement became: its id. */
  readonly placed = new Map<number, string>();
  /** The shelves that were come by: frame, site, name. */
  readonly shelves: [number, number, string][] = [];

  /** Each time the probed place was come by: its frame, what the template was given, and the names of its own in reach. */
  readonly probes: { frame: number; given: Record<string, Value>; names: Record<string, Value> }[] = [];

  /** What the page's own template was given: its names under `$name`. */
  page: Record<string, Value> | null = null;

  /** Set by compiled code while it looks at a condition. */
  part = 0;
  value: Value = null;
  other: Value = undefined;

  template(made: TracedTemplate): number {
    let number = this.#numbers.get(made.name);
    if (number === undefined) this.#numbers.set(made.name, (number = this.templates.push(made) - 1));
    return number;
  }

  shelf(frame: number, site: number, name: string): void {
    this.shelves.push([frame, site, name]);
  }

  /** The frame that comes next is what a placement became. */
  placing(id: string): void {
    this.placed.set(this.indexes.length, id);
  }

  draw(parent: number, site: number, template: number): number {
    return this.#frame(parent, site, template, -1);
  }

  item(parent: number, site: number, index: number): number {
    return this.#frame(parent, site, this.templateOf[parent] as number, index);
  }

  fill(parent: number, site: number, gapFrame: number, gapSite: number): number {
    const frame = this.#frame(parent, site, this.templateOf[parent] as number, -1);
    this.gaps.set(frame, { frame: gapFrame, site: gapSite });
    return frame;
  }

  #frame(parent: number, site: number, template: number, index: number): number {
    if (this.indexes.length >= maxFrames) throw new OverBudget('its preview has more parts than can be listed');
    this.parents.push(parent);
    this.madeAt.push(site);
    this.templateOf.push(template);
    return this.indexes.push(index) - 1;
  }

  held(frame: number, site: number, held: boolean, gate: boolean): boolean {
    if (++this.#outcomes > maxOutcomes) throw new OverBudget('its preview has more conditions than can be listed');
    this.conditions.push(frame, site, held ? 1 : 0, gate ? -1 : this.part);
    this.decided.push(gate ? null : this.other === undefined ? this.value : [this.value, this.other]);
    return held;
  }

  loop(frame: number, site: number, count: number): void {
    if (++this.#outcomes > maxOutcomes) throw new OverBudget('its preview has more loops than can be listed');
    this.loops.push(frame, site, count);
  }

  probe(frame: number, given: Record<string, Value>, names: Record<string, Value>): void {
    if (this.probes.length < 1000) this.probes.push({ frame, given, names });
  }

  site(frame: number, site: number): Site {
    return this.templates[this.templateOf[frame] as number]?.sites[site] as Site;
  }

  /**
   * An expression of a template as one over the page's own data: `product.name` in the third tile of a listing is
   * `listing.products[2].name`. What a filter changed stands with its filter, in brackets.
   */
  path(frame: number, expression: Expression): string {
    return writeExpression(expression, (inner) => this.#outward(frame, inner));
  }

  #outward(frame: number, expression: Expression): string | null {
    if (expression.kind !== 'name') return null;
    const template = this.templates[this.templateOf[frame] as number];
    const binding = template?.bindings.get(expression);
    if (!binding || binding.kind === 'it') return null;
    if (binding.kind === 'let') return this.#bracketed(frame, binding.value);
    if (binding.kind === 'item' || binding.kind === 'position') {
      const turn = this.#enclosing(
        frame,
        (at) => (this.indexes[at] as number) >= 0 && this.madeAt[at] === binding.loop,
      );
      if (turn < 0 || binding.kind === 'position') return null;
      return `${this.#bracketed(this.parents[turn] as number, binding.list)}[${this.indexes[turn]}]`;
    }
    // Given from outside: what the draw gave, seen from where the draw stands; the page's own data at the top.
    const drawn = this.#enclosing(frame, (at) => (this.indexes[at] as number) < 0 && !this.gaps.has(at));
    const outer = drawn < 0 ? -1 : (this.parents[drawn] as number);
    if (outer < 0) return null;
    const input = this.site(outer, this.madeAt[drawn] as number).inputs?.get(expression.name);
    return input ? this.#bracketed(outer, input) : null;
  }

  #bracketed(frame: number, expression: Expression): string {
    const path = this.path(frame, expression);
    return expression.kind === 'name' ||
      expression.kind === 'field' ||
      expression.kind === 'item' ||
      expression.kind === 'call'
      ? path
      : `(${path})`;
  }

  /** The nearest frame, from this one outward within its template, for which `wanted` holds; -1 when there is none. */
  #enclosing(frame: number, wanted: (frame: number) => boolean): number {
    for (let at = frame; at >= 0; at = this.parents[at] as number) if (wanted(at)) return at;
    return -1;
  }

  /** The frames from the page down to this one: what was drawn, the turns of loops, and what was filled in. */
  trail(frame: number): number[] {
    const trail: number[] = [];
    for (let at = frame; at >= 0; at = this.parents[at] as number) trail.unshift(at);
    return trail;
  }
}
