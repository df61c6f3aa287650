import { beforeAll, describe, expect, it } from 'vitest';
import { saveRecords } from '@/server/records';
import { stateOf, type Shop } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { RecordReader } from '@/store';

let shop: Shop;
beforeAll(() => {
  shop = demoShop();
});
const theme = () => shop.theme(stateOf(shop, 'live')).theme;
const key = () => shop.theme(stateOf(shop, 'live')).key;
const save = (kind: 'product' | 'field' | 'content' | 'redirect', slug: string, before: object | null, after: object) =>
  saveRecords(shop, [{ kind, slug, before, after } as never], { title: 'x', at: new Date().toISOString(), by: '' });

describe('a theme that was read', () => {
  it('stays while goods change that it is not made with, and is checked against them as they are', () => {
    const [before, was] = [theme(), key()];
    const { variants } = new RecordReader(shop.catalogue()).read('product', ['deck-oil']).get('deck-oil') ?? {};
    save(
      'product',
      'deck-oil',
      { variants },
      { variants: (variants as object[]).map((one) => ({ ...one, price: 77 })) },
    );
    expect(theme()).toBe(before);
    // What is kept with it, as its problems are, is looked at again.
    expect(key()).not.toBe(was);
    expect(theme().site?.contents.has('tides')).toBe(false);
    save('content', 'tides', null, { slug: 'tides', title: 'Tides', added: '2026-11-30', body: '' });
    expect(theme()).toBe(before);
    expect(theme().site?.contents.has('tides')).toBe(true);
  });

  it('is read again where a field or a redirect is another', () => {
    const before = theme();
    save('field', 'product grain', null, { subject: 'product', key: 'grain', name: 'Grain', type: 'text' });
    const next = theme();
    expect(next).not.toBe(before);
    expect(next.surroundings?.definitions?.('product').map((one) => one.key)).toContain('grain');
    save('redirect', '/oil', null, { path: '/oil', target: '/product/deck-oil' });
    expect(theme()).not.toBe(next);
  });
});
