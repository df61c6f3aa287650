import { templateOf } from '@/core/alternates';
import type { Problem } from '@/core/language';
import { makeErrorPage, type Page } from '@/core/storefront';
import { pathOf, subjectKinds, type Subject } from '@/core/address';
import { longestTags, sampleOf, isStoredKind, type StateRow } from '@/store';
import { pageOf, requestOf } from './page';
import type { Shop } from '@/server/shop';

/** Pages of each kind that are made for each of its templates, besides its awkward ones. */
const sampleSize = 6;
/** A rehearsal ends after so many pages that cannot be made: the first says enough. */
const maxFaults = 5;

/** What ends a page, or a part of it, while it is made. */
const ended: ReadonlySet<string> = new Set(['budget', 'fault', 'depth']);

/** A page that could not be made whole. */
export interface PageFault extends Problem {
  /** Path of the page. */
  page: string;
}

/**
 * Makes pages of a state as visitors would get them, before it goes live: for each template of each kind of page its awkward
 * subjects (the longest name, the most variants, none of this or that) and a sample. Gives what ended a page or a part of it.
 */
export function rehearse(shop: Shop, state: StateRow): PageFault[] {
  const faults: PageFault[] = [];
  const { alternates } = shop.theme(state).alternates;
  for (const kind of kinds) {
    const tries = [
      null,
      ...alternates.filter((one) => one.kind === kind && one.piece === undefined).map(({ name }) => name),
    ];
    for (const slug of subjectsOf(shop, kind))
      for (const tried of tries) {
        const path = kind === 'not-found' ? '/rehearsed/none' : pathOf({ kind, slug });
        const page = rehearsed(shop, state, path, tried);
        faults.push(...faultsOf(shop, state, path, page));
        if (faults.length >= maxFaults) return faults;
      }
  }
  // An alternate of a piece is made where the piece is drawn.
  for (const one of alternates.filter(({ piece }) => piece !== undefined))
    for (const path of [
      '/',
      '/listing/all',
      ...subjectsOf(shop, 'product')
        .slice(0, 2)
        .map((slug) => `/product/${slug}`),
    ]) {
      const page = rehearsed(shop, state, path, templateOf(one, one.name));
      faults.push(...faultsOf(shop, state, path, page));
      if (faults.length >= maxFaults) return faults;
    }
  return faults;
}

/** A page as it would be. */
const rehearsed = (shop: Shop, state: StateRow, path: string, tried: string | null): Page =>
  pageOf(shop, state, { path, query: {}, tried, whole: true });

function faultsOf(shop: Shop, state: StateRow, path: string, page: Page): PageFault[] {
  const found = page.problems.filter(({ code }) => ended.has(code));
  if (found.length) return found.slice(0, 1).map((one) => ({ ...one, severity: 'error', page: path }));
  if (!isBlank(page.html)) return [];
  const file = `${page.choice.template}.html`;
  const layer = shop.theme(state).theme.file(file)?.layer.name ?? '';
  const at = { file, layer, from: 0, to: 0, line: 1, column: 1, length: 0 };
  return [{ ...at, code: 'fault', severity: 'error', message: 'The page comes out empty', page: path }];
}

/** Whether nothing of a page is left to be shown. */
export const isBlank = (html: string): boolean => !/\S/.test(html);

const kinds = [...subjectKinds, 'not-found'] as const;

/** Slugs of awkward subjects of a kind, and of a sample spread over all of them. */
function subjectsOf(shop: Shop, kind: Subject['kind'] | 'not-found'): string[] {
  if (kind === 'listing') return ['all', 'offer', 'search', ...longestTags(shop.sql, 2).map((slug) => `tag/${slug}`)];
  return isStoredKind(kind) ? sampleOf(shop.sql, kind, sampleSize) : [''];
}

/** The page for when nothing else can be made, in each of the shop's languages; none where the theme has no such template. */
export function errorPagesOf(shop: Shop, state: StateRow): Record<string, string> {
  return Object.fromEntries(
    shop
      .catalogue()
      .shop()
      .locales.flatMap((locale, at) => {
        const errorPage = makeErrorPage(requestOf(shop, state, { path: at ? `/${locale}/` : '/', query: {} }));
        return errorPage && !isBlank(errorPage.html) ? [[locale, errorPage.html]] : [];
      }),
  );
}
