import { grouped } from '@/core/catalogue';
import { picturePath } from './picture-path';
import { harmless, listed } from './product-table';
import { optionProperties, optionProperty, termOf } from './linked-terms';
import type { GoodsIssue } from './product-rows';
import { readTarget } from './columns';
import { slugOf } from './slug';

/** A value of a property as JSON-LD 1.1 expands it: a text or number with its language, or a node. */
interface Value {
  '@value'?: string | number | boolean;
  '@language'?: string;
}
/** A node as JSON-LD 1.1 expands it: properties by their addresses. */
export interface LinkedNode extends Value {
  '@id'?: string;
  '@type'?: string[];
  [property: string]: unknown;
}

/** Addresses that documents are read against, where theirs are relative. */
export const linkedBase = 'https://shop.invalid/';

/** A node of a document, with the line that it begins on. */
export interface PlacedNode {
  node: LinkedNode;
  line: number;
}

/** What there is in the shop that linked data is read against. */
export interface LinkedContext {
  locale: string;
  /** Its further languages. */
  locales: readonly string[];
  /** Slugs of the options there are. */
  options: readonly string[];
  isTag(slug: string): boolean;
  isCategory(slug: string): boolean;
}

/** A row of our own table, by the headings of its columns. */
export interface LinkedRow {
  line: number;
  cells: Map<string, string>;
}

/** The types of a node, in schema.org's terms. */
const typesOf = ({ '@type': types = [] }: LinkedNode): string[] => types.flatMap((type) => termOf(type) ?? []);

/** Values of a property of schema.org, whichever scheme its address has. */
const valuesOf = (node: LinkedNode, term: string): LinkedNode[] =>
  ['http', 'https'].flatMap((scheme) => (node[`${scheme}://schema.org/${term}`] ?? []) as LinkedNode[]);

const textOf = (value: LinkedNode | undefined): string =>
  value === undefined ? '' : value['@value'] === undefined ? (value['@id'] ?? '') : String(value['@value']).trim();
const first = (node: LinkedNode, term: string): string => textOf(valuesOf(node, term)[0]);
/** What a value is called: itself, or the name of the node. */
const nameOf = (value: LinkedNode): string => ('@value' in value ? textOf(value) : first(value, 'name'));

const slugIn = (kind: string, address: string | undefined): string | undefined =>
  new RegExp(`/${kind}/([a-z0-9]+(?:-[a-z0-9]+)*)/?(?:[?#].*)?$`).exec(address ?? '')?.[1];

const isProduct = (node: LinkedNode): boolean =>
  typesOf(node).some((type) =>
    ['Product', 'ProductModel', 'IndividualProduct', 'Vehicle', 'SomeProducts'].includes(type),
  );
const isGroup = (node: LinkedNode): boolean => typesOf(node).includes('ProductGroup');

/**
 * Products of linked data as rows of our own table, a row a variant. Nodes that are no products are passed over; what cannot be
 * taken is reported. Nothing is fetched: pictures are known by the names that their addresses end in.
 */
export function rowsOfLinked(
  given: readonly PlacedNode[],
  context: LinkedContext,
  report: (issue: GoodsIssue) => void,
): LinkedRow[] {
  const all = given.flatMap(({ node, line }) => itemsOf(node).map((item) => ({ node: item, line })));
  const byId = new Map(all.flatMap((one) => (one.node['@id'] ? [[one.node['@id'], one] as const] : [])));
  /** A node by what stands for it: itself, or the one of its address. */
  const whole = (node: LinkedNode): LinkedNode =>
    Object.keys(node).every((key) => key === '@id' || key === '@type')
      ? (byId.get(node['@id'] ?? '')?.node ?? node)
      : node;
  const byGroup = grouped(
    all.filter(({ node }) => isProduct(node)).map(({ node }) => node),
    groupOf,
  );
  const variants = new Map(
    all.flatMap(({ node }) => {
      if (!isGroup(node)) return [];
      const told = [node['@id'], first(node, 'productGroupID')].flatMap((name) => (name && byGroup.get(name)) || []);
      return [[node, [...new Set([...valuesOf(node, 'hasVariant').map(whole), ...told])]] as const];
    }),
  );
  const placed = new Set([...variants.values()].flat());
  return all.flatMap(({ node, line }) => {
    const own = variants.get(node);
    if (own) return rowsOf(node, own, line, context, report);
    // A variant whose group is not told is one of the product that the group's name makes.
    return isProduct(node) && !placed.has(node) ? rowsOf(node, [node], line, context, report) : [];
  });
}

/** The group that a variant says it is of; '' for none. */
const groupOf = (node: LinkedNode): string => {
  const [group] = valuesOf(node, 'isVariantOf');
  return (group && (group['@id'] ?? first(group, 'productGroupID'))) || first(node, 'inProductGroupWithID');
};

