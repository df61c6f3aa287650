import { beforeEach, describe, expect, it } from 'vitest';
import type { StateRow } from '@/store/themes';
import { editAlternates, makeAlternate } from '@/server/alternates/alternates';
import { saveFile } from './files';
import { draftOf } from '@/server/shop/states';
import { pageOf } from '@/server/storefront/page';
import { changesOf } from './release';
import { renameFile } from './rename';
import type { Shop } from '@/server/shop/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { refusal } from '@/server/testing/met';

let shop: Shop;
beforeEach(() => {
  shop = demoShop();
});
const draft = (): StateRow => draftOf(shop, 'spring');
const hashOf = (path: string) => shop.themes.ownHash(draft().id, path);
const text = (path: string) => shop.theme(draft()).theme.file(path)?.text ?? null;
const put = (path: string, to: string) => saveFile(shop, draft(), path, to, hashOf(path));
const html = (path: string) => pageOf(shop, draft(), { path, query: {} }).html;
type Asked = Parameters<typeof renameFile>[2];
const rename = (path: string, to: string, more: Partial<Asked> = {}) =>
  renameFile(shop, draft(), { path, to, expected: hashOf(path), ...more }, '');

describe('a file that is renamed', () => {
  const pages = [
    '/',
    '/product/deck-oil',
    '/product/bronze-bow-shackle',
    '/category/lamps',
    '/listing/all',
    '/listing/tag/load-rated',
    '/content/delivery',
    '/nowhere',
  ];

  it('leaves every page as it was: each template and icon of a whole theme in turn, with its alternates', () => {
    // The base as the shop's own, so that all of it can be renamed.
    const [base] = shop.theme(draft()).theme.layers;
    const own = [...(base?.files ?? [])].map(([path, { hash }]) => {
      return { path, bytes: shop.themes.bytes(hash), expected: hashOf(path) };
    });
    shop.themes.save(draft().id, own, { title: 'all', at: '2026-11-26T00:00:00.000Z', by: '' }, { below: [] });
    makeAlternate(shop, draft(), {
      ...{ kind: 'product', piece: 'pieces/tile', name: 'book', label: 'Book', note: '', types: [], from: 'default' },
    });
    put('pieces/tile/book.html', `${text('pieces/tile/book.html')}<i>a book</i>`);
    const condition = { fact: 'category', test: 'is', value: ['lamps'] } as const;
    const rule = { id: 'a', kind: 'product', piece: 'pieces/tile', alternate: 'book' } as const;
    editAlternates(shop, draft(), {
      do: 'put-rule',
      rule: { ...rule, when: { ...condition, value: [...condition.value] }, from: null, to: null, note: '' },
      was: null,
    });
    const before = pages.map(html);
    expect(before.join('')).toContain('<i>a book</i>');

    const moved = shop
      .theme(draft())
      .theme.paths()
      .filter((path) => /^(?:pieces|layouts)\/[^/]+\.html$|^assets\/icons\//.test(path));
    expect(moved.length).toBeGreaterThan(30);
    for (const path of moved) rename(path, path.replace(/([^/]+)\.(\w+)$/, 'moved-$1.$2'));
    const { theme: now } = shop.theme(draft());
    expect(moved.filter((path) => now.file(path))).toEqual([]);
    expect(now.file('pieces/moved-tile/book.html')).not.toBeNull();
    const plain = (page: string) => page.replace(/moved-/g, '').replace(/\/icons[^"]*\.svg/g, '/icons.svg');
    expect(pages.map(html).map(plain)).toEqual(before.map(plain));
    expect(changesOf(shop, draft()).problems.filter(({ severity }) => severity === 'error')).toEqual([]);
  });

  it('takes texts along that are not saved where it touches them, and no others', () => {
    put('pieces/own.html', '<p>saved</p>');
    put('content/default.html', '<draw name="pieces/own"/>');
    const unsaved = [
      { path: 'pieces/own.html', text: '<p>typed</p>', expected: hashOf('pieces/own.html') },
      {
        path: 'content/default.html',
        text: '<b><draw name="pieces/own"/></b>',
        expected: hashOf('content/default.html'),
      },
      { path: 'pieces/new.html', text: '<draw name="pieces/own"/>', expected: null },
      { path: 'home/default.html', text: '<p>half a tho', expected: null },
    ];
    expect(rename('pieces/own.html', 'pieces/ours.html', { unsaved }).sort()).toEqual([
      'content/default.html',
      'pieces/new.html',
      'pieces/ours.html',
      'pieces/own.html',
    ]);
    expect(text('pieces/ours.html')).toBe('<p>typed</p>');
    expect(text('content/default.html')).toBe('<b><draw name="pieces/ours"/></b>');
    expect(text('pieces/new.html')).toBe('<draw name="pieces/ours"/>');
    expect(hashOf('home/default.html')).toBeNull();
    // One change of the history holds it all.
    expect(shop.themes.changes(draft().id, 1)[0]?.title).toBe('pieces/own.html renamed to pieces/ours.html');
  });

  it('writes nothing where a file that names it was changed meanwhile, or its place is taken', () => {
    put('pieces/own.html', '<p>saved</p>');
    put('content/default.html', '<draw name="pieces/own"/>');
    const unsaved = [{ path: 'content/default.html', text: '<b><draw name="pieces/own"/></b>', expected: 'older' }];
    const before = draft().revision;
    expect(refusal(() => rename('pieces/own.html', 'pieces/ours.html', { unsaved })).code).toBe('changed');
    // Begun here as a new file, and saved elsewhere meanwhile.
    const begun = [{ path: 'content/default.html', text: '<draw name="pieces/own"/>', expected: null }];
    expect(refusal(() => rename('pieces/own.html', 'pieces/ours.html', { unsaved: begun })).code).toBe('changed');
    expect(refusal(() => rename('pieces/own.html', 'pieces/ours.html', { expected: null })).code).toBe('changed');
    expect(refusal(() => rename('pieces/own.html', 'content/default.html')).code).toBe('name');
    expect(refusal(() => rename('pieces/stock.html', 'pieces/store.html')).message).toContain(
      'no “pieces/stock.html” of',
    );
    expect(refusal(() => rename('pieces/own.html', 'elsewhere/own.html')).message).toContain('no place in a theme');
    expect(draft().revision).toBe(before);
  });
});
