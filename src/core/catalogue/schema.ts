import {
  any,
  flag,
  number,
  openRecord,
  readType,
  recordOf,
  text,
  type ObjectTypes,
  type Type,
} from '../language/types/types';
import type { FieldDefinition, FieldSubject } from './rows';

/** Type of a field, as templates see it: a type of the language, an object of this schema, or a list of one. */
export type FieldTypeName = string;

export interface FieldSpec {
  type: FieldTypeName;
  says: string;
  /** Never empty: no page of a sound catalogue lacks it. */
  sure: boolean;
  /** Of a text: the only ones there are. */
  options?: readonly string[];
}

export type ObjectSpec = Record<string, FieldSpec>;

/** A field that can be empty. */
const f = (type: FieldTypeName, says: string, options?: readonly string[]): FieldSpec => ({
  type,
  says,
  sure: false,
  ...(options ? { options } : {}),
});

/** A field that never is. */
const s = (type: FieldTypeName, says: string, options?: readonly string[]): FieldSpec => ({
  ...f(type, says, options),
  sure: true,
});

/**
 * The objects that templates reach, with every field and its type. The one place where they stand: objects are built to it
 * (a test holds them to each other), and checker, editor and docs read it.
 */
export const objectSchema: Record<string, ObjectSpec> = {
  Shop: {
    name: s('Text', 'the shop’s name'),
    currency: s('Text', 'its currency’s letters (ISO 4217)'),
    locale: s('Text', 'its first language (BCP 47)'),
    locales: s('List of Text', 'all its languages'),
    url: s('Text', 'the address of its home page'),
    email: f('Text', 'where customers write to'),
  },
  Visit: {
    path: s('Text', 'the page asked for'),
    query: s('Record', 'what stands after the “?”, as texts'),
    page: s('Number', 'the page of a listing, from 1'),
    view: s('Text', 'grid or list', ['grid', 'list']),
    locale: s('Text', 'the language the page is shown in'),
    today: s('Day', 'the day of the request, in UTC'),
  },
  Product: {
    name: s('Text', 'its name'),
    slug: s('Text', 'its name in addresses'),
    url: s('Text', 'the address of its page'),
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
    stock: s('Number', 'how many are in stock, all variants together'),
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
    fields: s('ProductFields', 'its custom fields, by key: those that the shop defines'),
    related: f('List of Product', 'what goes with it'),
    added: s('Day', 'when it came in'),
  },
  Variant: {
    sku: s('Text', 'its article number'),
    name: f('Text', 'its values, joined'),
    price: s('Money', 'its price'),
    was_price: f('Money', 'its price before a sale'),
    stock: s('Number', 'how many are in stock'),
    sold_out: f('Flag', 'whether none is'),
    values: f('List of OptionValue', 'what it is of each option'),
    image: f('Media', 'the first picture that shows it'),
    media: f('List of Media', 'the pictures that show it'),
    url: s('Text', 'the product’s page with this variant chosen'),
    selected: f('Flag', 'whether it is the chosen one'),
  },
  Option: {
    name: s('Text', 'what is chosen: Colour'),
    slug: s('Text', 'its name in addresses'),
    values: f('List of OptionValue', 'what there is to choose'),
  },
  OptionValue: {
    name: s('Text', 'the value: Navy'),
    slug: s('Text', 'its name in addresses'),
    colour: f('Text', 'its colour, for a swatch'),
    url: f('Text', 'the product’s page with this value chosen'),
    selected: f('Flag', 'whether it is chosen'),
    sold_out: f('Flag', 'whether nothing with it is in stock'),
    media: f('List of Media', 'the pictures that show it'),
  },
  Media: {
    kind: s('Text', 'image, video or embed', ['image', 'video', 'embed']),
    url: s('Text', 'its address'),
    alt: f('Text', 'what it shows, in words'),
    width: f('Number', 'in pixels'),
    height: f('Number', 'in pixels'),
    shows: f('List of OptionValue', 'the option values it shows'),
    poster: f('Text', 'the address of a film’s still'),
  },
  Category: {
    name: s('Text', 'its name'),
    slug: s('Text', 'its name in addresses'),
    url: s('Text', 'the address of its page'),
    summary: f('Text', 'a sentence about it'),
    description: f('Html', 'all about it'),
    image: f('Media', 'its picture'),
    parent: f('Category', 'the one above'),
    path: s('List of Category', 'from the topmost down to this one'),
    children: f('List of Category', 'those right below'),
    root: f('Flag', 'whether it is the one above all'),
    product_count: s('Number', 'how many products are in it and below'),
    fields: s('CategoryFields', 'its custom fields, by key: those that the shop defines'),
  },
  Listing: {
    kind: s('Text', 'category, tag, brand, search or all', ['category', 'tag', 'brand', 'search', 'all']),
    title: s('Text', 'what it lists'),
    url: s('Text', 'its address'),
    products: f('List of Product', 'the products of this page'),
    tiles: f('List of Tile', 'their tiles'),
    count: s('Number', 'how many there are on all pages'),
    page: s('Number', 'this page, from 1'),
    pages: s('Number', 'how many pages there are'),
    page_size: s('Number', 'products a page'),
    columns: s('Number', 'columns of the grid'),
    pager: f('List of PagerItem', 'links to the other pages; empty when there is one'),
    sorts: s('List of Choice', 'the orders to choose from'),
    view: s('Text', 'grid or list', ['grid', 'list']),
    views: s('List of Choice', 'the views to choose from'),
    query: f('Text', 'what was searched for'),
  },
  PagerItem: {
    label: f('Text', 'the page’s number; none for a gap'),
    url: f('Text', 'its address; none for the current page and for a gap'),
    current: f('Flag', 'whether it is this page'),
    kind: s('Text', 'page, gap, previous or next', ['page', 'gap', 'previous', 'next']),
  },
  Choice: {
    name: s('Text', 'what it is called in addresses: price-down'),
    url: s('Text', 'the page with it chosen'),
    selected: f('Flag', 'whether it is chosen'),
  },
  Tag: {
    name: s('Text', 'its name'),
    slug: s('Text', 'its name in addresses'),
    url: s('Text', 'the address of its listing'),
  },
  Brand: {
    name: s('Text', 'its name'),
    slug: s('Text', 'its name in addresses'),
    url: s('Text', 'the address of its listing'),
    summary: f('Text', 'a sentence about it'),
  },
  Attribute: {
    name: s('Text', 'what it says: Lay'),
    value: f('Text', 'right-hand'),
    visible: f('Flag', 'whether customers are to see it'),
  },
  Content: {
    title: s('Text', 'its title'),
    slug: s('Text', 'its name in addresses'),
    url: s('Text', 'the address of its page'),
    summary: f('Text', 'a sentence about it'),
    body: f('Html', 'its text'),
    image: f('Media', 'its picture'),
    added: s('Day', 'when it was written'),
  },
  Article: {
    title: s('Text', 'its title'),
    slug: s('Text', 'its name in addresses'),
    url: s('Text', 'the address of its page'),
    summary: f('Text', 'a sentence about it'),
    body: f('Html', 'its text'),
    image: f('Media', 'its picture'),
    added: s('Day', 'when it was written'),
  },
  Tile: {
    product: s('Product', 'whose tile it is'),
    value: f('OptionValue', 'the value it stands for; none where the product has no such option'),
    variants: f('List of Variant', 'the variants of that value: its sizes'),
    media: f('List of Media', 'the pictures that show the value'),
    url: s('Text', 'the product’s page with the value chosen'),
    image: f('Media', 'the first picture of the value, else of the product'),
  },
  Cart: {
    lines: f('List of CartLine', 'what is in it'),
    count: s('Number', 'how many things, all lines together'),
    total: s('Money', 'what they cost together'),
    url: s('Text', 'the address of the cart'),
  },
  CartLine: {
    product: s('Product', 'what was put in, with the variant chosen'),
    variant: s('Variant', 'the variant'),
    quantity: s('Number', 'how many of it'),
    price: s('Money', 'the price of one, as it is now'),
    total: s('Money', 'the price of all of them'),
    answers: f('List of Answer', 'what the customer answered'),
  },
  Answer: {
    label: s('Text', 'what was asked'),
    value: f('Text', 'the answer'),
  },
  Question: {
    name: s('Text', 'what its answer is sent under'),
    type: s('Text', 'how it is asked', ['text', 'long-text', 'choice', 'drop-down', 'tick']),
    label: s('Text', 'what is asked'),
    help: f('Text', 'a hint beside it'),
    options: f('List of Text', 'the answers to choose from'),
    required: f('Flag', 'whether it must be answered'),
    most: f('Number', 'how many characters an answer may have'),
  },
  Position: {
    number: s('Number', 'the place of the item, from 1'),
    index: s('Number', 'the place of the item, from 0'),
    first: f('Flag', 'whether it is the first'),
    final: f('Flag', 'whether it is the last'),
    count: s('Number', 'how many items there are'),
    previous: f('Any', 'the item before'),
    next: f('Any', 'the item after'),
  },
  MenuItem: {
    label: s('Text', 'what it says'),
    url: s('Text', 'where it leads'),
    current: f('Flag', 'whether it leads to this page, or to one above it'),
    children: f('List of MenuItem', 'the items below it'),
  },
};

