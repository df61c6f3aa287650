import type { World } from '@/core/catalogue';
import { record, type RecordValue } from '@/core/language';
import type { ListingSettings } from '@/core/theme';
import { addresses, pageNumber, pagerItems } from './listing';

/** One page of the articles, the newest first; null for a page that there is not. */
export function makeArticles(
  world: World,
  query: Record<string, string>,
  { page_size: size, columns }: ListingSettings,
): RecordValue | null {
  const page = pageNumber(query);
  const count = world.source.articles().length;
  const pages = Math.max(1, Math.ceil(count / size));
  if (page === null || page > pages) return null;
  const url = world.address('/article');
  return record({
    articles: world.articles((page - 1) * size, size),
    url,
    count,
    page,
    pages,
    page_size: size,
    columns,
    pager: pagerItems(page, pages, addresses(url, query)),
  });
}
