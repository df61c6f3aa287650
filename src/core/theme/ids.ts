import {
  fixedName,
  problem,
  sourceOf,
  type ElementNode,
  type Problem,
  type Source,
  type Template,
  type TemplateNode,
} from '@/core/language';
import type { ShelfEntry } from './shelves';

/** A theme, as far as its pages' ids are looked at. */
interface Drawn {
  template(name: string): Template | null;
  readonly shelves: readonly ShelfEntry[];
}

/** Where an id stands, or where what holds it is drawn. */
interface Site {
  source: Source;
  from: number;
  to: number;
  /** The template that holds it, where it is drawn from elsewhere: `pieces/tab`. */
  drawn: string;
  /** Whether it is there on every page that the template is drawn on. */
  sure: boolean;
}

type Ids = Map<string, Site[]>;

const none: Ids = new Map();

/** Pieces that are drawn one in another are followed so far. */
const deepest = 12;

/** Ids that stand twice on a page: in a template, or through what it draws and the shelves that stand in it. */
export class PageIds {
  readonly #ids = new Map<string, Ids>();
  readonly #found = new Map<string, Problem[]>();

  constructor(readonly theme: Drawn) {}

  /** Of one template: each is told where the second of the two comes from. */
  problems(name: string): Problem[] {
    this.#of(name, 0);
    return this.#found.get(name) ?? [];
  }

  #of(name: string, depth: number): Ids {
    const known = this.#ids.get(name);
    if (known) return known;
    if (depth > deepest) return none;
    const template = this.theme.template(name);
    const ids: Ids = new Map();
    // A template that draws itself has none of its own the second time.
    this.#ids.set(name, ids);
    this.#found.set(name, []);
    if (template) for (const [id, sites] of this.#in(template.children, name, depth)) ids.set(id, sites);
    return ids;
  }

  #in(nodes: readonly TemplateNode[], name: string, depth: number): Ids {
    let all = none;
    /** Ids of the chain of conditions that goes on: of its elements one alone is there. */
    let chain = { number: -1, ids: new Set<string>() };
    for (const node of nodes) {
      if (node.type !== 'element') continue;
      const own = this.#element(node, name, depth);
      if (!own.size) continue;
      if (node.chain < 0 || node.chain !== chain.number) chain = { number: node.chain, ids: new Set() };
      if (all === none) all = new Map();
      for (const [id, sites] of own) {
        if (!chain.ids.has(id)) this.#add(all, id, sites, name);
        if (node.chain >= 0) chain.ids.add(id);
      }
    }
    return all;
  }

  #element(element: ElementNode, name: string, depth: number): Ids {
    const { when, gate, each, asWritten } = element.directives;
    const all = element.own ? this.#own(element, name, depth) : this.#printed(element, name, depth, asWritten);
    if (!all.size) return none;
    const span = { from: element.from, to: element.openTo };
    if (each) {
      // Each turn brings it once more; what stands under a condition in the loop may be there once only.
      for (const [id, [first]] of all)
        if (first?.sure)
          this.#tell(name, id, { ...first, ...(first.drawn ? { source: element.source, ...span } : {}) }, true);
    }
    if (when || gate || each)
      for (const [id, sites] of all)
        all.set(
          id,
          sites.map((one) => ({ ...one, sure: false })),
        );
    return all;
  }

  #printed(element: ElementNode, name: string, depth: number, asWritten: boolean): Ids {
    const inside = asWritten ? none : this.#in(element.children, name, depth);
    const id = element.attributes.find((one) => one.name === 'id');
    const text = id && !id.given ? fixedName(element, 'id') : null;
    if (!text || !id) return inside;
    const site = { source: sourceOf(element, id), from: id.from, to: id.to, drawn: '', sure: true };
    return this.#joined(new Map([[text, [site]]]), inside, name);
  }

  #own(element: ElementNode, name: string, depth: number): Ids {
    const inside = this.#in(element.children, name, depth);
    const span = { source: element.source, from: element.from, to: element.openTo };
    const piece = fixedName(element);
    if (element.name === 'draw' && piece)
      return this.#joined(from(this.#of(piece, depth + 1), piece, span, true), inside, name);
    if (element.name === 'shelf')
      return this.theme.shelves
        .filter((entry) => entry.shelf === piece)
        .map((entry) => from(this.#of(entry.piece, depth + 1), entry.piece, span, false))
        .reduce((all, one) => this.#joined(all, one, name), none);
    // What stands in a gap goes when something is put there.
    return element.name === 'gap' ? none : inside;
  }

  /** Both together, in the first of the two where it is not empty. */
  #joined(all: Ids, more: Ids, name: string): Ids {
    if (!all.size || !more.size) return all.size ? all : more;
    for (const [id, sites] of more) this.#add(all, id, sites, name);
    return all;
  }

  #add(all: Ids, id: string, sites: readonly Site[], name: string): void {
    const there = all.get(id) ?? [];
    const second = sites[0];
    // Two under conditions may be there in turn: one at least is there always.
    if (second && there.length && (second.sure || there.some(({ sure }) => sure))) this.#tell(name, id, second, false);
    all.set(id, [...there, ...sites]);
  }

  #tell(name: string, id: string, { source, from, to, drawn }: Site, loop: boolean): void {
    const what = drawn ? `the id “${id}” of ${drawn}` : `the id “${id}”`;
    const text = loop
      ? `In a loop ${what} is there as often as there are items`
      : `${what.charAt(0).toUpperCase()}${what.slice(1)} is on the page already: an id is there once`;
    this.#found.get(name)?.push(problem('duplicate-id', source, { from, to }, { text }));
  }
}

/** The ids of a piece, as they come in where it is drawn. */
function from(ids: Ids, piece: string, span: Pick<Site, 'source' | 'from' | 'to'>, sure: boolean): Ids {
  if (!ids.size) return none;
  return new Map(
    [...ids].map(([id, [first]]) => [
      id,
      [{ ...span, drawn: first?.drawn || piece, sure: sure && (first?.sure ?? false) }],
    ]),
  );
}
