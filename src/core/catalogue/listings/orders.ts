import type { ListingSort } from '../rows';
import type { Lines } from './lines';

/** Names of products in one language. */
export interface Names {
  locale: string;
  all(): Iterable<[productId: number, name: string]>;
}

/** Names by the places of their products. */
export function namesByPlace({ columns }: Lines, names: Names): (string | undefined)[] {
  const named = new Array<string | undefined>(columns.productIds.length).fill(undefined);
  for (const [id, name] of names.all()) {
    const place = columns.placeOf(id);
    if (place !== undefined) named[place] = name;
  }
  return named;
}

/** The lines in an order; those that it does not tell apart stay as chosen by hand. A line without a price comes last. */
export function sorted(
  lines: Lines,
  sort: ListingSort,
  locale: string,
  names: readonly (string | undefined)[],
): Int32Array {
  const { columns, product, price } = lines;
  const { added, productIds } = columns;
  const order = Int32Array.from(product, (_, at) => at);
  const place = (line: number) => product[line] as number;
  const end = (a: number, b: number) => Number(Number.isNaN(price[a])) - Number(Number.isNaN(price[b]));
  switch (sort) {
    case 'price':
      return order.sort((a, b) => end(a, b) || (price[a] as number) - (price[b] as number) || a - b);
    case 'price-down':
      return order.sort((a, b) => end(a, b) || (price[b] as number) - (price[a] as number) || a - b);
    case 'newest':
      return order.sort(
        (a, b) =>
          byCode(added[place(b)] as string, added[place(a)] as string) ||
          (productIds[place(b)] as number) - (productIds[place(a)] as number) ||
          a - b,
      );
    case 'name': {
      const { compare } = new Intl.Collator(locale, { numeric: true });
      const places = [...names.keys()].filter((at) => names[at] !== undefined);
      places.sort(
        (a, b) =>
          compare(names[a] as string, names[b] as string) || (productIds[a] as number) - (productIds[b] as number),
      );
      const rank = new Int32Array(productIds.length).fill(places.length);
      places.forEach((of, at) => (rank[of] = at));
      return order.sort((a, b) => (rank[place(a)] as number) - (rank[place(b)] as number) || a - b);
    }
    default:
      return order;
  }
}

/** Lines of products in the order of their ids. */
export function linesOfProducts({ columns, first }: Lines, ids: readonly number[]): Int32Array {
  const order: number[] = [];
  for (const id of ids) {
    const place = columns.placeOf(id);
    if (place === undefined) continue;
    for (let at = first[place] as number; at < (first[place + 1] as number); at++) order.push(at);
  }
  return Int32Array.from(order);
}

const byCode = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
