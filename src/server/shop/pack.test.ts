import Database from 'better-sqlite3';
import { copyFileSync, mkdtempSync, readdirSync, readFileSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { localePrefix, pathOf } from '@/core/address';
import { People } from '@/server/accounts';
import { say } from '@/server/comments';
import { writeText } from '@/server/drafts';
import { pageOf } from '@/server/storefront';
import { demoShop } from '@/server/testing/demo-shop';
import { findSubjects, openReleaseFile } from '@/store';
import { pack, releaseFault } from './data-folder';
import { Shop } from './shop';
import { copyState, stateOf } from './states';

const newFolder = () => mkdtempSync(join(tmpdir(), 'pack-'));
const out = newFolder();
const folder = newFolder();
let shop: Shop;
let file: string;
let content: string;
beforeAll(() => {
  shop = demoShop([], 'themes/withy-quay', new Shop(folder));
  // What a shop has besides, which is nobody's business who serves it.
  new People(shop.sql).invite({ name: 'canary-account', called: 'Canary', role: 'owner' }, '');
  const slug = copyState(shop, { from: 'live', name: 'canary-draft', note: '' }, 'canary-author');
  const draft = stateOf(shop, `draft/${slug}`);
  writeText(shop, draft, 'pieces/stock.html', '<!--: canary-source :-->', null, 'canary-author', undefined);
  say(shop, draft, { by: 'canary-author', text: 'canary-comment', page: '/' });
  ({ file, content } = pack(folder, 'live', out));
});

/** A release file as the database of a data folder: the shop reads it like its own. */
const opened = (of: string): Shop => {
  const at = newFolder();
  copyFileSync(of, join(at, 'last.sqlite'));
  return new Shop(at);
};

describe('a release file', () => {
  it('makes every page as the shop does, byte for byte', () => {
    const packed = opened(file);
    const { locales } = shop.catalogue().shop();
    const paths = findSubjects(shop.sql, '', null, 1000)
      .filter(({ kind }) => kind !== 'cart')
      .flatMap((one) => locales.map((locale) => localePrefix(locale, locales) + pathOf(one)));
    expect(paths.length).toBeGreaterThan(150);
    const html = (of: Shop, path: string) => pageOf(of, stateOf(of, 'live'), { path, query: {} }).html;
    for (const path of [...paths, '/listing/search?q=rope', '/nothing/here'])
      expect(html(packed, path) === html(shop, path) ? '' : path).toBe('');
  });

  it('is named by its content, which the same state gives again, and another does not', () => {
    expect(file).toBe(join(out, `${content.slice(0, 16)}.release`));
    expect(pack(folder, 'live', newFolder()).content).toBe(content);
    const draft = stateOf(shop, 'draft/spring');
    writeText(
      shop,
      draft,
      'pieces/unit.html',
      '<p>x</p>\n',
      shop.theme(draft).theme.file('pieces/unit.html')?.hash ?? null,
      '',
      undefined,
    );
    expect(pack(folder, 'live', newFolder()).content).toBe(content);
    expect(pack(folder, 'draft/spring', newFolder()).content).not.toBe(content);
  });

  it('goes into a folder that is not there yet, or is the file of that name', () => {
    const to = join(newFolder(), 'all', 'releases');
    expect(pack(folder, 'live', to).file).toBe(join(to, `${content.slice(0, 16)}.release`));
    expect(pack(folder, 'live', join(to, 'shop.release')).file).toBe(join(to, 'shop.release'));
    expect(readdirSync(to).length).toBe(2);
  });

  it('holds nothing that is not the shop’s as customers see it', () => {
    const bytes = readFileSync(file);
    expect(bytes.includes('Withy Quay')).toBe(true);
    expect(['canary', 'spring'].filter((word) => bytes.includes(`${word}-`))).toEqual([]);
    const db = openReleaseFile(file);
    const own = shop.sql.get<{ key: Buffer }>('SELECT key FROM signing_key')?.key as Buffer;
    expect(bytes.includes(own)).toBe(false);
    expect(db.pragma('integrity_check', { simple: true })).toBe('ok');
    for (const table of ['account', 'log', 'comment', 'review', 'change', 'save', 'cart', 'goods_change'])
      expect([table, db.prepare(`SELECT count(*) FROM ${table}`).pluck().get()]).toEqual([table, 0]);
    expect(db.prepare('SELECT kind FROM state').pluck().all()).toEqual(['release']);
    db.close();
  });

  it('is whole, or is not read: shortened, altered, of another version, something else', () => {
    expect(releaseFault(file, true)).toBeNull();
    const copy = (change: (to: string) => void): string => {
      const to = join(newFolder(), 'x.release');
      copyFileSync(file, to);
      change(to);
      return to;
    };
    const shortened = copy((to) => truncateSync(to, statSync(to).size - 4096));
    expect(releaseFault(shortened)).toMatch(/not whole|damaged/);
    const altered = copy((to) => {
      const bytes = readFileSync(to);
      bytes.write('Withy Quaj', bytes.indexOf('Withy Quay'));
      writeFileSync(to, bytes);
    });
    expect(releaseFault(altered, true)).toMatch(/not what was written|damaged/);
    const pragma = (version: number) =>
      copy((to) => {
        const db = new Database(to);
        db.pragma(`user_version = ${version}`);
        db.close();
      });
    expect(releaseFault(pragma(1000))).toMatch(/newer Last/);
    expect(releaseFault(pragma(3))).toMatch(/older Last: pack it again/);
    expect(releaseFault(copy((to) => writeFileSync(to, 'text')))).toMatch(/damaged/);
    expect(releaseFault(join(folder, 'last.sqlite'))).toBe('it is not a release file');
    expect(releaseFault(join(folder, 'none'))).toBe('there is no such file');
  });

  it('that cannot be made leaves nothing behind', () => {
    const to = newFolder();
    expect(() => pack(folder, 'release/9', to)).toThrow('There is no release/9');
    expect(() => pack(folder, 'release/9', join(to, 'new', 'folder'))).toThrow('There is no release/9');
    expect(() => pack(newFolder(), 'live', to)).toThrow('There is no shop in');
    expect(() => pack(folder, 'live', join(to, 'none', 'x.release'))).toThrow('could not be written');
    expect(readdirSync(to)).toEqual([]);
  });
});
