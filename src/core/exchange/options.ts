import { freeSlug, type WholeProduct } from './merge-product';

type Parts = Pick<WholeProduct, 'options' | 'variants' | 'media'>;
type Variant = WholeProduct['variants'][number];

/** Combinations that are made at once, at most. */
const maxMade = 500;

const sameName = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** A product with another option to choose by; null where it has one that is called so. */
export function withOption({ options }: Pick<Parts, 'options'>, name: string): WholeProduct['options'] | null {
  if (!name.trim() || options.some((one) => sameName(one.name, name))) return null;
  return [...options, { slug: freeSlug(name, options), name: name.trim(), values: [], texts: {} }];
}

/** With another value of an option. Variants that have none of that option get the first one. null: it has one that is called so. */
export function withValue({ options, variants }: Parts, slug: string, name: string): Partial<Parts> | null {
  const option = options.find((one) => one.slug === slug);
  if (!option || !name.trim() || option.values.some((one) => sameName(one.name, name))) return null;
  const value = { slug: freeSlug(name, option.values), name: name.trim(), colour: '', texts: {} };
  const values = [...option.values, value];
  const first = values[0]?.slug ?? '';
  return {
    options: options.map((one) => (one === option ? { ...one, values } : one)),
    variants: variants.map((one) =>
      one.values[slug] === undefined ? { ...one, values: { ...one.values, [slug]: first } } : one,
    ),
  };
}

/** How many variants have a value of an option. */
export const variantsWith = ({ variants }: Pick<Parts, 'variants'>, option: string, value: string): number =>
  variants.filter(({ values }) => values[option] === value).length;

/** Without a value, which no picture shows then; null while variants have it. */
export function withoutValue(product: Parts, slug: string, value: string): Partial<Parts> | null {
  if (variantsWith(product, slug, value)) return null;
  return {
    options: product.options.map((one) =>
      one.slug === slug ? { ...one, values: one.values.filter((other) => other.slug !== value) } : one,
    ),
    media: product.media.map((one) => ({
      ...one,
      shows: one.shows.filter(([option, shown]) => option !== slug || shown !== value),
    })),
  };
}

/** Without an option; null while variants differ by it. */
export function withoutOption({ options, variants, media }: Parts, slug: string): Partial<Parts> | null {
  if (new Set(variants.map(({ values }) => values[slug])).size > 1) return null;
  return {
    options: options.filter((one) => one.slug !== slug),
    variants: variants.map(({ values: { [slug]: _, ...values }, ...one }) => ({ ...one, values })),
    media: media.map((one) => ({ ...one, shows: one.shows.filter(([option]) => option !== slug) })),
  };
}

/** An article number that no variant of the product has. */
function freeSku(base: string, variants: readonly Variant[]): string {
  const taken = new Set(variants.map(({ sku }) => sku));
  for (let number = 1; ; number++) {
    const sku = number === 1 ? base : `${base}-${number}`;
    if (!taken.has(sku)) return sku;
  }
}

const combinationOf = ({ options }: Pick<Parts, 'options'>, values: Readonly<Record<string, string>>): string =>
  options.map(({ slug }) => values[slug] ?? '').join('\n');

/** The combinations of values that no variant has, at most as many as are made at once; of a product without options, one. */
export function missingCombinations(product: Parts): Record<string, string>[] {
  const there = new Set(product.variants.map(({ values }) => combinationOf(product, values)));
  const missing: Record<string, string>[] = [];
  const fill = (at: number, values: Record<string, string>): void => {
    if (missing.length >= maxMade) return;
    const option = product.options[at];
    if (!option) {
      if (!there.has(combinationOf(product, values))) missing.push(values);
      return;
    }
    for (const { slug } of option.values) fill(at + 1, { ...values, [option.slug]: slug });
  };
  fill(0, {});
  return missing;
}

/** With variants of these values: at the price of the first one, none in stock, each with an article number of its own. */
export function withVariants(
  product: Parts & Pick<WholeProduct, 'slug'>,
  combinations: readonly Record<string, string>[],
): WholeProduct['variants'] {
  const variants = [...product.variants];
  const [first] = variants;
  for (const values of combinations) {
    const sku = freeSku([product.slug, ...product.options.map(({ slug }) => values[slug] ?? '')].join('-'), variants);
    variants.push({ sku, name: '', price: first?.price ?? 0, wasPrice: null, stock: 0, values, texts: {} });
  }
  return variants;
}
