import type { FieldShape } from '@/core/catalogue';
import { readFieldValue } from './field-value';
import type { Target } from './columns';
import { slugOf } from './slug';
import { isGtin, readDay, readFlag, readList, readNumber, readPrice, type DecimalMark } from './values';

/** A row of a file: its line, and its cells by the column they stand in. */
export interface TableRow {
  line: number;
  cells: readonly string[];
}

/** Something that cannot be taken as it stands: where, and why. `severity` error: the product is left out; warning: only the value. */
export interface GoodsIssue {
  line: number;
  /** Heading of the column; '' for the row as a whole. */
  column: string;
  value: string;
  message: string;
  severity: 'error' | 'warning';
}

export interface RowContext {
  columns: readonly { heading: string; target: Target | null }[];
  currency: string;
  mark: DecimalMark;
  /** What custom fields hold, by key; others are texts. */
  fields: ReadonlyMap<string, FieldShape>;
}

type Texts = Record<string, Record<string, string>>;

export interface VariantGoods {
  sku: string;
  name?: string;
  price?: number;
  wasPrice?: number | null;
  stock?: number;
  /** Its options' values: the option as the column is taken for it, the value, and what the option is called where it is new. */
  values: [option: string, value: string, called: string][];
  texts?: Texts;
}

/** What the rows of one product say of it; what no column says is not there, and stays as it is. */
export interface ProductGoods {
  name?: string;
  type?: string;
  summary?: string;
  description?: string;
  added?: string;
  live?: boolean;
  gtin?: string;
  sku?: string;
  /** By name: those that are not there yet are made. */
  brand?: string;
  tags?: string[];
  /** Each from the topmost down. */
  categories?: string[][];
  pictures?: string[];
  related?: string[];
  members?: string[];
  attributes: { name: string; value: string; texts?: Texts }[];
  fields: Record<string, string>;
  fieldTexts: Texts;
  texts: Texts;
  variants: VariantGoods[];
}

const texts = new Set(['name', 'type', 'summary', 'description']);

/** A cell that was written so that a table program does not compute it is read as what it says. */
const unescaped = (cell: string): string => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);

/** Puts the rows of one product together. What is wrong is reported, all of it; a product with an error is not to be taken. */
export function productOf(
  rows: readonly TableRow[],
  context: RowContext,
  report: (issue: GoodsIssue) => void,
): ProductGoods {
  const goods: ProductGoods = { attributes: [], fields: {}, fieldTexts: {}, texts: {}, variants: [] };
  const skus = new Set<string>();
  for (const { line, cells } of rows) {
    const variant: VariantGoods = { sku: '', values: [] };
    let isVariant = false;
    context.columns.forEach(({ heading, target }, at) => {
      if (!target) return;
      const value = unescaped(cells[at] ?? '').trim();
      // Most cells of a table are empty: only that there was no price before says something.
      if (!value) {
        if (target.part === 'was_price') variant.wasPrice = null;
        return;
      }
      const issue = (message: string, severity: GoodsIssue['severity'] = 'error') =>
        report({ line, column: heading, value, message, severity });
      const { part, name, locale } = target;
      const text = <T extends Record<string, string>>(into: Record<string, T>, field: string) => {
        if (locale !== null) into[locale] = { ...into[locale], [field]: value } as unknown as T;
      };
      if (part === 'sku') {
        variant.sku = value;
        isVariant = true;
      } else if (part === 'price' || part === 'was_price') {
        const price = readPrice(value, context.currency, context.mark);
        if ('wrong' in price) issue(price.wrong);
        else if (part === 'price') variant.price = price.minor;
        else variant.wasPrice = price.minor;
        isVariant = true;
      } else if (part === 'stock') {
        const count = readNumber(value, context.mark);
        const flag = count === null ? readFlag(value) : null;
        if (count !== null && Number.isInteger(count)) variant.stock = count;
        else if (flag !== null) variant.stock = flag ? 1 : 0;
        else issue(`“${value}” is not a whole number`);
        isVariant = true;
      } else if (part === 'option') {
        // A heading of our own says which option it is; any other, what the shop calls it.
        variant.values.push([name ?? '', value, heading.includes(':') ? (name ?? '') : heading]);
      } else if (part === 'variant') {
        if (locale === null) variant.name = value;
        else text((variant.texts ??= {}), 'name');
      } else if (part === 'attribute') {
        const known = goods.attributes.find((one) => one.name === name);
        const attribute = known ?? { name: name ?? '', value: '' };
        if (!known) goods.attributes.push(attribute);
        if (locale === null) attribute.value ||= value;
        else text((attribute.texts ??= {}), 'value');
      } else if (part === 'field') {
        const key = name ?? '';
        if (locale !== null) return text(goods.fieldTexts, key);
        const shape = context.fields.get(key);
        const read = readFieldValue(value, shape, { inWords: true, mark: context.mark });
        if (typeof read === 'object') issue(read.wrong);
        else goods.fields[key] ??= read;
      } else if (texts.has(part)) {
        const field = part as 'name' | 'type' | 'summary' | 'description';
        if (locale !== null) text(goods.texts, field);
        else if (goods[field] === undefined) goods[field] = value;
        else if (goods[field] !== value)
          issue(`“${value}” is another ${field} than in the product’s first row, which counts`, 'warning');
      } else if (part === 'brand') goods.brand ??= value;
      else if (part === 'gtin') {
        const digits = value.replace(/[\s-]/g, '');
        if (isGtin(digits)) goods.gtin ??= digits;
        else
          issue(
            `“${value}” is not a GTIN: it has 8, 12, 13 or 14 digits, the last of which checks the others`,
            'warning',
          );
      } else if (part === 'product_sku') goods.sku ??= value;
      else if (part === 'live') {
        const flag = readFlag(value);
        if (flag === null) issue(`“${value}” is neither yes nor no`);
        else goods.live ??= flag;
      } else if (part === 'added') {
        const day = readDay(value);
        if (day === null) issue(`“${value}” is not a day: write it as 2026-12-31`);
        else goods.added ??= day;
      } else if (part === 'categories')
        goods.categories = merged(
          goods.categories,
          readList(value).map((path) =>
            path
              .split('>')
              .map((step) => step.trim())
              .filter(Boolean),
          ),
        );
      else if (part === 'tags' || part === 'pictures' || part === 'related' || part === 'members')
        goods[part] = merged(goods[part], readList(value));
    });
    if (!isVariant && !variant.values.length) continue;
    if (variant.sku && skus.has(variant.sku)) {
      report({
        line,
        column: '',
        value: variant.sku,
        message: `The article number “${variant.sku}” is there twice`,
        severity: 'error',
      });
      continue;
    }
    skus.add(variant.sku);
    goods.variants.push(variant);
  }
  return goods;
}

/** Both lists, what is in both once. */
const merged = <T>(before: T[] | undefined, more: T[]): T[] => {
  const known = new Set((before ?? []).map((one) => JSON.stringify(one)));
  return [...(before ?? []), ...more.filter((one) => !known.has(JSON.stringify(one)))];
};

/** The name in addresses of a product that is new: of what the file calls it, else of its name, else of its article number. */
export const slugOfProduct = (key: string, name: string, sku: string): string =>
  slugOf(key) || slugOf(name) || slugOf(sku);
