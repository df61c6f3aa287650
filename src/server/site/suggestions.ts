import { readLocale } from '@/core/address';
import type { Shop } from '@/server/shop';
import { asCustomersSee, type StateRow, wordBeginnings } from '@/store';

/** Suggestions are kept for words of so many letters: for fewer scripts ask nothing, and with more letters there would be more files than it is worth. */
const letters = [2, 3];

/** Addresses of a piece with the beginnings of words by which something is found, in its language; none for a piece that takes no text from an address. */
export function wordsOf(shop: Shop, state: StateRow, piece: string): string[] {
  const catalogue = shop.catalogue();
  const { locale, path } = readLocale(piece, catalogue.shop().locales);
  const template = shop.theme(state, catalogue).theme.template(decodeURI(path.replace(/^\/fragment\//, '')));
  const input = template?.takes.find(({ served, type }) => served && type === 'text');
  if (!input) return [];
  const source = asCustomersSee(catalogue).in(locale);
  return letters
    .flatMap((count) => wordBeginnings(shop.sql, count))
    .filter((word) => source.search(word, 1).length > 0)
    .map((word) => `${piece}?${input.name}=${encodeURIComponent(word)}`);
}

/** Whether what was made so searched the shop's goods. */
export const isSearch = (from: string | null): boolean => from !== null && from.includes('\tsearch\t');
