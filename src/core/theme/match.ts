import type { ElementNode, TemplateNode } from '@/core/language';
import { literalAttribute } from './amendment';

/** Where an element of an older tree stands in a newer one. */
export interface Found {
  /** null: nothing in the newer tree is like it. */
  element: ElementNode | null;
  /** Whether no other element may be meant as well. */
  certain: boolean;
  /** The next likely one, where it is not certain. */
  other: ElementNode | null;
}

/** How alike two elements must be, of 1, to be taken for one another at all. */
const alike = 0.4;
/** And to be so surely, when the next likely one is less alike by `ahead`. */
const sure = 0.55;
const ahead = 0.12;
/** An element that nothing of the older tree became, as like as this, makes even an exact copy uncertain. */
const rivals = 0.4;
/** Elements of both trees multiplied, past which only those of one name are compared. */
const maxPairs = 4_000_000;

interface Item {
  node: ElementNode;
  parent: Item | null;
  /** Number of everything in it, and of its start tag: the same for equal ones of both trees. */
  shape: number;
  /** What its start tag says, in parts. */
  says: Map<string, number>;
  /** Words of its own text. */
  words: Map<string, number>;
  /** The shapes in it, by how many elements each holds. */
  holds: Map<string, number>;
  /** The start tags in it, once they were asked for. */
  tags: ReadonlyMap<string, number> | null;
  size: number;
  id: string | null;
  /** What comes before and after it in the order of the file, by shape. */
  near: [before: Item | null, after: Item | null];
  at: number;
}

interface Scored {
  item: Item;
  score: number;
}
interface Best {
  first: Scored | null;
  second: Scored | null;
}

const add = (all: Map<string, number>, key: string, count = 1) => void all.set(key, (all.get(key) ?? 0) + count);

/** What two bags share, of what both hold: 0 to 1; null where neither holds anything. */
function shared(a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>): number | null {
  let [both, all] = [0, 0];
  for (const [key, count] of a) {
    both += Math.min(count, b.get(key) ?? 0);
    all += count;
  }
  for (const count of b.values()) all += count;
  return all ? (2 * both) / all : null;
}

/** Numbers equal subtrees of both trees alike. */
class Shapes {
  readonly #numbers = new Map<string, number>();

  number(text: string): number {
    let number = this.#numbers.get(text);
    if (number === undefined) this.#numbers.set(text, (number = this.#numbers.size));
    return number;
  }
}

/** Words of a text, long enough to say something; a text without any says itself. */
const words = (text: string): string[] => text.match(/[\p{L}\p{N}_.-]{2,}/gu) ?? (text.trim() ? [text.trim()] : []);

/** What the language's own elements are told by: a draw by what it draws, an input or shelf by its name. */
const called = (node: ElementNode): string =>
  `${node.name} ${node.own ? (literalAttribute(node, 'name') ?? '') : ''}`.trim();

