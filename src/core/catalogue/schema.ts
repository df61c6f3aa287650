import { any, flag, number, openRecord, readType, recordOf, text, type ObjectTypes, type Type } from '@/core/language';
import { cartMessages, fieldSubjects, type FieldDefinition, type FieldSubject } from './rows';

/** Type of a field, as templates see it: a type of the language, an object of this schema, or a list of one. */
export type FieldTypeName = string;

export interface FieldSpec {
  type: FieldTypeName;
  says: string;
  /** Never empty: no page of a sound catalogue lacks it. */
  sure: boolean;
  /** Of a text: all that it can be. */
  options?: readonly string[];
  /** Fields of the same object that are there wherever this one is not empty. */
  implies?: readonly string[];
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
 * Longer than most files: one table of all objects and their fields.
 */
export const objectSchema: Record<string, ObjectSpec> = {
  Shop: {
    name: s('Text', 'the shop’s name'),
    currency: s('Text', 'its currency’s letters (ISO 4217)'),
    locale: s('Text', 'its first language (BCP 47)'),
    locales: s('List of Text', 'all its languages'),
    url: s('Text', 'the address of its home page'),
    email: f('Text', 'where customers write to'),
    cart_url: s('Text', 'the address of the cart'),
    articles_url: s('Text', 'the address of all articles'),
  },
  Visit: {
    path: s('Text', 'the page asked for'),
    query: s('Record', 'what stands after the “?”, as texts'),
    page: s('Number', 'the page of a listing, from 1'),
    view: s('Text', 'grid or list', ['grid', 'list']),
    locale: s('Text', 'the language the page is shown in'),
    today: s('Day', 'the day of the request, in UTC'),
    canonical: f(
      'Text',
      'the one address of this page: without a choice, an order or a view; none where search engines are not to come',
    ),
    languages: s('List of Language', 'this page in each of the shop’s languages'),
    cart_count: s('Number', 'how many things are in the visitor’s cart'),
  },
  Language: {
    locale: s('Text', 'BCP 47'),
    name: s('Text', 'what it calls itself: français'),
    url: s('Text', 'the address of this page in it'),
    canonical: f('Text', 'the one address of this page in it, whole; none where search engines are not to come'),
    current: f('Flag', 'whether the page is shown in it'),
    first: f('Flag', 'whether it is the shop’s first'),
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
    on_sale: { ...f('Flag', 'whether it costs less than it did'), implies: ['was_price', 'price'] },
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
    url: f(
      'Text',
      'the product’s page with this value chosen; none when there is no variant with it and what is chosen before it',
    ),
    selected: f('Flag', 'whether it is chosen'),
    sold_out: f('Flag', 'whether nothing with it, and what is chosen before it, is in stock'),
    media: f('List of Media', 'the pictures that show it'),
  },
  Media: {
    kind: s('Text', 'image, video or embed', ['image', 'video', 'embed']),
    url: s('Text', 'its address'),
    vector: f('Flag', 'whether it is a drawing (SVG): one file for every size'),
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
    root: f('Flag', 'whether it is the one that all others stand below'),
    product_count: s('Number', 'how many products are in it and below'),
    fields: s('CategoryFields', 'its custom fields, by key: those that the shop defines'),
  },
  Listing: {
    kind: s('Text', 'category, tag, brand, search or all', ['category', 'tag', 'brand', 'search', 'all']),
    title: s('Text', 'what it lists'),
    url: s('Text', 'its address'),
    products: f('List of Product', 'the products of this page'),
    tiles: f('List of Tile', 'their tiles: one a value of the option that the look names, else one a product'),
    count: s('Number', 'how many tiles there are on all pages'),
    page: s('Number', 'this page, from 1'),
    pages: s('Number', 'how many pages there are'),
    page_size: s('Number', 'tiles a page'),
    columns: s('Number', 'columns of the grid'),
    pager: f('List of PagerItem', 'links to the other pages; empty when there is one'),
    sorts: s('List of Choice', 'the orders to choose from'),
    filters: f('List of Filter', 'what the listing can be narrowed by; only what would narrow it'),
    filtered: f('Flag', 'whether something is chosen of them'),
    clear_url: s('Text', 'the address with nothing chosen'),
    view: s('Text', 'grid or list', ['grid', 'list']),
    views: s('List of Choice', 'the views to choose from'),
    query: f('Text', 'what was searched for'),
  },
  Filter: {
    name: s('Text', 'its name in addresses: colour'),
    kind: s('Text', 'what it looks at', ['option', 'brand', 'tag', 'price', 'stock']),
    label: f('Text', 'what an option is called; the other kinds have phrases'),
    values: s('List of FilterValue', 'what can be chosen'),
    selected: f('Flag', 'whether something of it is chosen'),
    url: s('Text', 'the address with nothing of it chosen'),
  },
  FilterValue: {
    name: f('Text', 'what it is called; none for a range of price'),
    slug: s('Text', 'its name in addresses'),
    colour: f('Text', 'its colour, for a swatch'),
    from: f('Money', 'of a range of price: where it begins'),
    to: f('Money', 'of a range of price: where it ends, not included'),
    count: s('Number', 'how many tiles there are with it, besides what is chosen of the other filters'),
    selected: f('Flag', 'whether it is chosen'),
    url: s('Text', 'the address with it chosen; when it is, without'),
  },
  ArticleListing: {
    articles: f('List of Article', 'the articles of this page, the newest first'),
    url: s('Text', 'its address'),
    count: s('Number', 'how many there are on all pages'),
    page: s('Number', 'this page, from 1'),
    pages: s('Number', 'how many pages there are'),
    page_size: s('Number', 'articles a page'),
    columns: s('Number', 'columns of the grid'),
    pager: f('List of PagerItem', 'links to the other pages; empty when there is one'),
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
    fields: s('ContentFields', 'its custom fields, by key: those that the shop defines'),
    added: s('Day', 'when it was written'),
  },
  Article: {
    title: s('Text', 'its title'),
    slug: s('Text', 'its name in addresses'),
    url: s('Text', 'the address of its page'),
    summary: f('Text', 'a sentence about it'),
    body: f('Html', 'its text'),
    image: f('Media', 'its picture'),
    fields: s('ArticleFields', 'its custom fields, by key: those that the shop defines'),
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
    url: s('Text', 'the address of the cart, to which its forms are sent'),
    seen: s('Text', 'what an order is held to: lines, prices and stock as they are shown here'),
    ready: f('Flag', 'whether it can be ordered as it is'),
    changes: f('List of Change', 'what is not as it was'),
    message: f('Text', 'what the last request came to', cartMessages),
    email: f('Text', 'the address that was given with an order, when something is to be put right'),
    order: f('Order', 'the order just made'),
  },
  CartLine: {
    number: s('Number', 'its number, for its forms'),
    product: f('Product', 'what was put in, with the variant chosen; none when it is gone'),
    variant: f('Variant', 'the variant; none when it is gone'),
    name: s('Text', 'what it was called when it was put in'),
    quantity: s('Number', 'how many of it'),
    price: f('Money', 'the price of one, as it is now'),
    total: f('Money', 'the price of all of them'),
    answers: f('List of Answer', 'what the customer answered'),
    changes: f('List of Change', 'what is not as it was'),
  },
  Change: {
    kind: s('Text', 'what changed', [
      'dearer',
      'cheaper',
      'less-stock',
      'sold-out',
      'gone',
      'asked-again',
      'no-longer-asked',
    ]),
    name: s('Text', 'of which line, or which question'),
    before: f('Any', 'as it was: a price, or how many'),
    now: f('Any', 'as it is'),
    blocks: f('Flag', 'whether it keeps the cart from being ordered'),
  },
  Order: {
    number: s('Number', 'its number'),
    total: s('Money', 'what it came to'),
    count: s('Number', 'how many things'),
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
    least: f('Number', 'how many characters an answer must have'),
    most: f('Number', 'how many characters an answer may have'),
    value: f('Text', 'what was answered, when the page comes back with a problem'),
    problem: f('Text', 'why that cannot be taken', ['required', 'too-long', 'too-short', 'not-offered']),
  },
  Day: {
    year: s('Number', 'its year'),
    month: s('Number', 'its month, from 1'),
    day: s('Number', 'its day of the month, from 1'),
    weekday: s('Number', 'its day of the week, from 1, Monday (ISO 8601)'),
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
    exact: f('Flag', 'whether it leads to this page itself'),
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
  articles: { listing: 'ArticleListing' },
  cart: { cart: 'Cart' },
  'not-found': {},
  error: {},
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
  if (typeof value === 'object' && value !== null)
    return recordOf(Object.fromEntries(Object.entries(value).map(([name, one]) => [name, settingType(one)])));
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
  const byObject = new Map<string, ReadonlyMap<string, Type>>();
  for (const [object, fields] of Object.entries(objectSchema)) {
    byObject.set(
      object,
      new Map(
        Object.entries(fields).map(([name, { type, sure, options }]) => {
          const open = definitions === null && /^(?:Product|Category|Content|Article)Fields$/.test(type);
          const read = open ? openRecord : readType(type, sure ? 'no' : 'perhaps');
          if (object === 'Product' && name === 'type') return [name, { ...read, isType: true }];
          return [name, options ? { ...read, options } : read];
        }),
      ),
    );
  }
  for (const subject of fieldSubjects) {
    const custom = definitions?.(subject) ?? [];
    const name = `${subject.charAt(0).toUpperCase()}${subject.slice(1)}Fields`;
    const typeOf = ({ type, several }: FieldDefinition) =>
      several ? readType(`List of ${fieldTypes[type]}`, 'no') : readType(fieldTypes[type]);
    byObject.set(name, new Map(custom.map((one) => [one.key, typeOf(one)])));
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
    fields: (object) => byObject.get(object) ?? null,
    implied: (object, field) => objectSchema[object]?.[field]?.implies ?? [],
    objects: [...byObject.keys()],
    page: (kind) => pages.get(kind) ?? null,
    globals: new Map([
      ['shop', readType('Shop', 'no')],
      ['look', settings],
      ['visit', readType('Visit', 'no')],
    ]),
  };
}
