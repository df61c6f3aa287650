import {
  noDirectives,
  type Expression,
  settle,
  rawElements,
  type Attribute,
  type Directives,
  type ElementNode,
  type Placeable,
  type Take,
  type Template,
  type TemplateNode,
  type Writable,
  staysRaw,
  maxNodes,
  parseTemplate,
  nearestOf,
  problem,
  rewrite,
  type About,
  type Problem,
  type ProblemCode,
} from '@/core/language';
import { amendmentOf, elementAt, isSpace, literalAttribute } from './amendment';

/** Declarations at the top of a file, which an amendment may hold too. */
const declared = new Set(['takes', 'placeable']);
/**
 * What an amendment may do: each names a place by `mark` or `at`. `move` names where to by `before`, `after` or `into`; `adjust`
 * gives attributes.
 */
const operations = new Set(['before', 'after', 'prepend', 'append', 'replace', 'remove', 'move', 'adjust']);
/** Those that put something somewhere; the others take no directive but a condition. */
const placing = new Set(['before', 'after', 'prepend', 'append', 'replace']);

/**
 * A file with the amendments of the layers above it put in, lowest layer first, each in file order. The trees given stay
 * as they are; every node keeps its own source. An operation whose place is not there is reported and left out.
 */
export function amended(base: Template, amendments: readonly Template[]): Template {
  return new Amending(base).all(amendments);
}

/** A tree that is being put together: its nodes are copies, and change until it is done. */
type Growing = Exclude<TemplateNode, ElementNode> | GrowingElement;
interface GrowingElement extends Omit<Writable<ElementNode>, 'children' | 'attributes' | 'chains'> {
  children: Growing[];
  attributes: Attribute[];
  chains: number[];
}

interface Place {
  node: GrowingElement;
  siblings: Growing[];
  /** Chains that begin among the siblings. */
  chains: number[];
}

/** Nodes looked at for all the operations of a template together: past that, the rest is left out. */
const maxLooks = 5_000_000;

/** Levels of a tree with its amendments: each may wrap what was there in one more. */
const maxDepth = 600;

/** Thrown when the tree grew larger than a template may be, or took too long to put together. */
class TooMuch {
  constructor(readonly why: string) {}
}

/** Puts amendments into a tree. Longer than most files: operations share the tree, its places and its limits. */
class Amending {
  readonly #children: Growing[];
  readonly #chains: number[];
  readonly #problems: Problem[];
  readonly #takes: Take[];
  readonly #placeables: Placeable[];
  /** From the nodes of the base to their copies: places by path are those of the base as it is written. */
  readonly #copies = new Map<ElementNode, GrowingElement>();
  /** Afters of one place keep their order: each stands after what the one before it put in. */
  readonly #afters = new Map<ElementNode, Growing>();
  readonly #unplaced: Growing[] = [];
  /** Chains with a further link: each of their links keeps its condition, whatever becomes of it. */
  readonly #tied = new Set<number>();
  /** Of each element with a condition: what it asks, as its file has it. */
  readonly #links = new Map<ElementNode, Pick<Directives, 'gate' | 'lets' | 'when'> & { chain: number }>();
  #chainCount: number;
  #nodes = 0;
  #looks = 0;

  constructor(readonly base: Template) {
    this.#chainCount = base.chainCount;
    this.#chains = [...base.chains];
    this.#problems = [...base.problems];
    this.#takes = [...base.takes];
    this.#placeables = [...base.placeables];
    this.#children = base.children.map((node) => this.#copy(node, (chain) => chain, this.#copies));
  }

