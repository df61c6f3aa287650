import { type Alternates, chooser, type Choice, type Chooser, pieceChooser, subjectInput } from '@/core/alternates';
import {
  type Definitions,
  makeCart,
  type CartState,
  type CategoryObject,
  allProducts,
  subjectOf,
  type RuleSubject,
  World,
  type ProductFilter,
  type ShopRow,
  type CatalogueSource,
} from '@/core/catalogue';
import {
  Day,
  Html,
  record,
  renderPage,
  type Drawn,
  type GivenAnswer,
  type Placement,
  type Problem,
  type Question,
  type RecordValue,
  type Rendered,
  type RenderOptions,
  type SiteServices,
  compileTemplate,
  type ElementNode,
  type TemplateLookup,
  type Trace,
  type Value,
} from '@/core/language';
import { listingSettings, type Theme, placementsOn } from '@/core/theme';
import { makeArticles } from './articles';
import { isChosen, readChosen } from './choices';
import { servedInputs } from './fragment';
import { makeListing, viewOf } from './listing';
import { localePrefix, pathOf, readPath, type Subject } from '@/core/address';

/** A request for a page, and the state of the shop that answers it. */
export interface PageRequest {
  theme: Theme;
  alternates: Alternates;
  /** The catalogue in the language of the page. */
  source: CatalogueSource;
  /** Path of the site, without language: `/product/tarred-hemp-rope`. */
  path: string;
  query: Record<string, string>;
  /** What stands before every path of the state that is shown: `/live`, `/draft/spring`. */
  prefix: string;
  /** Scheme and host, for addresses that are read away from the page; left out: they stay paths. */
  origin?: string;
  /** The address of a picture in a size, as this server takes it; left out: as the template says. */
  sized?: (address: string) => string;
  /** Today in UTC, as ISO 8601: no page reads a clock. */
  today: string;
  /** An alternate to try, without it being assigned: its name, or of a piece's the whole path (`pieces/tile/book`). */
  tried?: string | null;
  /** What the visitor has in the cart. */
  cart?: CartState;
  /** What the visitor answered, for a page that comes back with problems. */
  answers?: Record<string, GivenAnswer>;
  /** With marks in the page, and a trace of what they speak of. */
  traced?: boolean;
  time?: RenderOptions['time'];
  /** A template that tells its trace of every name in reach inside one of its elements (null: at its root). */
  probe?: { name: string; at: ElementNode | null };
  /** Where templates are found instead of in the theme. */
  lookup?: TemplateLookup;
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
  /** The questions that the page asks, in its order. */
  questions: Question[];
  /** Texts that are shown in the shop's first language, for want of this one: each with what it is. */
  untranslated: string[];
  /** `shop`, `look` and `visit`, as its templates saw them. */
  globals: Rendered['globals'];
  /** Whether the clock ended a part of it: it is not kept. */
  timedOut: boolean;
}

/** Makes a page: from the address to its subject, from the subject to its template, from both to HTML. */
export function makePage(request: PageRequest): Page {
  const setting = new Setting(request);
  const { theme, look, world } = setting;
  const found = findData(world, request, look, setting);
  const subject = found && { ...found.subject, name: found.name };
  const choice: Choice = found
    ? setting.chooser.choose({ kind: found.subject.kind }, found.subject.slug, factsOf(found), request.tried)
    : { template: 'not-found/default', because: 'default', rule: null, broken: null };
  setting.canonical = found?.canonical ?? null;
  const rendered = setting.render(choice.template, found?.data ?? record({}), (shelf) =>
    placementsOn(theme.shelves, {
      shelf,
      template: choice.template,
      subject: subject ? pathOf(subject).slice(1) : '',
      today: request.today,
    }),
  );
  return {
    status: found ? 200 : 404,
    subject,
    choice,
    assets: [...setting.assets],
    untranslated: setting.untranslated(),
    ...rendered,
  };
}

/** The page for when nothing else can be made: it sees no subject. Null where the theme has none. */
export function makeErrorPage(request: PageRequest): Rendered | null {
  const setting = new Setting(request);
  const name = 'error/default';
  return setting.theme.template(name) ? setting.render(name, record({}), () => []) : null;
}

