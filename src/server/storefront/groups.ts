import { createHash } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { productsOf } from '@/core/catalogue';
import type { Theme } from '@/core/theme';
import type { Shop } from '@/server/shop';
import { catalogueState, changedSince } from '@/store';
import { asking, partsOf } from './made-from';

/** The group of every page: what invalidates it drops all. */
export const everyPage = 'page';
/** The group of pages that may have been made from everything. */
const anything = 'any';
/** What a page's groups take at most, in bytes; where they would take more, all things of a kind are one group. */
const maxBytes = 4096;
/** So many things that pages were made from are remembered; of more, all pages are dropped at the next change. */
const maxKnown = 200_000;
/** Changes are looked for so long without a pause, in milliseconds: requests are answered in between. */
const slice = 4;

/** A group of one thing: eight letters, digits, hyphens and underscores. */
const groupOf = (read: string): string => createHash('sha256').update(read).digest('base64url').slice(0, 8);

/** The group of all things of a kind: what was asked of the goods, or `theme`. */
const kindOf = (read: string): string => (read.startsWith('t') ? 'theme' : (read.split('\t')[1] ?? anything));

/** A list of strings (RFC 9651), as the header fields of RFC 9875 have it. */
export const listOf = (groups: Iterable<string>): string => [...groups].map((one) => `"${one}"`).join(', ');

/**
 * The groups of a page by what it was made from, for the field `Cache-Groups` (RFC 9875, 2): one for each thing, or for all things of a kind where that
 * would take more than 4 KB.
 */
export function groupsOf(from: string | null): string[] {
  if (from === null) return [everyPage, anything];
  const byKind = new Map<string, Set<string>>();
  for (const { read } of partsOf(from)) {
    const kind = kindOf(read);
    byKind.set(kind, (byKind.get(kind) ?? new Set()).add(groupOf(read)));
  }
  const bytes = () => [...byKind.values()].reduce((sum, some) => sum + [...some].join('').length + some.size * 4, 8);
  while (bytes() > maxBytes) {
    const [kind] = [...byKind].reduce((most, one) => (one[1].size > most[1].size ? one : most));
    byKind.set(kind, new Set([kind]));
  }
  return [everyPage, ...[...byKind.values()].flatMap((some) => [...some])];
}

/**
 * What the pages that were sent were made from, and what each thing came to then: it tells which groups a change has invalidated. What an earlier process
 * sent is not known; so the first that it tells is the group of every page.
 */
export class SentPages {
  readonly #known = new Map<string, string>();
  readonly #changed = new Set<string>();
  /** Pages that were noted since things were last forgotten, with their groups. */
  #noted = new WeakMap<object, string>();
  #isLost = true;
  /** What it was looked at last. */
  #looked: { theme: Theme; of: string; revision: number } | null = null;

  constructor(private readonly most = maxKnown) {}

  /** Notes that a page is sent; gives its groups, as the header field has them. */
  groupsFor(page: { from: string | null }): string {
    let groups = this.#noted.get(page);
    if (groups !== undefined) return groups;
    if (page.from !== null)
      for (const { read, came } of partsOf(page.from)) {
        const before = this.#known.get(read);
        // Of pages that differ, one may have been sent before the last change was looked for.
        if (before !== undefined && before !== came) this.#changed.add(read);
        else this.#known.set(read, came);
      }
    if (this.#known.size > this.most) this.#forget();
    groups = listOf(groupsOf(page.from));
    this.#noted.set(page, groups);
    return groups;
  }

  #forget(): void {
    this.#known.clear();
    this.#changed.clear();
    this.#noted = new WeakMap();
    this.#isLost = true;
  }

  /** The groups of what has changed since it was asked last; empty: nothing has that any page was made from. */
  async changed(shop: () => Shop): Promise<string[]> {
    const left = this.#known.entries();
    const isSame = this.#since(shop());
    // What is live may be another after a pause.
    while (!shop().sql.snapshot(() => this.#lookOn(shop(), left, isSame))) await setImmediate();
    const reads = [...this.#changed];
    this.#changed.clear();
    if (this.#isLost) {
      this.#isLost = false;
      return [everyPage];
    }
    return reads.length ? [...new Set([anything, ...reads.flatMap((read) => [kindOf(read), groupOf(read)])])] : [];
  }

  /** Which reads come to the same as when they were looked at last, as far as that is known without asking. */
  #since(shop: Shop): (read: string) => boolean {
    const live = shop.themes.live();
    if (!live) return () => false;
    const before = this.#looked;
    const { theme } = shop.theme(live, shop.catalogue());
    const of = `${shop.release} ${shop.copy} ${live.kind}`;
    this.#looked = { theme, of, revision: catalogueState(shop.sql).revision };
    const products = before?.of === of ? changedSince(shop.sql, before.revision) : null;
    const changed = products && new Set(products);
    return (read) => {
      if (read.startsWith('t')) return before?.theme === theme;
      return changed !== null && (productsOf(read)?.every((id) => !changed.has(id)) ?? false);
    };
  }

  /** Looks what some of the things come to now; whether none is left. */
  #lookOn(shop: Shop, left: Iterator<[string, string]>, isSame: (read: string) => boolean): boolean {
    const live = shop.themes.live();
    if (!live) return true;
    const ask = asking(shop, live, shop.catalogue());
    const until = performance.now() + slice;
    while (performance.now() < until) {
      const { value, done } = left.next();
      if (done) return true;
      const [read, came] = value;
      const now = isSame(read) ? came : ask(read);
      if (now === came) continue;
      this.#changed.add(read);
      if (now === null) this.#known.delete(read);
      else this.#known.set(read, now);
    }
    return false;
  }
}
