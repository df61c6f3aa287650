import {
  asSubject,
  type RuleSubject,
  type World,
  type ListingKind,
  type ListingSort,
  type ProductFilter,
  type Split,
} from '@/core/catalogue';
import { record, type RecordValue, type Value, plainTile, valueTile } from '@/core/language';
import type { ListingLook, ListingSettings } from '@/core/theme';
import { choosing, isChosen, makeFilters, readChosen } from './choices';
import { pager } from './pager';

export interface ListingRequest {
  kind: ListingKind;
  title: string;
  /** Path of its first page, without prefix and query. */
  path: string;
  filter: ProductFilter;
  query: Record<string, string>;
  /** How the look wants listings of a kind. */
  settings(kind: ListingLook): ListingSettings;
}

const sortsOf = (kind: ListingKind): ListingSort[] => [
  kind === 'search' ? 'match' : 'chosen',
  'name',
  'price',
  'price-down',
  'newest',
];

export const listingViews = ['grid', 'list'] as const;
export type ListingView = (typeof listingViews)[number];

/** The view that a query asks for, else the look's. */
export const viewOf = (query: Record<string, string>, otherwise: ListingView = 'grid'): ListingView =>
  listingViews.find((view) => view === query.view) ?? otherwise;

/** The page number that a query asks for; null for one that is not a page number. */
export function pageNumber(query: Record<string, string>): number | null {
  if (query.page === undefined) return 1;
  return /^[1-9]\d{0,6}$/.test(query.page) ? Number(query.page) : null;
}

/** A search finds so many products at most: beyond, more words are wanted. */
const maxFound = 2000;

/** One page of a listing with its pager, orders and filters; null for a page that it does not have. */
export function makeListing(world: World, request: ListingRequest): RecordValue | null {
  const { kind, filter, query } = request;
  const page = pageNumber(query);
  const chosen = readChosen(world, query);
  const filtered = isChosen(chosen);
  const whenFiltered = kind === 'category' ? 'category_filtered' : 'filtered';
  const look = request.settings(filtered ? whenFiltered : kind);
  const sorts = sortsOf(kind);
  const usual = sorts.find((one) => one === look.sort) ?? (sorts[0] as ListingSort);
  const sort = sorts.find((one) => one === query.sort) ?? usual;
  const split = splitOf(look);
  // A search for nothing finds nothing, rather than everything.
  const found = kind === 'search' ? world.source.search(query.q ?? '', maxFound) : null;
  const index = world.source.index(split);
  const size = look.page_size;
  const offset = ((page ?? 1) - 1) * size;
  const names = world.names();
  const { rows, count } = index.list({ filter, found, chosen, sort, names, offset, limit: size });
  const pages = Math.max(1, Math.ceil(count / size));
  if (page === null || page > pages) return null;

  const address = addresses(world.address(request.path), query);
  const ids = [...new Set(rows.map(({ productId }) => productId))];
  const products = world.productsById(ids);
  const view = viewOf(query, look.view);
  const result = record({
    kind,
    title: request.title,
    url: world.address(request.path),
    products,
    count,
    page,
    pages,
    page_size: size,
    columns: look.columns,
    pager: pagerItems(page, pages, address),
    sorts: sorts.map((name) =>
      record({ name, url: address({ sort: name === usual ? null : name, page: null }), selected: name === sort }),
    ),
    filtered,
    clear_url: filtered
      ? address(Object.fromEntries([...choosing(world).map((name) => [name, null] as const), ['page', null]]))
      : address({ page: null }),
    view,
    views: listingViews.map((name) =>
      record({ name, url: address({ view: name === look.view ? null : name }), selected: name === view }),
    ),
    query: kind === 'search' ? (query.q ?? '') : null,
  } satisfies Record<string, Value>);
  const [, named = ''] = request.path.slice(1).split(/\/(.*)/);
  seenByRules(result, { kind, slug: named, query: query.q ?? '', view });
  // Worked out only for a template that asks.
  lazily(result, 'tiles', () => {
    const byId = new Map(ids.map((id, at) => [id, products[at]] as const));
    return rows.flatMap(({ productId, value }): RecordValue[] => {
      const product = byId.get(productId);
      if (!product) return [];
      return [split && value !== null ? valueTile(product, split.option, value) : plainTile(product)];
    });
  });
  lazily(result, 'filters', () => {
    if (!count && !filtered) return [];
    const own: ReadonlySet<string> = new Set(kind === 'brand' ? ['brand'] : []);
    // Counted in the tiles that there would be once something is chosen.
    const other = world.source.index(splitOf(request.settings(whenFiltered)));
    const all = other === index ? count : other.count({ filter, found }, chosen);
    return makeFilters(world, other.counts({ filter, found }, chosen), all, query, own, address);
  });
  return result;
}

/** Which tiles the settings of a listing ask for. */
function splitOf({ split_by: option, pictures, values, values_of: ofProducts }: ListingSettings): Split | null {
  return option ? { option, pictures, values, ofProducts } : null;
}

/** How rules see a listing: `slug` of a tag's or brand's is `tag/<slug>`, `brand/<slug>`; of a category's `category/<slug>`. */
function seenByRules(
  made: RecordValue,
  seen: { kind: ListingKind; slug: string; query: string; view: ListingView },
): void {
  const { kind, query, view } = seen;
  const slug = kind === 'category' ? `category/${seen.slug}` : decodeURIComponent(seen.slug);
  const of = (wanted: ListingKind) => (kind === wanted ? slug.slice(slug.indexOf('/') + 1) : null);
  const asked: Record<string, () => string | null> = {
    kind: () => kind,
    tag: () => of('tag'),
    brand: () => of('brand'),
    query: () => (kind === 'search' ? query : null),
    view: () => view,
  };
  const subject = (): RuleSubject => ({ kind: 'listing', slug, facts: ({ fact }) => asked[fact]?.() ?? null });
  Object.defineProperty(made, asSubject, { value: subject });
}

/** Addresses of a listing: its path with its query, changed. */
export function addresses(path: string, query: Record<string, string>) {
  return (change: Record<string, string | null>): string => {
    const present = Object.entries({ ...query, ...change }).filter(([, value]) => value !== null && value !== '');
    // A comma may stand in a query as it is (RFC 3986, 3.4), and reads better so.
    const text = new URLSearchParams(present as [string, string][]).toString().replaceAll('%2C', ',');
    return path + (text ? `?${text}` : '');
  };
}

export function pagerItems(page: number, pages: number, address: ReturnType<typeof addresses>): RecordValue[] {
  return pager(page, pages).map((item) =>
    record({
      label: item.page === null ? null : String(item.page),
      url: item.page === null || item.current ? null : address({ page: item.page === 1 ? null : String(item.page) }),
      current: item.current,
      kind: item.kind,
    }),
  );
}

function lazily(of: RecordValue, name: string, work: () => Value): void {
  let value: Value;
  Object.defineProperty(of, name, { enumerable: true, get: () => (value ??= work()) });
}
