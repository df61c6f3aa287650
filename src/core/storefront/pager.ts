export interface PagerItem {
  kind: 'page' | 'gap' | 'previous' | 'next';
  /** The page's number; null for a gap. */
  page: number | null;
  current: boolean;
}

/**
 * The links of a pager: previous and next where there are such pages; the first page, the last, this one and its
 * neighbours; a gap for what is left out, unless that is a single page. Nothing when there is one page only.
 */
export function pager(page: number, pages: number): PagerItem[] {
  if (pages <= 1) return [];
  const wanted = [1, page - 1, page, page + 1, pages].filter((n) => n >= 1 && n <= pages);
  const shown = [...new Set(wanted)].sort((a, b) => a - b);
  const items: PagerItem[] = [];
  let before = 0;
  for (const n of shown) {
    if (n - before === 2) items.push({ kind: 'page', page: n - 1, current: false });
    else if (n - before > 2) items.push({ kind: 'gap', page: null, current: false });
    items.push({ kind: 'page', page: n, current: n === page });
    before = n;
  }
  if (page > 1) items.unshift({ kind: 'previous', page: page - 1, current: false });
  if (page < pages) items.push({ kind: 'next', page: page + 1, current: false });
  return items;
}
