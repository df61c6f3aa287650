import sharp from 'sharp';
import { inThread, shopJobs, type Shop } from '@/server/shop';
import { BrokenDrawing, cleanSvg } from './clean-svg';
import { kindOf, pictureTypes, type PictureKind } from './kind';

/** Most bytes of a picture, a drawing and a film. */
export const maxBytes = { picture: 20_000_000, svg: 2_000_000, mp4: 100_000_000 };
/** Most pixels of a picture: one of more takes a gigabyte to open. */
const maxPixels = 64_000_000;
const timeoutSeconds = 10;

/** A picture as it is kept. Width and height as it is shown, in pixels; null: not known. */
export interface ReadPicture {
  type: string;
  bytes: Buffer;
  width: number | null;
  height: number | null;
}

/** A file that is not taken: `why` completes “x.png is left out: …”. */
export interface LeftOut {
  why: string;
}

export const isLeftOut = (read: ReadPicture | LeftOut): read is LeftOut => 'why' in read;

/** What threads do for pictures: a large drawing takes seconds to read. */
export const pictureJobs = shopJobs('pictures', {
  cleanSvg: async (_: Shop, text: string) => {
    try {
      return await cleanSvg(text);
    } catch (error) {
      if (error instanceof BrokenDrawing) return { why: error.message };
      throw error;
    }
  },
});

const megabytes = (bytes: number): string => `${(bytes / 1e6).toLocaleString('en', { maximumFractionDigits: 1 })} MB`;

/** Reads a file whole: what it is, and how large it is shown; a drawing is cleaned. What is broken, too large or no picture is left out. */
export async function readPicture(shop: Shop, path: string, bytes: Buffer): Promise<ReadPicture | LeftOut> {
  const kind = kindOf(path, bytes);
  if (typeof kind !== 'string') return kind;
  const most = kind === 'svg' || kind === 'mp4' ? maxBytes[kind] : maxBytes.picture;
  if (bytes.length > most) return { why: `it has ${megabytes(bytes.length)}; at most ${megabytes(most)} are taken` };
  const type = pictureTypes[kind];
  if (kind === 'mp4') return { type, bytes, width: null, height: null };
  if (kind !== 'svg') return readRaster(kind, bytes);
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return { why: 'its text is not UTF-8' };
  }
  const clean = await inThread(shop, 'preview', pictureJobs.cleanSvg, text);
  if ('why' in clean) return clean;
  return { type, bytes: Buffer.from(clean.text), width: clean.width, height: clean.height };
}

/** Opens a picture and reads all of it, so that one that is cut short is seen now and not by a customer. */
async function readRaster(kind: PictureKind, bytes: Buffer): Promise<ReadPicture | LeftOut> {
  const type = pictureTypes[kind];
  try {
    const { width, height, autoOrient } = await sharp(bytes, { limitInputPixels: false }).metadata();
    if (width * height > maxPixels)
      return {
        why: `it has ${width.toLocaleString('en')} × ${height.toLocaleString('en')} pixels; at most 64 million are opened: make it smaller`,
      };
    await sharp(bytes, { limitInputPixels: maxPixels, failOn: 'truncated' })
      .resize(32, 32, { fit: 'fill' })
      .timeout({ seconds: timeoutSeconds })
      .toBuffer();
    return { type, bytes, width: autoOrient.width, height: autoOrient.height };
  } catch (error) {
    const [reason = ''] = (error as Error).message.split('\n');
    return { why: `it is broken or cut short (${reason})` };
  }
}
