import type { World } from '../catalogue/objects';
import type { ListingKind, ListingSort, ProductFilter } from '../catalogue/rows';
import { record, type RecordValue, type Value } from '../language';
import { plainTile } from '../language/filters/tiles';
import { pager } from './pager';

export interface ListingRequest {
  kind: ListingKind;
  title: string;
  /** Path of its first page, without prefix and query. */
  path: string;
  filter: ProductFilter;
  query: Record<string, string>;
  pageSize: number;
  columns: number;
}

export const listingSorts: ListingSort[] = ['chosen', 'name', 'price', 'price-down', 'newest'];

export const listingViews = ['grid', 'list'] as const;

/** The view that a query asks for. */
export const viewOf = (query: Record<string, string>): (typeof listingViews)[number] =>
  query.view === 'list' ? 'list' : 'grid';

/** The page number that a query asks for; null for one that is no page number. */
export function pageNumber(query: Record<string, string>): number | null {
  if (query.page === undefined) return 1;
  return /^[1-9]\d{0,6}$/.test(query.page) ? Number(query.page) : null;
}

/** One page of a listing with its pager and orders; null for a page that it does not have. */
export function makeListing(world: World, request: ListingRequest): RecordValue | null {
  const { kind, filter, query, pageSize } = request;
  const page = pageNumber(query);
  const sort = listingSorts.find((one) => one === query.sort) ?? 'chosen';
  // A search for nothing finds nothing, rather than everything.
  const nothing = kind === 'search' && !filter.search?.trim();
  const count = nothing ? 0 : world.source.productCount(filter);
  const pages = Math.max(1, Math.ceil(count / pageSize));
  if (page === null || page > pages) return null;
  const address = (change: Record<string, string | null>): string => {
    const kept = new URLSearchParams();
    for (const [name, value] of Object.entries({ ...query, ...change }))
      if (value !== null && value !== '') kept.set(name, value);
    const text = kept.toString();
    return world.address(request.path) + (text ? `?${text}` : '');
  };
  const pageAddress = (n: number) => address({ page: n === 1 ? null : String(n) });
  const ids = nothing ? [] : world.source.productIds(filter, sort, (page - 1) * pageSize, pageSize);
  const view = viewOf(query);
  const products = world.productsById(ids);
  const made = record({
    kind,
    title: request.title,
    url: world.address(request.path),
    products,
    count,
    page,
    pages,
    page_size: pageSize,
    columns: request.columns,
    pager: pager(page, pages).map((item) =>
      record({
        label: item.page === null ? null : String(item.page),
        url: item.page === null || item.current ? null : pageAddress(item.page),
        current: item.current,
        kind: item.kind,
      }),
    ),
    sorts: listingSorts.map((name) =>
      record({ name, url: address({ sort: name === 'chosen' ? null : name, page: null }), selected: name === sort }),
    ),
    view,
    views: listingViews.map((name) =>
      record({ name, url: address({ view: name === 'grid' ? null : name }), selected: name === view }),
    ),
    query: kind === 'search' ? (query.q ?? '') : null,
  } satisfies Record<string, Value>);
  // Worked out only for a template that asks: most go through the products.
  let tiles: Value;
  Object.defineProperty(made, 'tiles', { enumerable: true, get: () => (tiles ??= products.map(plainTile)) });
  return made;
}
