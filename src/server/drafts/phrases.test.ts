import { beforeEach, describe, expect, it } from 'vitest';
import type { Shop } from '@/server/shop/shop';
import { draftOf } from '@/server/shop/states';
import { pageOf } from '@/server/storefront/page';
import { demoShop } from '@/server/testing/demo-shop';
import { refusal } from '@/server/testing/met';
import type { StateRow } from '@/store/themes';
import { applied } from './edits';
import { undoChange } from './history';
import { phrasesOf, phraseUsesOf, planPhraseEdits, planSheet, sheetOf } from './phrases';

let shop: Shop;
beforeEach(() => {
  shop = demoShop();
});
const draft = (): StateRow => draftOf(shop, 'spring');
const html = (path: string) => pageOf(shop, draft(), { path, query: {} }).html;
const own = (path: string) => shop.theme(draft()).theme.layers.at(-1)?.files.get(path)?.text ?? null;
type Edits = Parameters<typeof planPhraseEdits>[2]['edits'];
const save = (edits: Edits) => applied(shop, 'spring', (now) => planPhraseEdits(shop, now, { edits }), 'Robin');
const textOf = (key: string, at: number) => phrasesOf(shop, draft()).rows.find((row) => row.key === key)?.texts[at];
const order = 'product.order';

describe('phrases of the demo', () => {
  it('are all there in both languages, and every one is used', () => {
    const { rows, locales } = phrasesOf(shop, draft());
    expect(locales).toEqual([
      { locale: 'en-GB', forms: ['one', 'other'] },
      { locale: 'fr', forms: ['one', 'other'] },
    ]);
    expect(rows.length).toBeGreaterThan(140);
    expect(rows.filter(({ texts }) => texts.some(({ phrase, lacks }) => phrase === null || lacks.length))).toEqual([]);
    expect(rows.filter(({ uses }) => !uses).map(({ key }) => key)).toEqual([]);
  });

  it('say where they are used', () =>
    expect(phraseUsesOf(shop, draft(), order).map(({ file, layer }) => `${layer} ${file}`)).toContain(
      'Quay pieces/order.html',
    ));

  it('are changed on the page of one language, in the shop’s layer, and undone', () => {
    const before = own('words/fr.json');
    const seen = textOf(order, 1)?.phrase ?? null;
    const { change } = save([{ key: order, locale: 'fr', phrase: 'Réserver', seen }]);
    expect(html('/fr/product/deck-oil')).toContain('Réserver');
    expect(html('/product/deck-oil')).not.toContain('Réserver');
    expect(textOf(order, 1)).toMatchObject({ own: true, layer: 'Withy Quay' });
    undoChange(shop, draft(), change ?? -1, 'Robin');
    expect(own('words/fr.json')).toBe(before);
  });

  it('are refused whole where someone else changed one of them, or the shop has no such language', () => {
    const seen = textOf(order, 1)?.phrase ?? null;
    save([{ key: order, locale: 'fr', phrase: 'Réserver', seen }]);
    const late = refusal(() =>
      save([
        { key: order, locale: 'fr', phrase: 'Acheter', seen },
        { key: 'cart.empty', locale: 'fr', phrase: 'Vide', seen: textOf('cart.empty', 1)?.phrase ?? null },
      ]),
    );
    expect(late).toMatchObject({ status: 409, left: [`“${order}” in fr says “Réserver” by now.`] });
    expect(html('/fr/cart')).not.toContain('>Vide<');
    expect(refusal(() => save([{ key: order, locale: 'de', phrase: 'x', seen: null }]))).toMatchObject({
      status: 422,
    });
  });
});

describe('the table for translators', () => {
  const bytes = (text: string) => new TextEncoder().encode(text);
  it('comes back as it went out, and changes nothing', () => {
    const { told, edit } = planSheet(shop, draft(), bytes(sheetOf(shop, draft())));
    expect(told).toMatchObject({ changes: [], problems: [] });
    expect(told.same).toBeGreaterThan(280);
    expect(edit.files).toEqual([]);
  });

  it('is taken from a spreadsheet: semicolons, UTF-16, quotes and line breaks', () => {
    const text = '\ufeffkey;fr\r\ncart.empty;"Rien ""ici""\nencore"\r\n';
    const utf16 = new Uint8Array(Buffer.from(text, 'utf16le'));
    const { told } = planSheet(shop, draft(), utf16);
    expect(told.changes).toMatchObject([{ key: 'cart.empty', locale: 'fr', to: 'Rien "ici"\nencore' }]);
  });

  it.each([
    ['', 'The file is empty.'],
    ['key,fr\n"cart.empty,x', 'The file cannot be read as CSV'],
    ['\x00\x01\x02', 'This is no table of phrases'],
  ])('refuses what is none: %j', (text, says) => {
    const refused = refusal(() => planSheet(shop, draft(), bytes(text)));
    expect(refused).toMatchObject({ status: 422 });
    expect(JSON.stringify(refused)).toContain(says);
  });

  it('prints what a translator wrote as text, never as markup', () => {
    const { edit } = planSheet(shop, draft(), bytes('key,en-GB\nproduct.order,<script>alert(1)</script>\n'));
    applied(shop, 'spring', () => edit, 'Robin');
    expect(html('/product/deck-oil')).not.toContain('<script>alert');
    expect(html('/product/deck-oil')).toMatch(/&lt;script(?:>|&gt;)alert/);
  });
});
