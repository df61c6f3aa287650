import type { ColumnItem } from '@/contract/records';
import { readTarget, type NamedKind } from '@/core/exchange';
import type { Shop } from '@/server/shop';
import { attributeNames, productTypes } from '@/store';
import type { BulkEdit, WrittenCell } from './cells';
import { factOfColumn } from './table';

const plain: [column: string, label: string, type: ColumnItem['type']][] = [
  ['product', 'Slug', 'text'],
  ['name', 'Name', 'text'],
  ['type', 'Type', 'text'],
  ['price', 'Price', 'money'],
  ['was_price', 'Price before', 'money'],
  ['stock', 'Stock', 'number'],
  ['sku', 'Article number', 'text'],
  ['brand', 'Brand', 'brand'],
  ['categories', 'Categories', 'categories'],
  ['tags', 'Tags', 'tags'],
  ['pictures', 'Pictures', 'count'],
  ['summary', 'Summary', 'text'],
  ['added', 'Added', 'day'],
  ['live', 'Live', 'flag'],
  ['gtin', 'GTIN', 'text'],
  ['product_sku', 'Number of the product', 'text'],
  ['related', 'Related products', 'list'],
  ['members', 'Products of the set', 'list'],
];
/** Facts of rules that go by another name. */
const factOfList: Record<string, string> = { tags: 'tag', categories: 'category' };

/** The columns that a shop's table of products may have. */
export function tableColumns(shop: Shop): ColumnItem[] {
  const source = shop.catalogue();
  const { locale, locales } = source.shop();
  const others = locales.filter((one) => one !== locale);
  const fields = source.fieldDefinitions('product');
  const item = (column: string, label: string, type: ColumnItem['type'], group: string, unit = ''): ColumnItem => {
    const target = readTarget(column);
    const fact = target && factOfColumn(target);
    const list = factOfList[column];
    return {
      ...{ column, label, type, unit, group, choices: [] },
      ...{ sorted: fact !== null, fact: list ? { fact: list } : fact },
    };
  };
  return [
    ...plain.map(([column, label, type]) => item(column, label, type, 'Product')),
    ...fields.map(({ key, name, type, unit, several, choices }) => ({
      ...item(`field:${key}`, name, several ? 'list' : type, 'Custom fields', unit),
      ...(several ? { sorted: false } : {}),
      choices: [...choices],
    })),
    ...attributeNames(shop.sql)
      .filter((name) => readTarget(`attribute:${name}`))
      .map((name) => item(`attribute:${name}`, name, 'text', 'Attributes')),
    ...others.flatMap((one) => [
      item(`name@${one}`, `Name (${one})`, 'text', `In ${one}`),
      item(`summary@${one}`, `Summary (${one})`, 'text', `In ${one}`),
      ...fields
        .filter(({ type, choices }) => type === 'text' && !choices.length)
        .map(({ key, name }) => item(`field:${key}@${one}`, `${name} (${one})`, 'text', `In ${one}`)),
    ]),
  ];
}

/** What a column is called; the list of all columns is not read for it, since each saved cell asks. */
function labelOf(shop: Shop, column: string): string {
  const { part = column, name = null, locale = null } = readTarget(column) ?? {};
  const own =
    part === 'field'
      ? shop
          .catalogue()
          .fieldDefinitions('product')
          .find(({ key }) => key === name)?.name
      : plain.find(([known]) => known === part)?.[1];
  return `${own ?? name ?? part}${locale === null ? '' : ` (${locale})`}`;
}

/** What a change of cells is called in the history. */
export function titleOfCells(shop: Shop, cells: readonly Pick<WrittenCell, 'slug' | 'column'>[]): string {
  const columns = [...new Set(cells.map(({ column }) => column))];
  const slugs = new Set(cells.map(({ slug }) => slug));
  const what = columns.length > 3 ? `${columns.length} columns` : columns.map((one) => labelOf(shop, one)).join(', ');
  return `${what} of ${slugs.size === 1 ? [...slugs][0] : `${slugs.size.toLocaleString('en')} products`}`;
}

export function titleOfBulk(shop: Shop, { column, action, text }: BulkEdit): string {
  const called = labelOf(shop, column);
  const short = text.length > 60 ? `${text.slice(0, 60)}…` : text;
  if (action === 'add') return `${called}: add ${short}`;
  if (action === 'remove') return `${called}: remove ${short}`;
  if (action === 'fill') return `${called}: fill with ${short}`;
  return short ? `${called}: set to ${short}` : `${called}: empty`;
}

/** What products may name: what brands, tags and categories are called, and the types that there are. */
export function tableNames(shop: Shop): Record<NamedKind | 'type', string[]> {
  const source = shop.catalogue();
  const names = (rows: readonly { name: string }[]) => rows.map(({ name }) => name);
  return {
    brand: names(source.brands()),
    tag: names(source.allTags()),
    category: names(source.categories()),
    type: productTypes(shop.sql),
  };
}
