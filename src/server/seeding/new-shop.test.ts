import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import currencyCodes from 'currency-codes';
import { newShop } from '@/contract/start';
import { Shop } from '@/server/shop/shop';
import { beginning, draftOf } from '@/server/shop/states';
import { pageOf } from '@/server/storefront/page';
import { catalogueOf, shopKinds } from '@/server/testing/catalogues';
import { startDemo, startShop } from './new-shop';
import { commandFile } from '@/server/testing/program';

const now = '2026-11-24T00:00:00.000Z';
const given = { name: 'Tidy House', currency: 'EUR', languages: ['de', 'en'], theme: 'quay' as const };

describe('a shop in an empty data folder', () => {
  for (const theme of ['quay', 'empty'] as const)
    it(`on ${theme}: a draft, a layer named after it, and a page that is live`, () => {
      const shop = new Shop(':memory:');
      expect(beginning(shop)).toBeNull();
      expect(startShop(shop, { ...given, theme }, now)).toBe('first');
      expect(beginning(shop)).toEqual({ draft: 'first', page: '/' });
      const layers = shop.themes.layers(draftOf(shop, 'first').id).map(({ kind, name }) => `${kind} ${name}`);
      expect(layers).toEqual([theme === 'quay' ? 'base Quay' : 'base Plain', 'shop Tidy House']);
      const live = shop.themes.live();
      const page = live && pageOf(shop, live, { path: '/', query: {} });
      expect([page?.status, page?.problems, page?.html.match(/<h1[^>]*>([^<]*)/)?.[1]]).toEqual([
        200,
        [],
        'Tidy House',
      ]);
      expect(page?.html).toContain('lang="de"');
    });
  it('takes the newest base theme', () => {
    const shop = new Shop(':memory:');
    startShop(shop, given, now);
    expect(shop.themes.layers(draftOf(shop, 'first').id)[0]).toMatchObject({ name: 'Quay', version: '1.1' });
  });
  it('is made once', async () => {
    const shop = new Shop(':memory:');
    startShop(shop, given, now);
    expect(() => startShop(shop, given, now)).toThrow('There is a shop here already: nothing was changed.');
    await expect(startDemo(shop, now)).rejects.toThrow('There is a shop here already');
  });
  it('or the demo, with its draft', async () => {
    const shop = new Shop(':memory:');
    expect(await startDemo(shop, now)).toBe('spring');
    expect(beginning(shop)).toEqual({ draft: 'spring', page: '/product/tarred-hemp-rope' });
  });
});

describe('what a new shop is told', () => {
  const read = (change: object) => newShop.safeParse({ ...given, ...change });
  const refused: [change: object, message: string][] = [
    [{ name: '  ' }, 'The shop needs a name'],
    [{ name: 'x'.repeat(81) }, 'The shop’s name may have 80 letters'],
    [{ currency: 'EURO' }, '“EURO” is not a currency of ISO 4217, as “EUR” or “GBP” are'],
    [{ languages: [] }, 'The shop needs a language'],
    [{ languages: ['de', 'no such'] }, '“no such” is not a language tag, as “en”, “en-GB” or “de” are'],
    [{ languages: ['en-gb', 'EN-GB'] }, 'A language is there twice'],
  ];
  it.each(refused)('%j', (change, message) =>
    expect(read(change).error?.issues.map((one) => one.message)).toEqual([message]),
  );
  it('is taken as it is usually written', () =>
    expect(read({ name: ' A ', currency: 'eur', languages: [' EN-gb', 'de-at'] }).data).toMatchObject({
      name: 'A',
      currency: 'EUR',
      languages: ['en-GB', 'de-AT'],
    }));
  // Source: ISO 4217 as the package currency-codes lists it; funds, metals and units that stand beside another aside.
  it('every currency of ISO 4217 that countries use is taken', () => {
    const used = currencyCodes.data.filter(
      ({ countries, code }) => countries.length && !/^X|^(?:CHE|CHW|CLF|COU|MXV|USN|UYI|UYW|BOV|VED|ZWG)$/.test(code),
    );
    expect(used.length).toBeGreaterThan(140);
    expect(used.map(({ code }) => code).filter((currency) => !read({ currency }).success)).toEqual([]);
  });
});

describe('last new', () => {
  const folder = mkdtempSync(join(tmpdir(), 'last-new-'));
  afterAll(() => rmSync(folder, { recursive: true }));
  let command: string;
  beforeAll(async () => {
    command = await commandFile();
  });
  const last = (...args: string[]) => {
    const { status, stdout, stderr } = spawnSync('node', [command, 'new', ...args], {
      encoding: 'utf8',
      input: '',
      env: { ...process.env, LAST_DATA: join(folder, 'elsewhere') },
    });
    return { status, out: stdout, err: stderr };
  };
  const data = join(folder, 'data');
  it('says what it was not told', () =>
    expect(last(data, '--name', 'Tidy House')).toEqual({
      status: 2,
      out: '',
      err: 'A new shop needs --currency, --languages (or --catalogue with a catalogue file, which says them).\n',
    }));
  it('says each thing that is wrong', () => {
    const { status, err } = last(data, '--name', ' ', '--currency', 'X', '--languages', 'de');
    expect([status, err.split('\n').length]).toEqual([2, 3]);
  });
  it('makes the shop in the folder that it names, once', () => {
    const all = [data, '--name', 'Tidy House', '--currency', 'EUR', '--languages', 'de, en', '--theme', 'empty'];
    expect(last(...all)).toMatchObject({ status: 0, err: '' });
    expect(last(...all)).toMatchObject({ status: 1, err: 'There is a shop here already: nothing was changed.\n' });
    const shop = new Shop(data);
    expect(shop.catalogue().shop()).toMatchObject({ name: 'Tidy House', currency: 'EUR', locales: ['de', 'en'] });
    shop.sql.db.close();
  });
  it('with the goods of a catalogue file', () => {
    const file = join(folder, 'goods.json');
    writeFileSync(file, JSON.stringify(catalogueOf(shopKinds[0] ?? { name: '' })));
    const other = join(folder, 'other');
    expect(last(other, '--catalogue', file)).toMatchObject({ status: 0, err: '' });
    const shop = new Shop(other);
    expect(beginning(shop)).toEqual({ draft: 'first', page: '/product/item-1' });
    shop.sql.db.close();
  });
});
