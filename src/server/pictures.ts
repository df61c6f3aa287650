import { mkdirSync, existsSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';

/** A size of a picture, as its address asks for it. Width and height in pixels; null: as the other gives. */
export interface PictureSize {
  width: number | null;
  height: number | null;
  /** Where the part stands that is kept when the shape differs; null: nothing is cut off. */
  crop: Crop | null;
}

const crops = ['centre', 'top', 'right', 'bottom', 'left'] as const;
type Crop = (typeof crops)[number];

const most = 4000;
/** Kept sizes are bounded: whoever asks for every size there is fills no disk. */
const mostKept = 20_000;

/** The size that a query asks for (`w=320&h=200&crop=top`); null for none, or one that is no size. */
export function readSize(query: URLSearchParams): PictureSize | null {
  const number = (name: string) => {
    const text = query.get(name);
    const read = text === null ? null : Number(text);
    return read !== null && Number.isInteger(read) && read >= 1 && read <= most ? read : null;
  };
  const [width, height] = [number('w'), number('h')];
  if (width === null && height === null) return null;
  const text = query.get('crop');
  const crop = text === null ? null : (crops.find((one) => one === text) ?? 'centre');
  return { width, height, crop: width !== null && height !== null ? crop : null };
}

/**
 * Pictures in the sizes that pages ask for, made once for each content, size and format and kept in a folder by the hash of
 * the content: a picture that changes has another hash, so that nothing kept is ever stale.
 */
export class Pictures {
  readonly #making = new Map<string, Promise<Buffer>>();
  readonly #folder: string | null;
  #kept = -1;

  /** Without a folder nothing is kept. */
  constructor(folder: string | null) {
    this.#folder = folder;
  }

  /** A raster picture in a size, never larger than it is; as WebP when `webp`, else in its own format. */
  sized(bytes: Buffer, hash: string, size: PictureSize, webp: boolean): Promise<Buffer> {
    const { width, height, crop } = size;
    const name = `${hash}-${width ?? ''}x${height ?? ''}${crop ? `-${crop}` : ''}${webp ? '.webp' : ''}`;
    const file = this.#folder && join(this.#folder, name);
    if (file && existsSync(file)) return Promise.resolve(readFileSync(file));
    let made = this.#making.get(name);
    if (!made) {
      made = make(bytes, size, webp).finally(() => this.#making.delete(name));
      this.#making.set(name, made);
      if (file) void made.then((result) => this.#keep(file, result)).catch(() => {});
    }
    return made;
  }

  #keep(file: string, bytes: Buffer): void {
    const folder = this.#folder as string;
    mkdirSync(folder, { recursive: true });
    if (this.#kept < 0) this.#kept = readdirSync(folder).length;
    if (this.#kept >= mostKept) return;
    // Whole or not at all: a server that is killed meanwhile leaves no half picture.
    const part = `${file}.${process.pid}.part`;
    writeFileSync(part, bytes);
    renameSync(part, file);
    this.#kept++;
  }
}

async function make(bytes: Buffer, { width, height, crop }: PictureSize, webp: boolean): Promise<Buffer> {
  const image = sharp(bytes, { limitInputPixels: 100_000_000 })
    .rotate()
    .resize({
      ...(width === null ? {} : { width }),
      ...(height === null ? {} : { height }),
      fit: crop ? 'cover' : 'inside',
      ...(crop ? { position: crop } : {}),
      withoutEnlargement: true,
    });
  return (webp ? image.webp({ quality: 82 }) : image).toBuffer();
}

/** What stands where a picture should be and is not: drawn, so that it takes its place and says so. */
export const standIn = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 480 480" width="480" height="480"><rect width="480" height="480" fill="#ece7dc"/><path d="M90 350l90-120 66 78 54-60 90 102z" fill="#d3cab8"/><circle cx="330" cy="160" r="34" fill="#d3cab8"/><path d="M70 70l340 340" stroke="#b9ae98" stroke-width="10" stroke-linecap="round"/></svg>`;
