import type { ListingSort } from '../rows';
import type { Lines } from './lines';

/** Names of products in one language. */
export interface Names {
  locale: string;
  all(): Iterable<[productId: number, name: string]>;
}

/** The lines in an order; those that it does not tell apart stay as chosen by hand. A line without a price comes last. */
export function sorted(lines: Lines, sort: ListingSort, names: Names): Int32Array {
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
      const { compare } = new Intl.Collator(names.locale, { numeric: true });
      const named = [...names.all()].sort((a, b) => compare(a[1], b[1]));
      const rank = new Int32Array(productIds.length).fill(named.length);
      named.forEach(([id], at) => {
        const of = columns.placeOf(id);
        if (of !== undefined) rank[of] = at;
      });
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
