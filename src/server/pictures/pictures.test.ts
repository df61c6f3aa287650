import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { undoChange } from '@/server/goods';
import { startShop } from '@/server/seeding/new-shop';
import { Shop } from '@/server/shop/shop';
import { getMedia, GoodsHistory } from '@/store';
import {
  filesOfFolder,
  filesOfZip,
  pictureOf,
  picturesOf,
  type PictureOutcome,
  removePictures,
  takePictures,
  writePictures,
} from './index';

const folder = mkdtempSync(join(tmpdir(), 'last-pictures-'));
afterAll(() => rmSync(folder, { recursive: true }));
const making = { at: '2026-11-28T10:00:00.000Z', by: 'Robin' };

let shop: Shop;
beforeEach(() => {
  shop = new Shop(':memory:');
  startShop(shop, { name: 'Tidy House', currency: 'EUR', languages: ['en'], theme: 'empty' }, making.at);
});

const raster = (width: number, height: number, colour = '#8a5a33') =>
  sharp({ create: { width, height, channels: 3, background: colour } });
const jpeg = await raster(60, 40).jpeg().toBuffer();
const red = await raster(30, 20, '#c02020').png().toBuffer();
/** A bitmap file as its format has it: two by two pixels. */
const bmp = Buffer.concat([Buffer.from('BM'), Buffer.alloc(68)]);

async function take(files: Record<string, Buffer | string>, replace = false, change: number | null = null) {
  const outcomes: PictureOutcome[] = [];
  const given = Object.entries(files).map(([name, bytes]) => ({
    name,
    bytes: () => Promise.resolve(Buffer.from(bytes)),
  }));
  const id = await takePictures(shop, given, { replace, change, ...making }, (outcome) => outcomes.push(outcome));
  return { id, outcomes, said: outcomes.map(({ path, what, why }) => `${path}: ${what}${why && `, ${why}`}`) };
}
const list = (filter: Parameters<typeof picturesOf>[1]['filter'], words = '') =>
  picturesOf(shop, { filter, words, from: 0, most: 50 });

