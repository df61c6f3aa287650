import { LRUCache } from 'lru-cache';
import type { Config } from 'svgo';
import { iconsOf, type Theme } from '@/core/theme';
import { refuse } from '@/server/http';

/** An icon is drawn in the text's colour, holds nothing that runs, and names nothing that another icon could name. */
const cleaning = (name: string): Config => ({
  multipass: true,
  plugins: [
    'preset-default',
    'removeScripts',
    'removeXMLNS',
    { name: 'removeAttrs', params: { attrs: ['on.*', 'width', 'height', 'class'], preserveCurrentColor: true } },
    { name: 'convertColors', params: { currentColor: true } },
    { name: 'prefixIds', params: { prefix: name, delim: '-' } },
  ],
});

const nameOf = (path: string): string => path.slice(path.lastIndexOf('/') + 1).replace(/\.svg$/i, '');

/** An icon's SVG without what a drawing program left in it; refused when it cannot be read. */
export async function cleanIcon(path: string, text: string): Promise<string> {
  const { optimize } = await svgo();
  try {
    const { data } = optimize(text, {
      ...cleaning(nameOf(path)),
      plugins: [...(cleaning(nameOf(path)).plugins ?? []).filter((one) => one !== 'removeXMLNS'), 'sortAttrs'],
    });
    if (!/^<svg\b/.test(data)) throw new Error('its root is no <svg>');
    return `${data}\n`;
  } catch (error) {
    return refuse(422, 'icon', `“${path}” cannot be read as SVG: ${(error as Error).message.split('\n')[0]}`);
  }
}

/** Loaded when an icon is there to clean: it takes a third of a second. */
const svgo = () => import('svgo');
type Optimize = Awaited<ReturnType<typeof svgo>>['optimize'];

const symbols = new LRUCache<string, string>({ max: 2000 });

/** One icon as a symbol of the sprite; '' for one that cannot be read. */
function symbolOf(optimize: Optimize, name: string, hash: string, text: string): string {
  const key = `${name} ${hash}`;
  let symbol = symbols.get(key);
  if (symbol === undefined) {
    symbol = '';
    try {
      const { data } = optimize(text, cleaning(name));
      const [, attributes = '', inner = ''] = /^<svg\b([^>]*)>([\s\S]*)<\/svg>\s*$/.exec(data) ?? [];
      if (inner) symbol = `<symbol id="${name}"${attributes}>${inner}</symbol>`;
    } catch {
      // An icon that is not SVG draws nothing; checking the theme says so where it is used.
    }
    symbols.set(key, symbol);
  }
  return symbol;
}

/** All icons of a theme as one file, from which pages draw them by name. */
export async function spriteOf(theme: Theme): Promise<string> {
  const { optimize } = await svgo();
  const all = iconsOf(theme).map(({ name, hash, text }) => symbolOf(optimize, name, hash, text));
  return `<svg xmlns="http://www.w3.org/2000/svg">${all.join('')}</svg>\n`;
}
