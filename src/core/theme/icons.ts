import type { ServedFiles } from './files';

export interface Icon {
  name: string;
  hash: string;
  text: string;
}

/** The icons of a theme: the SVG files directly below `assets/icons/`, by name. */
export function iconsOf(theme: ServedFiles): Icon[] {
  return theme.paths().flatMap((path) => {
    const name = /^assets\/icons\/([a-z0-9-]+)\.svg$/.exec(path)?.[1];
    const file = name === undefined ? null : theme.file(path);
    return file?.text ? [{ name: name as string, hash: file.hash, text: file.text }] : [];
  });
}

/** Names a text, and so what it is made from: FNV-1a, 32 bits, in base 36. */
export function versionOfText(text: string): string {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return (hash >>> 0).toString(36);
}

/** Names what a theme's icons are together: it changes with any of them. */
export const spriteVersion = (theme: ServedFiles): string =>
  versionOfText(
    iconsOf(theme)
      .map(({ name, hash }) => `${name} ${hash}\n`)
      .join(''),
  );
