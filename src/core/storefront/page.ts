import { chooseTemplate, type Alternates, type Choice } from '../alternates/alternates';
import { World } from '../catalogue/objects';
import type { CatalogueSource, ProductFilter } from '../catalogue/rows';
import {
  Day,
  Html,
  record,
  renderPage,
  type Drawn,
  type Placement,
  type Problem,
  type RecordValue,
  type Rendered,
  type RenderOptions,
  type SiteServices,
  type Trace,
} from '../language';
import { lookOf } from '../theme/look';
import type { Theme } from '../theme/theme';
import { placementsOn } from '../theme/shelves';
import { servedInputs } from './fragment';
import { makeListing, viewOf } from './listing';
import { pathOf, readPath, type Subject } from './route';

/** A request for a page, and the state of the shop that answers it. */
export interface PageRequest {
  theme: Theme;
  alternates: Alternates;
  source: CatalogueSource;
  /** Path of the site: `/product/tarred-hemp-rope`. */
  path: string;
  query: Record<string, string>;
  /** What stands before every path of the state that is shown: `/live`, `/draft/spring`. */
  prefix: string;
  /** Today in UTC, as ISO 8601: no page reads a clock. */
  today: string;
  /** An alternate to try, without it being assigned. */
  tried?: string | null;
  /** With marks in the page, and a trace of what they speak of. */
  traced?: boolean;
  time?: RenderOptions['time'];
}

export interface Page {
  status: 200 | 404;
  html: string;
  /** What the address asks for; null where no page is. */
  subject: (Subject & { name: string }) | null;
  choice: Choice;
  problems: Problem[];
  drawn: Drawn[];
  trace: Trace | null;
  /** Paths of the theme's files that the page links: style sheets, scripts, pictures. */
  assets: string[];
}

/** Makes a page: from the address to its subject, from the subject to its template, from both to HTML. */
export function makePage(request: PageRequest): Page {
  const setting = new Setting(request);
  const { theme, look, world } = setting;
  const found = findData(world, request, look);
  const subject = found && { ...found.subject, name: found.name };
  const choice: Choice = subject
    ? chooseTemplate(request.alternates, subject, (name) => theme.file(`${name}.html`) !== null, request.tried)
    : { template: 'not-found/default', because: 'default', broken: null };
  const rendered = setting.render(choice.template, found?.data ?? record({}), (shelf) =>
    placementsOn(theme.shelves, {
      shelf,
      template: choice.template,
      subject: subject ? pathOf(subject).slice(1) : '',
      today: request.today,
    }),
  );
  return { status: found ? 200 : 404, subject, choice, assets: [...setting.assets], ...rendered };
}

