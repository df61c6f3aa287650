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

/** Asks what reads come to in a state as it is, each once until the goods change. */
function asking(shop: Shop, state: StateRow, catalogue: StoredCatalogue) {
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
  return {
    theme(read: string): string {
      let hash = themes.get(read);
      if (hash === undefined) themes.set(read, (hash = hashOf(themeComesTo(theme, read))));
      return hash;
    },
    goods(read: string): string | null {
      const before = known.get(read);
      if (before !== undefined) return before;
      const text = goodsComeTo(sourceIn, read);
      if (text === null) return null;
      const hash = hashOf(text);
      known.set(read, hash);
      return hash;
    },
  };
}

/** What a page was made from, with what each came to, as one text; null: it cannot be said, the page may have read everything. */
export function madeFrom(shop: Shop, state: StateRow, { theme, goods }: PageReads): string | null {
  const ask = asking(shop, state, shop.catalogue());
  const parts: string[] = [];
  for (const read of theme) parts.push(`t${read}${is}${ask.theme(read)}`);
  for (const read of goods) {
    const hash = ask.goods(read);
    if (hash === null) return null;
    parts.push(`g${read}${is}${hash}`);
  }
  return parts.join(next);
}

/** Whether all that a page was made from comes to the same in a state as it is now: the page does as well, byte for byte. */
export function stillHolds(shop: Shop, state: StateRow, from: string): boolean {
  const ask = asking(shop, state, shop.catalogue());
  return from.split(next).every((part) => {
    const at = part.lastIndexOf(is);
    const read = part.slice(1, at);
    const now = part.startsWith('t') ? ask.theme(read) : ask.goods(read);
    return now === part.slice(at + 1);
  });
}
