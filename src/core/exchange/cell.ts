import { severalValues, type FieldShape } from '@/core/catalogue';
import { minorDigits } from '@/core/language';
import type { Target } from './columns';
import type { WholeProduct } from './merge-product';
import { readFieldValue } from './field-value';
import { isGtin, readDay, readFlag, readList, readNumber, readPrice } from './values';

type Fields = Readonly<Record<string, unknown>>;

/** What a cell of a table of products shows. */
export interface Cell {
  /** As it is written, and would be copied; '' for none. */
  text: string;
  /** Why it cannot be written in the table; null: it can. */
  locked: string | null;
}

/** What makes another record of one: the fields that it names, as far as they change, as they were and are to be. */
export interface CellChange {
  before: Record<string, unknown>;
  after: Record<string, unknown>;
}

/** What cells are read by. */
export interface CellContext {
  currency: string;
  /** What the custom fields of products hold, by key. */
  fields: ReadonlyMap<string, FieldShape>;
  /** The slug of a brand, tag or category by its slug or what it is called; null: there is none. */
  slugOf(kind: NamedKind, called: string): string | null;
  /** What a brand, tag or category is called; null: there is none. */
  nameOf(kind: NamedKind, slug: string): string | null;
}

/** Kinds of record that products name, and people call by their names. */
export type NamedKind = 'brand' | 'tag' | 'category';

/** Parts of a product that are lists of what others are called. */
const lists = new Set(['tags', 'categories', 'related', 'members']);
/** Parts of its variants. */
const ofVariants: Record<string, 'sku' | 'price' | 'wasPrice' | 'stock' | 'name'> = {
  sku: 'sku',
  price: 'price',
  was_price: 'wasPrice',
  stock: 'stock',
  variant: 'name',
};

/** What a record is called, where that is enough to find it again; else its slug. */
function calledOf(kind: NamedKind, slug: string, { nameOf, slugOf }: CellContext): string {
  const called = nameOf(kind, slug)?.trim() ?? '';
  return called && !/[|;,\n]/.test(called) && slugOf(kind, called) === slug ? called : slug;
}

/** A list as people write it; what a comma stands in is told apart by another sign. */
const inWords = (list: readonly string[]): string => list.join(list.some((one) => one.includes(',')) ? ' | ' : ', ');

const free = (text: string): Cell => ({ text, locked: null });

/** What a column shows of a product. Of variants that differ it shows the lowest and the highest. */
export function cellOf(product: WholeProduct, { part, name, locale }: Target, context: CellContext): Cell {
  const own = locale === null ? null : (product.texts[locale] ?? {});
  const ofVariant = ofVariants[part];
  if (ofVariant) return variantCell(product, ofVariant, context.currency);
  if (part === 'tags' || part === 'categories') {
    const kind = part === 'tags' ? 'tag' : 'category';
    return free(inWords(product[part].map((slug) => calledOf(kind, slug, context))));
  }
  if (lists.has(part)) return free(inWords(product[part as 'related']));
  switch (part) {
    case 'field': {
      const value = (locale === null ? product.fields : product.fieldTexts[locale])?.[name ?? ''] ?? '';
      const shape = context.fields.get(name ?? '');
      if (shape?.several) return free(inWords(severalValues(value)));
      const flag = locale === null && shape?.type === 'flag';
      return free(flag && value ? (value === 'true' ? 'yes' : 'no') : value);
    }
    case 'attribute': {
      const attribute = product.attributes.find((one) => one.name === name);
      return free((locale === null ? attribute?.value : attribute?.texts[locale]?.value) ?? '');
    }
    case 'pictures':
      return {
        text: product.media.length ? String(product.media.length) : '',
        locked: 'Pictures are changed in the record',
      };
    case 'option': {
      const values = product.options.find(({ slug }) => slug === name)?.values ?? [];
      return { text: inWords(values.map((value) => value.name)), locked: 'Options are changed in the record' };
    }
    case 'product':
      return { text: product.slug, locked: 'A slug is changed in the record' };
    case 'live':
      return free(product.live === false ? 'no' : 'yes');
    case 'product_sku':
      return free(product.sku);
    case 'brand':
      return free(product.brand === null ? '' : calledOf('brand', product.brand, context));
    default:
      return free((own ? own[part] : (product as unknown as Record<string, string>)[part]) ?? '');
  }
}

function variantCell({ variants }: WholeProduct, field: (typeof ofVariants)[string], currency: string): Cell {
  const digits = minorDigits(currency);
  const written = (value: string | number | null) =>
    value === null
      ? ''
      : typeof value === 'number' && field !== 'stock'
        ? (value / 10 ** digits).toFixed(digits)
        : String(value);
  const values = [...new Set(variants.map((variant) => variant[field]))];
  if (!variants.length) return { text: '', locked: 'It has no variant: add one in the record' };
  if (values.length === 1) {
    const locked = field === 'sku' || field === 'name' ? variants.length > 1 : false;
    return { text: written(values[0] ?? null), locked: locked ? 'Each variant has its own: open the record' : null };
  }
  const numbers = values.filter((value) => typeof value === 'number').sort((a, b) => a - b);
  const text =
    field === 'sku' || field === 'name'
      ? `${variants.length} variants`
      : [...new Set([numbers[0] ?? null, numbers.at(-1) ?? null])].map(written).join(' – ');
  return { text, locked: 'Its variants differ: open the record' };
}

