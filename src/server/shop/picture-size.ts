import { type PicturePart, readPart } from '@/core/catalogue';

/** A size of a picture, as its address asks for it. Width and height in pixels; null: as the other gives. */
export interface PictureSize {
  width: number | null;
  height: number | null;
  /** Where the part stands that is kept when the shape differs; null: nothing is cut off. */
  crop: Crop | null;
  /** The part of the picture that is shown; null: all of it. */
  part: PicturePart | null;
}

const crops = ['centre', 'top', 'right', 'bottom', 'left'] as const;
type Crop = (typeof crops)[number];

const maxSide = 4000;

/** The size that a query asks for (`w=320&h=200&crop=top&part=25,0,50,100`); null for none, or one that is not a size. */
export function readSize(query: URLSearchParams): PictureSize | null {
  const number = (name: string) => {
    const text = query.get(name);
    const read = text === null ? null : Number(text);
    return read !== null && Number.isInteger(read) && read >= 1 && read <= maxSide ? read : null;
  };
  const [width, height] = [number('w'), number('h')];
  if (width === null && height === null) return null;
  const text = query.get('crop');
  const crop = text === null ? null : (crops.find((one) => one === text) ?? 'centre');
  const part = readPart(query.get('part') ?? '');
  return { width, height, crop: width !== null && height !== null ? crop : null, part };
}
