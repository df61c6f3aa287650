import type { ElementNode, Template, TemplateNode } from '../language/1-parse/nodes';
import { nearestOf } from '../language/nearest';
import { problem, rewrite, type About, type Problem, type ProblemCode } from '../language/problems';

/** What an amendment may do: each names a place by `mark` or `at`. `move` names where to by `before`, `after` or `into`. */
const operations = new Set(['before', 'after', 'prepend', 'append', 'replace', 'remove', 'move']);

/** The `<amend>` of a file whose only element it is; null for any other file. */
export function amendmentOf(template: Template): ElementNode | null {
  let found: ElementNode | null = null;
  for (const node of template.children) {
    if (node.type === 'element') {
      if (found || !node.own || node.name !== 'amend') return null;
      found = node;
    } else if (node.type === 'value' || (node.type === 'text' && /\S/.test(node.text))) return null;
  }
  return found;
}

/**
 * A file with the amendments of the layers above it put in, lowest layer first, each in file order. The trees given stay
 * as they are; every node keeps its own source. An operation whose place is not there is reported and left out.
 */
export function amended(base: Template, amendments: readonly Template[]): Template {
  return new Amending(base).all(amendments);
}

interface Place {
  node: ElementNode;
  siblings: TemplateNode[];
  /** Chains that begin among the siblings. */
  chains: number[];
}

class Amending {
  readonly #children: TemplateNode[];
  readonly #chains: number[];
  readonly #problems: Problem[];
  /** From the nodes of the base to their copies: places by path are those of the base as it is written. */
  readonly #copies = new Map<ElementNode, ElementNode>();
  /** Afters of one place keep their order: each stands behind what the one before it put in. */
  readonly #afters = new Map<ElementNode, TemplateNode>();
  readonly #unplaced: TemplateNode[] = [];
  #chainCount: number;

  constructor(readonly base: Template) {
    this.#chainCount = base.chainCount;
    this.#chains = [...base.chains];
    this.#problems = [...base.problems];
    this.#children = base.children.map((node) => this.#copy(node, (chain) => chain, this.#copies));
  }

  all(amendments: readonly Template[]): Template {
    for (const amendment of amendments) {
      this.#problems.push(...amendment.problems);
      const root = amendmentOf(amendment);
      for (const node of root?.children ?? []) this.#apply(node);
    }
    return {
      ...this.base,
      children: this.#children,
      chains: this.#chains,
      chainCount: this.#chainCount,
      problems: this.#problems,
      unplaced: this.#unplaced,
    };
  }

