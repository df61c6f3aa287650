import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { StateRow } from '@/store/themes';
import { cleanRichText } from '@/server/catalogue/clean';
import { openFile, revertFile, saveFile } from '@/server/drafts/files';
import { draftOf } from '@/server/shop/states';
import { etagOf, matches } from '@/server/http';
import { pageOf } from '@/server/storefront/page';
import { changesOf, publish } from '@/server/drafts/release';
import type { Shop } from '@/server/shop/shop';
import { serveMedia } from '@/server/storefront/files';
import { serveState } from '@/server/storefront/storefront';
import { findSubjects } from '@/server/catalogue/subjects';
import { demoShop } from '@/server/testing/demo-shop';
import { refusal, reported } from '@/server/testing/met';

let shop: Shop;
const draft = (): StateRow => draftOf(shop, 'spring');
const live = (): StateRow => shop.themes.live() as StateRow;
const html = (state: StateRow, path: string) => pageOf(shop, state, { path, query: {} }).html;
beforeEach(() => {
  shop = demoShop();
});

describe('files of a draft', () => {
  it('of the base are not the shop’s to write, until it has its own', () => {
    const before = openFile(shop, draft(), 'pieces/price.html');
    expect([before.layer.kind, before.hash]).toEqual(['base', null]);
    const { hash } = saveFile(shop, draft(), 'pieces/price.html', '<p>ours</p>', null);
    const after = openFile(shop, draft(), 'pieces/price.html');
    expect([after.layer.kind, after.hash, after.text, after.below?.kind]).toEqual([
      'shop',
      hash,
      '<p>ours</p>',
      'base',
    ]);
    expect(html(draft(), '/product/deck-oil')).toContain('<p>ours</p>');
    expect(html(live(), '/product/deck-oil')).not.toContain('<p>ours</p>');
  });

  it('are read again only where a save changed them', () => {
    html(draft(), '/product/deck-oil');
    const read = vi.spyOn(shop.themes, 'bytesOf');
    const { hash } = saveFile(shop, draft(), 'pieces/price.html', '<p>ours</p>', null);
    html(draft(), '/product/deck-oil');
    html(live(), '/product/deck-oil');
    expect(read.mock.calls.flatMap(([hashes]) => hashes)).toEqual([hash]);
  });

  it('fall back to the base when the shop’s own is removed', () => {
    const before = html(draft(), '/product/deck-oil');
    const { hash } = saveFile(shop, draft(), 'pieces/price.html', 'x', null);
    revertFile(shop, draft(), 'pieces/price.html', hash as string);
    expect(html(draft(), '/product/deck-oil')).toBe(before);
    expect(shop.sql.all('SELECT hash FROM save WHERE path = ? ORDER BY id', 'pieces/price.html')).toEqual([
      { hash },
      { hash: null },
    ]);
  });

  it('saved from two places are never overwritten unseen', () => {
    const { hash } = saveFile(shop, draft(), 'pieces/price.html', 'one', null);
    const met = refusal(() => saveFile(shop, draft(), 'pieces/price.html', 'two', null));
    expect([met.status, met.code, met.now]).toEqual([409, 'changed', { text: 'one', hash }]);
    expect(openFile(shop, draft(), 'pieces/price.html').text).toBe('one');
    saveFile(shop, draft(), 'pieces/price.html', 'two', hash);
    expect(openFile(shop, draft(), 'pieces/price.html').text).toBe('two');
  });

  it('may hold mistakes: they are said, and the page stands', () => {
    const { problems } = saveFile(shop, draft(), 'pieces/price.html', '<p>\n<b>{product.</b>', null);
    expect(problems.map((one) => `${one.line} ${one.code}`)).toEqual(['1 unclosed', '2 expression']);
    const page = pageOf(shop, draft(), { path: '/product/deck-oil', query: {} });
    expect([page.status, page.html.includes('Deck oil')]).toEqual([200, true]);
  });

  const refused: [name: string, path: string, text: string, status: number, message: RegExp][] = [
    ['a way out of the folder', 'nowhere/a.html', 'x', 422, /has no place in a theme/],
    ['two megabytes', 'pieces/big.html', 'x'.repeat(2_000_000), 413, /would be 2\.0 MB; a file of text may have 1 MB/],
    ['words that are no JSON', 'words/en.json', '{', 422, /cannot be read as JSON/],
    [
      'a listing of the look that cannot be',
      'look.json',
      '{"listings":{"category":{"page_size":0}}}',
      422,
      /listings\.category\.page_size/,
    ],
    ['a kind of listing that there is not', 'look.json', '{"listings":{"categorie":{}}}', 422, /look\.json: listings/],
    ['a look without settings', 'look.json', '{}', 422, /holds a list “settings”/],
    [
      'alternates that are no JSON',
      'alternates.json',
      '{"pins":\n[',
      422,
      /alternates\.json is not valid JSON.*line 2/,
    ],
    ['a name that differs only in capitals', 'pieces/Price.html', 'x', 409, /“pieces\/price\.html” is there already/],
  ];
  for (const [name, path, text, status, message] of refused) {
    it(`refuses ${name}`, () => {
      const met = refusal(() => saveFile(shop, draft(), path, text, null));
      expect([met.status, met.message]).toEqual([status, expect.stringMatching(message)]);
    });
  }
  it('that are not there are refused by name', () =>
    expect(refusal(() => openFile(shop, draft(), 'pieces/x.html')).message).toContain('“pieces/x.html”'));
  it('a draft that is not there, too', () =>
    expect(refusal(() => draftOf(shop, 'winter')).message).toBe('There is no draft “winter”.'));
});

