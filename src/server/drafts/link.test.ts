import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { openFile, saveFile } from './files';
import { draftOf } from '@/server/shop/states';
import { Link } from './link';
import type { Shop } from '@/server/shop/shop';
import { demoShop } from '@/server/testing/demo-shop';

let shop: Shop;
let folder: string;
let link: Link;
const path = 'pieces/stock.html';
beforeEach(() => {
  shop = demoShop([], null);
  folder = mkdtempSync(join(tmpdir(), 'link-'));
  link = new Link('spring', folder);
});
const draft = () => draftOf(shop, 'spring');
const inDraft = (of = path) => (shop.themes.ownHash(draft().id, of) === null ? null : openFile(shop, draft(), of).text);
const saved = (text: string, of = path) => saveFile(shop, draft(), of, text, shop.themes.ownHash(draft().id, of));
const write = (text: string, of = path) => {
  mkdirSync(dirname(join(folder, of)), { recursive: true });
  writeFileSync(join(folder, of), text);
};
const inFolder = (of = path) => (existsSync(join(folder, of)) ? readFileSync(join(folder, of), 'utf8') : null);

describe('a folder that is linked with a draft', () => {
  it('gets what is saved in the draft, and gives what is written in it', () => {
    saved('<p>1</p>');
    expect(link.turn(shop)).toEqual([`draft → folder: ${path}`]);
    expect(inFolder()).toBe('<p>1</p>');
    write('<p>2</p>');
    expect(link.turn(shop)).toEqual([`folder → draft: ${path}`]);
    expect(inDraft()).toBe('<p>2</p>');
    expect(link.turn(shop)).toEqual([]);
    rmSync(join(folder, path));
    expect(link.turn(shop)).toEqual([`folder → draft: ${path} (removed)`]);
    expect(inDraft()).toBeNull();
  });
  it('overwrites neither side where both changed, until both were merged', () => {
    saved('<p>1</p>');
    link.turn(shop);
    saved('<p>draft</p>');
    write('<p>folder</p>');
    expect(link.turn(shop)).toHaveLength(1);
    expect([inDraft(), inFolder(), readFileSync(link.theirs(path), 'utf8')]).toEqual([
      '<p>draft</p>',
      '<p>folder</p>',
      '<p>draft</p>',
    ]);
    expect(link.turn(shop)).toEqual([]);
    write('<p>draft and folder</p>');
    expect(link.turn(shop)).toEqual([]);
    saved('<p>draft again</p>');
    expect(link.turn(shop)[0]).toMatch(/^conflict/);
    rmSync(link.theirs(path));
    expect(link.turn(shop)).toEqual([`folder → draft: ${path}`]);
    expect(inDraft()).toBe('<p>draft and folder</p>');
  });
  it('goes on where it was after it was ended', () => {
    saved('<p>1</p>');
    link.turn(shop);
    write('<p>2</p>');
    expect(new Link('spring', folder).turn(shop)).toEqual([`folder → draft: ${path}`]);
    expect(() => new Link('other', folder)).toThrow('is linked with the draft “spring”');
  });
  it('follows no symbolic link, neither to a file nor to a folder, inside or outside, and takes none for gone', () => {
    const outside = mkdtempSync(join(tmpdir(), 'outside-'));
    writeFileSync(join(outside, 'secret.html'), 'secret');
    saved('<p>1</p>');
    saved('<p>kept</p>', 'pieces/price.html');
    saved('b', 'article/own.html');
    link.turn(shop);
    rmSync(join(folder, path));
    symlinkSync(join(outside, 'secret.html'), join(folder, path));
    symlinkSync(join(folder, 'pieces/price.html'), join(folder, 'pieces/same.html'));
    rmSync(join(folder, 'article'), { recursive: true });
    symlinkSync(outside, join(folder, 'article'));
    symlinkSync(outside, join(folder, 'layouts'));
    saved('c', 'article/own.html');
    saved('<p>new</p>', 'layouts/own.html');
    expect(link.turn(shop).sort()).toEqual(
      ['article', 'layouts', 'pieces/same.html', path].map(
        (one) => `left alone: ${join(link.folder, one)} (a symbolic link)`,
      ),
    );
    expect(link.turn(shop)).toEqual([]);
    expect([inDraft(), inDraft('article/own.html'), inDraft('pieces/same.html')]).toEqual(['<p>1</p>', 'c', null]);
    expect([readdirSync(outside), readFileSync(join(outside, 'secret.html'), 'utf8')]).toEqual([
      ['secret.html'],
      'secret',
    ]);
    // A folder in the link's place goes on from what both had.
    rmSync(join(folder, 'article'));
    expect(link.turn(shop)).toEqual([
      'conflict: article/own.html was changed on both sides; neither is touched. The draft’s stands in ' +
        `${link.theirs('article/own.html')}: merge both in ${join(link.folder, 'article/own.html')}, then delete that one.`,
    ]);
    const theirs = join(folder, '.last', 'theirs');
    rmSync(theirs, { recursive: true });
    symlinkSync(outside, theirs);
    expect(() => new Link('spring', folder)).toThrow('holds a symbolic link');
  });
  it.skipIf(process.getuid?.() === 0)('takes what it may not read for neither gone nor changed', () => {
    saved('<p>1</p>');
    link.turn(shop);
    chmodSync(join(folder, path), 0);
    expect(link.turn(shop)).toEqual([`left alone: ${join(link.folder, path)} (this account may not read it)`]);
    expect(inDraft()).toBe('<p>1</p>');
    chmodSync(join(folder, path), 0o600);
    expect(link.turn(shop)).toEqual([]);
  });
  it('takes a folder that is gone for nothing of the kind', () => {
    saved('<p>1</p>');
    link.turn(shop);
    rmSync(folder, { recursive: true });
    expect(link.turn(shop)[0]).toMatch(/^left alone: /);
    expect([link.turn(shop), inDraft(), existsSync(folder)]).toEqual([[], '<p>1</p>', false]);
    // One that is made again, empty, gets what the draft has.
    mkdirSync(folder);
    expect([link.turn(shop), inDraft(), inFolder()]).toEqual([[`draft → folder: ${path}`], '<p>1</p>', '<p>1</p>']);
  });
  it('leaves out what has no place in a theme, says so once, and hides nothing else', () => {
    write('notes', 'notes/today.md');
    write('{', 'words/en.json');
    write('x', '.git/HEAD');
    write('<p>x</p>');
    expect(link.turn(shop)).toEqual([
      expect.stringMatching(/^not taken: “notes\/today\.md” has no place/),
      `folder → draft: ${path}`,
      expect.stringMatching(/^not taken: “words\/en\.json” cannot be read as JSON/),
    ]);
    expect(link.turn(shop)).toEqual([]);
    expect([inDraft(), inFolder('notes/today.md')]).toEqual(['<p>x</p>', 'notes']);
  });
});
