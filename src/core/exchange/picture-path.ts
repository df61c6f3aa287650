/** Longest path of a picture, in characters. */
const maxLength = 200;

/**
 * The path by which goods name a picture, from how a file or a cell has it: `/` between folders, letters composed as Unicode does (NFC).
 * null for one that leads out of its folder, is on another site, or is too long.
 */
export function picturePath(given: string): string | null {
  const parts = given
    .normalize('NFC')
    .replaceAll('\\', '/')
    .split('/')
    .map((part) => part.trim())
    .filter((part) => part && part !== '.');
  const path = parts.join('/');
  const wrong = parts.includes('..') || /[\x00-\x1f\x7f]|^[a-z]+:/i.test(path) || path.length > maxLength;
  return path && !wrong ? path : null;
}

/** Paths of the shop's own pictures that rich text shows or links to, each time it does. */
export function picturesIn(markup: string): string[] {
  return [...markup.matchAll(/\/media\/([^"'?#\s<>]+)/g)].map(([, path = '']) => {
    try {
      return decodeURIComponent(path);
    } catch {
      return path;
    }
  });
}

/** Files that systems leave in folders. */
const system = /(?:^|\/)(?:\.|__MACOSX(?:\/|$))/;
const endings = /\.(?:png|jpe?g|gif|webp|avif|svgz?|mp4|m4v|heic|heif|tiff?|bmp|webm|mov|psd|ico)$/i;

/** Whether a file of a folder or ZIP is looked at at all, by its path: others are passed over. */
export const mayBePicture = (path: string): boolean => !system.test(path) && endings.test(path);

/** The folder that all paths lie in, with its `/`; '' where there is none. */
export function folderAround(paths: readonly string[]): string {
  const [first = ''] = paths;
  const around = first.slice(0, first.indexOf('/') + 1);
  return around && paths.every((path) => path.startsWith(around)) ? around : '';
}