describe('publishing', () => {
  it('says what changes, and is refused while a template has an error', () => {
    saveFile(shop, draft(), 'pieces/stock.html', '<draw name="pieces/gone"/>', null);
    expect(changesOf(shop, draft()).problems.map((one) => one.message)).toContainEqual(
      expect.stringMatching(/There is no template “pieces\/gone”/),
    );
    expect(changesOf(shop, draft()).files).toEqual([{ path: 'pieces/stock.html', change: 'changed' }]);
    const met = refusal(() => publish(shop, draft(), { note: '' }));
    expect([met.status, met.message]).toEqual([
      409,
      expect.stringMatching(/^Not published: pieces\/.*\(and \d+ more\)/),
    ]);
    expect(live().number).toBe(1);
  });
  it('freezes what it published', () => {
    const { hash } = saveFile(shop, draft(), 'assets/css/own.css', 'a{}', null);
    publish(shop, draft(), { note: '' });
    saveFile(shop, draft(), 'assets/css/own.css', 'b{}', hash);
    expect(shop.theme(live()).theme.file('assets/css/own.css')?.text).toBe('a{}');
    expect(changesOf(shop, draft()).files).toHaveLength(1);
  });
});

describe('answers of the storefront', () => {
  const get = (path: string, headers: Record<string, string> = {}) =>
    new Request(`http://spring.localhost:4171${path}`, { headers });
  it('carry an ETag that holds as long as the page does (RFC 9110)', async () => {
    const etagNow = async () =>
      (await serveState(shop, draft(), get('/product/deck-oil'), '/product/deck-oil')).headers.get('etag');
    const etag = await etagNow();
    expect(etag).toMatch(/^"[^"]+"$/);
    expect(await etagNow()).toBe(etag);
    saveFile(shop, draft(), 'pieces/stock.html', 'new', null);
    expect(await etagNow()).not.toBe(etag);
    shop.sql.run('UPDATE product SET name = ? WHERE slug = ?', 'Other oil', 'deck-oil');
    shop.sql.run('UPDATE catalogue_state SET revision = revision + 1');
    expect(html(draft(), '/product/deck-oil')).toContain('Other oil');
  });
  it('carry the Bench’s script only in its frame', async () => {
    const framedBy = { 'Sec-Fetch-Dest': 'iframe' };
    const framed = await serveState(shop, draft(), get('/', framedBy), '/');
    expect(await framed.text()).toContain('bench-frame.js');
    expect(await (await serveState(shop, draft(), get('/'), '/')).text()).not.toContain('bench-frame.js');
    expect(await (await serveState(shop, live(), get('/', framedBy), '/')).text()).not.toContain('bench-frame.js');
  });
  it('of assets may be kept for good only under the address of their content', async () => {
    const { hash } = shop.theme(draft()).theme.file('assets/css/shop.css') ?? { hash: '' };
    const asset = async (query: string) => {
      const answer = await serveState(shop, draft(), get(`/assets/css/shop.css${query}`), '/assets/css/shop.css');
      return answer.headers.get('cache-control');
    };
    expect([await asset(`?v=${hash.slice(0, 12)}`), await asset('?v=old'), await asset('')]).toEqual([
      'public, max-age=31536000, immutable',
      'no-cache',
      'no-cache',
    ]);
  });
  it('are 404 for what is not there', async () => {
    expect((await serveState(shop, draft(), get('/assets/x.css'), '/assets/x.css')).status).toBe(404);
    expect((await serveMedia(shop, get('/'), 'x.svg')).status).toBe(404);
    expect((await serveMedia(shop, get('/'), 'deck-oil-plain.svg')).headers.get('content-type')).toBe('image/svg+xml');
  });
  it('match ETags as lists too', () => {
    const etag = etagOf('a');
    expect([matches(`"x", ${etag}`, etag), matches('*', etag), matches(null, etag), matches('"x"', etag)]).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
});

describe('finding pages', () => {
  it('by words of their name, in any order', () =>
    expect(findSubjects(shop, 'rope hemp', null).map((one) => one.slug)).toEqual(['tarred-hemp-rope']));
  it('of one kind', () =>
    expect(new Set(findSubjects(shop, '', 'category').map((one) => one.kind))).toEqual(new Set(['category'])));
  it('takes signs of patterns as letters', () => expect(findSubjects(shop, '%', null)).toEqual([]));
});

describe('rich text that comes in', () => {
  const table: [given: string, kept: string][] = [
    ['<p onclick="x()">a</p>', '<p>a</p>'],
    ['<script>x</script>b', 'b'],
    ['<b>open', '<b>open</b>'],
    ['<a href="javascript:x">a</a>', '<a>a</a>'],
    ['<p style="color:red">a</p>', '<p>a</p>'],
    ['<table><tr><td colspan="2">a</td></tr></table>', '<table><tr><td colspan="2">a</td></tr></table>'],
  ];
  for (const [given, kept] of table) it(given, () => expect(cleanRichText(given)).toBe(kept));
});

describe('a page in another language', () => {
  it('shows the first language’s texts where its own are missing, and says which', () => {
    const report = (address: string) => reported(demo, address);
    const demo = demoShop();
    expect(report('/fr/product/tarred-hemp-rope').untranslated).toEqual([]);
    const pennant = report('/fr/product/quay-pennant');
    expect(pennant.untranslated).toContain('product, name: “Quay pennant”');
    expect(pennant.untranslated).toContain('category, name: “Flags”');
    expect(pennant.languages).toEqual([
      { locale: 'en-GB', prefix: '', current: false },
      { locale: 'fr', prefix: '/fr', current: true },
    ]);
    expect(pennant.address).toBe('/fr/product/quay-pennant');
  });
  it('a phrase that is in no file of it is the first language’s', () => {
    const demo = demoShop();
    const draft = draftOf(demo, 'spring');
    saveFile(demo, draft, 'words/en-GB.json', '{"own": {"note": "Only in English"}}', null);
    saveFile(
      demo,
      draft,
      'pieces/stock.html',
      '<takes name="variant" type="Variant" required>\n<p>{t(\'own.note\')}</p>\n',
      null,
    );
    const page = pageOf(demo, draftOf(demo, 'spring'), { path: '/fr/product/deck-oil', query: {} });
    expect(page.html).toContain('<p>Only in English</p>');
    expect(page.untranslated).toContain('phrase: own.note');
  });
});
