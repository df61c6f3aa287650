import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import { comesTo as goodsComeTo } from '@/core/catalogue';
import { comesTo as themeComesTo, type Theme } from '@/core/theme';
import type { Shop } from '@/server/shop';
import type { StateRow, StoredCatalogue } from '@/store';
import { seenBy } from './page';

/** What a page read of its theme and of the goods, each by its name. */
export interface PageReads {
  theme: Set<string>;
  goods: Set<string>;
}

/** Between what was read, and between a read and what it came to. */
const [next, is] = ['\0', '\x01'];

const hashOf = (text: string): string => createHash('sha256').update(text).digest('base64url').slice(0, 22);

const ofThemes = new WeakMap<Theme, Map<string, string>>();
/** Reads whose outcome is remembered: those of some hundreds of pages, and all that many have in common. */
const maxKnown = 20_000;
const ofGoods = new WeakMap<Shop, { stamp: string; known: LRUCache<string, string> }>();

/** Asks what reads of the theme (`t…`) and of the goods (`g…`) come to in a state as it is, each once until the goods change; null: that cannot be said. */
export function asking(shop: Shop, state: StateRow, catalogue: StoredCatalogue): (read: string) => string | null {
  const { theme } = shop.theme(state, catalogue);
  let themes = ofThemes.get(theme);
  if (!themes) ofThemes.set(theme, (themes = new Map()));
  const stamp = `${catalogue.revision} ${state.kind}`;
  let goods = ofGoods.get(shop);
  if (!goods) ofGoods.set(shop, (goods = { stamp, known: new LRUCache({ max: maxKnown }) }));
  if (goods.stamp !== stamp) {
    // Emptied, since making a new one takes as long as all that is asked of it.
    goods.stamp = stamp;
    goods.known.clear();
  }
  const { known } = goods;
  const seen = seenBy(state, catalogue);
  const sources = new Map<string, StoredCatalogue>();
  const sourceIn = (language: string) => {
    let source = sources.get(language);
    if (!source) sources.set(language, (source = seen.in(language || null)));
    return source;
  };
  return (read) => {
    const what = read.slice(1);
    if (read.startsWith('t')) {
      let hash = themes.get(what);
      if (hash === undefined) themes.set(what, (hash = hashOf(themeComesTo(theme, what))));
      return hash;
    }
    const before = known.get(what);
    if (before !== undefined) return before;
    const text = goodsComeTo(sourceIn, what);
    if (text === null) return null;
    const hash = hashOf(text);
    known.set(what, hash);
    return hash;
  };
}

/** What a page was made from, with what each came to, as one text; null: it cannot be said, the page may have read everything. */
export function madeFrom(shop: Shop, state: StateRow, { theme, goods }: PageReads): string | null {
  const ask = asking(shop, state, shop.catalogue());
  const parts: string[] = [];
  for (const [kind, reads] of [
    ['t', theme],
    ['g', goods],
  ] as const)
    for (const one of reads) {
      const read = kind + one;
      const came = ask(read);
      if (came === null) return null;
      parts.push(read + is + came);
    }
  return parts.join(next);
}

/** The parts of such a text: what was read, with its kind before it, and what that came to. */
export function* partsOf(from: string): Generator<{ read: string; came: string }> {
  for (const part of from.split(next)) {
    const at = part.lastIndexOf(is);
    yield { read: part.slice(0, at), came: part.slice(at + 1) };
  }
}

/** Whether all that a page was made from comes to the same in a state as it is now: the page does as well, byte for byte. */
export function stillHolds(shop: Shop, state: StateRow, from: string): boolean {
  const ask = asking(shop, state, shop.catalogue());
  for (const { read, came } of partsOf(from)) if (ask(read) !== came) return false;
  return true;
}
