import { pathOf, type Subject } from '@/core/address';
import { allProducts, type CatalogueSource } from '@/core/catalogue';
import { record, type RecordValue, type TemplateLookup, type Trace } from '@/core/language';
import { placementsOn } from '@/core/theme';
import { factsOf, findData, type Found } from './find';
import type { PageRequest } from './request';
import { Setting } from './setting';

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
    const page = setting.shelvesPage(template, found);
    return setting.render(template, data, (shelf) => placementsOn(theme.shelves, shelf, page)).trace as Trace;
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
    const found = findData(setting);
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
