import { isFieldSubject } from '@/core/catalogue';
import { isRecord, RecordValue, type Value } from '@/core/language';

/** Where a value of a page stands in the catalogue: in which record, and the names down to it there, as catalogue files have them. */
export interface RecordPlace {
  kind: 'product' | 'category' | 'content' | 'article' | 'brand' | 'tag' | 'shop';
  slug: string;
  path: string[];
}

/** A step of a path: `product`, `fields`, `[0]`; and what it gives on the page. */
export interface ValueStep {
  name: string;
  value: Value | undefined;
}

type Kind = RecordPlace['kind'];

/** Fields of each kind that its record holds as they are. */
const own: Record<Kind, readonly string[]> = {
  product: ['name', 'summary', 'description', 'type', 'sku', 'gtin', 'added'],
  category: ['name', 'summary', 'description'],
  content: ['title', 'summary', 'body', 'added'],
  article: ['title', 'summary', 'body', 'added'],
  brand: ['name', 'summary'],
  tag: ['name'],
  shop: ['name', 'email'],
};
const ofVariants: Record<string, string> = { price: 'price', was_price: 'wasPrice', stock: 'stock' };

/** What the catalogue knows a value as: `product`, `variant`; null for what it does not know by a number. */
function keptAs(value: Value | undefined): string | null {
  const key = isRecord(value) ? (value as unknown as Record<symbol, unknown>)[RecordValue.key] : undefined;
  return typeof key === 'string' ? key.slice(0, key.indexOf(':')) : null;
}

const isKind = (kind: string | null): kind is Kind => kind !== null && kind in own;

const slugIn = (value: Value | undefined): string => (isRecord(value) ? String(value.slug) : '');

/** The product that a part of one belongs to: the one on the way to it, else the page's. */
function productOf(steps: readonly ValueStep[], subject: { kind: string; slug: string } | null): string | null {
  const above = steps.findLast(({ value }) => keptAs(value) === 'product');
  if (above) return slugIn(above.value);
  return subject?.kind === 'product' ? subject.slug : null;
}

/** Where the value at the end of a path stands in the catalogue; null: it is worked out, or not the catalogue's. */
export function recordPlace(
  steps: readonly ValueStep[],
  subject: { kind: string; slug: string } | null,
): RecordPlace | null {
  const name = steps.at(-1)?.name ?? '';
  const holder = steps.at(-2);
  if (!holder || !isRecord(holder.value)) return null;
  const kind = keptAs(holder.value);
  const { value } = holder;
  if (isKind(kind)) return own[kind].includes(name) ? { kind, slug: slugIn(value), path: [name] } : null;
  if (steps.length === 2 && holder.name === 'shop')
    return own.shop.includes(name) ? { kind: 'shop', slug: 'shop', path: [name] } : null;
  if (holder.name === 'fields') {
    const above = steps.at(-3)?.value;
    const of = keptAs(above);
    return of !== null && isFieldSubject(of) ? { kind: of, slug: slugIn(above), path: ['fields', name] } : null;
  }
  const slug = productOf(steps.slice(0, -2), subject);
  if (slug === null) return null;
  if (kind === 'variant' && ofVariants[name])
    return { kind: 'product', slug, path: ['variants', String(value.sku), ofVariants[name]] };
  const isAttribute = kind === null && typeof value.name === 'string' && 'visible' in value;
  return isAttribute && name === 'value'
    ? { kind: 'product', slug, path: ['attributes', value.name as string, name] }
    : null;
}
