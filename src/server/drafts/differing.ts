import type { MadeTheme, Shop } from '@/server/shop';
import type { DifferingPage, DifferingStep } from '@/contract/shared';
import { differingLines } from '@/core/compare';
import { localePrefix, pathOf } from '@/core/address';
import { readsSame, type Theme } from '@/core/theme';
import { findSubjects, type StateRow } from '@/store';
import { pageOf, prefixOf, today } from '@/server/storefront';
import { PageReads } from './page-reads';

/** Most pages that are named; all are counted. */
const maxNamed = 400;
/** Something is said so often, in milliseconds. */
const often = 250;

/** A state to make pages of, or another theme in its place. */
export interface Side {
  state: StateRow;
  made?: MadeTheme;
}

/**
 * Goes through every page of the shop in both states and tells those that come out different, a step now and then. A page is made in the second state
 * only where something that it was made from in the first is another there; what that was is kept for the next time.
 */
export function* differingPages(shop: Shop, a: Side, b: Side, now: () => number): Generator<DifferingStep> {
  const subjects = findSubjects(shop.sql, '', null, 1_000_000).filter(({ kind }) => kind !== 'cart');
  const prefixes = { before: prefixOf(a.state), after: prefixOf(b.state) };
  const pages: DifferingPage[] = [];
  let looked = 0;
  let reportedAt = now();
  const make = ({ state, made }: Side, path: string, reads?: Set<string>) =>
    pageOf(shop, state, { path, query: {}, whole: true, ...(made ? { made } : {}), ...(reads ? { reads } : {}) });
  const themeOf = ({ state, made }: Side): Theme => (made ?? shop.theme(state)).theme;
  const [left, right] = [themeOf(a), themeOf(b)];
  const known = a.made ? new PageReads() : PageReads.of(shop, a.state, today());
  /** Whether all that pages were made from is the same in the second state, by the number of their reads. */
  const same = new Map<number, boolean>();
  const holds = (set: number): boolean => {
    let is = same.get(set);
    if (is === undefined) same.set(set, (is = known.readsOf(set).every((read) => readsSame(left, right, read))));
    return is;
  };
  /** In how many lines a page differs; 0: in none, or that cannot be said. */
  const differs = (path: string): number => {
    const set = known.get(path);
    if (set !== null && holds(set)) return 0;
    const reads = new Set<string>();
    const before = make(a, path, reads);
    // One that the clock ended did not read all that it would have, and may differ from itself.
    if (before.timedOut || (set === null && holds(known.put(path, reads)))) return 0;
    const after = make(b, path);
    return after.timedOut ? 0 : differingLines({ before: before.html, after: after.html }, prefixes);
  };
  const { locales } = shop.catalogue().shop();
  for (const subject of subjects) {
    looked++;
    // In the first of the shop's languages in which it differs.
    for (const locale of locales) {
      const path = localePrefix(locale, locales) + pathOf(subject);
      const lines = differs(path);
      if (!lines) continue;
      if (pages.length < maxNamed) pages.push({ path, name: subject.name, kind: subject.kind, lines });
      break;
    }
    if (now() - reportedAt < often) continue;
    reportedAt = now();
    yield { pages, looked, of: subjects.length, done: false };
  }
  yield { pages, looked, of: subjects.length, done: true };
}