/** The subject of an address, as assignments see it; null where there is no such page. Nothing is rendered. */
export function subjectAt(
  request: PageRequest,
): { subject: Subject; name: string; seen: Pick<RuleSubject, 'slug' | 'facts'> & { kind: Subject['kind'] } } | null {
  const setting = new Setting(request);
  const found = findData(setting.world, request, setting.look, setting);
  if (!found) return null;
  const { subject, name } = found;
  return { subject, name, seen: seenOf(found) ?? { ...subject, facts: () => null } };
}

/** A piece by an address of its own (`/fragment/pieces/suggestions?q=…`); null for one that is not served. */
export function makeFragment(request: PageRequest): Rendered | null {
  const setting = new Setting(request);
  const name = decoded(request.path.replace(/^\/fragment\//, ''));
  const template = name === null ? null : setting.theme.template(name);
  const inputs = template && servedInputs(template, request.query, setting.world);
  return name !== null && inputs ? setting.render(name, inputs, () => []) : null;
}

/** A piece's template alone, given the subject of an address; null where it takes no such subject. No alternate takes its place. */
export function makePiece(request: PageRequest, name: string): Rendered | null {
  const setting = new Setting({ ...request, alternates: { alternates: [], pins: [], rules: [] } });
  const template = setting.theme.template(name);
  const input = template && subjectInput(template);
  const data = findData(setting.world, request, setting.look, setting)?.data as Record<string, Value> | undefined;
  const given = input && data?.[input.kind];
  return input && given ? setting.render(name, record({ [input.name]: given }), () => []) : null;
}

/** A subject of a kind of page, with what its template made of it. */
export interface Traced {
  /** Path of its page, without language: `/product/deck-oil`. */
  path: string;
  name: string;
  /** The subject itself, as templates see it; null where a page has none. */
  subject: RecordValue | null;
  trace: Trace;
}

/** Products are read so many at a time. */
const batch = 200;

/**
 * Renders a template for every subject of a kind, with a trace of each. What products need is read for many at once. `lookup`
 * finds templates: one that leaves out what is not asked about makes this quick.
 */
export function* tracedPages(request: PageRequest, kind: Subject['kind'], lookup: TemplateLookup): Generator<Traced> {
  const { source, theme, tried } = request;
  const render = (setting: Setting, found: Pick<Found, 'subject' | 'data'>) => {
    const { subject, data } = found;
    const { template } = setting.chooser.choose({ kind: subject.kind }, subject.slug, factsOf(found), tried);
    return setting.render(template, data, (shelf) =>
      placementsOn(theme.shelves, { shelf, template, subject: pathOf(subject).slice(1), today: request.today }),
    ).trace as Trace;
  };
  if (kind === 'product') {
    const ids = allProducts(source);
    for (let from = 0; from < ids.length; from += batch) {
      const setting = new Setting({ ...request, traced: true, lookup, path: '/product/-', query: {} });
      for (const product of setting.world.productsById(ids.slice(from, from + batch))) {
        const subject = { kind, slug: String(product.slug) };
        const trace = render(setting, { subject, data: record({ product }) });
        yield { path: pathOf(subject), name: String(product.name), subject: product, trace };
      }
    }
    return;
  }
  for (const path of pathsOf(kind, source)) {
    const setting = new Setting({ ...request, traced: true, lookup, path, query: {} });
    const found = findData(setting.world, setting.request, setting.look, setting);
    if (!found) continue;
    const data = found.data as Record<string, unknown>;
    const subject = (data.category ?? data.content ?? data.article ?? data.listing ?? null) as RecordValue | null;
    yield { path, name: found.name, subject, trace: render(setting, found) };
  }
}

/** Paths of every page of a kind, products aside. */
function pathsOf(kind: Subject['kind'], source: CatalogueSource): string[] {
  const each = (rows: readonly { slug: string }[], before: string) => rows.map(({ slug }) => `${before}/${slug}`);
  switch (kind) {
    case 'category':
      return each(source.categories(), '/category');
    case 'content':
      return each(source.contents(), '/content');
    case 'article':
      return each(source.articles(), '/article');
    case 'listing':
      return [
        '/listing/all',
        '/listing/search',
        ...each(source.allTags(), '/listing/tag'),
        ...each(source.brands(), '/listing/brand'),
      ];
    default:
      return [pathOf({ kind, slug: '' })];
  }
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
  /** The one address of the page, for search engines; null: they are not to come. */
  canonical: string | null = null;
  readonly #phrases = new Set<string>();
  #chooser: Chooser | null = null;

  constructor(readonly request: PageRequest) {
    const { theme, source, path, prefix } = request;
    const base = prefix + localePrefix(source.language, source.shop().locales);
    this.theme = theme;
    this.world = new World(source, (to) => (to === '/' ? `${base}/` : base + to), path);
    this.look = theme.look;
  }

  get locale(): string {
    return this.request.source.language;
  }

  /** Which template a subject gets, of the page and of pieces on it. */
  get chooser(): Chooser {
    const { alternates, source, today } = this.request;
    return (this.#chooser ??= chooserFor(alternates, this.theme, today, (kind) => source.fieldDefinitions(kind)));
  }

  /** A phrase in the language of the page, else in the shop's first. */
  phrase(key: string): string | Record<string, string> | null {
    const { theme, locale } = this;
    const own = theme.phrase(key, locale);
    if (own !== null) return own;
    const first = this.request.source.shop().locale;
    const other = locale === first ? null : theme.phrase(key, first);
    if (other !== null) this.#phrases.add(key);
    return other;
  }

  /** What is shown in the shop's first language, each in a few words. */
  untranslated(): string[] {
    const called: Record<string, string> = { media: 'picture', option_value: 'value', menu_item: 'menu' };
    const plain = (text: string) =>
      text
        .replace(/<[^>]*>/g, ' ')
        .replace(/\s+/g, ' ')
        .trim();
    return [
      ...[...this.#phrases].map((key) => `phrase: ${key}`),
      ...this.request.source.untranslated.map(({ kind, field, text }) => {
        const short = plain(text);
        return `${called[kind] ?? kind}, ${field}: “${short.length > 60 ? `${short.slice(0, 60)}…` : short}”`;
      }),
    ];
  }

  /** This page in each of the shop's languages. */
  #languages(): RecordValue[] {
    const { path, prefix, query, source, origin = '' } = this.request;
    const { locales } = source.shop();
    const search = new URLSearchParams(query).toString();
    return locales.map((locale) => {
      const base = prefix + localePrefix(locale, locales);
      return record({
        locale,
        name: languageName(locale),
        url: `${base}${path === '/' && base === prefix ? '/' : path}${search ? `?${search}` : ''}`,
        canonical: this.canonical === null ? null : `${origin}${base}${this.canonical}`,
        current: locale === this.locale,
        first: locale === locales[0],
      });
    });
  }

  #shop({ name, currency, locale, locales, email }: ShopRow) {
    const { world } = this;
    const [url, cart, articles] = ['/', '/cart', '/article'].map((path) => world.address(path)) as [
      string,
      string,
      string,
    ];
    return { name, currency, locale, locales, email, url, cart_url: cart, articles_url: articles };
  }

  render(template: string, data: RecordValue, placements: (shelf: string) => Placement[]): Rendered {
    const { theme, world, look, request, locale } = this;
    const { origin = '', cart } = request;
    const alternate = pieceChooser(request.alternates, this.chooser, theme, request.tried);
    const shop = request.source.shop();
    const visit = record({
      path: request.path,
      query: record(request.query),
      page: Number(request.query.page ?? 1) || 1,
      view: viewOf(request.query),
      locale,
      today: Day.read(request.today),
      canonical: this.canonical === null ? null : origin + world.address(this.canonical),
      languages: this.#languages(),
      cart_count: cart?.lines.reduce((sum, line) => sum + line.quantity, 0) ?? 0,
    });
    return renderPage(request.lookup ?? probed(theme, request.probe), template, data, {
      locale,
      // An address of this site written whole, as search engines want it, is this site's own.
      hosts: origin ? [...theme.hosts, new URL(origin).host] : theme.hosts,
      schemes: theme.schemes,
      globals: { shop: record(this.#shop(shop)), look, visit },
      services: {
        ...services(this, request.prefix),
        placements,
        origin,
        ...(alternate ? { alternate } : {}),
      },
      traced: request.traced ?? false,
      ...(request.answers ? { answers: request.answers } : {}),
      ...(request.time ? { time: request.time } : {}),
    });
  }
}

/** The theme's templates, one of them with a probe in it. */
function probed(theme: Theme, probe: PageRequest['probe']): TemplateLookup {
  const template = probe && theme.template(probe.name);
  if (!probe || !template) return theme;
  const made = compileTemplate(template, true, probe.at);
  return {
    compiled: (name, traced) => (name === probe.name ? made : theme.compiled(name, traced)),
    names: () => theme.names(),
  };
}

const choosers = new WeakMap<Alternates, Chooser>();

/** Assignments made ready once for each theme and day: both come with the same list of assignments each time. */
function chooserFor(alternates: Alternates, theme: Theme, today: string, definitions: Definitions): Chooser {
  let made = choosers.get(alternates);
  if (made?.today !== today)
    choosers.set(
      alternates,
      (made = chooser(alternates, (name) => theme.file(`${name}.html`) !== null, today, definitions)),
    );
  return made;
}

/** What rules ask about the subject of a page. */
const factsOf = (found: Pick<Found, 'data'>): RuleSubject['facts'] => seenOf(found)?.facts ?? (() => null);

function seenOf({ data }: Pick<Found, 'data'>): RuleSubject | null {
  const { product, category, content, article, listing } = data as Record<string, Value>;
  return subjectOf(product ?? category ?? content ?? article ?? listing);
}

const languageNames = new Map<string, string>();

/** What a language calls itself (CLDR): `français`. */
function languageName(locale: string): string {
  let name = languageNames.get(locale);
  if (name === undefined) {
    const language = locale.split('-')[0] as string;
    name = new Intl.DisplayNames([locale], { type: 'language' }).of(language) ?? locale;
    languageNames.set(locale, name);
  }
  return name;
}

function services(setting: Setting, prefix: string): SiteServices {
  const { theme, world, assets } = setting;
  const asset = (path: string): string | null => {
    const file = theme.file(`assets/${path}`);
    if (!file && path === 'fonts.css' && theme.fonts) return `${prefix}/assets/fonts.css?v=${theme.fonts.version}`;
    if (!file) return null;
    assets.add(file.path);
    // The hash in the address changes with the content: the answer may be kept for good, and is never stale.
    return `${prefix}/assets/${path.split('/').map(encodeURIComponent).join('/')}?v=${file.hash.slice(0, 12)}`;
  };
  return {
    phrase: (key) => setting.phrase(key),
    asset,
    icon: (name) => {
      if (!/^[a-z0-9-]+$/.test(name) || !theme.file(`assets/icons/${name}.svg`)) return null;
      assets.add(`assets/icons/${name}.svg`);
      const sprite = `${prefix}/assets/icons.svg?v=${theme.iconsVersion}`;
      return new Html(
        `<svg class="icon" width="1em" height="1em" aria-hidden="true"><use href="${sprite}#${name}"/></svg>`,
      );
    },
    content: (slug) => world.content(slug),
    category: (slug) => world.categoryBySlug(slug),
    product: (slug) => {
      const row = world.source.productBySlug(slug);
      return row ? (world.products([row])[0] ?? null) : null;
    },
    menu: (slug) => world.menu(slug),
    address: world.address,
    players: theme.about.players,
    served: (piece) => theme.template(piece)?.takes.some((take) => take.served) ?? false,
    articles: (limit) => world.articles(0, limit),
    products: ({ category, tag, type, sort, limit, search }) => {
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
      const usual = search === undefined ? 'chosen' : 'match';
      const order = sort === 'name' || sort === 'price' || sort === 'price-down' || sort === 'newest' ? sort : usual;
      const found = search === undefined ? null : world.source.search(search, 200);
      const count = Math.min(limit ?? 48, 200);
      const query = { filter, found, sort: order, names: world.names(), offset: 0, limit: count } as const;
      const { rows } = world.source.index(null).list(query);
      return world.productsById(rows.map(({ productId }) => productId));
    },
  };
}

interface Found {
  subject: Subject;
  name: string;
  data: RecordValue;
  /** Path and query of the page's one address; null: search engines are not to come. */
  canonical: string | null;
}

/** The subject of an address with the values that its template sees; null where there is no such page. */
function findData(world: World, request: PageRequest, look: RecordValue, setting: Setting): Found | null {
  const subject = readPath(request.path);
  if (!subject) return null;
  const { kind, slug } = subject;
  const { source } = world;
  const path = pathOf(subject);
  const paged = request.query.page && request.query.page !== '1' ? `${path}?page=${request.query.page}` : path;
  const listing = (of: 'category' | 'tag' | 'brand' | 'search' | 'all', title: string, filter: ProductFilter) =>
    makeListing(world, {
      kind: of,
      title,
      filter,
      path,
      query: request.query,
      settings: (one) => listingSettings(look, one),
    });
  const found = (name: string, data: Parameters<typeof record>[0], canonical: string | null = path): Found => ({
    subject,
    name,
    data: record(data),
    canonical,
  });
  switch (kind) {
    case 'home':
      return found(source.shop().name, {});
    case 'product': {
      const row = source.productBySlug(slug);
      const [product] = row ? world.products([row], request.query.variant ?? null) : [];
      if (!row || !product) return null;
      const category = product.category as CategoryObject | null;
      for (const above of category?.path ?? []) world.above.add(`/category/${String(above.slug)}`);
      return found(row.name, { product });
    }
    case 'category': {
      const category = world.categoryBySlug(slug);
      const row = world.categoryRows().find((one) => one.slug === slug);
      const made = category && row ? listing('category', row.name, { categoryId: row.id }) : null;
      if (!made || !row || !category) return null;
      for (const above of category.path) world.above.add(`/category/${String(above.slug)}`);
      return found(row.name, { category, listing: made }, paged);
    }
    case 'content': {
      const content = world.content(slug);
      return content && found(String(content.title), { content });
    }
    case 'article': {
      const article = world.article(slug);
      world.above.add('/article');
      return article && found(String(article.title), { article });
    }
    case 'articles': {
      const made = makeArticles(world, request.query, listingSettings(look, 'articles'));
      return made && found(phraseOf(setting, 'articles.title'), { listing: made }, paged);
    }
    case 'cart':
      return found(phraseOf(setting, 'cart.title'), { cart: makeCart(world, request.cart ?? { lines: [] }) }, null);
    case 'listing': {
      const made = listingOf(world, slug, setting, listing);
      const searched = slug === 'search' || (made !== null && isChosen(readChosen(world, request.query)));
      return made && found(String(made.title), { listing: made }, searched ? (slug === 'search' ? null : path) : paged);
    }
  }
}

function phraseOf(setting: Setting, key: string): string {
  const found = setting.phrase(key);
  return typeof found === 'string' ? found : key;
}

function listingOf(
  world: World,
  slug: string,
  setting: Setting,
  listing: (kind: 'tag' | 'brand' | 'search' | 'all', title: string, filter: ProductFilter) => RecordValue | null,
): RecordValue | null {
  if (slug === 'all') return listing('all', phraseOf(setting, 'listing.all'), {});
  if (slug === 'search') return listing('search', phraseOf(setting, 'listing.search'), {});
  const [kind, name = ''] = slug.split('/');
  if (kind === 'tag') {
    const tag = world.source.tagBySlug(name);
    return tag && listing('tag', capital(tag.name), { tagId: tag.id });
  }
  const brand = world.source.brands().find((one) => one.slug === name);
  return brand ? listing('brand', brand.name, { brandId: brand.id }) : null;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
