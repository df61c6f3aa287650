import { describe, expect, it } from 'vitest';
import { Addresses, type Setup, type Site } from './addresses';

const plain: Setup = {
  port: 4170,
  sitePort: 4171,
  draftPort: 4172,
  bind: '127.0.0.1',
  host: '',
  shopHost: '',
  draftHost: '',
  proxy: false,
};
const on = (change: Partial<Setup>) => new Addresses({ ...plain, ...change });
const proxied = {
  host: 'bench.example.org',
  shopHost: 'example.org, www.example.org',
  draftHost: '*.drafts.example.org',
  proxy: true,
};

describe('where shop, drafts and releases are found', () => {
  const table: [name: string, setup: Partial<Setup>, apart: boolean, shop: string, draft: string, release: string][] = [
    [
      'on this machine',
      {},
      true,
      'http://shop.localhost:4171',
      'http://spring.localhost:4171',
      'http://release--3.localhost:4171',
    ],
    [
      'behind a proxy, by names',
      proxied,
      true,
      'https://example.org',
      'https://spring.drafts.example.org',
      'https://release--3.drafts.example.org',
    ],
    [
      'in a house, by one name',
      { bind: '0.0.0.0', host: 'workshop' },
      false,
      'http://workshop:4171',
      'http://workshop:4172/draft/spring',
      'http://workshop:4172/release/3',
    ],
    [
      'in a house, by an address',
      { bind: '192.0.2.7' },
      false,
      'http://192.0.2.7:4171',
      'http://192.0.2.7:4172/draft/spring',
      'http://192.0.2.7:4172/release/3',
    ],
    [
      'with names that carry their ports',
      { shopHost: 'shop.test:8080', draftHost: '*.drafts.test:8080' },
      true,
      'http://shop.test:8080',
      'http://spring.drafts.test:8080',
      'http://release--3.drafts.test:8080',
    ],
    [
      'with a name for the shop alone',
      { host: 'bench.test', shopHost: 'shop.test' },
      false,
      'http://shop.test:4171',
      'http://shop.test:4172/draft/spring',
      'http://shop.test:4172/release/3',
    ],
  ];
  for (const [name, setup, ...wanted] of table)
    it(name, () => {
      const addresses = on(setup);
      expect([addresses.apart, addresses.shop, addresses.draft('spring'), addresses.release(3)]).toEqual(wanted);
    });
  it('no two of them have the same origin, where they are apart', () => {
    for (const setup of [{}, proxied]) {
      const addresses = on(setup);
      const bases = [
        ...addresses.workbenchOrigins,
        addresses.shop,
        ...['shop', 'spring', 'autumn', 'release-3'].map((slug) => addresses.draft(slug)),
        addresses.release(3),
      ];
      expect(new Set(bases.map((base) => new URL(base).origin)).size).toBe(bases.length);
    }
  });
});

describe('what a host names', () => {
  const shop: Site = { kind: 'shop' };
  const draft = (slug: string): Site => ({ kind: 'draft', slug });
  const table: [setup: Partial<Setup>, host: string, site: Site | null][] = [
    [{}, 'shop.localhost:4171', shop],
    [{}, 'SHOP.localhost', shop],
    [{}, 'spring.localhost:4171', draft('spring')],
    [{}, 'draft--shop.localhost:4171', draft('shop')],
    [{}, 'release--12.localhost', { kind: 'release', number: 12 }],
    [{}, 'release-12.localhost', draft('release-12')],
    [{}, 'release--x.localhost', null],
    [{}, 'a.b.localhost', null],
    [{}, '.localhost', null],
    [{}, 'localhost:4171', null],
    [{}, '127.0.0.1:4171', null],
    [{}, 'spring.localhost.evil.example', null],
    [{}, 'evil.example', null],
    [{}, '', null],
    [proxied, 'example.org', shop],
    [proxied, 'www.example.org', shop],
    [proxied, 'spring.drafts.example.org', draft('spring')],
    [proxied, 'spring.localhost', null],
    [proxied, 'bench.example.org', null],
    [proxied, 'drafts.example.org', null],
    [{ bind: '192.0.2.7' }, '192.0.2.7:4171', shop],
    [{ bind: '192.0.2.7' }, 'spring.localhost', null],
  ];
  for (const [setup, host, site] of table) it(`“${host}”`, () => expect(on(setup).siteOf(host)).toEqual(site));
  it('of each draft and release leads back to it', () => {
    for (const slug of ['spring', 'shop', 'draft', 'release-3', 'a1-b2'])
      expect(on({}).siteOf(new URL(on({}).draft(slug)).host)).toEqual(draft(slug));
    expect(on({}).siteOf(new URL(on({}).release(7)).host)).toEqual({ kind: 'release', number: 7 });
  });
});

describe('an address that once was the workbench’s leads to', () => {
  const table: [given: string, to: string | null][] = [
    ['/live', 'http://shop.localhost:4171/'],
    ['/live/', 'http://shop.localhost:4171/'],
    ['/live/product/deck-oil?variant=1', 'http://shop.localhost:4171/product/deck-oil?variant=1'],
    ['/live?x', 'http://shop.localhost:4171/?x'],
    ['/live//evil.example/', 'http://shop.localhost:4171//evil.example/'],
    ['/liveliness', null],
    ['/draft/spring/', 'http://spring.localhost:4171/'],
    ['/draft/shop/cart', 'http://draft--shop.localhost:4171/cart'],
    ['/draft/Spring/', null],
    ['/release/3/', 'http://release--3.localhost:4171/'],
    ['/release', null],
    ['/release?draft=spring', null],
    ['/media/rope.svg?v=1', 'http://shop.localhost:4171/media/rope.svg?v=1'],
    ['/bench', null],
  ];
  for (const [given, to] of table) it(given, () => expect(on({}).moved(given)).toBe(to));
});