describe('a picture that comes in', () => {
  it('is known by its content: type, and width and height as it is shown', async () => {
    const turned = await raster(60, 40).jpeg().withMetadata({ orientation: 6 }).toBuffer();
    const table: [name: string, bytes: Buffer | string, type: string, width: number | null, height: number | null][] = [
      ['a.jpg', jpeg, 'image/jpeg', 60, 40],
      ['turned.jpeg', turned, 'image/jpeg', 40, 60],
      ['b.png', red, 'image/png', 30, 20],
      ['c.webp', await raster(11, 12).webp().toBuffer(), 'image/webp', 11, 12],
      ['d.avif', await raster(16, 18).avif().toBuffer(), 'image/avif', 16, 18],
      ['e.gif', await raster(5, 6).gif().toBuffer(), 'image/gif', 5, 6],
      ['named-otherwise.png', jpeg, 'image/jpeg', 60, 40],
      ['drawn.svg', '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 8"/>', 'image/svg+xml', 9, 8],
      ['film.mp4', Buffer.from('\0\0\0\x18ftypisom\0\0\0\0isommp42', 'latin1'), 'video/mp4', null, null],
    ];
    const { outcomes } = await take(Object.fromEntries(table.map(([name, bytes]) => [name, bytes])));
    expect(outcomes.map(({ what }) => what)).toEqual(table.map(() => 'added'));
    for (const [name, , type, width, height] of table)
      expect(pictureOf(shop, name)).toMatchObject({ path: name, type, width, height });
  });

  it('is left out with the reason where it is broken, hostile, or nothing that a browser shows', async () => {
    const noise = Buffer.from(Array.from({ length: 60_000 }, (_, at) => (at * 7919) % 251));
    const large = await sharp(noise, { raw: { width: 200, height: 100, channels: 3 } })
      .jpeg()
      .toBuffer();
    const huge = Buffer.from(red);
    // The header of a PNG says its size in pixels at byte 16 (PNG, 11.2.2).
    huge.writeUInt32BE(40_000, 16);
    huge.writeUInt32BE(40_000, 20);
    const table: [name: string, bytes: Buffer | string, why: RegExp][] = [
      ['empty.png', '', /^it is empty$/],
      ['cut.jpg', large.subarray(0, large.length / 2), /broken or cut short/],
      ['huge.png', huge, /broken or cut short|at most 64 million/],
      ['page.png', '<html><script>alert(1)</script></html>', /no picture that a browser shows/],
      ['script.svg', '<svg xmlns="http://www.w3.org/2000/svg"><path></svg>', /not well-formed/],
      ['drawing.png', '<svg xmlns="http://www.w3.org/2000/svg"/>', /give it the ending \.svg/],
      ['packed.svgz', Buffer.from([0x1f, 0x8b, 8, 0]), /packed with gzip/],
      ['photo.heic', Buffer.from('\0\0\0\x18ftypheic', 'latin1'), /save it as JPEG/],
      ['scan.tiff', 'II*\0', /TIFF/],
      ['old.bmp', bmp, /save it as PNG/],
      ['../out.png', red, /leads out of its folder/],
      [`${'a'.repeat(200)}.png`, red, /longer than 200/],
    ];
    const { id, outcomes } = await take(Object.fromEntries(table.map(([name, bytes]) => [name, bytes])));
    expect([id, outcomes.map(({ what }) => what)]).toEqual([null, table.map(() => 'left')]);
    table.forEach(([name, , why], at) => expect([name, outcomes[at]?.why]).toEqual([name, expect.stringMatching(why)]));
    expect(list('all').total).toBe(0);
  });

  it('does not take another’s place unless that is said, and says what is there already', async () => {
    await take({ 'a.png': red });
    expect((await take({ 'a.png': red, './sub\\b.png': red })).outcomes).toMatchObject([
      { path: 'a.png', what: 'same' },
      { path: 'sub/b.png', what: 'added', copyOf: 'a.png' },
    ]);
    expect((await take({ 'a.png': jpeg })).said).toEqual(['a.png: there']);
    expect((await take({ 'a.png': jpeg }, true)).said).toEqual(['a.png: replaced']);
    expect(pictureOf(shop, 'a.png')).toMatchObject({ width: 60, copies: [] });
    expect(list('copies').total).toBe(0);
  });

  it('is found by the name that goods have, however its letters are composed', async () => {
    await take({ 'Ame\u0301lie.png': red });
    expect(pictureOf(shop, 'Am\u00e9lie.png').type).toBe('image/png');
  });
});

describe('what was done to pictures', () => {
  it('is one change for all that came together, and is undone to the byte', async () => {
    const first = await take({ 'a.png': red });
    const second = await take({ 'a.png': jpeg, 'b.png': red }, true);
    const third = await take({ 'c.png': red }, false, second.id);
    expect([second.id, third.id]).toEqual([2, 2]);
    expect(new GoodsHistory(shop.sql).list().map(({ id, added, changed }) => [id, added, changed])).toEqual([
      [2, 2, 1],
      [1, 1, 0],
    ]);
    const { id } = removePictures(shop, ['a.png', 'b.png', 'gone.png'], making);
    expect(list('all').pictures.map(({ path }) => path)).toEqual(['c.png']);
    expect(undoChange(shop, id, making).left).toEqual([]);
    expect(getMedia(shop.sql, 'a.png')?.bytes.equals(jpeg)).toBe(true);
    expect(undoChange(shop, 2, making).left).toEqual([]);
    expect(getMedia(shop.sql, 'a.png')?.bytes.equals(red)).toBe(true);
    expect(list('all').pictures.map(({ path }) => path)).toEqual(['a.png']);
    // What was undone takes no more.
    expect((await take({ 'd.png': red }, false, 2)).id).not.toBe(2);
    expect(first.id).toBe(1);
  });

  it('raises the catalogue’s revision, so that no page shows what was there', async () => {
    const before = shop.catalogue().revision;
    const { id } = await take({ 'a.png': red });
    const taken = shop.catalogue().revision;
    undoChange(shop, id ?? 0, making);
    expect([taken > before, shop.catalogue().revision > taken]).toEqual([true, true]);
  });
});

