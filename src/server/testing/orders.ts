import type { Shop } from '@/server/shop';
import { Carts } from '@/store';

/** For tests: an order as a customer's form would have made it, at a moment, with lines of name, article number, quantity and price. */
export function makeOrder(
  shop: Shop,
  email: string,
  madeAt: string,
  lines: readonly [name: string, sku: string, quantity: number, price: number][],
  state = 'release 1',
): number {
  const carts = new Carts(shop.carts);
  return carts.transaction(() =>
    carts.order(`token of ${email} ${madeAt}`, {
      ...{ madeAt, state, locale: 'en', currency: 'GBP', email },
      lines: lines.map(([name, sku, quantity, price]) => ({
        ...{ product: sku.toLowerCase(), sku, name, variant: '', quantity, price, total: quantity * price },
        answers: [{ label: 'Text on it', value: '=1+1' }],
      })),
      total: lines.reduce((sum, [, , quantity, price]) => sum + quantity * price, 0),
    }),
  );
}
