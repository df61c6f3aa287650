import type { ServedFiles } from './files';

export interface Font {
  /** What style sheets call it: `Sail Sans`. */
  family: string;
  path: string;
  hash: string;
  format: string;
}

const formats: Record<string, string> = { woff2: 'woff2', woff: 'woff', ttf: 'truetype', otf: 'opentype' };

/** What a font file is called: its name without what stands for weights and ends. */
export const familyOf = (path: string): string =>
  path
    .slice(path.lastIndexOf('/') + 1)
    .replace(/\.[^.]+$/, '')
    .replace(/[._-]+/g, ' ')
    .replace(/[^A-Za-z0-9 ]/g, '')
    // A family's name may not begin with a digit where it stands without quotes.
    .replace(/^(?=\d)/, 'F')
    .trim();

/** The fonts of a theme: the files below `assets/fonts/`. */
export function fontsOf(theme: ServedFiles): Font[] {
  return theme.paths().flatMap((path) => {
    const [, end = ''] = /^assets\/fonts\/.+\.(woff2|woff|ttf|otf)$/i.exec(path) ?? [];
    const file = theme.file(path);
    const format = formats[end.toLowerCase()];
    return file && format ? [{ family: familyOf(path), path, hash: file.hash, format }] : [];
  });
}

/** A style sheet that makes the fonts of a theme known by their families; it stands at `assets/fonts.css`. */
export function fontSheet(theme: ServedFiles): string {
  return fontsOf(theme)
    .map(
      ({ family, path, hash, format }) =>
        `@font-face { font-family: "${family}"; src: url("${path.slice('assets/'.length).split('/').map(encodeURIComponent).join('/')}?v=${hash.slice(0, 12)}") format("${format}"); font-display: swap; }\n`,
    )
    .join('');
}