  all(amendments: readonly Template[]): Template {
    for (const amendment of amendments) {
      this.#problems.push(...amendment.problems);
      this.#takes.push(...amendment.takes);
      this.#placeables.push(...amendment.placeables);
      const root = amendmentOf(amendment);
      for (const node of root?.children ?? []) {
        try {
          this.#apply(node);
        } catch (error) {
          if (!(error instanceof TooMuch)) throw error;
          const name = this.base.source.file.replace(/\.html$/, '');
          this.#report('budget', opening(node), { name, why: error.why }, node);
          break;
        }
      }
    }
    return {
      ...this.base,
      children: settle(this.#children, (node, at) => this.#settle(node, node.from + at)),
      chains: this.#chains,
      chainCount: this.#chainCount,
      takes: this.#takes,
      placeables: this.#placeables,
      problems: this.#problems,
      unplaced: this.#unplaced,
    };
  }

  /** Reports an entity that only what an amendment removed had ended. */
  #settle(node: TemplateNode, at: number): void {
    const { source } = node;
    const known = this.#problems.some((one) => one.code === 'tag' && one.from === at && one.layer === source.layer);
    if (known) return;
    const text = 'After the amendments an “&” may begin an entity with what comes next here: write &amp; for the sign';
    this.#report('tag', { from: at, to: at + 1 }, { text }, node).fix = rewrite(
      'Write &amp;',
      { from: at, to: at + 1 },
      '&amp;',
    );
  }

  #apply(operation: TemplateNode): void {
    if (isSpace(operation)) return;
    if (operation.type === 'element' && operation.own && declared.has(operation.name)) return;
    if (operation.type !== 'element' || !operation.own || !operations.has(operation.name)) {
      this.#report('amend', operation, {
        text: `In <amend> stand before, after, prepend, append, replace, remove, move, adjust, takes and placeable; this is none of them`,
      });
      return;
    }
    this.#checkDirectives(operation);
    const places = this.#placesOf(operation);
    if (!places.length) this.#unplaced.push(...this.#insert(operation, []));
    else if (operation.name === 'move') this.#move(operation, places);
    else for (const place of places) this.#change(operation, place);
  }

  /** Directives that an operation cannot follow. */
  #checkDirectives(operation: ElementNode): void {
    const { gate, each, lets, wrapWhen, attributes, json, once, asWritten } = operation.directives;
    const puts = placing.has(operation.name);
    const refused = puts
      ? gate || wrapWhen || attributes || json
      : gate || wrapWhen || attributes || json || each || lets.length || once || asWritten;
    if (!refused) return;
    const allowed = puts ? 'do:when, do:each, do:let, do:once, do:mark and do:as-written' : 'do:when only';
    this.#report(
      'amend',
      opening(operation),
      { text: `Of directives, <${operation.name}> takes ${allowed}` },
      operation,
    );
  }

  #change(operation: ElementNode, place: Place): void {
    const { node, siblings, chains } = place;
    if (operation.name === 'adjust') return this.#adjust(operation, node);
    const at = () => siblings.indexOf(node);
    if (operation.name === 'remove') {
      const { when } = operation.directives;
      const left = when ? [grouped(operation, { when: negated(when) }, [this.#untied(node)])] : [];
      siblings.splice(at(), 1, ...this.#keepingCondition(node, left));
    } else if (operation.name === 'before') siblings.splice(at(), 0, ...this.#insert(operation, chains));
    else if (operation.name === 'after') {
      const inserted = this.#insert(operation, chains);
      const last = this.#afters.get(node);
      siblings.splice(Math.max(at(), last ? siblings.indexOf(last) : -1) + 1, 0, ...inserted);
      if (inserted.length) this.#afters.set(node, inserted[inserted.length - 1] as Growing);
    } else if (operation.name === 'replace') {
      const index = at();
      const inner = this.#insert(operation, chains, this.#untied(node));
      siblings.splice(index, 1, ...this.#keepingCondition(node, inner));
    } else if (rawElements.has(node.name.toLowerCase()) && !node.own) this.#writeRaw(operation, node);
    else {
      if (!node.own && node.childless) {
        this.#report('mark', operation, { text: `<${node.name}> has no inside: put it before or after` });
        return;
      }
      const inserted = this.#insert(operation, node.chains);
      if (operation.name === 'prepend') node.children.unshift(...inserted);
      else node.children.push(...inserted);
      node.childless = false;
    }
  }

  /** Text put into a script or style: as it is written, and nothing else. */
  #writeRaw(operation: ElementNode, node: GrowingElement): void {
    const { directives, source, children } = operation;
    const refuse = (text: string) =>
      void this.#report('amend', opening(operation), { text: `${text}; the change is left out` }, operation);
    if (node.directives.json) return refuse(`<${node.name}> holds what its do:json gives`);
    if (directives.when || directives.each || directives.lets.length || directives.once)
      return refuse(`<${node.name}> holds text only, which is always the same`);
    const text = directives.asWritten
      ? source.slice(operation.openTo, operation.closeFrom)
      : children.every((child) => child.type === 'text')
        ? children.map((child) => (child.type === 'text' ? child.text : '')).join('')
        : null;
    if (text === null)
      return refuse(
        `<${node.name}> holds text only: no value, element or draw can be put into it. do:as-written puts text there with its braces`,
      );
    const there = node.children.map((child) => (child.type === 'text' ? child.text : '')).join('');
    const whole = operation.name === 'prepend' ? text + there : there + text;
    if (!staysRaw(node.name.toLowerCase(), whole)) return refuse(`This would end <${node.name}> early`);
    const { openTo: from, closeFrom: to } = operation;
    const put: TemplateNode = { type: 'text', source, from, to, text, blank: false, loose: [] };
    if (operation.name === 'prepend') node.children.unshift(put);
    else node.children.push(put);
  }

  /** Gives an element attributes: a class is added to what is there, others stand in place of its own. */
  #adjust(operation: ElementNode, node: GrowingElement): void {
    if (node.own && node.name !== 'draw') {
      const text = `<${node.name}> is the language’s own, and is never printed: it has no attributes to adjust`;
      this.#report('amend', opening(operation), { text }, operation);
      return;
    }
    const { when } = operation.directives;
    for (const one of operation.attributes) {
      if (['mark', 'at', 'was'].includes(one.name) || one.name.startsWith('do:')) continue;
      const attribute: Attribute = { ...one, source: operation.source };
      const at = node.attributes.findIndex((other) => other.name.toLowerCase() === one.name);
      const before = node.attributes[at];
      const given = (otherwise: Attribute | null) => (when ? { given: { when, otherwise } } : {});
      if (!before) node.attributes.push({ ...attribute, ...given(null) });
      else if (one.name === 'class')
        node.attributes[at] = { ...before, added: [...(before.added ?? []), { ...attribute, ...given(null) }] };
      else node.attributes[at] = { ...attribute, ...given(before) };
    }
  }

  #move(operation: ElementNode, places: Place[]): void {
    const [where, target] = this.#target(operation);
    if (!target) return;
    const moved = places.filter(({ node }) => node !== target.node);
    if (moved.some(({ node }) => holds(node, target.node)) || !moved.length) {
      this.#report('mark', operation, { text: 'A place cannot be moved into itself' });
      return;
    }
    if (where === 'into' && !target.node.own && rawElements.has(target.node.name.toLowerCase())) {
      const text = `<${target.node.name}> holds text only: nothing can be moved into it; the change is left out`;
      this.#report('amend', opening(operation), { text }, operation);
      return;
    }
    if (where === 'into' && !target.node.own && target.node.childless) {
      this.#report('mark', operation, { text: `<${target.node.name}> has no inside: move it before or after` });
      return;
    }
    const { when } = operation.directives;
    const nodes = moved.map(({ node, siblings }): Growing => {
      const alone = this.#withCondition(node, siblings);
      const stays = when ? [grouped(operation, { when: negated(when) }, [this.#untied(node)])] : [];
      siblings.splice(siblings.indexOf(node), 1, ...this.#keepingCondition(node, stays));
      if (!when) return alone;
      // Printed in one of two places: what is done to it later is done to both.
      return grouped(operation, { when }, [this.#copy(alone, this.#freshChains(), null)]);
    });
    if (where === 'into') {
      target.node.children.push(...nodes);
      target.node.childless = false;
    } else {
      target.siblings.splice(target.siblings.indexOf(target.node) + (where === 'after' ? 1 : 0), 0, ...nodes);
    }
  }

  #isTied(node: ElementNode): boolean {
    return node.chain >= 0 && this.#tied.has(node.chain);
  }

  /** An element without the condition that its place in a chain keeps. */
  #untied(node: GrowingElement): GrowingElement {
    if (!this.#isTied(node)) return node;
    const { directives } = node;
    // A loop stays with its element: the chain asks only whether it has a turn.
    const free = directives.each ? { gate: null } : { gate: null, lets: [], when: null };
    return Object.assign(node, { directives: { ...directives, ...free }, chain: -1 });
  }

  /** What stands at an element's place instead of it. A link of a chain leaves its condition there, so that it is decided once. */
  #keepingCondition(node: ElementNode, instead: Growing[]): Growing[] {
    const link = this.#links.get(node);
    if (!link || !this.#tied.has(link.chain)) return instead;
    this.#links.delete(node);
    const { chain, gate, lets, when } = link;
    return [{ ...grouped(node, { gate, lets, when }, instead), chain }];
  }

  /** A link of a chain for another place, where the outcome of the chain is not known: with the whole condition by itself. */
  #withCondition(node: GrowingElement, siblings: readonly Growing[]): GrowingElement {
    if (!this.#isTied(node)) return node;
    const { chain } = node;
    const before: Expression[] = [];
    for (const other of siblings) {
      if (other === node) break;
      if (other.type === 'element' && other.chain === chain) before.push(...ownTests(other));
    }
    const { gate } = node.directives;
    const tests = before.map(negated);
    if (gate?.kind === 'or-when') tests.push(gate.test);
    const copy = { ...node, chain: -1, directives: { ...node.directives, gate: null } };
    const when = tests.reduce<Expression | null>((all, test) => (all ? both(all, test) : test), null);
    return when ? grouped(node, { when }, [copy]) : copy;
  }

  #target(operation: ElementNode): ['before' | 'after' | 'into', Place | null] {
    for (const where of ['before', 'after', 'into'] as const) {
      const mark = literalAttribute(operation, where);
      if (mark === null) continue;
      const [place] = this.#marked(mark);
      if (!place) this.#reportMark(operation, mark);
      return [where, place ?? null];
    }
    this.#report('amend', operation, { text: '<move> needs where to: before, after or into another mark' });
    return ['after', null];
  }

  #placesOf(operation: ElementNode): Place[] {
    const mark = literalAttribute(operation, 'mark');
    const path = literalAttribute(operation, 'at');
    if (mark !== null) {
      const places = this.#marked(mark);
      if (!places.length) this.#reportMark(operation, mark);
      return places;
    }
    if (path === null) {
      this.#report('amend', operation, {
        text: `<${operation.name}> needs a place: mark="…", or at="…" with a path of elements`,
      });
      return [];
    }
    const was = operation.attributes.find((one) => one.name === 'was');
    if (was && path) {
      const reported = this.#report(
        'place-moved',
        was,
        { was: literalAttribute(operation, 'was') ?? '', at: path },
        operation,
      );
      reported.fix = rewrite('It is meant', { from: was.leadFrom, to: was.to }, '');
    } else if (was) {
      const text = `What stood at “${literalAttribute(operation, 'was') ?? ''}” is gone since an update: name another place`;
      this.#report('mark', was, { text }, operation);
      return [];
    }
    const found = elementAt(this.base.children, path);
    const copy = found.element && this.#copies.get(found.element);
    const place = copy && this.#find((node) => node === copy)[0];
    if (place) return [place];
    const text = found.element
      ? `The place “${path}” was removed by an amendment below`
      : `There is no place “${path}” in the file below${found.text}`;
    this.#report('mark', operation.attributes.find((one) => one.name === 'at') ?? operation, { text }, operation);
    return [];
  }

  #marked(mark: string): Place[] {
    return this.#find((node) => node.directives.mark === mark);
  }

  #find(wanted: (node: ElementNode) => boolean): Place[] {
    const places: Place[] = [];
    const walk = (siblings: Growing[], chains: number[], depth: number): void => {
      this.#looks += siblings.length;
      if (depth > maxDepth) throw new TooMuch(`its amendments nest elements more than ${maxDepth} deep`);
      if (this.#looks > maxLooks) throw new TooMuch('its amendments take too long to put in; the rest is left out');
      for (const node of siblings) {
        if (node.type !== 'element') continue;
        if (wanted(node)) places.push({ node, siblings, chains });
        walk(node.children, node.chains, depth + 1);
      }
    };
    walk(this.#children, this.#chains, 0);
    return places;
  }

  #reportMark(operation: ElementNode, mark: string): void {
    const known = new Set<string>();
    this.#find((node) => {
      if (node.directives.mark) known.add(node.directives.mark);
      return false;
    });
    const near = nearestOf(mark, known);
    const at =
      operation.attributes.find((one) => one.value && literalAttribute(operation, one.name) === mark) ?? operation;
    const text = `There is no mark “${mark}” in the file below${near ? `; did you mean “${near.name}”?` : ''}`;
    const reported = this.#report('mark', at, { text }, operation);
    if (near?.certain && 'value' in at && at.value) reported.fix = rewrite(`Write “${near.name}”`, at.value, near.name);
  }

  #freshChains(): (chain: number) => number {
    const numbers = new Map<number, number>();
    return (chain) => {
      let fresh = numbers.get(chain);
      if (fresh === undefined) numbers.set(chain, (fresh = this.#chainCount++));
      return fresh;
    };
  }

  /**
   * The contents of an operation as new nodes, with chains of their own; `kept` takes the place of the first `<kept>`. Its
   * directives are those of a group around them.
   */
  #insert(operation: ElementNode, chains: number[], kept: GrowingElement | null = null): Growing[] {
    if (operation.directives.asWritten) return this.#insertWritten(operation);
    const number = this.#freshChains();
    const keeping = { node: kept, used: false };
    const nodes = operation.children.map((node) => this.#copy(node, number, null, kept ? keeping : null));
    const inner = operation.chains.map(number);
    const { when, each, lets, once, mark } = operation.directives;
    if (!when && !each && !lets.length && !once && mark === null) {
      chains.push(...inner);
      return nodes;
    }
    return [{ ...grouped(operation, { when, each, lets, once, mark }, nodes), chains: inner }];
  }

  /** What an operation puts there as it is written: one text, whose tags nest. */
  #insertWritten(operation: ElementNode): Growing[] {
    const { source, openTo: from, closeFrom: to } = operation;
    const text = source.slice(from, to);
    const { problems } = parseTemplate(source.file, `<div do:as-written>${text}</div>`);
    const wrong = problems.find(({ code }) => code === 'unclosed' || code === 'unopened' || code === 'nesting');
    if (wrong) {
      const about = { text: `What is put there as written does not nest: ${wrong.message}; the change is left out` };
      this.#report('amend', opening(operation), about, operation);
      return [];
    }
    const loose = text.endsWith('<') ? [text.length - 1] : [];
    const put: TemplateNode = { type: 'text', source, from, to, text, blank: false, loose };
    const { when, each, lets, once, mark } = operation.directives;
    return [grouped(operation, { when, each, lets, once, mark }, [put])];
  }

  #copy(
    node: TemplateNode,
    number: (chain: number) => number,
    copies: Map<ElementNode, GrowingElement> | null,
    kept: { node: GrowingElement | null; used: boolean } | null = null,
  ): Growing {
    if (++this.#nodes > maxNodes && !copies)
      throw new TooMuch(
        `with its amendments it has more than ${maxNodes.toLocaleString('en')} elements, texts and values`,
      );
    if (node.type !== 'element') return { ...node };
    if (kept && node.own && node.name === 'kept') {
      if (kept.used) {
        const text = '<kept> stands for what was there once in each change; this one is left out';
        this.#report('amend', node, { text });
        return { type: 'comment', source: node.source, from: node.from, to: node.to };
      }
      kept.used = true;
      if (kept.node) return kept.node;
    }
    const chain = node.chain < 0 ? node.chain : number(node.chain);
    const copy: GrowingElement = {
      ...node,
      attributes: [...node.attributes],
      children: node.children.map((child) => this.#copy(child, number, copies, kept)),
      chain,
      chains: node.chains.map(number),
    };
    if (chain >= 0) {
      const { gate, lets, when, each } = node.directives;
      if (gate) this.#tied.add(chain);
      const asked = each ? { gate, lets: [], when: each.list } : { gate, lets, when };
      this.#links.set(copy, { ...asked, chain });
    }
    copies?.set(node, copy);
    return copy;
  }

  #report(code: ProblemCode, at: { from: number; to: number }, about: About, node?: TemplateNode): Problem {
    const source = (node ?? (at as TemplateNode)).source;
    const reported = problem(code, source, at, about);
    this.#problems.push(reported);
    return reported;
  }
}

/** A group of the language's own, standing where an element stands in its file. */
function grouped(at: ElementNode, directives: Partial<Directives>, children: Growing[]): GrowingElement {
  return {
    ...at,
    name: 'group',
    own: true,
    attributes: [],
    directives: { ...noDirectives, ...directives },
    childless: false,
    children,
    chain: -1,
    chains: [],
  };
}

/** What a link of a chain asks for itself: empty when it was not there. */
function ownTests({ directives: { gate, each, when } }: ElementNode): Expression[] {
  if (each) return [each.list];
  if (gate?.kind === 'or-when') return [gate.test];
  return when ? [when] : [];
}

const negated = (of: Expression): Expression => ({ kind: 'not', of, from: of.from, to: of.to });
const both = (left: Expression, right: Expression): Expression => ({
  kind: 'and',
  left,
  right,
  from: left.from,
  to: right.to,
});

const opening = (node: TemplateNode) => ({ from: node.from, to: node.type === 'element' ? node.openTo : node.to });

function holds(outer: ElementNode, inner: ElementNode): boolean {
  return outer === inner || outer.children.some((child) => child.type === 'element' && holds(child, inner));
}
