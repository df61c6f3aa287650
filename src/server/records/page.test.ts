import { describe, expect, it } from 'vitest';
import { draftOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { exportCatalogue } from '@/store';
import { recordPage } from './page';
import { readRecord } from './record';
import type { WantedChange } from './wanted';

const shop = demoShop();
const draft = draftOf(shop, 'spring');
const asked = { view: null, address: '/product/shock-cord', origin: 'http://spring.localhost:4171', shown: null };
const page = (...changes: WantedChange[]) => recordPage(shop, draft, { ...asked, changes: changes as never });
const change = (before: object, after: object): WantedChange => ({
  ...{ kind: 'product', slug: 'shock-cord' },
  before: before as never,
  after: after as never,
});

describe('the page of a record with changes that are not saved', () => {
  it('is as saving would make it, and nothing is saved', () => {
    const before = [exportCatalogue(shop.catalogue()), shop.catalogue().revision];
    const first = page();
    expect(first.html).toContain('<h1');
    for (const name of ['Bungee', 'Elastic line', 'Bungee']) {
      const { html, page: about } = page(change({ name: 'Shock cord' }, { name }));
      expect(html).toMatch(new RegExp(`<h1[^>]*>(?:<[^>]+>)*${name}`));
      expect(about?.template).toBe('product/default');
    }
    expect(page(change({ tags: [] }, { tags: ['load-rated'] })).html).not.toBe(first.html);
    expect([exportCatalogue(shop.catalogue()), shop.catalogue().revision]).toEqual(before);
    expect(page().html).toBe(first.html);
  });
  it('says which template the page would get', () => {
    const type = String(readRecord(shop, 'product', 'shock-cord').record.type);
    expect(page(change({ type }, { type: 'book' })).page?.subject?.slug).toBe('shock-cord');
  });
  it('is refused where the changes could not be saved', () => {
    expect(() => page(change({ name: 'Shock cord' }, { name: '' }))).toThrow('name of “shock-cord”');
    expect(page().html).toContain('Shock cord');
  });
});
