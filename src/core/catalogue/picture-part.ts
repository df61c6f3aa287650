/** Part of a picture, in per cent of its width and height: from the left, from the top, width, height. */
export type PicturePart = readonly [x: number, y: number, width: number, height: number];

const marker = '#xywh=percent:';

/** A number of per cent, with two decimals at most. */
const percent = /^(?:\d|[1-9]\d|100)(?:\.\d{1,2})?$/;

/** A part as four numbers with commas between them; null: it is none, or reaches out of the picture. */
export function readPart(text: string): PicturePart | null {
  const numbers = text.split(',');
  if (numbers.length !== 4 || !numbers.every((one) => percent.test(one))) return null;
  const [x, y, width, height] = numbers.map(Number) as [number, number, number, number];
  // Two decimals each may add up to a hair more than the whole.
  const fits = width > 0 && height > 0 && x + width <= 100.01 && y + height <= 100.01;
  return fits ? [x, y, width, height] : null;
}

/**
 * Reads the picture that an input names: its path, with the part that is shown as Media Fragments URI 1.0 (W3C, 4.2.2) writes it:
 * `lamps/deck.jpg#xywh=percent:10,0,50,100`. A part that cannot be read is none: the whole picture is shown.
 */
export function readPicture(text: string): { path: string; part: PicturePart | null } {
  const at = text.indexOf(marker);
  return at < 0
    ? { path: text, part: null }
    : { path: text.slice(0, at), part: readPart(text.slice(at + marker.length)) };
}

/** Writes a picture with the part of it that is shown; the whole of it is not written. */
export function writePicture(path: string, part: PicturePart | null): string {
  if (!part || (part[0] === 0 && part[1] === 0 && part[2] === 100 && part[3] === 100)) return path;
  return `${path}${marker}${part.map((one) => Math.round(one * 100) / 100).join(',')}`;
}
