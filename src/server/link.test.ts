import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync, mkdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { draftOf, openFile, saveFile } from './files';
import { Link } from './link';
import type { Shop } from './shop';
import { demoShop } from './testing/demo-shop';

let shop: Shop;
let folder: string;
let link: Link;
const path = 'pieces/stock.html';
beforeEach(() => {
  shop = demoShop();
  folder = mkdtempSync(join(tmpdir(), 'link-'));
  link = new Link(shop, 'spring', folder);
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
    expect(link.turn()).toEqual([`draft → folder: ${path}`]);
    expect(inFolder()).toBe('<p>1</p>');
    write('<p>2</p>');
    expect(link.turn()).toEqual([`folder → draft: ${path}`]);
    expect(inDraft()).toBe('<p>2</p>');
    expect(link.turn()).toEqual([]);
    rmSync(join(folder, path));
    expect(link.turn()).toEqual([`folder → draft: ${path} (taken away)`]);
    expect(inDraft()).toBeNull();
  });
  it('overwrites neither side where both changed, until both were put together', () => {
    saved('<p>1</p>');
    link.turn();
    saved('<p>draft</p>');
    write('<p>folder</p>');
    expect(link.turn()).toHaveLength(1);
    expect([inDraft(), inFolder(), readFileSync(link.theirs(path), 'utf8')]).toEqual([
      '<p>draft</p>',
      '<p>folder</p>',
      '<p>draft</p>',
    ]);
    expect(link.turn()).toEqual([]);
    write('<p>draft and folder</p>');
    expect(link.turn()).toEqual([]);
    saved('<p>draft again</p>');
    expect(link.turn()[0]).toMatch(/^conflict/);
    rmSync(link.theirs(path));
    expect(link.turn()).toEqual([`folder → draft: ${path}`]);
    expect(inDraft()).toBe('<p>draft and folder</p>');
  });
  it('goes on where it was after it was ended', () => {
    saved('<p>1</p>');
    link.turn();
    write('<p>2</p>');
    expect(new Link(shop, 'spring', folder).turn()).toEqual([`folder → draft: ${path}`]);
    expect(() => new Link(shop, 'other', folder)).toThrow('is linked with the draft “spring”');
  });
  it('leaves out what has no place in a theme, says so once, and hides nothing else', () => {
    write('notes', 'notes/today.md');
    write('{', 'words/en.json');
    write('x', '.git/HEAD');
    write('<p>x</p>');
    expect(link.turn()).toEqual([
      expect.stringMatching(/^not taken: “notes\/today\.md” has no place/),
      `folder → draft: ${path}`,
      expect.stringMatching(/^not taken: “words\/en\.json” cannot be read as JSON/),
    ]);
    expect(link.turn()).toEqual([]);
    expect([inDraft(), inFolder('notes/today.md')]).toEqual(['<p>x</p>', 'notes']);
  });
});
