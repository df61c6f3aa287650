import { bareRecord, Money, record, RecordValue, type Value } from '@/core/language';
import type { ProductObject, VariantObject } from './objects';
import type { CartMessage } from './rows';
import type { World } from './world';

/** A line of a cart as it is kept: what was chosen, how many, what the customer answered, and what was seen then. */
export interface CartRow {
  id: number;
  /** Slug of the product, and the article number of the variant. */
  product: string;
  sku: string;
  /** What it was called, and what one cost in minor units, when it was put in. */
  name: string;
  price: number;
  quantity: number;
  answers: { name: string; label: string; value: string }[];
  /** What is asked of it now and was not answered, or asked no longer: told by whoever knows the templates. */
  asked?: { kind: 'asked-again' | 'no-longer-asked'; label: string }[];
}

export interface CartState {
  lines: readonly CartRow[];
  message?: CartMessage | null;
  email?: string | null;
  order?: { number: string; total: number; count: number } | null;
}

/**
 * A cart as templates see it: prices and stock are the catalogue's of now, and what is not as it was when a line was put in
 * is told. What is gone, sold out or short of stock keeps it from being ordered; another price does not.
 */
export function makeCart(world: World, { lines: rows, message, email, order }: CartState): RecordValue {
  const slugs = [...new Set(rows.map((row) => row.product))];
  const found = new Map(slugs.map((slug) => [slug, world.source.productBySlug(slug)]));
  const lines = rows.map((row) => {
    const product = found.get(row.product) ?? null;
    const [made] = product ? world.products([product], row.sku) : [];
    return new CartLineObject(world, row, made ?? null);
  });
  const changes = lines.flatMap((line) => line.changes as RecordValue[]);
  const total = lines.reduce((sum, line) => sum + ((line.total as Money | null)?.amount ?? 0), 0);
  return record({
    lines,
    count: lines.reduce((sum, line) => sum + (line.quantity as number), 0),
    total: new Money(total, world.currency),
    url: world.address('/cart'),
    seen: seenOf(lines),
    ready: lines.length > 0 && !changes.some((change) => change.blocks),
    changes,
    message: message ?? null,
    email: email ?? null,
    order: order
      ? record({ number: order.number, total: new Money(order.total, world.currency), count: order.count })
      : null,
  } satisfies Record<string, Value>);
}

/** What a customer sees of a cart, as a short text: an order is taken only for what was seen. */
function seenOf(lines: readonly CartLineObject[]): string {
  return lines
    .map(({ number, quantity, price, changes }) => {
      const blocking = (changes as RecordValue[]).filter((change) => change.blocks).length;
      return [number, quantity, (price as Money | null)?.amount ?? '-', blocking ? 'x' : ''].map(String).join('.');
    })
    .join('_');
}

class CartLineObject extends RecordValue {
  constructor(world: World, row: CartRow, product: ProductObject | null) {
    super();
    Object.defineProperty(this, RecordValue.key, { value: `cart-line:${row.id}` });
    const variant = (product?.variants.find((one) => one.sku === row.sku) ?? null) as VariantObject | null;
    const price = variant ? (variant.price as Money) : null;
    this.number = row.id;
    this.product = variant ? product : null;
    this.variant = variant;
    this.name = row.name;
    this.quantity = row.quantity;
    this.price = price;
    // Whole minor units times a whole number: nothing is rounded.
    this.total = price && new Money(price.amount * row.quantity, price.currency);
    this.answers = row.answers.map(({ label, value }) => record({ label, value }));
    this.changes = changesOf(world, row, variant);
  }
}
bareRecord(CartLineObject);

function changesOf(world: World, row: CartRow, variant: VariantObject | null): RecordValue[] {
  const change = (kind: string, blocks: boolean, before: Value = null, now: Value = null, name: string = row.name) =>
    record({ kind, name, before, now, blocks });
  if (!variant) return [change('gone', true)];
  const changes: RecordValue[] = [];
  const price = variant.price as Money;
  if (price.amount !== row.price)
    changes.push(
      change(price.amount > row.price ? 'dearer' : 'cheaper', false, new Money(row.price, world.currency), price),
    );
  const stock = variant.stock as number;
  if (stock <= 0) changes.push(change('sold-out', true));
  else if (stock < row.quantity) changes.push(change('less-stock', true, row.quantity, stock));
  for (const { kind, label } of row.asked ?? []) changes.push(change(kind, kind === 'asked-again', null, null, label));
  return changes;
}
