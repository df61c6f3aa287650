import { minorDigits } from '../values/currencies';
import { plainText } from '../values/plain';
import { asList, Day, Html, isRecord, keyOf, Money, record, type RecordValue, type Value } from '../values/values';
import type { Filter } from './filter';

/**
 * An object of the catalogue in the words of schema.org (Product, ItemList, BreadcrumbList, Article), for
 * `<script type="application/ld+json" do:json="…">`. What is empty is left out.
 */
export const structured: Filter = {
  signature: 'structured',
  says: 'schema.org data of a product, a listing, a path of categories, a content page or an article; for do:json',
  run: ({ services: { origin = '' } }, value) => {
    const address: Address = (url) => (typeof url === 'string' && url.startsWith('/') ? origin + url : (url as Value));
    if (Array.isArray(value)) return breadcrumbs(value, address);
    if (!isRecord(value)) return null;
    const kind = keyOf(value)?.split(':')[0];
    if (kind === 'product' || (kind === undefined && 'variants' in value)) return product(value, address);
    if ('products' in value) return itemList(value, address);
    return 'body' in value ? article(value, address) : null;
  },
};

/** An address as those who read the data away from the page need it: whole. */
type Address = (url: unknown) => Value;

const type = (name: string, fields: Record<string, Value>): RecordValue => typed({ '@type': name }, fields);

const whole = (name: string, fields: Record<string, Value>): RecordValue =>
  typed({ '@context': 'https://schema.org', '@type': name }, fields);

function typed(first: Record<string, Value>, fields: Record<string, Value>): RecordValue {
  const result = record(first);
  for (const name of Object.keys(fields)) if (there(fields[name] as Value)) result[name] = fields[name] as Value;
  return result;
}

const there = (value: Value): boolean =>
  value !== null && value !== undefined && value !== '' && !(Array.isArray(value) && !value.length);

/** The decimal amount, as schema.org's `price` wants it: `12.50`. */
const amount = (value: unknown): string | null =>
  value instanceof Money
    ? (value.amount / 10 ** minorDigits(value.currency)).toFixed(minorDigits(value.currency))
    : null;

const words = (value: unknown): string | null =>
  value instanceof Html ? value.plain(plainText) : typeof value === 'string' ? value : null;

function product(of: RecordValue, address: Address): RecordValue {
  const variants = asList(of.variants).filter(isRecord);
  const brand = of.brand;
  const pictures = asList(of.media).flatMap((one) => (isRecord(one) && one.kind === 'image' ? [address(one.url)] : []));
  return whole('Product', {
    name: of.name as Value,
    url: address(of.url),
    sku: of.sku as Value,
    gtin: of.gtin as Value,
    description: words(of.summary) || words(of.description),
    image: pictures,
    brand: isRecord(brand) ? type('Brand', { name: brand.name as Value }) : null,
    offers: offers(of, variants, address),
  });
}

function offers(of: RecordValue, variants: RecordValue[], address: Address): Value {
  const price = of.price;
  if (!(price instanceof Money)) return null;
  const availability = `https://schema.org/${of.sold_out === true ? 'OutOfStock' : 'InStock'}`;
  if (variants.length < 2)
    return type('Offer', { price: amount(price), priceCurrency: price.currency, availability, url: address(of.url) });
  return type('AggregateOffer', {
    lowPrice: amount(price),
    highPrice: amount(of.price_high) ?? amount(price),
    priceCurrency: price.currency,
    offerCount: variants.length,
    availability,
  });
}

function itemList(of: RecordValue, address: Address): RecordValue {
  const items = asList(of.products).filter(isRecord);
  return whole('ItemList', {
    name: of.title as Value,
    numberOfItems: of.count as Value,
    itemListElement: items.map((item, at) =>
      type('ListItem', { position: at + 1, url: address(item.url), name: item.name as Value }),
    ),
  });
}

function breadcrumbs(path: Value[], address: Address): RecordValue | null {
  const steps = path.filter(isRecord);
  if (!steps.length) return null;
  return whole('BreadcrumbList', {
    itemListElement: steps.map((step, at) =>
      type('ListItem', { position: at + 1, name: (step.name ?? step.title) as Value, item: address(step.url) }),
    ),
  });
}

function article(of: RecordValue, address: Address): RecordValue {
  const image = of.image;
  return whole(keyOf(of)?.startsWith('content') ? 'WebPage' : 'Article', {
    headline: of.title as Value,
    url: address(of.url),
    description: words(of.summary) || words(of.body),
    image: isRecord(image) ? address(image.url) : null,
    datePublished: of.added instanceof Day ? of.added.iso : null,
  });
}
