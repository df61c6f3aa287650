import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { saveFile } from '@/server/drafts/files';
import { catalogueFile } from '@/contract/catalogue-file';
import { testOf } from '@/core/alternates/condition';
import { cleanRichText } from '@/server/catalogue';
import { factsOfKind } from '@/server/alternates/alternates';
import { undoChange } from '@/server/goods';
import { applyImport } from '@/server/goods/apply';
import { exportParts } from '@/server/goods/export';
import { planImport } from '@/server/goods/plan';
import { draftOf } from '@/server/shop';
import { pageOf } from '@/server/storefront/page';
import { demoShop } from '@/server/testing/demo-shop';
import { refusal } from '@/server/testing/met';
import {
  exportCatalogue,
  factTable,
  importCatalogue,
  listedRecords,
  openDatabase,
  Staging,
  Statements,
  StoredCatalogue,
} from '@/store';
import { readRecord } from './record';
import { saveRecords } from './save';
import { misfits, usedBy } from './used-by';

const shop = demoShop();
const draft = () => draftOf(shop, 'spring');
const making = { title: 'Fields', at: '2026-11-29T10:00:00.000Z', by: 'Robin' };
const save = (
  kind: 'field' | 'content' | 'article' | 'product' | 'category',
  slug: string,
  before: object,
  after: object,
) => saveRecords(shop, [{ kind, slug, before: before as never, after: after as never }], making);
const define = (subject: string, key: string, more: object) =>
  saveRecords(
    shop,
    [
      {
        kind: 'field',
        slug: `${subject} ${key}`,
        before: null,
        after: { subject, key, name: key, type: 'text', ...more },
      },
    ],
    making,
  );
const write = (path: string, text: string) =>
  saveFile(shop, draft(), path, text, shop.themes.ownHash(draft().id, path));
const made = (path: string) => pageOf(shop, draft(), { path, query: {} });
const source = () => shop.catalogue();

async function bring(format: 'csv' | 'json', text: string): Promise<void> {
  const file = join(mkdtempSync(join(tmpdir(), 'last-fields-')), `goods.${format}`);
  writeFileSync(file, text);
  const staging = new Staging(':memory:');
  await planImport(shop, staging, { file, format, mode: 'merge', today: '2026-11-29' });
  applyImport(shop, staging, making);
}

define('content', 'audience', { help: 'Who it is for', choices: ['Beginners', 'Riggers'], several: true });
define('article', 'minutes', { type: 'number', unit: 'min' });
define('category', 'motto', {});
define('product', 'sizes', { type: 'number', several: true });

