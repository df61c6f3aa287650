import type { MadeTheme, Shop } from '@/server/shop';
import type { DifferingPage, DifferingStep } from '@/contract/shared';
import { differingLines } from '@/core/compare';
import { pathOf } from '@/core/address';
import { findSubjects, type StateRow } from '@/store';
import { pageOf, prefixOf } from '@/server/storefront';

/** Most pages that are named; all are counted. */
const maxNamed = 400;
/** Something is said so often, in milliseconds. */
const often = 250;

/** A state to make pages of, or another theme in its place. */
export interface Side {
  state: StateRow;
  made?: MadeTheme;
}

/** Makes every page of the shop in both states and tells those that come out different, a step now and then. */
export function* differingPages(shop: Shop, a: Side, b: Side, now: () => number): Generator<DifferingStep> {
  const subjects = findSubjects(shop.sql, '', null, 1_000_000).filter(({ kind }) => kind !== 'cart');
  const prefixes = { before: prefixOf(a.state), after: prefixOf(b.state) };
  const pages: DifferingPage[] = [];
  let looked = 0;
  let reportedAt = now();
  const make = ({ state, made }: Side, path: string) =>
    pageOf(shop, state, { path, query: {}, whole: true, ...(made ? { made } : {}) });
  for (const subject of subjects) {
    const path = pathOf(subject);
    const [before, after] = [make(a, path), make(b, path)];
    looked++;
    // One that the clock ended may differ from itself.
    if (before.timedOut || after.timedOut) continue;
    const lines = differingLines({ before: before.html, after: after.html }, prefixes);
    if (lines && pages.length < maxNamed) pages.push({ path, name: subject.name, kind: subject.kind, lines });
    if (now() - reportedAt < often) continue;
    reportedAt = now();
    yield { pages, looked, of: subjects.length, done: false };
  }
  yield { pages, looked, of: subjects.length, done: true };
}