/** What writing a text into a cell changes; null where it is the same. */
export function writeCell(
  product: WholeProduct,
  target: Target,
  text: string,
  context: CellContext,
): CellChange | { wrong: string } | null {
  const { text: now, locked } = cellOf(product, target, context);
  if (text.trim() === now.trim()) return null;
  if (locked !== null) return { wrong: locked };
  const { part, name, locale } = target;
  const key = name ?? '';
  const ofVariant = ofVariants[part];
  if (ofVariant) {
    const read = variantValue(ofVariant, text.trim(), context.currency);
    return typeof read === 'object' && read !== null ? read : variantsWith(product, ofVariant, read);
  }
  if (lists.has(part)) return listChange(product, part as 'tags', text, context);
  switch (part) {
    case 'field': {
      const shape = context.fields.get(key);
      const read = readFieldValue(text, locale === null ? shape : shape && inOtherWords(shape), { inWords: true });
      if (typeof read === 'object') return read;
      if (locale === null) return inside('fields', key, product.fields[key], read);
      return within('fieldTexts', inside(locale, key, product.fieldTexts[locale]?.[key], read));
    }
    case 'attribute':
      return attributeChange(product, key, locale, text);
    case 'brand':
      return brandChange(product, text.trim(), context);
    case 'product_sku':
      return { before: { sku: product.sku }, after: { sku: text.trim() } };
    case 'gtin':
      if (text.trim() && !isGtin(text.trim()))
        return {
          wrong: `“${text.trim()}” is no GTIN: it has 8, 12, 13 or 14 digits, of which the last checks the others`,
        };
      return { before: { gtin: product.gtin }, after: { gtin: text.trim() } };
    case 'live': {
      const live = readFlag(text);
      return live === null
        ? { wrong: `“${text}” is neither yes nor no` }
        : { before: { live: product.live !== false }, after: { live } };
    }
    case 'added': {
      const day = readDay(text);
      return day === null
        ? { wrong: `“${text}” is not a day: write it as 2026-12-31` }
        : { before: { added: product.added }, after: { added: day } };
    }
    case 'name':
      if (locale === null && !text.trim()) return { wrong: 'A product needs a name' };
  }
  if (locale === null)
    return {
      before: { [part]: (product as unknown as Fields)[part] },
      after: { [part]: part === 'description' ? text : text.trim() },
    };
  return within('texts', inside(locale, part, product.texts[locale]?.[part], text.trim()));
}

const within = (field: string, { before, after }: CellChange): CellChange => ({
  before: { [field]: before },
  after: { [field]: after },
});

/** One name in an object of texts, there or not. */
function inside(field: string, key: string, before: string | undefined, after: string): CellChange {
  const one = (value: string | undefined) => ({ [field]: value ? { [key]: value } : {} });
  return { before: before === '' ? { [field]: { [key]: '' } } : one(before), after: one(after) };
}

/** What a custom field holds in a further language: texts, whatever the first one's are chosen from. */
const inOtherWords = ({ several }: FieldShape): FieldShape => ({ type: 'text', several, choices: [] });

function variantValue(
  field: (typeof ofVariants)[string],
  text: string,
  currency: string,
): string | number | null | { wrong: string } {
  if (field === 'sku') return text || { wrong: 'A variant needs an article number' };
  if (field === 'name') return text;
  if (field === 'stock') {
    const stock = readNumber(text || '0', '.');
    return stock !== null && Number.isInteger(stock) ? stock : { wrong: `“${text}” is not a whole number` };
  }
  if (field === 'wasPrice' && !text) return null;
  const price = readPrice(text, currency, '.');
  return 'wrong' in price ? price : price.minor;
}

/** The same value in all variants. An article number names its variant: another one makes the list another. */
function variantsWith(
  { variants }: WholeProduct,
  field: (typeof ofVariants)[string],
  value: string | number | null,
): CellChange {
  if (field === 'sku')
    return { before: { variants }, after: { variants: variants.map((one) => ({ ...one, sku: value })) } };
  return {
    before: { variants: variants.map((one) => ({ sku: one.sku, [field]: one[field] })) },
    after: { variants: variants.map(({ sku }) => ({ sku, [field]: value })) },
  };
}

function listChange(
  product: WholeProduct,
  part: 'tags' | 'categories' | 'related' | 'members',
  text: string,
  { slugOf }: CellContext,
): CellChange | { wrong: string } {
  const names = readList(text);
  const kind = part === 'tags' ? 'tag' : 'category';
  const slugs = part === 'tags' || part === 'categories' ? names.map((name) => slugOf(kind, name)) : names;
  const missing = names.filter((_, at) => slugs[at] === null);
  if (missing.length) return { wrong: `There is no ${kind} ${missing.map((one) => `“${one}”`).join(' or ')}` };
  return { before: { [part]: product[part] }, after: { [part]: [...new Set(slugs)] } };
}

function brandChange({ brand }: WholeProduct, text: string, { slugOf }: CellContext): CellChange | { wrong: string } {
  const slug = text ? slugOf('brand', text) : null;
  if (text && slug === null) return { wrong: `There is no brand “${text}”` };
  return { before: { brand }, after: { brand: slug } };
}

/** An attribute with nothing in it is none. */
function attributeChange(
  { attributes }: WholeProduct,
  name: string,
  locale: string | null,
  text: string,
): CellChange | { wrong: string } {
  const known = attributes.find((one) => one.name === name);
  const value = text.trim();
  if (locale !== null) {
    if (!known) return { wrong: `The product has no attribute “${name}” yet: write it in the first language first` };
    const { before, after } = inside(locale, 'value', known.texts[locale]?.value, value);
    return { before: { attributes: [{ name, texts: before }] }, after: { attributes: [{ name, texts: after }] } };
  }
  if (!known) return { before: { attributes: [] }, after: { attributes: [{ name, value, visible: true, texts: {} }] } };
  if (!value) return { before: { attributes: [known] }, after: { attributes: [] } };
  return { before: { attributes: [{ name, value: known.value }] }, after: { attributes: [{ name, value }] } };
}
