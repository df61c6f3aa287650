import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { putMedia } from '@/store/media';
import { Pictures, readSize } from './pictures';
import { serveMedia } from './storefront';
import { demoShop } from './testing/demo-shop';

const shop = demoShop();
const picture = await sharp({ create: { width: 600, height: 400, channels: 3, background: '#345' } })
  .png()
  .toBuffer();
putMedia(shop.sql, 'wide.png', 'image/png', picture);

async function ask(query: string, headers: Record<string, string> = {}) {
  const answer = await serveMedia(shop, new Request(`http://x/media/wide.png${query}`, { headers }), 'wide.png');
  const bytes = Buffer.from(await answer.arrayBuffer());
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
  it('answer with 304 to those who have it', async () => {
    const { answer } = await ask('?w=80');
    const etag = answer.headers.get('etag') ?? '';
    expect((await ask('?w=80', { 'if-none-match': etag })).answer.status).toBe(304);
    expect((await ask('?w=81', { 'if-none-match': etag })).answer.status).toBe(200);
  });
});

it('a size is made once, however many ask at once, and found again by another process', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'last-pictures-'));
  const pictures = new Pictures(join(folder, 'sizes'));
  const size = readSize(new URLSearchParams('w=64'));
  if (!size) throw new Error('no size');
  const all = await Promise.all(Array.from({ length: 8 }, () => pictures.sized(picture, 'h', size, true)));
  expect(new Set(all).size).toBe(1);
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(readdirSync(join(folder, 'sizes'))).toEqual(['h-64x.webp']);
  const again = await new Pictures(join(folder, 'sizes')).sized(Buffer.from('no picture'), 'h', size, true);
  expect(again.equals(all[0] as Buffer)).toBe(true);
});
