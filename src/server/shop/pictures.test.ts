import { mkdtempSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { crc32, deflateSync } from 'node:zlib';
import { decodeHTML } from 'entities';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { putMedia } from '@/store/media';
import type { StateRow } from '@/store/themes';
import { pageOf } from '@/server/storefront/page';
import { readSize, type PictureSize } from './picture-size';
import { Pictures } from './pictures';
import { serveMedia } from '@/server/storefront/files';
import { demoShop } from '@/server/testing/demo-shop';

const shop = demoShop();

/** The head of a PNG (W3C, PNG Specification, 5.3 and 11.2.1) that says how large its picture is, without the picture. */
function hugePng(width: number, height: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const ends = Buffer.alloc(8);
    ends.writeUInt32BE(data.length, 0);
    ends.writeUInt32BE(crc32(body), 4);
    return Buffer.concat([ends.subarray(0, 4), body, ends.subarray(4)]);
  };
  const head = Buffer.from([0, 0, 0, 0, 0, 0, 0, 0, 8, 2, 0, 0, 0]);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  return Buffer.concat([
    signature,
    chunk('IHDR', head),
    chunk('IDAT', deflateSync('')),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

const picture = await sharp({ create: { width: 600, height: 400, channels: 3, background: '#345' } })
  .png()
  .toBuffer();
putMedia(shop.sql, 'wide.png', 'image/png', picture);

/** Asks for a picture as pages do, by an address that is signed; `plain`: by the address as it is. */
async function ask(query: string, headers: Record<string, string> = {}, { plain = false, path = 'wide.png' } = {}) {
  const address = `/media/${path}${query}`;
  const url = `http://x${plain ? address : shop.signer.sign(address)}`;
  const answer = await serveMedia(shop, new Request(url, { headers }), path);
  const bytes = Buffer.from(await answer.arrayBuffer());
  if (answer.headers.get('content-type') === 'image/svg+xml') return { answer, bytes, size: null };
  return { answer, bytes, size: bytes.length ? await sharp(bytes).metadata() : null };
}

describe('a raster picture comes in the size that its address asks for', () => {
  const table: [query: string, width: number, height: number][] = [
    ['', 600, 400],
    ['?w=300', 300, 200],
    ['?h=100', 150, 100],
    ['?w=300&h=300', 300, 200],
    ['?w=300&h=300&crop=centre', 300, 300],
    ['?w=100&h=300&crop=top', 100, 300],
    ['?w=600&part=25,0,50,100', 300, 400],
    ['?w=150&h=150&crop=centre&part=25,0,50,100', 150, 150],
    ['?w=600&part=99.99,99.99,0.01,0.01', 1, 1],
    ['?w=300&part=60,0,50,100', 300, 200],
    ['?w=2000', 600, 400],
    ['?w=0', 600, 400],
    ['?w=99999', 600, 400],
    ['?w=x&h=-1', 600, 400],
  ];
  for (const [query, width, height] of table)
    it(query || 'without one', async () => {
      const { size } = await ask(query);
      expect([size?.width, size?.height, size?.format]).toEqual([width, height, 'png']);
    });
  it('cut to the part that is asked for, as the picture is turned', async () => {
    // Red on the left and blue on the right, stored lying on its side (EXIF orientation 6).
    const half = (background: string) => ({ create: { width: 40, height: 40, channels: 3 as const, background } });
    const lying = await sharp({ create: { width: 40, height: 80, channels: 3, background: '#f00' } })
      .composite([{ input: await sharp(half('#00f')).png().toBuffer(), left: 0, top: 0 }])
      .withMetadata({ orientation: 6 })
      .jpeg({ quality: 100 })
      .toBuffer();
    putMedia(shop.sql, 'turned.jpg', 'image/jpeg', lying);
    const colour = async (part: string) => {
      const { bytes } = await ask(`?w=80&part=${part}`, {}, { path: 'turned.jpg' });
      const { info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true });
      const { channels } = await sharp(bytes).stats();
      return [info.width, info.height, channels.map(({ mean }) => Math.round(mean / 255)).join('')];
    };
    expect(await colour('0,0,50,100')).toEqual([40, 40, '100']);
    expect(await colour('50,0,50,50')).toEqual([40, 20, '001']);
  });
  it('as WebP for those who take it', async () => {
    const { answer, size } = await ask('?w=200', { accept: 'image/avif,image/webp,*/*' });
    expect([size?.format, answer.headers.get('content-type'), answer.headers.get('vary')]).toEqual([
      'webp',
      'image/webp',
      'Accept',
    ]);
  });
});

describe('addresses of pictures', () => {
  it('name the content: kept for good while they do, never when it is another', async () => {
    const hash = shop.sql.get<{ hash: string }>("SELECT hash FROM media_file WHERE path = 'wide.png'")?.hash ?? '';
    const kept = async (query: string) => (await ask(query)).answer.headers.get('cache-control');
    expect([await kept(`?v=${hash.slice(0, 12)}&w=50`), await kept('?v=0123&w=50'), await kept('?w=50')]).toEqual([
      'public, max-age=31536000, immutable',
      'no-cache',
      'no-cache',
    ]);
  });
  it('change with the content of the picture', () => {
    const url = () => shop.catalogue().media('product', [1])[0]?.hash;
    const before = url();
    const path = shop.catalogue().media('product', [1])[0]?.path as string;
    putMedia(shop.sql, path, 'image/svg+xml', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'));
    expect(url()).not.toBe(before);
  });
  it('of a picture that is not there give a drawn one, and say 404', async () => {
    const answer = await serveMedia(shop, new Request('http://x/media/none.png?w=10'), 'none.png');
    expect([answer.status, answer.headers.get('content-type')]).toEqual([404, 'image/svg+xml']);
    expect(await answer.text()).toMatch(/^<svg /);
  });
  it('have an ETag of their own, by which those who have it are told so', async () => {
    const etagOf = async (query: string) => (await ask(query)).answer.headers.get('etag');
    const etag = await etagOf('?w=80');
    expect(etag).toMatch(/^"[^"]+"$/);
    expect(await etagOf('?w=80')).toBe(etag);
    expect(await etagOf('?w=81')).not.toBe(etag);
  });
});

describe('sizes that no page asks for', () => {
  const signed = () => shop.signer.sign('/media/wide.png?w=300&h=200&crop=top');
  const table: [name: string, address: () => string][] = [
    ['without a signature', () => '/media/wide.png?w=300'],
    ['with one of another size', () => signed().replace('w=300', 'w=301')],
    ['with one of another part', () => signed().replace('crop=top', 'crop=left')],
    [
      'with one of another stretch',
      () => shop.signer.sign('/media/wide.png?w=300&part=0,0,50,50').replace('part=0', 'part=1'),
    ],
    ['with a stretch put in', () => `${signed()}&part=0,0,50,50`],
    ['with one of another picture', () => shop.signer.sign('/media/other.png?w=300')],
    ['with one that is cut short', () => signed().slice(0, -1)],
    ['with one of another server', () => demoShop().signer.sign('/media/wide.png?w=300')],
    ['with none', () => `${signed().replace(/s=.*/, 's=')}`],
  ];
  for (const [name, address] of table)
    it(`${name} give the picture as it is`, async () => {
      const { size } = await ask(address().slice('/media/wide.png'.length), {}, { plain: true });
      const { size: other } = await ask(`?${address().split('?')[1] ?? ''}`, {}, { plain: true });
      expect([size?.width, other?.width]).toEqual([600, 600]);
    });
  it('a signature holds however the address is written, with any hash of the content', async () => {
    const signature = new URL(signed(), 'http://x').searchParams.get('s') ?? '';
    const { size } = await ask(`?v=123&s=${signature}&crop=top&h=200&w=300`, {}, { plain: true });
    expect([size?.width, size?.height]).toEqual([300, 200]);
  });
  it('pages sign what their templates ask for', async () => {
    shop.sql.run("UPDATE media SET path = 'wide.png' WHERE owner = 'product'");
    const html = pageOf(shop, shop.themes.live() as StateRow, { path: '/product/deck-oil', query: {} }).html;
    const asked = [...html.matchAll(/\/media\/wide\.png\?[^"\s]*w=[^"\s]*/g)].map(([found]) => decodeHTML(found));
    expect(asked.length).toBeGreaterThan(3);
    const widths = await Promise.all(
      asked.map(async (address) => {
        const { size } = await ask(address.slice('/media/wide.png'.length), {}, { plain: true });
        return [Number(new URL(address, 'http://x').searchParams.get('w')), size?.width];
      }),
    );
    // Never larger than it is.
    expect(widths).toEqual(widths.map(([wanted = 0]) => [wanted, Math.min(wanted, 600)]));
    expect(widths.some(([wanted = 0]) => wanted < 600)).toBe(true);
  });
});

describe('pictures that cannot be opened', () => {
  const table: [name: string, bytes: () => Buffer | Promise<Buffer>][] = [
    ['no picture at all', () => Buffer.from('This is not a picture.')],
    ['cut short', () => picture.subarray(0, 60)],
    ['nothing', () => Buffer.alloc(0)],
    ['of more pixels than are opened', () => hugePng(60_000, 60_000)],
  ];
  for (const [name, bytes] of table)
    it(`${name}: a drawn one in its place, and 500; as it is, it is sent`, async () => {
      putMedia(shop.sql, 'broken.png', 'image/png', await bytes());
      const { answer } = await ask('?w=100', {}, { path: 'broken.png' });
      expect([answer.status, answer.headers.get('content-type'), answer.headers.get('cache-control')]).toEqual([
        500,
        'image/svg+xml',
        'no-cache',
      ]);
      const plain = await serveMedia(shop, new Request('http://x/media/broken.png'), 'broken.png');
      expect(plain.status).toBe(200);
    });
});

it('those that were used last are kept, as far as the quota goes, also by the next server', async () => {
  const folder = join(mkdtempSync(join(tmpdir(), 'last-pictures-')), 'sizes');
  const size = (w: number) => readSize(new URLSearchParams(`w=${w}`)) as PictureSize;
  const first = new Pictures(folder);
  const bytes = (await first.sized(picture, 'h', size(90), true)).length;
  const room = Math.floor(bytes * 3.5);
  const small = new Pictures(folder, room);
  for (const w of [91, 92, 90, 93, 94]) await small.sized(picture, 'h', size(w), true);
  await expect.poll(() => readdirSync(folder).sort()).toEqual(['h-90x.webp', 'h-93x.webp', 'h-94x.webp']);
  for (const [at, w] of [94, 90, 93].entries()) utimesSync(join(folder, `h-${w}x.webp`), 1000 + at, 1000 + at);
  writeFileSync(join(folder, 'h-1x.webp.77.part'), 'half a picture');
  const next = new Pictures(folder, room);
  await next.sized(picture, 'h', size(95), true);
  await expect.poll(() => readdirSync(folder).sort()).toEqual(['h-90x.webp', 'h-93x.webp', 'h-95x.webp']);
});

it('a size is made once, however many ask at once, and found again by another process', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'last-pictures-'));
  const pictures = new Pictures(join(folder, 'sizes'));
  const size = readSize(new URLSearchParams('w=64'));
  if (!size) throw new Error('no size');
  const all = await Promise.all(Array.from({ length: 8 }, () => pictures.sized(picture, 'h', size, true)));
  expect(new Set(all).size).toBe(1);
  await expect.poll(() => readdirSync(join(folder, 'sizes'))).toEqual(['h-64x.webp']);
  const again = await new Pictures(join(folder, 'sizes')).sized(Buffer.from('no picture'), 'h', size, true);
  expect(again.equals(all[0] as Buffer)).toBe(true);
});
