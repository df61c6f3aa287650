import { localePrefix, pathOf } from '@/core/address';
import { type Alternates, chooser, type Chooser, holds, pieceChooser } from '@/core/alternates';
import { type Definitions, type ShopRow, World } from '@/core/catalogue';
import {
  compileTemplate,
  Day,
  type Placement,
  record,
  type RecordValue,
  type Rendered,
  renderPage,
  type TemplateLookup,
} from '@/core/language';
import { readingOf, type ShelvesPage, type Theme } from '@/core/theme';
import { factsOf, type Found } from './find';
import { viewOf } from './listing';
import type { PageRequest } from './request';
import { services } from './services';

/** All that a page is made in: the shop, its catalogue as templates see it, the look, and what templates may ask. */
export class Setting {
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
    this.theme = request.reads ? readingOf(theme, request.reads) : theme;
    // Who gets which template is chosen by all assignments of the theme.
    request.reads?.add('assignments');
    this.world = new World(source, (to) => (to === '/' ? `${base}/` : base + to), path);
    this.look = this.theme.look;
  }

  get locale(): string {
    return this.request.source.language;
  }

  /** Which template a subject gets, of the page and of pieces on it. */
  get chooser(): Chooser {
    const { alternates, source, today } = this.request;
    return (this.#chooser ??= chooserFor(alternates, this.request.theme, today, (kind) =>
      source.fieldDefinitions(kind),
    ));
  }

  /** A phrase in the language of the page, else in the shop's first, else as the theme wrote it. */
  readonly phrase = (key: string): string | Record<string, string> | null => {
    const { theme, locale } = this;
    const own = theme.phraseIn(locale, key);
    if (own !== null) return own;
    const other = theme.phraseIn(this.request.source.shop().locale, key) ?? theme.firstPhrase(key);
    if (other !== null) this.#phrases.add(key);
    return other;
  };

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

  /** The page as its shelves are looked at; `found` is what it is about, null where there is nothing. */
  shelvesPage(template: string, found: Pick<Found, 'subject' | 'data'> | null): ShelvesPage {
    const { today, source } = this.request;
    const { kind = null } = found?.subject ?? {};
    return {
      template,
      subject: found ? pathOf(found.subject).slice(1) : '',
      kind,
      today,
      locales: [this.locale, source.shop().locale],
      holds: (when) =>
        found !== null &&
        kind !== null &&
        holds({ kind, when }, factsOf(found), today, (of) => source.fieldDefinitions(of)),
    };
  }

  render(template: string, data: RecordValue, placements: (shelf: string) => Placement[], placed?: string): Rendered {
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
        ...(request.rich ? { rich: request.rich } : {}),
        ...(request.sized ? { sized: request.sized } : {}),
        origin,
        ...(alternate ? { alternate } : {}),
      },
      ...(placed === undefined ? {} : { placed }),
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
  const compiled = compileTemplate(template, true, probe.at);
  return {
    compiled: (name, traced) => (name === probe.name ? compiled : theme.compiled(name, traced)),
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