describe('custom fields of content and articles, with choices and several values', () => {
  it('are written as they are defined, each value once and as its choice is written', () => {
    save('content', 'delivery', { fields: {} }, { fields: { audience: 'riggers\nBeginners\nriggers' } });
    save('article', 'first-eye-splice', { fields: {} }, { fields: { minutes: ' 12.0 ' } });
    expect(readRecord(shop, 'content', 'delivery').record.fields).toEqual({ audience: 'Riggers\nBeginners' });
    expect(readRecord(shop, 'article', 'first-eye-splice').record.fields).toEqual({ minutes: '12' });
    expect(readRecord(shop, 'content', 'delivery').fields).toEqual([
      expect.objectContaining({
        key: 'audience',
        help: 'Who it is for',
        choices: ['Beginners', 'Riggers'],
        several: true,
      }),
    ]);
    const met = refusal(() =>
      save('content', 'delivery', { fields: { audience: 'Riggers\nBeginners' } }, { fields: { audience: 'Sailors' } }),
    );
    expect([met.status, met.message]).toEqual([
      422,
      expect.stringContaining('none of its choices: Beginners, Riggers'),
    ]);
    expect(listedRecords(shop.sql, 'field').find(({ slug }) => slug === 'content audience')?.count).toBe(1);
  });
  it('are printed by templates, several as a list, and checked by their types', () => {
    write('content/default.html', '<h1>{content.title}</h1><i do:each="one in content.fields.audience">{one}</i>\n');
    write('article/default.html', '<b>{article.fields.minutes + 1}</b>\n');
    expect(shop.theme(draft()).theme.checkAll()).toEqual([]);
    expect(made('/content/delivery').html).toContain('<i>Riggers</i><i>Beginners</i>');
    expect(made('/content/returns').html).not.toContain('<i>');
    expect(made('/article/first-eye-splice').html).toContain('<b>13</b>');
    write('article/default.html', '<b>{article.fields.minuets}</b>\n');
    expect(
      shop
        .theme(draft())
        .theme.checkAll()
        .map(({ message }) => message),
    ).toContainEqual(expect.stringContaining('no field “minuets”'));
    write('article/default.html', '<b>{article.fields.minutes + 1}</b>\n');
  });
  it('have texts in further languages', () => {
    save(
      'category',
      'lamps',
      { fields: {}, fieldTexts: {} },
      { fields: { motto: 'Be seen' }, fieldTexts: { fr: { motto: 'Être vu' } } },
    );
    write('category/default.html', '<h1>{category.name}</h1><q>{category.fields.motto}</q>\n');
    expect([made('/category/lamps').html, made('/fr/category/lamps').html]).toEqual([
      expect.stringContaining('<q>Be seen</q>'),
      expect.stringContaining('<q>Être vu</q>'),
    ]);
  });
  it('are asked by rules: several values are a list', () => {
    save('product', 'shock-cord', { fields: {} }, { fields: { sizes: '4\n6' } });
    const type = (kind: 'content' | 'article' | 'product', key: string) =>
      factsOfKind(shop, kind).facts.find(({ name }) => name === key);
    expect(type('content', 'audience')).toMatchObject({
      type: 'set',
      options: [{ value: 'Beginners' }, { value: 'Riggers' }],
    });
    expect(type('article', 'minutes')).toMatchObject({ type: 'number', unit: 'min' });
    const wish = { searches: [], withCategories: false };
    const holding = (kind: 'content' | 'article' | 'product', leaf: object) => {
      const table = factTable(shop.sql, kind, wish);
      const holds = testOf(leaf as never, '2026-11-29');
      return table.slugs.filter((_, at) => holds(table.factsAt(at)(leaf as never)));
    };
    expect(holding('content', { fact: 'field', name: 'audience', test: 'is', value: ['Riggers'] })).toEqual([
      'delivery',
    ]);
    expect(holding('product', { fact: 'field', name: 'sizes', test: 'is', value: ['6'] })).toEqual(['shock-cord']);
    expect(holding('article', { fact: 'field', name: 'minutes', test: 'at-least', value: 10 })).toEqual([
      'first-eye-splice',
    ]);
  });
  it('are said to be used by templates of their own kind alone', () => {
    const used = (kind: 'content' | 'article' | 'category' | 'product', part: string) => {
      const { filled, templates } = usedBy(shop, draft(), { kind, part });
      return [filled, templates.map(({ file }) => file)];
    };
    expect(used('content', 'fields.audience')).toEqual([1, ['content/default.html']]);
    expect(used('article', 'fields.minutes')).toEqual([1, ['article/default.html']]);
    expect(used('category', 'fields.motto')).toEqual([1, ['category/default.html']]);
    expect(used('product', 'fields.sizes')).toEqual([1, []]);
  });
  it('that hold rich text are made safe, when they are written and when a text becomes such; undone, the text is as it was', async () => {
    define('article', 'aside', { type: 'html' });
    const [bad, good] = ['<p onclick="x()">A<script>x()</script> & b</p>', '<p>A &amp; b</p>'];
    save('article', 'first-eye-splice', { fields: {} }, { fields: { aside: bad }, fieldTexts: { fr: { aside: bad } } });
    const record = () => readRecord(shop, 'article', 'first-eye-splice').record as Record<string, unknown>;
    expect(record()).toMatchObject({ fields: { aside: good }, fieldTexts: { fr: { aside: good } } });
    define('article', 'motto', {});
    const text = 'Fish & <b onmouseover="x()">chips</b>';
    save('article', 'first-eye-splice', { fields: {} }, { fields: { motto: text } });
    expect(record()).toMatchObject({ fields: { motto: text } });
    const { id } = save('field', 'article motto', { type: 'text' }, { type: 'html' });
    expect(record()).toMatchObject({ fields: { motto: 'Fish &amp; <b>chips</b>' } });
    undoChange(shop, id ?? 0, making);
    expect(record()).toMatchObject({ fields: { motto: text } });
    // And where it comes by a file, which has no change of each value.
    await bring(
      'json',
      JSON.stringify({ fields: [{ subject: 'article', key: 'motto', name: 'motto', type: 'html' }] }),
    );
    expect(record()).toMatchObject({ fields: { motto: 'Fish &amp; <b>chips</b>' } });
  });
  it('may be gone when what they held is undone: the rest is undone, and it is said', () => {
    define('product', 'berth', {});
    const { id } = save(
      'product',
      'deck-oil',
      { name: 'Deck oil', fields: {} },
      { name: 'Teak oil', fields: { berth: 'A1' } },
    );
    save('product', 'deck-oil', { fields: { berth: 'A1' } }, { fields: {} });
    saveRecords(shop, [{ kind: 'field', slug: 'product berth', before: {}, after: null }], making);
    const emptied = undoChange(shop, id ?? 0, making);
    expect(emptied.left).toEqual([]);
    expect(readRecord(shop, 'product', 'deck-oil').record).toMatchObject({ name: 'Deck oil', fields: {} });
    // The other way round: what it held is to come back, and cannot.
    const cleared = shop.sql.get<{ id: number }>('SELECT max(id) - 2 AS id FROM goods_change')?.id ?? 0;
    const back = undoChange(shop, cleared, making);
    expect(back.left).toEqual([expect.stringContaining('berth')]);
    expect(readRecord(shop, 'product', 'deck-oil').record.fields).toEqual({});
  });
  it('show beforehand what would not fit', () => {
    const ask = { subject: 'content', key: 'audience', type: 'text', several: false, choices: [] } as const;
    expect(misfits(shop, { ...ask, several: true, choices: ['Beginners'] })).toEqual({
      count: 1,
      examples: [{ slug: 'delivery', value: 'Riggers\nBeginners' }],
    });
    expect(misfits(shop, ask).count).toBe(0);
  });
  it('stand in a table of products, as does whether it is live; linked data leaves out what is not', async () => {
    save('product', 'shock-cord', { live: true }, { live: false });
    const rows = parse([...exportParts(shop, 'csv')].join(''), { columns: true }) as Record<string, string>[];
    const cord = rows.find(({ product }) => product === 'shock-cord');
    expect([cord?.['field:sizes'], cord?.live, rows[0]?.live]).toEqual(['4|6', 'no', 'yes']);
    const linked = [...exportParts(shop, 'jsonld')].join('');
    expect([linked.includes('Shock cord'), JSON.parse(linked) !== null]).toEqual([false, true]);
    // And back again: a list is read as one, and what is not live stays so.
    const table = 'product,name,live,field:sizes\nshock-cord,Shock cord,yes,5 | 7\n';
    await bring('csv', table);
    expect(readRecord(shop, 'product', 'shock-cord').record).toMatchObject({ live: true, fields: { sizes: '5\n7' } });
  });
  it('come through a file as they are', () => {
    const file = JSON.parse(JSON.stringify(exportCatalogue(source()))) as object;
    const sql = new Statements(openDatabase(':memory:'));
    importCatalogue(sql, catalogueFile.parse(file), cleanRichText);
    expect(exportCatalogue(new StoredCatalogue(sql))).toEqual(exportCatalogue(source()));
    sql.db.close();
  });
});
