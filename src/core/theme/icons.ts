import type { Theme } from './theme';

export interface Icon {
  name: string;
  hash: string;
  text: string;
}

/** The icons of a theme: the SVG files directly below `assets/icons/`, by name. */
export function iconsOf(theme: Theme): Icon[] {
  return theme.paths().flatMap((path) => {
    const name = /^assets\/icons\/([a-z0-9-]+)\.svg$/.exec(path)?.[1];
    const file = name === undefined ? null : theme.file(path);
    return file?.text ? [{ name: name as string, hash: file.hash, text: file.text }] : [];
  });
}

/** Names what a theme's icons are together: it changes with any of them (FNV-1a, 32 bits, in base 36). */
export function spriteVersion(theme: Theme): string {
  let hash = 0x811c9dc5;
  for (const { name, hash: content } of iconsOf(theme))
    for (const letter of `${name} ${content}\n`) hash = Math.imul(hash ^ letter.charCodeAt(0), 0x01000193);
  return (hash >>> 0).toString(36);
}
