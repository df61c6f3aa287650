/** Type of a field, as templates see it: a type of the language, an object of this schema, or a list of one. */
export type FieldTypeName = string;

export interface FieldSpec {
  type: FieldTypeName;
  says: string;
}

export type ObjectSpec = Record<string, FieldSpec>;

const f = (type: FieldTypeName, says: string): FieldSpec => ({ type, says });

/**
 * The objects that templates reach, with every field and its type. The one place where they stand: objects are built to it
 * (a test holds them to each other), and checker, editor and docs read it.
 */
export const objectSchema: Record<string, ObjectSpec> = {
  Shop: {
    name: f('Text', 'the shop’s name'),
    currency: f('Text', 'its currency’s letters (ISO 4217)'),
    locale: f('Text', 'its first language (BCP 47)'),
    locales: f('List of Text', 'all its languages'),
    url: f('Text', 'the address of its home page'),
    email: f('Text', 'where customers write to'),
  },
  Visit: {
    path: f('Text', 'the page asked for'),
    query: f('Record', 'what stands after the “?”, as texts'),
    page: f('Number', 'the page of a listing, from 1'),
    view: f('Text', 'grid or list'),
    locale: f('Text', 'the language the page is shown in'),
    today: f('Day', 'the day of the request, in UTC'),
  },
  Product: {
    name: f('Text', 'its name'),
    slug: f('Text', 'its name in addresses'),
    url: f('Text', 'the address of its page'),
    type: f('Text', 'what kind of thing it is'),
    summary: f('Text', 'a sentence about it'),
    description: f('Html', 'all about it'),
    brand: f('Brand', 'who makes it'),
    sku: f('Text', 'its article number'),
    gtin: f('Text', 'its GTIN'),
    price: f('Money', 'the lowest price of its variants'),
    price_high: f('Money', 'the highest, when they differ'),
    was_price: f('Money', 'the price before a sale'),
    on_sale: f('Flag', 'whether it costs less than it did'),
    sold_out: f('Flag', 'whether nothing of it is in stock'),
    stock: f('Number', 'how many are in stock, all variants together'),
    image: f('Media', 'its first picture'),
    media: f('List of Media', 'its pictures and films; of the chosen value first'),
    options: f('List of Option', 'what can be chosen'),
    variants: f('List of Variant', 'what can be bought'),
    variant: f('Variant', 'the one chosen by the address, else the first in stock'),
    members: f('List of Product', 'what a set holds'),
    tags: f('List of Tag', 'its tags'),
    categories: f('List of Category', 'the categories it is in'),
    category: f('Category', 'the first of them'),
    attributes: f('List of Attribute', 'its properties'),
    fields: f('Record', 'its custom fields, by key'),
    related: f('List of Product', 'what goes with it'),
    added: f('Day', 'when it came in'),
  },
  Variant: {
    sku: f('Text', 'its article number'),
    name: f('Text', 'its values, joined'),
    price: f('Money', 'its price'),
    was_price: f('Money', 'its price before a sale'),
    stock: f('Number', 'how many are in stock'),
    sold_out: f('Flag', 'whether none is'),
    values: f('List of OptionValue', 'what it is of each option'),
    image: f('Media', 'the first picture that shows it'),
    media: f('List of Media', 'the pictures that show it'),
    url: f('Text', 'the product’s page with this variant chosen'),
    selected: f('Flag', 'whether it is the chosen one'),
  },
  Option: {
    name: f('Text', 'what is chosen: Colour'),
    slug: f('Text', 'its name in addresses'),
    values: f('List of OptionValue', 'what there is to choose'),
  },
  OptionValue: {
    name: f('Text', 'the value: Navy'),
    slug: f('Text', 'its name in addresses'),
    colour: f('Text', 'its colour, for a swatch'),
    url: f('Text', 'the product’s page with this value chosen'),
    selected: f('Flag', 'whether it is chosen'),
    sold_out: f('Flag', 'whether nothing with it is in stock'),
    media: f('List of Media', 'the pictures that show it'),
  },
  Media: {
    kind: f('Text', 'image, video or embed'),
    url: f('Text', 'its address'),
    alt: f('Text', 'what it shows, in words'),
    width: f('Number', 'in pixels'),
    height: f('Number', 'in pixels'),
    shows: f('List of OptionValue', 'the option values it shows'),
    poster: f('Text', 'the address of a film’s still'),
  },
  Category: {
    name: f('Text', 'its name'),
    slug: f('Text', 'its name in addresses'),
    url: f('Text', 'the address of its page'),
    summary: f('Text', 'a sentence about it'),
    description: f('Html', 'all about it'),
    image: f('Media', 'its picture'),
    parent: f('Category', 'the one above'),
    path: f('List of Category', 'from the topmost down to this one'),
    children: f('List of Category', 'those right below'),
    root: f('Flag', 'whether it is the one above all'),
    product_count: f('Number', 'how many products are in it and below'),
    fields: f('Record', 'its custom fields, by key'),
  },
  Listing: {
    kind: f('Text', 'category, tag, brand, search or all'),
    title: f('Text', 'what it lists'),
    url: f('Text', 'its address'),
    products: f('List of Product', 'the products of this page'),
    count: f('Number', 'how many there are on all pages'),
    page: f('Number', 'this page, from 1'),
    pages: f('Number', 'how many pages there are'),
    page_size: f('Number', 'products a page'),
    columns: f('Number', 'columns of the grid'),
    pager: f('List of PagerItem', 'links to the other pages; empty when there is one'),
    sorts: f('List of Choice', 'the orders to choose from'),
    view: f('Text', 'grid or list'),
    query: f('Text', 'what was searched for'),
  },
  PagerItem: {
    label: f('Text', 'the page’s number; none for a gap'),
    url: f('Text', 'its address; none for the current page and for a gap'),
    current: f('Flag', 'whether it is this page'),
    kind: f('Text', 'page, gap, previous or next'),
  },
  Choice: {
    name: f('Text', 'what it is called in addresses: price-down'),
    url: f('Text', 'the page with it chosen'),
    selected: f('Flag', 'whether it is chosen'),
  },
  Tag: {
    name: f('Text', 'its name'),
    slug: f('Text', 'its name in addresses'),
    url: f('Text', 'the address of its listing'),
  },
  Brand: {
    name: f('Text', 'its name'),
    slug: f('Text', 'its name in addresses'),
    url: f('Text', 'the address of its listing'),
    summary: f('Text', 'a sentence about it'),
  },
  Attribute: {
    name: f('Text', 'what it says: Lay'),
    value: f('Text', 'right-hand'),
    visible: f('Flag', 'whether customers are to see it'),
  },
  Content: {
    title: f('Text', 'its title'),
    slug: f('Text', 'its name in addresses'),
    url: f('Text', 'the address of its page'),
    summary: f('Text', 'a sentence about it'),
    body: f('Html', 'its text'),
    image: f('Media', 'its picture'),
    added: f('Day', 'when it was written'),
  },
  MenuItem: {
    label: f('Text', 'what it says'),
    url: f('Text', 'where it leads'),
    current: f('Flag', 'whether it leads to this page, or to one above it'),
    children: f('List of MenuItem', 'the items below it'),
  },
};
