import { pathOf, readPath, type Subject } from '@/core/address';
import {
  type CategoryObject,
  makeCart,
  type ListingKind,
  type ProductFilter,
  type RuleSubject,
  subjectOf,
  type World,
} from '@/core/catalogue';
import { record, type RecordValue, type SiteServices, type Value } from '@/core/language';
import { listingSettings } from '@/core/theme';
import { makeArticles } from './articles';
import { isChosen, readChosen } from './choices';
import { makeListing } from './listing';
import type { PageRequest } from './request';

type Phrase = SiteServices['phrase'];

interface Shown {
  world: World;
  request: PageRequest;
  look: RecordValue;
  phrase: Phrase;
}

/** What an address asks for, with the values that its template sees. */
export interface Found {
  subject: Subject;
  name: string;
  data: RecordValue;
  /** Path and query of the page's one address; null: search engines are not to come. */
  canonical: string | null;
}

/** The subject of an address with the values that its template sees; null where there is no such page. */
export function findData({ world, request, look, phrase }: Shown): Found | null {
  const subject = readPath(request.path);
  if (!subject) return null;
  const { kind, slug } = subject;
  const { source } = world;
  const path = pathOf(subject);
  const paged = request.query.page && request.query.page !== '1' ? `${path}?page=${request.query.page}` : path;
  const listing = (of: ListingKind, title: string, filter: ProductFilter) =>
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
      const own = category && row ? listing('category', row.name, { categoryId: row.id }) : null;
      if (!own || !row || !category) return null;
      for (const above of category.path) world.above.add(`/category/${String(above.slug)}`);
      return found(row.name, { category, listing: own }, paged);
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
      const all = makeArticles(world, request.query, listingSettings(look, 'articles'));
      return all && found(phraseOf(phrase, 'articles.title'), { listing: all }, paged);
    }
    case 'cart':
      return found(phraseOf(phrase, 'cart.title'), { cart: makeCart(world, request.cart ?? { lines: [] }) }, null);
    case 'listing': {
      const listed = listingOf(world, slug, phrase, listing);
      const searched = slug === 'search' || (listed !== null && isChosen(readChosen(world, request.query)));
      return (
        listed && found(String(listed.title), { listing: listed }, searched ? (slug === 'search' ? null : path) : paged)
      );
    }
  }
}

function phraseOf(phrase: Phrase, key: string): string {
  const found = phrase(key);
  return typeof found === 'string' ? found : key;
}

function listingOf(
  world: World,
  slug: string,
  phrase: Phrase,
  listing: (kind: ListingKind, title: string, filter: ProductFilter) => RecordValue | null,
): RecordValue | null {
  if (slug === 'all') return listing('all', phraseOf(phrase, 'listing.all'), {});
  if (slug === 'search') return listing('search', phraseOf(phrase, 'listing.search'), {});
  if (slug === 'offer') return listing('offer', phraseOf(phrase, 'listing.offer'), { offer: true });
  const [kind, name = ''] = slug.split('/');
  if (kind === 'tag') {
    const tag = world.source.tagBySlug(name);
    return tag && listing('tag', capital(tag.name), { tagId: tag.id });
  }
  const brand = world.source.brands().find((one) => one.slug === name);
  return brand ? listing('brand', brand.name, { brandId: brand.id }) : null;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** What rules ask about the subject of a page. */
export const factsOf = (found: Pick<Found, 'data'>): RuleSubject['facts'] => seenOf(found)?.facts ?? (() => null);

/** How rules see the subject of a page; null where it has none. */
export function seenOf({ data }: Pick<Found, 'data'>): RuleSubject | null {
  const { product, category, content, article, listing } = data as Record<string, Value>;
  return subjectOf(product ?? category ?? content ?? article ?? listing);
}