/** A piece by an address of its own (`/fragment/pieces/suggestions?q=…`); null for one that is not served. */
export function makeFragment(request: PageRequest): Rendered | null {
  const setting = new Setting(request);
  const name = decoded(request.path.replace(/^\/fragment\//, ''));
  const template = name === null ? null : setting.theme.template(name);
  const inputs = template && servedInputs(template, request.query, setting.world);
  return name !== null && inputs ? setting.render(name, inputs, () => []) : null;
}

function decoded(path: string): string | null {
  try {
    return decodeURIComponent(path);
  } catch {
    return null;
  }
}

/** All that a page is made in: the shop, its catalogue as templates see it, the look, and what templates may ask. */
class Setting {
  readonly theme: Theme;
  readonly world: World;
  readonly look: RecordValue;
  readonly assets = new Set<string>();

  constructor(readonly request: PageRequest) {
    const { theme, source, prefix, path } = request;
    const address = (to: string): string => (to === '/' ? `${prefix}/` : prefix + to);
    const mediaAddress = (to: string): string =>
      /^[a-z]+:|^\//i.test(to) ? to : `/media/${to.split('/').map(encodeURIComponent).join('/')}`;
    this.theme = theme;
    this.world = new World(source, address, mediaAddress, path);
    this.look = lookOf(theme.everywhere('look.json').map((file) => file.text));
  }

  render(template: string, data: RecordValue, placements: (shelf: string) => Placement[]): Rendered {
    const { theme, world, look, request } = this;
    const shop = request.source.shop();
    return renderPage(theme, template, data, {
      locale: shop.locale,
      hosts: theme.hosts,
      globals: {
        shop: record({ ...shop, url: world.address('/') }),
        look,
        visit: record({
          path: request.path,
          query: record(request.query),
          page: Number(request.query.page ?? 1) || 1,
          view: viewOf(request.query),
          locale: shop.locale,
          today: Day.read(request.today),
        }),
      },
      services: { ...services(world, theme, this.assets, request.prefix), placements },
      traced: request.traced ?? false,
      ...(request.time ? { time: request.time } : {}),
    });
  }
}

function services(world: World, theme: Theme, assets: Set<string>, prefix: string): SiteServices {
  const asset = (path: string): string | null => {
    const file = theme.file(`assets/${path}`);
    if (!file) return null;
    assets.add(file.path);
    // The hash in the address changes with the content: the answer may be kept for good, and is never stale.
    return `${prefix}/assets/${path.split('/').map(encodeURIComponent).join('/')}?v=${file.hash.slice(0, 12)}`;
  };
  return {
    phrase: (key) => theme.phrase(key),
    asset,
    icon: (name) => {
      const svg = /^[a-z0-9-]+$/.test(name) ? theme.file(`assets/icons/${name}.svg`)?.text : null;
      return svg ? new Html(svg) : null;
    },
    content: (slug) => world.content(slug),
    menu: (slug) => world.menu(slug),
    address: world.address,
    players: theme.about.players,
    served: (piece) => theme.template(piece)?.takes.some((take) => take.served) ?? false,
    products: ({ category, tag, type, sort, limit }) => {
      const filter: ProductFilter = {};
      if (category !== undefined) {
        const row = world.categoryRows().find((one) => one.slug === category);
        if (!row) return [];
        filter.categoryId = row.id;
      }
      if (tag !== undefined) {
        const row = world.source.tagBySlug(tag);
        if (!row) return [];
        filter.tagId = row.id;
      }
      if (type !== undefined) filter.type = type;
      const order = sort === 'name' || sort === 'price' || sort === 'price-down' || sort === 'newest' ? sort : 'chosen';
      return world.productsById(world.source.productIds(filter, order, 0, Math.min(limit ?? 48, 200)));
    },
  };
}

interface Found {
  subject: Subject;
  name: string;
  data: RecordValue;
}

/** The subject of an address with the values that its template sees; null where there is no such page. */
function findData(world: World, request: PageRequest, look: RecordValue): Found | null {
  const subject = readPath(request.path);
  if (!subject) return null;
  const { slug } = subject;
  const { source } = world;
  const listing = (kind: 'category' | 'tag' | 'brand' | 'search' | 'all', title: string, filter: ProductFilter) =>
    makeListing(world, {
      kind,
      title,
      filter,
      path: pathOf(subject),
      query: request.query,
      pageSize: count(look.page_size, 12, 200),
      columns: count(look.columns, 4, 12),
    });
  switch (subject.kind) {
    case 'home':
      return { subject, name: source.shop().name, data: record({}) };
    case 'product': {
      const row = source.productBySlug(slug);
      if (!row) return null;
      const [product] = world.products([row], request.query.variant ?? null);
      return { subject, name: row.name, data: record({ product }) };
    }
    case 'category': {
      const category = world.categoryBySlug(slug);
      const row = world.categoryRows().find((one) => one.slug === slug);
      const made = category && row ? listing('category', row.name, { categoryId: row.id }) : null;
      return made && row ? { subject, name: row.name, data: record({ category, listing: made }) } : null;
    }
    case 'content': {
      const row = source.contentBySlug(slug);
      return row && { subject, name: row.title, data: record({ content: world.content(slug) }) };
    }
    case 'listing': {
      const made = listingOf(world, slug, request, listing);
      return made && { subject, name: String(made.title), data: record({ listing: made }) };
    }
  }
}

function listingOf(
  world: World,
  slug: string,
  request: PageRequest,
  listing: (kind: 'tag' | 'brand' | 'search' | 'all', title: string, filter: ProductFilter) => RecordValue | null,
): RecordValue | null {
  const phrase = (key: string): string => {
    const found = request.theme.phrase(key);
    return typeof found === 'string' ? found : key;
  };
  if (slug === 'all') return listing('all', phrase('listing.all'), {});
  if (slug === 'search') return listing('search', phrase('listing.search'), { search: request.query.q ?? '' });
  const [kind, name = ''] = slug.split('/');
  if (kind === 'tag') {
    const tag = world.source.tagBySlug(name);
    return tag && listing('tag', capital(tag.name), { tagId: tag.id });
  }
  const brand = world.source.brands().find((one) => one.slug === name);
  return brand ? listing('brand', brand.name, { brandId: brand.id }) : null;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function count(value: unknown, otherwise: number, most: number): number {
  return typeof value === 'number' && value >= 1 ? Math.min(most, Math.trunc(value)) : otherwise;
}