/** The nodes that a list of items holds; any other node is itself. */
const itemsOf = (node: LinkedNode): LinkedNode[] =>
  typesOf(node).includes('ItemList')
    ? valuesOf(node, 'itemListElement').flatMap((element) => {
        const inner = valuesOf(element, 'item');
        return inner.length ? inner : [element];
      })
    : [node];

/** A text in a cell, where there is none yet. */
function put(cells: Map<string, string>, heading: string, text: string): void {
  if (text && !cells.has(heading)) cells.set(heading, harmless(text));
}

function rowsOf(
  node: LinkedNode,
  variants: readonly LinkedNode[],
  line: number,
  context: LinkedContext,
  report: (issue: GoodsIssue) => void,
): LinkedRow[] {
  const reader = new ProductReader(node, line, context, report);
  const head = reader.head(variants);
  const alone = variants.length === 1 && variants[0] === node;
  const key = head.get('product') ?? (variants.length > 1 ? first(node, 'name') : '');
  return (variants.length ? variants : [null]).map((variant, at) => {
    const cells = new Map(at === 0 ? head : []);
    if (key) cells.set('product', key);
    if (variant && !alone) {
      reader.variant(cells, variant);
      if (at === 0 && !head.has('name')) reader.texts(cells, 'name', valuesOf(variant, 'name'));
    }
    if (variant) {
      put(cells, 'sku', first(variant, 'sku') || first(variant, 'mpn') || (alone ? '' : first(variant, 'productID')));
      reader.offer(cells, variant);
    }
    return { line, cells };
  });
}

/** Reads one product, or group of variants, into cells. */
class ProductReader {
  constructor(
    readonly node: LinkedNode,
    readonly line: number,
    readonly context: LinkedContext,
    readonly report: (issue: GoodsIssue) => void,
  ) {}