/** A start tag in parts: each attribute with its value, of a class each of its names. */
function startTag({ source, nameTo, openTo }: ElementNode): Map<string, number> {
  const parts = new Map<string, number>();
  const text = source.slice(nameTo, openTo).replace(/\/?>$/, '');
  for (const [whole, name = '', value = ''] of text.matchAll(/([^\s=]+)(?:\s*=\s*("[^"]*"|'[^']*'|[^\s]+))?/g)) {
    if (name !== 'class') add(parts, whole.replace(/\s+/g, ' '));
    else for (const one of words(value.replace(/["']/g, ''))) add(parts, `class ${one}`);
  }
  return parts;
}

function itemsOf(nodes: readonly TemplateNode[], shapes: Shapes): Item[] {
  const items: Item[] = [];
  const visit = (siblings: readonly TemplateNode[], parent: Item | null): { shape: number; size: number }[] =>
    siblings.flatMap((node) => {
      if (node.type === 'comment') return [];
      if (node.type !== 'element') {
        const text = node.source.slice(node.from, node.to).replace(/\s+/g, ' ').trim();
        if (parent) for (const word of words(text)) add(parent.words, word);
        return text ? [{ shape: shapes.number(text), size: 0 }] : [];
      }
      const id = node.attributes.find((one) => one.name === 'id' && one.value && !one.parts)?.value;
      const item: Item = {
        ...{
          node,
          parent,
          shape: 0,
          says: startTag(node),
          words: new Map(),
          holds: new Map(),
          tags: null,
          size: 1,
          at: items.length,
        },
        ...{ id: id ? node.source.slice(id.from, id.to) : null, near: [null, null] },
      };
      items.push(item);
      const inner = visit(node.children, item);
      item.shape = shapes.number(
        `${node.name} ${[...item.says.keys()].join(' ')} [${inner.map(({ shape }) => shape).join()}]`,
      );
      for (const { shape, size } of inner) {
        item.size += size;
        if (size) add(item.holds, String(shape), size);
      }
      return [{ shape: item.shape, size: item.size }];
    });
  visit(nodes, null);
  for (const [at, item] of items.entries()) item.near = [items[at - 1] ?? null, afterOf(items, item)];
  return items;
}

/** The next element that is not inside this one. */
const afterOf = (items: readonly Item[], item: Item): Item | null => items[item.at + item.size] ?? null;

function countedBy<K>(items: readonly Item[], keyOf: (item: Item) => K): Map<K, number> {
  const counts = new Map<K, number>();
  for (const item of items) counts.set(keyOf(item), (counts.get(keyOf(item)) ?? 0) + 1);
  return counts;
}

/** What there is exactly once. */
function once<K>(items: readonly Item[], keyOf: (item: Item) => K | null): Map<K, Item> {
  const found = new Map<K, Item>();
  const twice = new Set<K>();
  for (const item of items) {
    const key = keyOf(item);
    if (key === null) continue;
    if (found.has(key)) twice.add(key);
    else found.set(key, item);
  }
  for (const key of twice) found.delete(key);
  return found;
}

/** Whether an element says anything by which it can be told from others. */
const speaks = ({ says, words, size }: Item): boolean => says.size > 0 || words.size > 0 || size > 1;

/**
 * The elements of a file found again in a later version of it: by what there is once in both (marks, ids, whole contents), then by how alike they are
 * in name, attributes, text and contents, and by what stands around them. A match that is not certain says so.
 */
export class TreeMatch {
  readonly #old: Item[];
  readonly #now: Item[];
  readonly #items = new Map<ElementNode, Item>();
  /** Pairs that are beyond doubt by themselves: what stands around others is told by them. */
  readonly #pairs = new Map<Item, Item>();
  readonly #from = new Map<Item, Item>();
  readonly #narrow: boolean;
  readonly #found = new Map<ElementNode, Found>();
  readonly #likests = new Map<Item, Item | null>();
  /** How often a shape is in the tree that has it more often. */
  readonly #counts = new Map<number, number>();

  constructor(old: readonly TemplateNode[], now: readonly TemplateNode[]) {
    const shapes = new Shapes();
    this.#old = itemsOf(old, shapes);
    this.#now = itemsOf(now, shapes);
    this.#narrow = this.#old.length * this.#now.length > maxPairs;
    for (const item of this.#old) this.#items.set(item.node, item);
    for (const items of [this.#old, this.#now])
      for (const [shape, count] of countedBy(items, (item) => item.shape))
        this.#counts.set(shape, Math.max(count, this.#counts.get(shape) ?? 0));
    this.#pairOnce(({ node }) => node.directives.mark);
    this.#pairOnce(({ id }) => id);
    this.#pairOnce((item) => (speaks(item) ? item.shape : null));
  }

  #pairOnce<K>(keyOf: (item: Item) => K | null): void {
    const now = once(this.#now, keyOf);
    for (const [key, item] of once(this.#old, keyOf)) {
      const other = now.get(key);
      if (!other || this.#pairs.has(item) || this.#from.has(other)) continue;
      this.#pair(item, other);
    }
  }

  #pair(item: Item, other: Item): void {
    this.#pairs.set(item, other);
    this.#from.set(other, item);
    if (item.shape !== other.shape) return;
    // The same contents, element by element.
    for (let at = 1; at < item.size; at++) {
      const [inner, partner] = [this.#old[item.at + at], this.#now[other.at + at]];
      if (!inner || !partner || this.#pairs.has(inner) || this.#from.has(partner)) continue;
      this.#pairs.set(inner, partner);
      this.#from.set(partner, inner);
    }
  }

  /** How alike two elements are by themselves, 0 to 1. */
  #own(a: Item, b: Item): number {
    if (a.shape === b.shape) return 1;
    const parts: [number | null, number][] = [
      [called(a.node) === called(b.node) ? 1 : 0, 1],
      [shared(a.says, b.says), 2],
      [this.#text(a, b), 3],
      [this.#inner(a, b), 3],
    ];
    let [sum, weight] = [0, 0];
    for (const [part, counts] of parts) {
      if (part === null) continue;
      sum += part * counts;
      weight += counts;
    }
    const likeness = sum / weight;
    const marked = a.node.directives.mark !== null && a.node.directives.mark === b.node.directives.mark;
    const named = a.id !== null && a.id === b.id;
    return marked || named ? 0.5 + likeness / 2 : likeness;
  }

  /** What the texts of two elements share; all the text in them, where one of them has lost its own to what it holds. */
  #text(a: Item, b: Item): number | null {
    if (a.words.size > 0 === b.words.size > 0) return shared(a.words, b.words);
    const deep = (item: Item, items: readonly Item[]) => {
      const all = new Map<string, number>();
      for (let at = 0; at < item.size; at++)
        for (const [word, count] of (items[item.at + at] as Item).words) add(all, word, count);
      return all;
    };
    return shared(deep(a, this.#old), deep(b, this.#now));
  }

  /** What two elements hold in common: equal parts, and those that are known to be one another. */
  #inner(a: Item, b: Item): number | null {
    if (a.size === 1 && b.size === 1) return null;
    let both = 0;
    for (let at = 1; at < a.size; at++) {
      const partner = this.#pairs.get(this.#old[a.at + at] as Item);
      if (partner && partner.at > b.at && partner.at < b.at + b.size) both++;
    }
    const byPairs = (2 * both) / (a.size - 1 + b.size - 1);
    return Math.max(
      byPairs,
      shared(a.holds, b.holds) ?? 0,
      shared(this.#tags(a, this.#old), this.#tags(b, this.#now)) ?? 0,
    );
  }

  /** The start tags in an element. */
  #tags(item: Item, items: readonly Item[]): ReadonlyMap<string, number> {
    if (item.tags) return item.tags;
    const tags = new Map<string, number>();
    for (let at = 1; at < item.size; at++) {
      const { node, says } = items[item.at + at] as Item;
      add(tags, `${node.name} ${[...says.keys()].join(' ')}`);
    }
    return (item.tags = tags);
  }

  /** How alike what stands around two elements is, 0 to 1. */
  #around(a: Item, b: Item): number {
    const same = (one: Item | null, other: Item | null) =>
      one === null || other === null ? one === other : this.#pairs.get(one) === other;
    const parent = same(a.parent, b.parent) ? 1 : sameAbove(this.#pairs, a, b) ? 0.5 : 0;
    return parent * 0.4 + (same(a.near[0], b.near[0]) ? 0.3 : 0) + (same(a.near[1], b.near[1]) ? 0.3 : 0);
  }

  #score(a: Item, b: Item): number {
    return this.#own(a, b) * 0.75 + this.#around(a, b) * 0.25;
  }

  /** The two of a tree that are most like an element of the other. */
  #best(item: Item, among: readonly Item[], way: (a: Item, b: Item) => number): Best {
    let first: Scored | null = null;
    let second: Scored | null = null;
    for (const other of among) {
      if (this.#narrow && other.node.name !== item.node.name) continue;
      const score = way(item, other);
      const scored = { item: other, score };
      if (!first || score > first.score) [second, first] = [first, scored];
      else if (!second || score > second.score) second = scored;
    }
    return { first, second };
  }

  find(element: ElementNode): Found {
    let found = this.#found.get(element);
    if (!found) this.#found.set(element, (found = this.#find(element)));
    return found;
  }

  #find(element: ElementNode): Found {
    const item = this.#items.get(element);
    const none: Found = { element: null, certain: false, other: null };
    if (!item) return none;
    const free = this.#free(item);
    const { first, second } = this.#best(item, free, (a, b) => this.#score(a, b));
    const own = first ? this.#own(item, first.item) : 0;
    if (!first || own < alike) return none;
    const back = this.#best(
      first.item,
      this.#old.filter((other) => other !== item && !this.#pairs.has(other)),
      (b, a) => this.#score(a, b),
    ).first;
    const clear = first.score - (second?.score ?? 0) >= ahead && first.score - (back?.score ?? 0) >= ahead;
    // A start tag of which nothing is left may be another element's around the same contents.
    const tagged = !item.says.size || (shared(item.says, first.item.says) ?? 0) > 0;
    const certain =
      clear &&
      tagged &&
      own >= sure &&
      !this.#copied(item, first.item, own) &&
      (speaks(item) || this.#pairs.has(item)) &&
      (!(this.#shared(item) || !item.says.size) || item.parent === null || this.find(item.parent.node).certain) &&
      !free.some((other) => other !== first.item && this.#own(item, other) >= rivals && !this.#explained(other, item));
    return { element: first.item.node, certain, other: certain ? null : (second?.item.node ?? null) };
  }

  /** Whether a newer element is rather what an older one was copied from, and changed: that one is known to be its exact copy. */
  #copied(item: Item, now: Item, own: number): boolean {
    return this.#old.some((other) => other !== item && this.#pairs.has(other) && this.#own(other, now) > own);
  }

  /** Whether others are the same as an element, so that it is told by its place alone. */
  #shared({ shape }: Item): boolean {
    return (this.#counts.get(shape) ?? 0) > 1;
  }

  /** Whether an element of the newer tree is what another one of the older became: each is the likest to the other. */
  #explained(other: Item, than: Item): boolean {
    const { first } = this.#best(
      other,
      this.#old.filter((one) => one !== than && !this.#pairs.has(one)),
      (b, a) => this.#score(a, b),
    );
    return first !== null && first.score > this.#score(than, other) && this.#likest(first.item) === other;
  }

  #likest(item: Item): Item | null {
    let likest = this.#likests.get(item);
    if (likest === undefined) {
      likest = this.#best(item, this.#free(item), (a, b) => this.#score(a, b)).first?.item ?? null;
      this.#likests.set(item, likest);
    }
    return likest;
  }

  /** What an element may have become: anything that is not known to be another. */
  #free(item: Item): Item[] {
    return this.#now.filter((other) => (this.#from.get(other) ?? item) === item);
  }
}

/** Whether the nearest element above that is known in both trees is the same. */
function sameAbove(pairs: ReadonlyMap<Item, Item>, a: Item, b: Item): boolean {
  let above = a.parent;
  while (above && !pairs.has(above)) above = above.parent;
  const partner = above && pairs.get(above);
  for (let one = b.parent; one; one = one.parent) if (one === partner) return true;
  return above === null;
}
