/**
 * Which fields of the language's objects say what stands in a part of a record, as catalogue files have it: `Product.price` says
 * something of `variants`. A part that no template can read has none.
 */
export const saidBy: Record<string, Record<string, readonly string[]>> = {
  product: {
    live: [],
    type: ['Product.type'],
    name: ['Product.name', 'CartLine.name'],
    summary: ['Product.summary'],
    description: ['Product.description'],
    brand: ['Product.brand', 'Listing.filters'],
    sku: ['Product.sku'],
    gtin: ['Product.gtin'],
    added: ['Product.added'],
    tags: ['Product.tags', 'Listing.filters'],
    categories: ['Product.categories', 'Product.category', 'Category.product_count'],
    attributes: ['Product.attributes'],
    fields: ['Product.fields'],
    options: [
      ...['Product.options', 'Product.variant', 'Variant.values', 'Variant.name', 'Media.shows', 'Option.name'],
      ...[
        'Option.slug',
        'Option.values',
        'OptionValue.name',
        'OptionValue.colour',
        'OptionValue.slug',
        'OptionValue.url',
      ],
      ...['Tile.value', 'Tile.variants', 'Tile.url', 'Listing.filters'],
    ],
    variants: [
      ...['Product.variants', 'Product.variant', 'Product.price', 'Product.price_high', 'Product.was_price'],
      ...['Product.on_sale', 'Product.sold_out', 'Product.stock', 'Variant.sku', 'Variant.name', 'Variant.price'],
      ...['Variant.was_price', 'Variant.stock', 'Variant.sold_out', 'Variant.values', 'Variant.url', 'Tile.variants'],
      ...['OptionValue.sold_out', 'OptionValue.url', 'CartLine.price', 'CartLine.total', 'Listing.filters'],
    ],
    media: [
      ...['Product.image', 'Product.media', 'Variant.image', 'Variant.media', 'OptionValue.media', 'Tile.image'],
      ...['Tile.media', 'Media.url', 'Media.alt', 'Media.kind', 'Media.shows', 'Media.poster'],
    ],
    members: ['Product.members'],
    related: ['Product.related'],
  },
  category: {
    live: [],
    name: ['Category.name'],
    summary: ['Category.summary'],
    description: ['Category.description'],
    parent: ['Category.parent', 'Category.path', 'Category.children', 'Category.root', 'Category.product_count'],
    position: ['Category.children'],
    fields: ['Category.fields'],
    media: ['Category.image'],
  },
  content: pageParts('Content'),
  article: { ...pageParts('Article'), added: ['Article.added', 'ArticleListing.articles'] },
  tag: { name: ['Tag.name', 'FilterValue.name', 'Listing.title'] },
  brand: { name: ['Brand.name', 'FilterValue.name', 'Listing.title'], summary: ['Brand.summary'] },
  shop: {
    name: ['Shop.name'],
    currency: ['Product.price', 'Variant.price'],
    locale: ['Shop.locale'],
    locales: ['Shop.languages'],
    email: ['Shop.email'],
  },
};

function pageParts(object: string): Record<string, readonly string[]> {
  return {
    live: [],
    ...Object.fromEntries(
      ['title', 'summary', 'body', 'added', 'fields'].map((field) => [field, [`${object}.${field}`]]),
    ),
    media: [`${object}.image`],
  };
}

/** What says a part of a record; of a custom field (`fields.lead_time`) that one alone. */
export function saysOf(kind: string, part: string): readonly string[] {
  if (part.startsWith('fields.'))
    return [`${kind.charAt(0).toUpperCase()}${kind.slice(1)}Fields.${part.slice('fields.'.length)}`];
  return saidBy[kind]?.[part] ?? [];
}

/** Parts of a record that a fact of rules asks about. */
export const partOfFact: Record<string, string> = {
  ...{ tag: 'tags', type: 'type', category: 'categories', brand: 'brand', price: 'variants', stock: 'variants' },
  ...{ added: 'added', attribute: 'attributes', below: 'parent', level: 'parent' },
};