  #note(column: string, value: string, message: string, severity: GoodsIssue['severity'] = 'warning'): void {
    this.report({ line: this.line, column, value, message, severity });
  }

  /** A text in the shop's languages, each in its column. */
  texts(cells: Map<string, string>, heading: string, values: readonly LinkedNode[]): void {
    const { locale, locales } = this.context;
    for (const value of values) {
      const language = value['@language']?.toLowerCase();
      const known = [locale, ...locales].find((one) => one.toLowerCase() === language);
      if (language === undefined || known === locale) put(cells, heading, textOf(value));
      else if (known !== undefined) put(cells, `${heading}@${known}`, textOf(value));
    }
  }

  /** The cells of the product as a whole. */
  head(variants: readonly LinkedNode[]): Map<string, string> {
    const { node, context } = this;
    const cells = new Map<string, string>();
    const list = (heading: string, parts: readonly string[]) => {
      const filled = [...new Set(parts.filter(Boolean))];
      if (filled.length) cells.set(heading, listed(filled));
    };
    put(
      cells,
      'product',
      slugIn('product', node['@id']) ??
        slugIn('product', first(node, 'url')) ??
        (first(node, 'productGroupID') || groupOf(node)),
    );
    this.texts(cells, 'name', valuesOf(node, 'name'));
    this.texts(cells, 'summary', valuesOf(node, 'disambiguatingDescription'));
    this.texts(cells, 'description', valuesOf(node, 'description'));
    const [brand] = [...valuesOf(node, 'brand'), ...valuesOf(node, 'manufacturer')];
    if (brand) put(cells, 'brand', slugIn('listing/brand', brand['@id']) ?? nameOf(brand));
    list(
      'categories',
      valuesOf(node, 'category').map((one) => known(one, 'codeValue', context.isCategory)),
    );
    list(
      'tags',
      valuesOf(node, 'keywords').flatMap((one) => {
        const name = known(one, 'termCode', context.isTag);
        // Words in one text stand between commas.
        return '@value' in one ? name.split(',').map((word) => word.trim()) : [name];
      }),
    );
    list(
      'pictures',
      valuesOf(node, 'image').map((image) => this.#picture(image)),
    );
    list(
      'related',
      valuesOf(node, 'isRelatedTo').map((one) => slugIn('product', one['@id'] ?? textOf(one)) ?? ''),
    );
    put(cells, 'added', (first(node, 'releaseDate') || first(node, 'dateCreated')).slice(0, 10));
    put(cells, 'gtin', gtinOf(node) || (variants.map(gtinOf).find(Boolean) ?? ''));
    if (variants[0] !== node) put(cells, 'product_sku', first(node, 'sku'));
    this.#properties(cells, node, []);
    return cells;
  }

  #picture(image: LinkedNode): string {
    const address = textOf(image) || first(image, 'contentUrl') || first(image, 'url');
    const path = pictureIn(address);
    if (path === null)
      this.#note('image', address, `“${address}” does not end in the name of a picture: it is left out`);
    return path ?? '';
  }

  /** What tells a variant from the others. */
  variant(cells: Map<string, string>, variant: LinkedNode): void {
    const { node, context } = this;
    const names = valuesOf(variant, 'name').filter((name) => textOf(name) !== first(node, 'name'));
    this.texts(cells, 'variant', names);
    const varies = valuesOf(node, 'variesBy').map((one) => termOf(textOf(one)) ?? textOf(one));
    this.#properties(cells, variant, varies);
    // Our own properties say which option of the shop it is; the vocabulary's count where there are none.
    if ([...cells.keys()].some((heading) => heading.startsWith('option:'))) return;
    for (const property of optionProperties) {
      const [value] = valuesOf(variant, property);
      const option = context.options.find((slug) => optionProperty(slug) === property) ?? property;
      if (value) put(cells, `option:${option}`, nameOf(value));
    }
  }

  /** Further properties: ours by their headings, those that variants differ by as options, all others as attributes. */
  #properties(cells: Map<string, string>, of: LinkedNode, varies: readonly string[]): void {
    for (const one of valuesOf(of, 'additionalProperty')) {
      const [id, name] = [first(one, 'propertyID'), first(one, 'name')];
      const unit = first(one, 'unitText') || first(one, 'unitCode');
      const values = valuesOf(one, 'value').map((value): LinkedNode =>
        unit ? { ...value, '@value': `${textOf(value)} ${unit}` } : value,
      );
      const own =
        id.includes(':') || ['type', 'product_sku', 'members', 'pictures'].includes(id) ? readTarget(id) : null;
      const option = !own && (varies.includes(name) || varies.includes(id)) && slugOf(name || id);
      const heading = own ? id : option ? `option:${option}` : name && `attribute:${name.replaceAll('@', ' ')}`;
      if (!heading || !values.length) continue;
      // Lists of ours are as our tables have them.
      if (own?.part === 'pictures' || own?.part === 'members') cells.set(own.part, textOf(values[0]));
      else this.texts(cells, heading, values);
    }
  }

  /** Price, price before and stock, of the variant's offer or of one for all. */
  offer(cells: Map<string, string>, variant: LinkedNode): void {
    const offers = [...valuesOf(variant, 'offers'), ...(variant === this.node ? [] : valuesOf(this.node, 'offers'))];
    const found = offers.find((one) => first(one, 'price') || valuesOf(one, 'priceSpecification').length);
    const range = offers.map((one) => first(one, 'lowPrice')).find(Boolean);
    if (found) {
      const specified = valuesOf(found, 'priceSpecification').map((one) => ({
        before: /(?:ListPrice|StrikethroughPrice|MSRP|SRP)$/.test(first(one, 'priceType')),
        price: priced(one, found),
      }));
      const now = first(found, 'price') ? priced(found, found) : (specified.find(({ before }) => !before)?.price ?? '');
      put(cells, 'price', now);
      put(cells, 'was_price', specified.find(({ before }) => before)?.price ?? '');
    } else if (range)
      this.#note('offers', range, 'A range of prices is not a price: give each variant an offer of its own', 'error');
    const [level] = offers.flatMap((one) => valuesOf(one, 'inventoryLevel'));
    const availability = offers.map((one) => first(one, 'availability')).find(Boolean) ?? '';
    if (level) put(cells, 'stock', '@value' in level ? textOf(level) : first(level, 'value'));
    else if (/(?:InStock|LimitedAvailability|OnlineOnly|InStoreOnly)$/.test(availability)) put(cells, 'stock', 'yes');
    else if (/(?:OutOfStock|SoldOut|Discontinued)$/.test(availability)) put(cells, 'stock', '0');
  }
}

/** A price with its currency, so that one in another than the shop's is seen. */
const priced = (one: LinkedNode, offer: LinkedNode): string =>
  `${first(one, 'price')} ${first(one, 'priceCurrency') || first(offer, 'priceCurrency')}`.trim();

/** A category or tag by its code where the shop has it, else by its name. */
function known(value: LinkedNode, code: string, isThere: (slug: string) => boolean): string {
  const slug = first(value, code);
  return slug && isThere(slug) ? slug : nameOf(value);
}

const gtinOf = (node: LinkedNode): string =>
  ['gtin', 'gtin13', 'gtin12', 'gtin14', 'gtin8', 'isbn'].map((term) => first(node, term)).find(Boolean) ?? '';

/** The path of a picture, from its address: after `/media/` on a shop of ours, else the last part; null for one that has no name. */
function pictureIn(address: string): string | null {
  const [path = ''] = address.split(/[?#]/);
  const own =
    /\/media\/(.+)$/.exec(path)?.[1] ?? (path.startsWith(linkedBase) ? path.slice(linkedBase.length) : undefined);
  const name = own ?? (/^[a-z]+:/i.test(path) ? (/^[a-z]+:\/\/[^/]+\/(?:.*\/)?([^/]+)$/i.exec(path)?.[1] ?? '') : path);
  try {
    return picturePath(decodeURIComponent(name));
  } catch {
    return picturePath(name);
  }
}
