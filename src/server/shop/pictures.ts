import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import { LRUCache } from 'lru-cache';
import writeFileAtomic from 'write-file-atomic';
import sharp, { type Region, type Sharp } from 'sharp';
import type { PicturePart } from '@/core/catalogue';
import type { PictureSize } from './picture-size';

/** Bytes of sized pictures that are kept: those that were used last. */
const quotaBytes = 500_000_000;
/** Larger pictures than this many pixels are not opened: four at once would take a gigabyte. */
const maxPixels = 64_000_000;
const timeoutSeconds = 10;
/** The time of a file says when it was last used, to about this, in milliseconds. */
const touchMs = 3_600_000;

/**
 * Pictures in the sizes that pages ask for, made once for each content, size and format and kept in a folder by the hash of
 * the content: a picture that changes has another hash, so that nothing kept is ever stale. Beyond the quota those go that
 * were not asked for the longest.
 */
export class Pictures {
  readonly #rendering = new Map<string, Promise<Buffer>>();
  readonly #folder: string | null;
  readonly #quota: number;
  /** Bytes of each file that is kept, with when it was last marked as used, in milliseconds; read when first asked. */
  #files: LRUCache<string, { bytes: number; used: number }> | null = null;

  /** Without a folder nothing is kept. `quota` in bytes. */
  constructor(folder: string | null, quota = quotaBytes) {
    this.#folder = folder;
    this.#quota = quota;
  }

  /**
   * A raster picture in a size, never larger than it is; as WebP when `webp`, else in its own format. Rejects where the
   * bytes are not picture, or one that is too large to be opened.
   */
  async sized(bytes: Buffer, hash: string, size: PictureSize, webp: boolean): Promise<Buffer> {
    const { width, height, crop, part } = size;
    const cut = part ? `-${part.join('_')}` : '';
    const name = `${hash}${cut}-${width ?? ''}x${height ?? ''}${crop ? `-${crop}` : ''}${webp ? '.webp' : ''}`;
    const stored = this.#read(name);
    if (stored) return stored;
    let rendering = this.#rendering.get(name);
    if (!rendering) {
      rendering = render(bytes, size, webp).finally(() => this.#rendering.delete(name));
      this.#rendering.set(name, rendering);
      void rendering.then((result) => this.#keep(name, result)).catch(() => {});
    }
    return rendering;
  }

  #read(name: string): Buffer | null {
    const folder = this.#folder;
    const file = folder && this.#index(folder).get(name);
    if (!file) return null;
    try {
      const path = join(folder, name);
      const bytes = readFileSync(path);
      const now = Date.now();
      if (Math.abs(now - file.used) > touchMs) {
        file.used = now;
        utimesSync(path, now / 1000, now / 1000);
      }
      return bytes;
    } catch {
      // Someone emptied the folder, or may only read it: what is not there is rendered again.
      if (!existsSync(join(folder, name))) this.#index(folder).delete(name);
      return null;
    }
  }

  #keep(name: string, bytes: Buffer): void {
    const folder = this.#folder;
    if (!folder || bytes.length > this.#quota) return;
    const files = this.#index(folder);
    mkdirSync(folder, { recursive: true });
    // Whole or not at all: a server that is killed meanwhile leaves no half picture.
    writeFileAtomic.sync(join(folder, name), bytes, { fsync: false });
    files.set(name, { bytes: bytes.length, used: Date.now() });
  }

  #index(folder: string): LRUCache<string, { bytes: number; used: number }> {
    if (this.#files) return this.#files;
    const files = new LRUCache<string, { bytes: number; used: number }>({
      maxSize: this.#quota,
      sizeCalculation: ({ bytes }) => Math.max(bytes, 1),
      dispose: (_, name, why) => {
        if (why === 'evict') rmSync(join(folder, name), { force: true });
      },
    });
    this.#files = files;
    for (const { name, bytes, used } of filesOf(folder)) files.set(name, { bytes, used });
    return files;
  }
}

/** Files of a folder with their sizes, those that were used last at the end; parts that a killed server left are removed. */
function filesOf(folder: string): { name: string; bytes: number; used: number }[] {
  if (!existsSync(folder)) return [];
  const found = readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (name.endsWith('.part')) {
      rmSync(path, { force: true });
      return [];
    }
    const stat = statSync(path, { throwIfNoEntry: false });
    return stat?.isFile() ? [{ name, bytes: stat.size, used: stat.mtimeMs }] : [];
  });
  return found.sort((a, b) => a.used - b.used);
}

async function render(bytes: Buffer, size: PictureSize, webp: boolean): Promise<Buffer> {
  const { width, height, crop, part } = size;
  const opened = sharp(bytes, { limitInputPixels: maxPixels });
  const image = (part ? opened.rotate().extract(await pixelsOf(opened, part)) : opened.rotate())
    .resize({
      ...(width === null ? {} : { width }),
      ...(height === null ? {} : { height }),
      fit: crop ? 'cover' : 'inside',
      ...(crop ? { position: crop } : {}),
      withoutEnlargement: true,
    })
    .timeout({ seconds: timeoutSeconds });
  return (webp ? image.webp({ quality: 82 }) : image).toBuffer();
}

/** A part of a picture in its pixels, as it is turned; one pixel at least. */
async function pixelsOf(image: Sharp, [x, y, width, height]: PicturePart): Promise<Region> {
  const { autoOrient } = await image.metadata();
  const side = (all: number, from: number, share: number): [number, number] => {
    const begins = Math.min(all - 1, Math.round((all * from) / 100));
    return [begins, Math.max(1, Math.min(all - begins, Math.round((all * share) / 100)))];
  };
  const [left, across] = side(autoOrient.width, x, width);
  const [top, down] = side(autoOrient.height, y, height);
  return { left, top, width: across, height: down };
}

/** What stands where a picture should be and is not: drawn, so that it takes its place and says so. */
export const standIn = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 480 480" width="480" height="480"><rect width="480" height="480" fill="#ece7dc"/><path d="M90 350l90-120 66 78 54-60 90 102z" fill="#d3cab8"/><circle cx="330" cy="160" r="34" fill="#d3cab8"/><path d="M70 70l340 340" stroke="#b9ae98" stroke-width="10" stroke-linecap="round"/></svg>`;
