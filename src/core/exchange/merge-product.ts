import type { FieldShape } from '@/core/catalogue';
import type { GoodsIssue, ProductGoods, VariantGoods } from './product-rows';
import { slugOf } from './slug';

type Texts = Record<string, Record<string, string | undefined>>;

interface OptionValue {
  slug: string;
  name: string;
  colour: string;
  texts: Texts;
}

interface Option {
  slug: string;
  name: string;
  values: OptionValue[];
  texts: Texts;
}

interface Variant {
  sku: string;
  name: string;
  price: number;
  wasPrice: number | null;
  stock: number;
  values: Record<string, string>;
  texts: Texts;
}

interface Media {
  kind: 'image' | 'video' | 'embed';
  path: string;
  alt: string;
  width: number | null;
  height: number | null;
  poster: string;
  shows: [option: string, value: string][];
  texts: Texts;
}

/** A product as a catalogue file has it, every field there. */
export interface WholeProduct {
  /** false: customers do not see it. */
  live?: boolean;
  slug: string;
  type: string;
  name: string;
  summary: string;
  description: string;
  brand: string | null;
  sku: string;
  gtin: string;
  added: string;
  tags: string[];
  categories: string[];
  attributes: { name: string; value: string; visible: boolean; texts: Texts }[];
  fields: Record<string, string>;
  fieldTexts: Texts;
  options: Option[];
  variants: Variant[];
  media: Media[];
  texts: Texts;
  members: string[];
  related: string[];
}

/** What a product's rows name, found or made: slugs by what people call things. */
export interface Named {
  brand(name: string): string;
  tag(name: string): string;
  /** Names from the topmost category down. */
  category(path: readonly string[]): string;
}

interface Merging extends Named {
  /** The line of the product's first row, where what is wrong with the whole is reported. */
  line: number;
  today: string;
  /** Types of the custom fields, by key. */
  fields: ReadonlyMap<string, FieldShape>;
  report(issue: GoodsIssue): void;
}

/** A text as the file gives it; the one that is there where it differs by the space around it only. */
const text = (before: string, given: string | undefined): string =>
  given === undefined || before.trim() === given ? before : given;

/** The same of a custom field: a number stays as it was written where it is the same. */
const field = (before: string, given: string, type: string | undefined): string =>
  type === 'number' && before.trim() && Number(before) === Number(given) ? before : text(before, given);

const mapped = (fields: Record<string, string>, by: (value: string, key: string) => string): Record<string, string> =>
  Object.fromEntries(Object.entries(fields).map(([key, value]) => [key, by(value, key)]));

const both = (before: Texts, more: Record<string, Record<string, string>> | undefined): Texts => {
  const texts: Texts = { ...before };
  for (const [locale, fields] of Object.entries(more ?? {}))
    texts[locale] = {
      ...texts[locale],
      ...mapped(fields, (value, field) => text(texts[locale]?.[field] ?? '', value)),
    };
  return texts;
};

/**
 * The product that comes of what the rows say, over the one that is there (null: it is new). What the rows do not say stays: variants
 * that they leave out too, which are known by their article numbers.
 */
export function mergeProduct(
  slug: string,
  before: WholeProduct | null,
  goods: ProductGoods,
  merging: Merging,
): WholeProduct {
  const { line, today, report } = merging;
  const wrong = (message: string) => report({ line, column: '', value: slug, message, severity: 'error' });
  if (!before && !goods.name) wrong('A product that is new needs a name');
  const base: WholeProduct = before ?? {
    ...{ slug, type: '', name: '', summary: '', description: '', brand: null, sku: '', gtin: '', added: today },
    ...{ tags: [], categories: [], attributes: [], fields: {}, fieldTexts: {}, options: [], variants: [], media: [] },
    ...{ texts: {}, members: [], related: [] },
  };
  const options = base.options.map((one) => ({ ...one, values: [...one.values] }));
  const variants = mergeVariants(base, options, goods.variants, wrong);
  return {
    ...base,
    type: text(base.type, goods.type),
    name: text(base.name, goods.name),
    summary: text(base.summary, goods.summary),
    description: text(base.description, goods.description),
    brand: goods.brand === undefined ? base.brand : merging.brand(goods.brand),
    sku: text(base.sku, goods.sku),
    gtin: text(base.gtin, goods.gtin),
    added: goods.added ?? base.added,
    ...(goods.live === undefined ? {} : { live: goods.live }),
    tags: goods.tags?.map((tag) => merging.tag(tag)) ?? base.tags,
    categories: goods.categories?.map((path) => merging.category(path)) ?? base.categories,
    attributes: mergeAttributes(base.attributes, goods.attributes),
    fields: {
      ...base.fields,
      ...mapped(goods.fields, (value, key) => field(base.fields[key] ?? '', value, merging.fields.get(key)?.type)),
    },
    fieldTexts: both(base.fieldTexts, goods.fieldTexts),
    options,
    variants,
    media: mergeMedia(base.media, goods.pictures),
    texts: both(base.texts, goods.texts),
    members: goods.members ?? base.members,
    related: goods.related ?? base.related,
  };
}

