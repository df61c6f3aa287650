import { minorDigits } from '@/core/language';
import { optionProperty, schemaTerm } from './linked-terms';
import type { WholeProduct } from './merge-product';
import { valueName } from './product-table';

/** What a shop's products are written with as linked data. */
export interface LinkedShop {
  /** Where the shop is found: `https://shop.example`. */
  origin: string;
  currency: string;
  /** The language that texts are in, and those that they may be in too. */
  locale: string;
  brand(slug: string): string;
  tag(slug: string): string;
  /** Names from the topmost category down. */
  category(slug: string): string[];
}

type Json = string | number | boolean | null | undefined | Json[] | { [key: string]: Json };

/** The document that products are written into, without them: terms by schema.org's vocabulary. */
export const linkedDocument = { '@context': 'https://schema.org', '@graph': [] };

/**
 * A product in the terms of schema.org: a Product with its offer, or a ProductGroup with a Product a variant. What the vocabulary has no term
 * for is an additionalProperty whose `propertyID` is the heading of our own tables (`field:lead_time`); texts in several languages are
 * language-tagged as JSON-LD 1.1 does (section 4.2.4).
 */
export function linkedProduct(product: WholeProduct, shop: LinkedShop): Record<string, Json> {
  const { origin, locale } = shop;
  const id = `${origin}/product/${product.slug}`;
  const [first] = product.variants;
  const alone = product.variants.length <= 1 && !product.options.length && !first?.name;
  const tagged = (text: string, others: Record<string, string | undefined>): Json => {
    const known = Object.entries(others).filter((entry): entry is [string, string] => Boolean(entry[1]));
    if (!known.length) return text || undefined;
    return [[locale, text] as const, ...known]
      .filter(([, value]) => value)
      .map(([language, value]) => ({ '@language': language, '@value': value }));
  };
  const own = (field: string) =>
    Object.fromEntries(Object.entries(product.texts).map(([language, texts]) => [language, texts[field]]));
  const property = (propertyID: string, name: string, value: Json): Json[] =>
    value === undefined || value === '' ? [] : [{ '@type': 'PropertyValue', propertyID, name, value }];
  const images = product.media.filter(({ kind }) => kind === 'image').map(({ path }) => addressOf(origin, path));
  const properties: Json[] = [
    ...property('type', 'Type', product.type),
    ...property('product_sku', 'Article number of the product', alone ? product.sku : ''),
    ...property('members', 'Products of the set', product.members.join('|')),
    // Films among the pictures, and pictures of other sites, are told by their paths.
    ...(images.length === product.media.length
      ? []
      : property('pictures', 'Pictures', product.media.map(({ path }) => path).join('|'))),
    ...product.attributes
      .filter(({ name }) => !name.includes('@'))
      .flatMap(({ name, value, texts }) =>
        property(
          `attribute:${name}`,
          name,
          tagged(value, Object.fromEntries(Object.entries(texts).map(([language, one]) => [language, one.value]))),
        ),
      ),
    ...Object.entries(product.fields).flatMap(([key, value]) =>
      property(
        `field:${key}`,
        key.replaceAll('_', ' '),
        tagged(
          value,
          Object.fromEntries(Object.entries(product.fieldTexts).map(([language, texts]) => [language, texts[key]])),
        ),
      ),
    ),
  ];
  const common: Record<string, Json> = {
    '@id': id,
    url: id,
    name: tagged(product.name, own('name')),
    disambiguatingDescription: tagged(product.summary, own('summary')),
    description: tagged(product.description, own('description')),
    brand:
      product.brand === null
        ? undefined
        : { '@type': 'Brand', '@id': `${origin}/listing/brand/${product.brand}`, name: shop.brand(product.brand) },
    category: product.categories.map((slug) => ({
      '@type': 'CategoryCode',
      codeValue: slug,
      name: shop.category(slug).join(' > '),
    })),
    keywords: product.tags.map((slug) => ({ '@type': 'DefinedTerm', termCode: slug, name: shop.tag(slug) })),
    image: images,
    gtin: product.gtin || undefined,
    releaseDate: product.added,
    isRelatedTo: product.related.map((slug) => ({ '@type': 'Product', '@id': `${origin}/product/${slug}` })),
    additionalProperty: properties,
  };
  if (alone)
    return filled({
      '@type': 'Product',
      ...common,
      ...(first ? { sku: first.sku || undefined, offers: offerOf(first, shop, id) } : {}),
    });
  return filled({
    '@type': 'ProductGroup',
    ...common,
    productGroupID: product.slug,
    sku: product.sku || undefined,
    variesBy: product.options.map(({ slug, name }) => {
      const property = optionProperty(slug);
      return property ? schemaTerm(property) : name || slug;
    }),
    hasVariant: product.variants.map((variant) => {
      const values = Object.entries(variant.values).map(([option, value]) => ({
        option,
        called: product.options.find(({ slug }) => slug === option)?.name || option,
        value: valueName(product, option, value),
      }));
      return filled({
        '@type': 'Product',
        name: tagged(
          variant.name,
          Object.fromEntries(Object.entries(variant.texts).map(([language, texts]) => [language, texts.name])),
        ),
        sku: variant.sku || undefined,
        // Others read the vocabulary's own property; ours says which option of the shop it is.
        ...Object.fromEntries(
          values.flatMap(({ option, value }) => {
            const property = optionProperty(option);
            return property ? [[property, value]] : [];
          }),
        ),
        additionalProperty: values.flatMap(({ option, called, value }) => property(`option:${option}`, called, value)),
        offers: offerOf(variant, shop, id),
      });
    }),
  });
}

type Variant = WholeProduct['variants'][number];

/** A variant's offer. Prices are in the currency's units, with its decimals (ISO 4217). */
function offerOf({ price, wasPrice, stock }: Variant, { currency }: LinkedShop, url: string): Json {
  const digits = minorDigits(currency);
  const money = (minor: number) => (minor / 10 ** digits).toFixed(digits);
  return filled({
    '@type': 'Offer',
    price: money(price),
    priceCurrency: currency,
    priceSpecification:
      wasPrice === null
        ? undefined
        : {
            '@type': 'UnitPriceSpecification',
            priceType: schemaTerm('ListPrice'),
            price: money(wasPrice),
            priceCurrency: currency,
          },
    availability: schemaTerm(stock > 0 ? 'InStock' : 'OutOfStock'),
    inventoryLevel: { '@type': 'QuantitativeValue', value: stock },
    url,
  });
}

/** The address of a picture: of this shop by its path, of another site as it is. */
const addressOf = (origin: string, path: string): string =>
  /^[a-z]+:/i.test(path) ? path : `${origin}/media/${path.split('/').map(encodeURIComponent).join('/')}`;

/** Without what is not there; a list of one stands alone. */
function filled(all: Record<string, Json>): Record<string, Json> {
  return Object.fromEntries(
    Object.entries(all).flatMap(([key, value]) => {
      if (value === undefined || (Array.isArray(value) && !value.length)) return [];
      return [[key, Array.isArray(value) && value.length === 1 ? value[0] : value]];
    }),
  );
}