  #apply(operation: TemplateNode): void {
    if (operation.type === 'comment' || (operation.type === 'text' && !/\S/.test(operation.text))) return;
    if (operation.type !== 'element' || !operation.own || !operations.has(operation.name)) {
      this.#report('amend', operation, {
        text: `In <amend> stand before, after, prepend, append, replace, remove and move; this is none of them`,
      });
      return;
    }
    const places = this.#placesOf(operation);
    if (!places.length) this.#unplaced.push(...this.#insert(operation, []));
    else if (operation.name === 'move') this.#move(operation, places);
    else for (const place of places) this.#change(operation, place);
  }

  #change(operation: ElementNode, place: Place): void {
    const { node, siblings, chains } = place;
    const at = () => siblings.indexOf(node);
    if (operation.name === 'remove') siblings.splice(at(), 1);
    else if (operation.name === 'before') siblings.splice(at(), 0, ...this.#insert(operation, chains));
    else if (operation.name === 'after') {
      const inserted = this.#insert(operation, chains);
      const last = this.#afters.get(node);
      siblings.splice(Math.max(at(), last ? siblings.indexOf(last) : -1) + 1, 0, ...inserted);
      if (inserted.length) this.#afters.set(node, inserted[inserted.length - 1] as TemplateNode);
    } else if (operation.name === 'replace') siblings.splice(at(), 1, ...this.#insert(operation, chains, node));
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

  #move(operation: ElementNode, places: Place[]): void {
    const [where, target] = this.#target(operation);
    if (!target) return;
    const moved = places.filter(({ node }) => node !== target.node);
    if (moved.some(({ node }) => holds(node, target.node)) || !moved.length) {
      this.#report('mark', operation, { text: 'A place cannot be moved into itself' });
      return;
    }
    if (where === 'into' && !target.node.own && target.node.childless) {
      this.#report('mark', operation, { text: `<${target.node.name}> has no inside: move it before or after` });
      return;
    }
    for (const { node, siblings } of moved) siblings.splice(siblings.indexOf(node), 1);
    const nodes = moved.map(({ node }) => node);
    if (where === 'into') {
      target.node.children.push(...nodes);
      target.node.childless = false;
    } else {
      target.siblings.splice(target.siblings.indexOf(target.node) + (where === 'after' ? 1 : 0), 0, ...nodes);
    }
  }

  #target(operation: ElementNode): ['before' | 'after' | 'into', Place | null] {
    for (const where of ['before', 'after', 'into'] as const) {
      const mark = written(operation, where);
      if (mark === null) continue;
      const [place] = this.#marked(mark);
      if (!place) this.#reportMark(operation, mark);
      return [where, place ?? null];
    }
    this.#report('amend', operation, { text: '<move> needs where to: before, after or into another mark' });
    return ['after', null];
  }

  #placesOf(operation: ElementNode): Place[] {
    const mark = written(operation, 'mark');
    const path = written(operation, 'at');
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
    const found = elementAt(this.base.children, path);
    const copy = found.element && this.#copies.get(found.element);
    const place = copy && this.#find((node) => node === copy)[0];
    if (place) return [place];
    const text = found.element
      ? `The place “${path}” was taken away by an amendment below`
      : `There is no place “${path}” in the file below${found.text}`;
    this.#report('mark', operation.attributes.find((one) => one.name === 'at') ?? operation, { text }, operation);
    return [];
  }

  #marked(mark: string): Place[] {
    return this.#find((node) => node.directives.mark === mark);
  }

  #find(wanted: (node: ElementNode) => boolean): Place[] {
    const places: Place[] = [];
    const walk = (siblings: TemplateNode[], chains: number[]): void => {
      for (const node of siblings) {
        if (node.type !== 'element') continue;
        if (wanted(node)) places.push({ node, siblings, chains });
        walk(node.children, node.chains);
      }
    };
    walk(this.#children, this.#chains);
    return places;
  }

  #reportMark(operation: ElementNode, mark: string): void {
    const known = new Set<string>();
    this.#find((node) => {
      if (node.directives.mark) known.add(node.directives.mark);
      return false;
    });
    const near = nearestOf(mark, known);
    const at = operation.attributes.find((one) => one.value && written(operation, one.name) === mark) ?? operation;
    const text = `There is no mark “${mark}” in the file below${near ? `; did you mean “${near.name}”?` : ''}`;
    const made = this.#report('mark', at, { text }, operation);
    if (near?.certain && 'value' in at && at.value) made.fix = rewrite(`Write “${near.name}”`, at.value, near.name);
  }

  /** The contents of an operation as new nodes, with chains of their own; `kept` takes the place of `<kept>`. */
  #insert(operation: ElementNode, chains: number[], kept: ElementNode | null = null): TemplateNode[] {
    const numbers = new Map<number, number>();
    const number = (chain: number): number => {
      let fresh = numbers.get(chain);
      if (fresh === undefined) numbers.set(chain, (fresh = this.#chainCount++));
      return fresh;
    };
    const nodes = operation.children.map((node) => this.#copy(node, number, null, kept));
    chains.push(...operation.chains.map(number));
    return nodes;
  }

  #copy(
    node: TemplateNode,
    number: (chain: number) => number,
    copies: Map<ElementNode, ElementNode> | null,
    kept: ElementNode | null = null,
  ): TemplateNode {
    if (node.type !== 'element') return { ...node };
    if (kept && node.own && node.name === 'kept') return kept;
    const copy: ElementNode = {
      ...node,
      children: node.children.map((child) => this.#copy(child, number, copies, kept)),
      chain: node.chain < 0 ? node.chain : number(node.chain),
      chains: node.chains.map(number),
    };
    copies?.set(node, copy);
    return copy;
  }

  #report(code: ProblemCode, at: { from: number; to: number }, about: About, node?: ElementNode): Problem {
    const source = (node ?? (at as TemplateNode)).source;
    const made = problem(code, source, at, about);
    this.#problems.push(made);
    return made;
  }
}

function holds(outer: ElementNode, inner: ElementNode): boolean {
  return outer === inner || outer.children.some((child) => child.type === 'element' && holds(child, inner));
}

/** The template that an amendment changes instead of the file below: `<amend of="product/default">`; null: none is named. */
export function amendsOther(template: Template): string | null {
  const root = amendmentOf(template);
  return root && written(root, 'of');
}

function written(element: ElementNode, name: string): string | null {
  const attribute = element.attributes.find((one) => one.name === name);
  if (!attribute) return null;
  return attribute.value ? element.source.slice(attribute.value.from, attribute.value.to) : '';
}

/**
 * The element that a path names: `main > section:2 > p:1`, from the file's root, each step the n-th child element of that
 * name (the first where no number stands). `text` says where the path ends when it names none.
 */
export function elementAt(nodes: readonly TemplateNode[], path: string): { element: ElementNode | null; text: string } {
  let inside = nodes;
  let element: ElementNode | null = null;
  let walked = '';
  for (const step of path.split('>').map((one) => one.trim())) {
    const [, name = '', count] = /^([A-Za-z][\w:-]*?)(?::(\d+))?$/.exec(step) ?? [];
    if (!name) return { element: null, text: `: “${step}” is no step of a path` };
    const wanted = Number(count ?? 1);
    const named = inside.filter((node): node is ElementNode => node.type === 'element' && node.name === name);
    element = named[wanted - 1] ?? null;
    if (!element) {
      const there = named.length === 1 ? 'one' : named.length ? String(named.length) : 'no';
      return { element: null, text: `: ${walked ? `in “${walked}”` : 'at its top'} stands ${there} <${name}>` };
    }
    walked += `${walked ? ' > ' : ''}${step}`;
    inside = element.children;
  }
  return { element, text: '' };
}

/** The path of elements to an element of this tree, as `at="…"` writes it; null for one that is not in it. */
export function pathTo(nodes: readonly TemplateNode[], wanted: ElementNode): string | null {
  for (const node of nodes) {
    if (node.type !== 'element') continue;
    const inner = node === wanted ? '' : pathTo(node.children, wanted);
    if (inner === null) continue;
    const twins = nodes.filter((one): one is ElementNode => one.type === 'element' && one.name === node.name);
    const step = twins.length > 1 ? `${node.name}:${twins.indexOf(node) + 1}` : node.name;
    return inner ? `${step} > ${inner}` : step;
  }
  return null;
}
