import { moneyOf } from '../values/arithmetic';
import { wellFormed } from '../values/escape';
import { Day, isRecord, record, type RecordValue, type Value } from '../values/values';
import type { FilterContext } from './filter';
import type { ProductQuery } from './services';

export interface FunctionContext extends FilterContext {
  missingPhrase(key: string): void;
  /** The shop's currency (ISO 4217). */
  currency: string;
}

/** Asking the shop may take a query: dear, compared with a step. */
const question = 50;

export interface LanguageFunction {
  signature: string;
  says: string;
  run(context: FunctionContext, args: Value[], named: Record<string, Value>): Value;
}

const text = (value: Value): string | null => (typeof value === 'string' ? value : null);

const slugOf = (value: Value): string | null =>
  typeof value === 'string' ? value : isRecord(value) ? text((value as RecordValue).slug as Value) : null;

/** A phrase with its values put in; the plural form by `count`. Values stay text: the phrase is escaped where it is printed. */
function phrase(context: FunctionContext, key: string, named: Record<string, Value>): string {
  let found = context.services.phrase(key);
  if (found !== null && typeof found === 'object') {
    const count = named.count;
    const form = typeof count === 'number' ? context.format.plural(count) : 'other';
    found = found[form] ?? found.other ?? null;
  }
  if (found === null) {
    context.missingPhrase(key);
    return key;
  }
  if (!found.includes('{')) {
    context.charge(found.length);
    return found;
  }
  const filled = found.replace(/\{([A-Za-z_]\w*)\}/g, (whole, name: string) =>
    Object.hasOwn(named, name) ? charged(context, context.print(named[name])) : whole,
  );
  context.charge(filled.length);
  return filled;
}

/** A text that is about to become part of another. */
function charged(context: FilterContext, text: string): string {
  context.charge(text.length);
  return text;
}

const encoded = (context: FilterContext, text: string): string =>
  encodeURIComponent(wellFormed(charged(context, text)));

function ask(context: FilterContext, slug: Value, find: ((slug: string) => Value) | undefined): Value {
  if (typeof slug !== 'string') return null;
  context.work(question);
  return find?.(slug) ?? null;
}

export const functionTable: ReadonlyMap<string, LanguageFunction> = new Map(
  Object.entries({
    t: {
      signature: 't(key, name: value…)',
      says: 'a phrase from the words file; plural by count',
      run: (context, [key], named) => (typeof key === 'string' ? phrase(context, key, named) : null),
    },
    asset: {
      signature: 'asset(path)',
      says: 'the address of a file below assets/',
      run: ({ services }, [path]) => (typeof path === 'string' ? (services.asset?.(path) ?? null) : null),
    },
    icon: {
      signature: 'icon(name)',
      says: 'an icon of the theme, drawn in the text’s colour',
      run: ({ services }, [name]) => (typeof name === 'string' ? (services.icon?.(name) ?? null) : null),
    },
    content: {
      signature: 'content(slug)',
      says: 'a content page',
      run: (context, [slug]) => ask(context, slug, context.services.content),
    },
    menu: {
      signature: 'menu(slug)',
      says: 'the items of a menu',
      run: (context, [slug]) => ask(context, slug, context.services.menu),
    },
    products: {
      signature: 'products(category:, tag:, type:, sort:, limit:, search:)',
      says: 'products of the catalogue; sort is name, price, price-down or newest; with search, the best match first',
      run: (context, _, named) => {
        context.work(question);
        const { services } = context;
        const query: ProductQuery = {};
        const category = slugOf(named.category);
        const tag = slugOf(named.tag);
        // A filter that was meant but is empty holds for nothing: it must not fall back to the whole catalogue.
        if ('category' in named && category === null) return [];
        if ('tag' in named && tag === null) return [];
        if (category) query.category = category;
        if (tag) query.tag = tag;
        if (typeof named.type === 'string') query.type = named.type;
        if (typeof named.sort === 'string') query.sort = named.sort;
        if (typeof named.limit === 'number') query.limit = Math.max(0, Math.trunc(named.limit));
        if (typeof named.search === 'string') query.search = named.search;
        else if ('search' in named) return [];
        return services.products?.(query) ?? [];
      },
    },
    categories: {
      signature: 'categories()',
      says: 'the categories that a visitor begins with: the topmost, or those below it where one stands above all others',
      run: (context) => {
        context.work(question);
        return context.services.categories?.() ?? [];
      },
    },
    articles: {
      signature: 'articles(limit:)',
      says: 'articles, the newest first; 12 when no limit is given',
      run: (context, _, { limit }) => {
        context.work(question);
        const count = typeof limit === 'number' ? Math.max(0, Math.min(100, Math.trunc(limit))) : 12;
        return context.services.articles?.(count) ?? [];
      },
    },
    record: {
      signature: 'record(a: 1)',
      says: 'a record with these fields',
      run: (_, __, named) => record(named),
    },
    range: {
      signature: 'range(1, 5)',
      says: 'whole numbers from the first to the last, both included; at most 10,000',
      run: (context, [from, to]) => {
        if (typeof from !== 'number' || typeof to !== 'number') return [];
        const length = Math.min(10_000, Math.max(0, Math.trunc(to) - Math.trunc(from) + 1));
        context.charge(length);
        return Array.from({ length }, (_, at) => Math.trunc(from) + at);
      },
    },
    day: {
      signature: "day('2026-03-01')",
      says: 'the day that the text writes; none when it writes none',
      run: (_, [written]) => (typeof written === 'string' ? Day.read(written) : null),
    },
    listing_url: {
      signature: 'listing_url(tag: | brand: | search: | category: | offer: true)',
      says: 'the address of a listing; without arguments, of all products',
      run: (context, _, named) => {
        const { services } = context;
        const address = services.address ?? ((path: string) => path);
        const tag = slugOf(named.tag);
        const brand = slugOf(named.brand);
        const category = slugOf(named.category);
        if (tag) return address(`/listing/tag/${encoded(context, tag)}`);
        if (brand) return address(`/listing/brand/${encoded(context, brand)}`);
        if (category) return address(`/category/${encoded(context, category)}`);
        if ('search' in named) return address(`/listing/search?q=${encoded(context, text(named.search) ?? '')}`);
        if (named.offer === true) return address('/listing/offer');
        return Object.keys(named).length ? null : address('/listing/all');
      },
    },
    fragment: {
      signature: "fragment('pieces/suggestions', q: x)",
      says: 'the address of a piece that takes an input with “served”, for scripts to fetch; its inputs in the query',
      run: (context, [piece], named) => {
        const { services } = context;
        if (typeof piece !== 'string' || !services.served?.(piece)) return null;
        const query = new URLSearchParams();
        for (const [name, value] of Object.entries(named)) {
          const given = charged(context, slugOf(value) ?? context.print(value));
          if (given !== '') query.append(name, given);
        }
        const path = `/fragment/${piece.split('/').map(encodeURIComponent).join('/')}`;
        const text = query.toString();
        return (services.address ?? ((to: string) => to))(path) + (text ? `?${text}` : '');
      },
    },
    money: {
      signature: 'money(50)',
      says: 'this much in the shop’s currency, half away from zero to its smallest unit',
      run: ({ currency }, [amount]) => (typeof amount === 'number' ? moneyOf(amount, currency) : null),
    },
    filled: {
      signature: "filled('aside')",
      says: 'whether this gap of the template was filled',
      // The compiler answers it: only compiled code knows the fills.
      run: () => null,
    },
  } satisfies Record<string, LanguageFunction>),
);
