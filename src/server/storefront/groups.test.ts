import { describe, expect, it } from 'vitest';
import { pathOf } from '@/core/address';
import { inThread, type PageAsk, type Shop, stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { findSubjects } from '@/store';
import { everyPage, groupsOf, listOf, SentPages } from './groups';
import { storefrontJobs } from './jobs';

/** A page of the live shop as a server keeps it. */
const kept = (shop: Shop, ask: PageAsk) =>
  inThread(shop, 'live', storefrontJobs.kept, stateOf(shop, 'live'), ask, null);

/** The strings of a list: RFC 9651 has commas, spaces and quotes between them. */
const read = (list: string): string[] => [...list.matchAll(/"([^"]*)"/g)].map(([, one = '']) => one);

describe('groups of pages', () => {
  it('every page of the demo shop names its groups in less than 4 KB', async () => {
    const shop = demoShop();
    for (const one of findSubjects(shop.sql, '', null, 1000)) {
      const page = await kept(shop, { path: pathOf(one), query: {} });
      const list = listOf(groupsOf(page?.from ?? null));
      expect(list.length).toBeLessThanOrEqual(4096);
      // RFC 9875, 2.1: caches take at least 32 groups of 32 letters each.
      for (const group of read(list)) expect(group).toMatch(/^[A-Za-z0-9_-]{3,32}$/);
      expect(`"${read(list).join('", "')}"`).toBe(list);
    }
  });

  const part = (what: string, at: number) => `${what}${at}\x01came`;
  it.each([
    ['a few of each', { theme: 3, variants: 2 }, 1 + 3 + 2],
    ['more than fit: the kind of which there are most becomes one', { theme: 50, variants: 900 }, 1 + 50 + 1],
    ['and the next', { theme: 500, variants: 900 }, 1 + 1 + 1],
  ])('%s', (_, { theme, variants }, count) => {
    const from = [
      ...Array.from({ length: theme }, (_, at) => part('tfile ', at)),
      ...Array.from({ length: variants }, (_, at) => part('g\tvariants\t', at)),
    ].join('\0');
    const groups = groupsOf(from);
    expect(groups).toHaveLength(count);
    expect(listOf(groups).length).toBeLessThanOrEqual(4096);
    expect(groupsOf(null)).toEqual(['page', 'any']);
  });
});

describe('pages that were sent', () => {
  const from = (came: string) => ({ from: `g\tshop\x01${came}` });

  it('are dropped all once too many things are known to remember', async () => {
    const shop = demoShop();
    const sent = new SentPages(10);
    await sent.changed(() => shop);
    sent.groupsFor({ from: Array.from({ length: 11 }, (_, at) => `g\tmenu\t${at}\x01came`).join('\0') });
    expect(await sent.changed(() => shop)).toEqual([everyPage]);
  });

  it('two that were made of different things are both dropped, though what was made last is right', async () => {
    const shop = demoShop();
    const sent = new SentPages();
    await sent.changed(() => shop);
    sent.groupsFor(from('one'));
    const [, group = ''] = read(sent.groupsFor(from('another')));
    expect(await sent.changed(() => shop)).toEqual(expect.arrayContaining(['any', 'shop', group]));
    expect(await sent.changed(() => shop)).toEqual([]);
  });
});