/** The names that each kind of page sees, besides shop, look and visit. */
export const pageSchema: Record<string, Record<string, string>> = {
  home: {},
  product: { product: 'Product' },
  category: { category: 'Category', listing: 'Listing' },
  listing: { listing: 'Listing' },
  content: { content: 'Content' },
  article: { article: 'Article' },
  cart: { cart: 'Cart' },
  'not-found': {},
};

const fieldTypes: Record<FieldDefinition['type'], string> = {
  text: 'Text',
  html: 'Html',
  number: 'Number',
  flag: 'Flag',
  day: 'Day',
  link: 'Text',
  picture: 'Text',
};

/** A setting of the look, by what its value is. */
function settingType(value: unknown): Type {
  if (typeof value === 'number') return number;
  return typeof value === 'boolean' ? flag : typeof value === 'string' ? text : any;
}

/**
 * The schema as the checker reads it: with the shop's custom fields, and the settings that its look declares. Without
 * definitions (no catalogue is at hand) custom fields are open: any name is taken for one.
 */
export function objectTypes(
  definitions: ((subject: FieldSubject) => readonly FieldDefinition[]) | null,
  look: Record<string, unknown>,
): ObjectTypes {
  const made = new Map<string, ReadonlyMap<string, Type>>();
  for (const [object, fields] of Object.entries(objectSchema)) {
    made.set(
      object,
      new Map(
        Object.entries(fields).map(([name, { type, sure, options }]) => {
          const open = definitions === null && /^(?:Product|Category)Fields$/.test(type);
          const read = open ? openRecord : readType(type, sure ? 'no' : 'perhaps');
          return [name, options ? { ...read, options } : read];
        }),
      ),
    );
  }
  for (const subject of ['product', 'category'] as const) {
    const custom = definitions?.(subject) ?? [];
    const name = subject === 'product' ? 'ProductFields' : 'CategoryFields';
    made.set(name, new Map(custom.map(({ key, type }) => [key, readType(fieldTypes[type])])));
  }
  const settings = recordOf(
    Object.fromEntries(Object.entries(look).map(([name, value]) => [name, settingType(value)])),
  );
  const pages = new Map(
    Object.entries(pageSchema).map(([kind, names]) => [
      kind,
      new Map(Object.entries(names).map(([name, type]) => [name, readType(type, 'no')])),
    ]),
  );
  return {
    fields: (object) => made.get(object) ?? null,
    objects: [...made.keys()],
    page: (kind) => pages.get(kind) ?? null,
    globals: new Map([
      ['shop', readType('Shop', 'no')],
      ['look', settings],
      ['visit', readType('Visit', 'no')],
    ]),
  };
}
