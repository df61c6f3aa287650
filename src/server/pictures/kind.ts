/** What a file is by its first bytes (the formats' own signatures), not by its name. */
export type PictureKind = 'png' | 'jpeg' | 'gif' | 'webp' | 'avif' | 'svg' | 'mp4';

/** What is in a file that is no picture for a browser, in words that say what to do. */
export interface NotShown {
  why: string;
}

export const pictureTypes: Record<PictureKind, string> = {
  png: 'image/png',
  jpeg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  avif: 'image/avif',
  svg: 'image/svg+xml',
  mp4: 'video/mp4',
};

/** Names by which each kind may come. */
const endings: Record<PictureKind, RegExp> = {
  png: /\.png$/i,
  jpeg: /\.jpe?g$/i,
  gif: /\.gif$/i,
  webp: /\.webp$/i,
  avif: /\.avif$/i,
  svg: /\.svg$/i,
  mp4: /\.(?:mp4|m4v)$/i,
};
const rasters: readonly PictureKind[] = ['png', 'jpeg', 'gif', 'webp', 'avif'];

const unshown: [signature: RegExp, why: string][] = [
  [/^(?:II\*\0|MM\0\*)/, 'it is a TIFF, which browsers do not show: save it as JPEG or PNG'],
  [/^BM/, 'it is a BMP, which is far larger than it need be: save it as PNG'],
  [/^8BPS/, 'it is a layered drawing, which browsers do not show: save it as PNG'],
  [/^%PDF/, 'it is a PDF: save its page as a picture'],
  [/^\x1f\x8b/, 'it is packed with gzip: unpack it first'],
  [/^PK/, 'it is a ZIP, whatever its name says: give it the ending .zip'],
  [/^\x1a\x45\xdf\xa3/, 'it is a WebM film; films are taken as MP4'],
];

/** What a file is; refused with the reason where a browser shows no such thing, or where its name says that it is something else. */
export function kindOf(path: string, bytes: Uint8Array): PictureKind | NotShown {
  if (!bytes.length) return { why: 'it is empty' };
  const head = Buffer.from(bytes.subarray(0, 4096)).toString('latin1');
  const brand = head.slice(4, 8) === 'ftyp' ? head.slice(8, 12) : null;
  let kind: PictureKind | null = null;
  if (head.startsWith('\x89PNG\r\n\x1a\n')) kind = 'png';
  else if (head.startsWith('\xff\xd8\xff')) kind = 'jpeg';
  else if (/^GIF8[79]a/.test(head)) kind = 'gif';
  else if (head.startsWith('RIFF') && head.slice(8, 12) === 'WEBP') kind = 'webp';
  else if (brand === 'avif' || brand === 'avis') kind = 'avif';
  else if (brand === 'qt  ') return { why: 'it is a QuickTime film; films are taken as MP4' };
  else if (brand && /^(?:hei[cfmsx]|hev[cmsx]|mif1|msf1)$/.test(brand))
    return { why: 'it is a HEIC photo, which few browsers show: save it as JPEG' };
  else if (brand) kind = 'mp4';
  else if (/^(?:\xef\xbb\xbf)?\s*(?:<\?xml|<!--|<!DOCTYPE\s+svg|<svg)[\s>]/i.test(head)) kind = 'svg';
  if (kind === null) {
    const known = unshown.find(([signature]) => signature.test(head));
    return { why: known?.[1] ?? 'it is no picture that a browser shows: PNG, JPEG, WebP, AVIF, GIF or SVG' };
  }
  // A JPEG that is named .png is shown all the same; a drawing or film under another name is not.
  const named = (Object.keys(endings) as PictureKind[]).find((one) => endings[one].test(path));
  const same = named === kind || (named !== undefined && rasters.includes(named) && rasters.includes(kind));
  if (!same)
    return {
      why: `what is in it is ${kind === 'svg' ? 'SVG' : kind.toUpperCase()}, and its name says something else: give it the ending .${kind === 'jpeg' ? 'jpg' : kind}`,
    };
  return kind;
}
