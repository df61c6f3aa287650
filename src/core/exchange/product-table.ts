import { severalValues } from '@/core/catalogue';
import { minorDigits } from '@/core/language';
import type { WholeProduct } from './merge-product';
import { writeTarget, type Target } from './columns';

/** What a shop's products need columns for. */
export interface TableNeeds {
  /** Slugs of options. */
  options: readonly string[];
  /** Keys of custom fields. */
  fields: readonly string[];
  attributes: readonly string[];
  /** The shop's further languages. */
  locales: readonly string[];
}

const first = 'product name type summary description brand categories tags sku variant price was_price stock'.split(
  ' ',
);
const later = 'pictures added live gtin product_sku related members'.split(' ');

const plain = (part: string, locale: string | null = null): Target => ({ part, name: null, locale });

/** The columns of our own table of products: each headed by what it is. */
export function tableTargets({ options, fields, attributes, locales }: TableNeeds): Target[] {
  const named = (part: string, names: readonly string[], locale: string | null = null) =>
    // After an @ comes a language.
    names.filter((name) => !name.includes('@')).map((name): Target => ({ part, name, locale }));
  return [
    ...first.map((part) => plain(part)),
    ...named('option', options),
    ...named('field', fields),
    ...named('attribute', attributes),
    ...later.map((part) => plain(part)),
    ...locales.flatMap((locale) => [
      ...['name', 'summary', 'description', 'variant'].map((part) => plain(part, locale)),
      ...named('field', fields, locale),
      ...named('attribute', attributes, locale),
    ]),
  ];
}

export const tableHeadings = (targets: readonly Target[]): string[] => targets.map(writeTarget);

/** A text that a table program would compute is written so that it does not: a quote comes before it. A number is left as it is. */
export const harmless = (text: string): string =>
  /^'*[=+\-@\t\r]/.test(text) && !/^[+-]?\d+(?:\.\d+)?$/.test(text) ? `'${text}` : text;

/** A list between `|`; one entry that could be taken for several has one after it. */
export const listed = (list: readonly string[]): string =>
  list.length === 1 && /[;,\n]/.test(list[0] ?? '') ? `${list[0]}|` : list.join('|');

/** A product as rows of the table: one a variant, the product itself on the first. `several`: custom fields that hold lists. */
export function productRows(
  product: WholeProduct,
  targets: readonly Target[],
  currency: string,
  several: ReadonlySet<string> = new Set(),
): string[][] {
  const digits = minorDigits(currency);
  const money = (minor: number | null | undefined) =>
    minor === null || minor === undefined ? '' : (minor / 10 ** digits).toFixed(digits);
  const variants = product.variants.length ? product.variants : [null];
  return variants.map((variant, row) =>
    targets.map(({ part, name, locale }) => {
      const texts = locale === null ? null : (product.texts[locale] ?? {});
      switch (part) {
        case 'product':
          return product.slug;
        case 'sku':
          return harmless(variant?.sku ?? '');
        case 'variant':
          return harmless((locale === null ? variant?.name : variant?.texts[locale]?.name) ?? '');
        case 'price':
          return money(variant?.price);
        case 'was_price':
          return money(variant?.wasPrice);
        case 'stock':
          return variant ? String(variant.stock) : '';
        case 'option':
          return harmless(valueName(product, name ?? '', variant?.values[name ?? '']));
      }
      if (row > 0) return '';
      switch (part) {
        case 'name':
        case 'summary':
        case 'description':
          return harmless((texts ? texts[part] : product[part]) ?? '');
        case 'type':
        case 'gtin':
        case 'added':
          return harmless(product[part]);
        case 'live':
          return product.live === false ? 'no' : 'yes';
        case 'product_sku':
          return harmless(product.sku);
        case 'brand':
          return product.brand ?? '';
        case 'pictures':
          return listed(product.media.map(({ path }) => path));
        case 'field': {
          const value = (locale === null ? product.fields : product.fieldTexts[locale])?.[name ?? ''] ?? '';
          return several.has(name ?? '') ? listed(severalValues(value)) : harmless(value);
        }
        case 'attribute': {
          const attribute = product.attributes.find((one) => one.name === name);
          return harmless((locale === null ? attribute?.value : attribute?.texts[locale]?.value) ?? '');
        }
        default:
          return listed(product[part as 'categories' | 'tags' | 'related' | 'members']);
      }
    }),
  );
}

/** What a value is called; its slug where another of the option is called the same. */
export function valueName({ options }: WholeProduct, optionSlug: string, valueSlug: string | undefined): string {
  const values = options.find(({ slug }) => slug === optionSlug)?.values ?? [];
  const value = values.find(({ slug }) => slug === valueSlug);
  if (!value) return '';
  const called = (name: string) => name.trim().toLowerCase();
  const alone =
    values.filter((one) => called(one.name) === called(value.name) || one.slug === called(value.name)).length === 1;
  return alone && value.name.trim() ? value.name : value.slug;
}
