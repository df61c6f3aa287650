import { bareRecord, Money, record, RecordValue, type Value } from '../language';
import type { ProductObject, VariantObject, World } from './objects';

/** A line of a cart as it is kept: what was chosen, how many, and what the customer answered. */
export interface CartRow {
  id: number;
  /** Slug of the product, and the article number of the variant. */
  product: string;
  sku: string;
  quantity: number;
  answers: { label: string; value: string }[];
}

/** A cart as templates see it: prices and stock are the catalogue's of now, a line of what is gone is left out. */
export function makeCart(world: World, rows: readonly CartRow[]): RecordValue {
  const lines = rows.flatMap((row) => {
    const found = world.source.productBySlug(row.product);
    const [product] = found ? world.products([found], row.sku) : [];
    const variant = product?.variants.find((one) => one.sku === row.sku);
    return product && variant ? [new CartLineObject(row, product, variant)] : [];
  });
  return record({
    lines,
    count: lines.reduce((sum, line) => sum + (line.quantity as number), 0),
    total: new Money(
      lines.reduce((sum, line) => sum + (line.total as Money).amount, 0),
      world.currency,
    ),
    url: world.address('/cart'),
  } satisfies Record<string, Value>);
}

class CartLineObject extends RecordValue {
  constructor(row: CartRow, product: ProductObject, variant: VariantObject) {
    super();
    Object.defineProperty(this, RecordValue.key, { value: `cart-line:${row.id}` });
    const price = variant.price as Money;
    this.product = product;
    this.variant = variant;
    this.quantity = row.quantity;
    this.price = price;
    // Whole minor units times a whole number: nothing is rounded.
    this.total = new Money(price.amount * row.quantity, price.currency);
    this.answers = row.answers.map(({ label, value }) => record({ label, value }));
  }
}
bareRecord(CartLineObject);
