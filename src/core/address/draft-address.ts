/**
 * What a draft's page can be shown with: an alternate that is tried, a day that it is seen on, no scripts of the theme (`bare`), or as a picture in which nothing runs (`still`). `framed`: it is in the
 * Bench's frame, where the browser does not say so itself: to addresses without HTTPS that are not this machine's own it does not (W3C, Fetch Metadata, 4).
 */
export interface DraftView {
  try?: string | null;
  on?: string | null;
  bare?: boolean;
  still?: boolean;
  framed?: boolean;
}

const views = ['try', 'on', 'bare', 'still', 'framed'] as const;

/** Address of a page (path and query in the shop) below the base of a draft's addresses. */
export function draftAddress(
  base: string,
  page: string,
  { try: tried, on, bare, still, framed }: DraftView = {},
): string {
  const query = new URLSearchParams({
    ...(tried ? { try: tried } : {}),
    ...(on ? { on } : {}),
    ...(bare ? { bare: '' } : {}),
    ...(still ? { still: '' } : {}),
    ...(framed ? { framed: '' } : {}),
  }).toString();
  const address = base + page;
  return query ? `${address}${page.includes('?') ? '&' : '?'}${query}` : address;
}

/** The page that a path and query of a draft's origin show: path and query in the shop. Null: it is none of this draft's. */
export function pageOfDraft(base: string, address: string): string | null {
  const prefix = new URL(base).pathname.replace(/\/$/, '');
  if (!address.startsWith(`${prefix}/`)) return null;
  const { pathname, searchParams } = new URL(`http://shop.invalid${address.slice(prefix.length)}`);
  for (const one of views) searchParams.delete(one);
  const query = searchParams.toString();
  return query ? `${pathname}?${query}` : pathname;
}
