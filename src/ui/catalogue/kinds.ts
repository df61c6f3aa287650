import { pathOf } from '@/core/address';
import type { ListedKindName, RecordKindName } from '@/contract/records';

/** A kind of record as the Catalogue shows it. */
export interface KindView {
  /** Its name in the address of the screen. */
  view: string;
  kind: RecordKindName;
  label: string;
  /** One of it, as sentences have it. */
  one: string;
  /** What its count counts. */
  counted: string;
}

export const kindViews: KindView[] = [
  { view: 'products', kind: 'product', label: 'Products', one: 'product', counted: '' },
  { view: 'categories', kind: 'category', label: 'Categories', one: 'category', counted: 'products' },
  { view: 'tags', kind: 'tag', label: 'Tags', one: 'tag', counted: 'products' },
  { view: 'brands', kind: 'brand', label: 'Brands', one: 'brand', counted: 'products' },
  { view: 'fields', kind: 'field', label: 'Custom fields', one: 'custom field', counted: 'filled' },
  { view: 'content', kind: 'content', label: 'Content', one: 'content page', counted: '' },
  { view: 'articles', kind: 'article', label: 'Articles', one: 'article', counted: '' },
  { view: 'menus', kind: 'menu', label: 'Menus', one: 'menu', counted: 'links' },
  { view: 'redirects', kind: 'redirect', label: 'Redirects', one: 'redirect', counted: '' },
  { view: 'shop', kind: 'shop', label: 'Shop', one: 'shop', counted: '' },
];

export const viewOfKind = (kind: RecordKindName): KindView => kindViews.find((one) => one.kind === kind) as KindView;

/** Whether records of a kind can be kept out of live. */
export const isHideable = (kind: RecordKindName): boolean =>
  kind === 'product' || kind === 'category' || kind === 'content' || kind === 'article';

export const isListed = (kind: RecordKindName): kind is ListedKindName => kind !== 'product' && kind !== 'shop';

/** The page that shows a record; null: none does, or any may. */
export function pageOfRecord(kind: RecordKindName, slug: string): string | null {
  if (kind === 'product' || kind === 'category' || kind === 'content' || kind === 'article')
    return pathOf({ kind, slug });
  if (kind === 'tag' || kind === 'brand') return pathOf({ kind: 'listing', slug: `${kind}/${slug}` });
  return kind === 'menu' || kind === 'shop' ? '/' : null;
}

/** What a record is called. */
export const nameOfRecord = (record: Readonly<Record<string, unknown>>, slug: string): string =>
  String(record.name ?? record.title ?? record.path ?? slug);