function mergeAttributes(
  before: WholeProduct['attributes'],
  given: ProductGoods['attributes'],
): WholeProduct['attributes'] {
  const merged = before.map((one) => ({ ...one }));
  for (const { name, value, texts } of given) {
    const known = merged.find((one) => one.name === name);
    if (!known) merged.push({ name, value, visible: true, texts: texts ?? {} });
    else Object.assign(known, { value: text(known.value, value || undefined), texts: both(known.texts, texts) });
  }
  return merged;
}

/** Pictures in the order that the file has them; those that were there keep what the file cannot say. */
function mergeMedia(before: Media[], paths: readonly string[] | undefined): Media[] {
  const known = [...new Set(before.map(({ path }) => path.trim()))];
  // A picture that stands there twice is named once.
  if (!paths || known.join('\n') === paths.join('\n')) return before;
  return paths.map(
    (path) =>
      before.find((one) => one.path === path) ?? {
        ...{ kind: 'image', path, alt: '', width: null, height: null, poster: '', shows: [], texts: {} },
      },
  );
}

/** Adds to `options` what the variants need; gives all variants, those of before first. */
function mergeVariants(
  before: WholeProduct,
  options: Option[],
  given: readonly VariantGoods[],
  wrong: (message: string) => void,
): Variant[] {
  const variants = before.variants.map((one) => ({ ...one }));
  for (const one of given) {
    const values = valuesOf(one, options);
    const only = given.length === 1 && variants.length === 1 ? variants[0] : undefined;
    const known = one.sku
      ? variants.find(({ sku }) => sku === one.sku)
      : (variants.find((other) => one.values.length > 0 && sameValues(other.values, values)) ??
        (one.values.length ? undefined : only));
    if (known) {
      known.price = one.price ?? known.price;
      known.wasPrice = one.wasPrice === undefined ? known.wasPrice : one.wasPrice;
      known.stock = one.stock ?? known.stock;
      known.name = text(known.name, one.name);
      known.values = { ...known.values, ...values };
      known.texts = both(known.texts, one.texts);
      continue;
    }
    const sku = one.sku || [before.slug, ...Object.values(values)].join('-');
    if (one.price === undefined) {
      wrong(`The variant “${sku}” is new, and needs a price`);
      continue;
    }
    variants.push({
      sku,
      name: one.name ?? one.values.map(([, value]) => value).join(', '),
      price: one.price,
      wasPrice: one.wasPrice ?? null,
      stock: one.stock ?? 0,
      values,
      texts: one.texts ?? {},
    });
  }
  return variants;
}

const sameValues = (a: Record<string, string>, b: Record<string, string>): boolean =>
  Object.keys(a).length === Object.keys(b).length && Object.entries(a).every(([option, value]) => b[option] === value);

/** Whether people mean this by a name: its slug, or what it is called, whatever the capitals. */
const meant = (name: string) => {
  const [lower, slug] = [name.toLowerCase(), slugOf(name)];
  return (one: { slug: string; name: string }) =>
    one.name.toLowerCase() === lower || one.slug === name || (slug !== '' && one.slug === slug);
};

/** The values of a variant by the slugs of its options; what there is not yet is added. */
function valuesOf({ values }: VariantGoods, options: Option[]): Record<string, string> {
  const found: Record<string, string> = {};
  for (const [optionName, valueName, called] of values) {
    let option = options.find(meant(optionName));
    if (!option) {
      option = { slug: slugOf(optionName) || `option-${options.length + 1}`, name: called, values: [], texts: {} };
      options.push(option);
    }
    let value = option.values.find(meant(valueName));
    if (!value) {
      value = { slug: freeSlug(valueName, option.values), name: valueName, colour: '', texts: {} };
      option.values.push(value);
    }
    found[option.slug] = value.slug;
  }
  return found;
}

/** A slug for a name that none of these has. */
export function freeSlug(name: string, others: readonly { slug: string }[]): string {
  const first = slugOf(name) || 'value';
  const taken = new Set(others.map(({ slug }) => slug));
  for (let number = 1; ; number++) {
    const slug = number === 1 ? first : `${first}-${number}`;
    if (!taken.has(slug)) return slug;
  }
}
