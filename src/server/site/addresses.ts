import { posix } from 'node:path';

/** What a page or a style sheet leads to that has to be there too: files, pieces that its scripts ask for, and further pages of a list. Addresses of this site: path and query. */
export interface Found {
  files: string[];
  pages: string[];
}

const decoded = (text: string): string => text.replaceAll('&amp;', '&').replaceAll('&#38;', '&');

/** Files of the theme, pictures, films and served pieces that a text of a page names, wherever in it; the pages of its list, and itself with another variant chosen. */
export function foundIn(html: string, origin: string): Found {
  const files = new Set<string>();
  const pages = new Set<string>();
  for (const [, address = ''] of html.matchAll(
    /(?<![\w./-])(?:https?:\/\/[\w.:[\]-]+)?(\/(?:assets|media|player)\/[^"'()\s<>\\,]+)/g,
  ))
    files.add(decoded(address).replace(/#.*$/, ''));
  for (const [, address = ''] of html.matchAll(/="((?:\/[\w-]+)?\/fragment\/[^"?#\s]+)"/g)) files.add(decoded(address));
  for (const [, address = ''] of html.matchAll(/\shref="([^"]*\?(?:page|variant)=[^"]*)"/g)) {
    const url = URL.canParse(decoded(address), origin) ? new URL(decoded(address), origin) : null;
    // One thing asked: with each order and each filter a list would be another.
    if (url?.origin === origin && /^\?(?:page=\d+|variant=[\w%.~-]+)$/.test(url.search))
      pages.add(url.pathname + url.search);
  }
  return { files: [...files], pages: [...pages] };
}

/** Files that a style sheet names, from where it stands itself. */
export function foundInSheet(css: string, address: string): string[] {
  const files = new Set<string>();
  for (const [, text = ''] of css.matchAll(/url\(\s*["']?([^"')]+)["']?\s*\)/g)) {
    const url = URL.canParse(text, `http://site.invalid${address}`)
      ? new URL(text, `http://site.invalid${address}`)
      : null;
    if (url?.host === 'site.invalid' && /^\/(?:assets|media)\//.test(url.pathname))
      files.add(url.pathname + url.search);
  }
  return [...files];
}

/** Longest name that file systems take, in bytes. */
const maxName = 240;

/**
 * The file of an address below the folder of a site: `/category/rope?page=2` is `category/rope,page=2.html`, `/media/lamp.jpg?v=1` is `media/lamp,v=1.jpg`.
 * Web servers know files by their endings: a query stands before it. Null: no file may be called so.
 */
export function fileOf(address: string, isPage: boolean): string | null {
  const at = address.indexOf('?');
  const [path, query] = at < 0 ? [address, ''] : [address.slice(0, at), address.slice(at + 1)];
  let name: string;
  try {
    name = decodeURIComponent(path);
  } catch {
    return null;
  }
  const asked = query && `,${query}`;
  if (isPage) name = `${name.endsWith('/') ? `${name}index` : name}${asked}.html`;
  else {
    const { dir, name: stem, ext } = posix.parse(name);
    name = `${dir}/${stem}${asked}${ext}`;
  }
  const parts = name.slice(1).split('/');
  const isSound = parts.every((part) => part && !/^\.|[\0\\]/.test(part) && Buffer.byteLength(part) <= maxName);
  return isSound ? parts.join('/') : null;
}