describe('the list', () => {
  it('tells what is used, what is not, what is there twice and what is missing', async () => {
    shop.sql.db.exec(`
      INSERT INTO content (slug, title, summary, body, added) VALUES ('about', 'About', '', '<p><img src="/media/in%20text.png" alt=""></p>', '2026-01-01');
      INSERT INTO media (owner, owner_id, kind, path, poster) SELECT 'content', id, 'video', 'film.mp4', 'poster.png' FROM content WHERE slug = 'about';
      INSERT INTO media (owner, owner_id, kind, path) SELECT 'content', id, 'image', 'used.png' FROM content WHERE slug = 'about';
      INSERT INTO media (owner, owner_id, kind, path) SELECT 'content', id, 'image', 'https://pictures.invalid/x.png' FROM content WHERE slug = 'about';
    `);
    await take({
      'used.png': red,
      'in text.png': await raster(3, 3).png().toBuffer(),
      'idle.png': red,
      'Other.jpg': jpeg,
    });
    expect(list('all').counts).toEqual({ all: 4, unused: 2, copies: 2, missing: 2 });
    expect(list('unused').pictures.map(({ path }) => path)).toEqual(['Other.jpg', 'idle.png']);
    expect(list('copies').pictures.map(({ path, copies }) => [path, copies])).toEqual([
      ['idle.png', 2],
      ['used.png', 2],
    ]);
    expect(list('missing')).toMatchObject({ total: 2, missing: [{ path: 'film.mp4' }, { path: 'poster.png' }] });
    expect(list('all', 'OTHER').total).toBe(1);
    expect(list('missing', 'poster').missing).toEqual([{ path: 'poster.png', uses: 1 }]);
    expect(pictureOf(shop, 'used.png')).toMatchObject({
      copies: ['idle.png'],
      usedBy: [{ kind: 'content', slug: 'about' }],
    });
    expect(pictureOf(shop, 'in text.png').usedBy).toEqual([{ kind: 'content', slug: 'about', name: 'About' }]);
  });
});

describe('a folder and a ZIP', () => {
  const names = async (files: AsyncIterable<{ name: string }> | Iterable<{ name: string }>) => {
    const found: string[] = [];
    for await (const { name } of files) found.push(name);
    return found;
  };
  const zip = (files: Record<string, Buffer>) => {
    const path = join(folder, 'a.zip');
    writeFileSync(path, zipSync(files));
    return path;
  };

  it('give their pictures and nothing else', async () => {
    const inner = join(folder, 'some');
    mkdirSync(join(inner, 'sub'), { recursive: true });
    writeFileSync(join(inner, 'a.png'), red);
    writeFileSync(join(inner, 'notes.txt'), 'x');
    writeFileSync(join(inner, '.hidden.png'), red);
    writeFileSync(join(inner, 'sub', 'b.jpg'), jpeg);
    symlinkSync('/etc/hostname', join(inner, 'link.png'));
    expect(await names(filesOfFolder(inner))).toEqual(['a.png', 'sub/b.jpg']);
    expect(
      await names(
        filesOfZip(
          zip({ 'pics/a.png': red, 'pics/__MACOSX/a.png': red, 'pics/sub/b.jpg': jpeg, 'pics/readme.md': red }),
        ),
      ),
    ).toEqual(['a.png', 'sub/b.jpg']);
    expect(await names(filesOfZip(zip({ 'a.png': red, 'sub/b.jpg': jpeg })))).toEqual(['a.png', 'sub/b.jpg']);
  });

  it('a ZIP that leads out, or is none, is refused whole', async () => {
    await expect(names(filesOfZip(zip({ '../a.png': red })))).rejects.toThrow('The ZIP cannot be read');
    const none = join(folder, 'none.zip');
    writeFileSync(none, 'x');
    await expect(names(filesOfZip(none))).rejects.toThrow('The ZIP cannot be read');
  });

  it('what is written out comes in again as the same', async () => {
    await take({
      'a.png': red,
      'sub/b.jpg': jpeg,
      'c.svg': '<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>',
    });
    const out = join(folder, 'out');
    expect(writePictures(shop, out)).toBe(3);
    const outcomes: string[] = [];
    await takePictures(shop, filesOfFolder(out), { replace: true, change: null, ...making }, ({ path, what }) =>
      outcomes.push(`${path}: ${what}`),
    );
    expect(outcomes).toEqual(['a.png: same', 'c.svg: same', 'sub/b.jpg: same']);
  });
});
