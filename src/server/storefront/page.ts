import { LRUCache } from 'lru-cache';
import { parseFragment, serialize } from 'parse5';
import { makeFragment, makePage, makePiece, makeSample, type Page, type PageRequest } from '@/core/storefront';
import { readLocale } from '@/core/address';
import { readingOf } from '@/core/catalogue';
import type { Rendered } from '@/core/language';
import { pieceLabel } from '@/core/theme';
import { asCustomersSee, type StateRow, type StoredCatalogue } from '@/store';
import { cleanRichText } from '@/server/catalogue';
import { etagOf } from '@/server/http';
import type { PageAsk, Shop } from '@/server/shop';
import { workClock } from './work-clock';

/**
 * The longest time that a page may take, in milliseconds of its thread's work, and the same for one with marks; far more than any
 * page needs. What is left of a page that goes past gets as much again at the most: so a live page ends within a second, and on a
 * machine that does other work within four.
 */
const renderTimeoutMs = 400;
export const tracedTimeoutMs = 700;

/** Templates, each of a state, of which the clock ended a page in this thread. */
const slowOnce = new LRUCache<string, true>({ max: 500 });

/**
 * A page of a state, rendered now: whatever was saved before the request is in it. The first of a template that the clock ends is
 * made a second time, since much of what it took is done once: what then is left out is left out for its own sake.
 */
export function pageOf(shop: Shop, state: StateRow, ask: PageAsk): Page {
  const page = makePage(requestOf(shop, state, ask));
  if (!page.timedOut) return page;
  const key = `${state.id} ${page.choice.template}`;
  if (slowOnce.has(key)) return page;
  slowOnce.set(key, true);
  return makePage(requestOf(shop, state, ask));
}

/** A piece of a state by its own address; null for one that is not served. */
export function fragmentOf(shop: Shop, state: StateRow, ask: PageAsk): Rendered | null {
  return makeFragment(requestOf(shop, state, ask));
}

/** Heads of pages, that pictures of pieces wear: by the state and the catalogue that they were made from. */
const heads = new LRUCache<string, string>({ max: 8 });

/** A theme's `<head>`, with its style sheets. */
function headOf(shop: Shop, state: StateRow): string {
  const key = `${prefixOf(state)} ${state.id} ${state.revision} ${shop.catalogue().revision}`;
  let head = heads.get(key);
  if (head === undefined) {
    head = /<head[\s>][\s\S]*?<\/head>/i.exec(pageOf(shop, state, { path: '/', query: {} }).html)?.[0] ?? '';
    heads.set(key, head);
  }
  return head;
}

/** A piece as a page of its own that wears the theme's style; `room` is the CSS of the box around it. */
const pictureWith = (shop: Shop, state: StateRow, piece: Rendered | null, room: string): string | null =>
  piece &&
  `<!doctype html><html>${headOf(shop, state)}<body><div style="${room}; padding: 16px">${piece.html}</div></body></html>`;

/** A piece's template with the subject of an address, for a small picture of it; null where it takes no such subject. */
export function pictureOf(shop: Shop, state: StateRow, template: string, of: string): string | null {
  if (!URL.canParse(of, 'http://shop.invalid')) return null;
  const { pathname } = new URL(of, 'http://shop.invalid');
  return pictureWith(
    shop,
    state,
    makePiece(requestOf(shop, state, { path: pathname, query: {} }), template),
    'width: 320px',
  );
}

/** A piece with sample inputs, for a small picture of it; its name where nothing comes of them; null where there is no such piece. */
export function samplePictureOf(shop: Shop, state: StateRow, name: string): string | null {
  const request = requestOf(shop, state, { path: '/', query: {} });
  const template = name.startsWith('pieces/') ? request.theme.template(name) : null;
  if (!template) return null;
  const sample = makeSample(request, name);
  if (sample)
    return pictureWith(shop, state, sample, 'width: 560px; min-height: 264px; display: grid; align-content: center');
  const label = pieceLabel(name, template).replace(/[&<>]/g, (sign) => `&#${sign.charCodeAt(0)};`);
  return `<!doctype html><html lang="en"><title>${label}</title><body><p style="margin: 100px 0; font: 600 54px system-ui, sans-serif; color: #6a6054; text-align: center">${label}</p></body></html>`;
}

/** Rich texts of placements as they were cleaned: few, and on many pages. Bounded by characters. */
const cleaned = new LRUCache<string, string>({
  maxSize: 4_000_000,
  sizeCalculation: (text, key) => text.length + key.length + 1,
});

/** Rich text with nothing in it that runs, nested as a browser nests it. */
function rich(markup: string): string {
  let clean = cleaned.get(markup);
  if (clean === undefined) cleaned.set(markup, (clean = serialize(parseFragment(cleanRichText(markup)))));
  return clean;
}

/** What is asked of a state, with all that answers it. */
export function requestOf(shop: Shop, state: StateRow, ask: PageAsk): PageRequest {
  const { unsaved = [], made, on, whole = false, goods, ...rest } = ask;
  const catalogue = shop.catalogue();
  const { theme, alternates } = made ?? shop.themeWith(state, unsaved, catalogue);
  const { locale, path } = readLocale(ask.path, catalogue.shop().locales);
  const source = (whole ? catalogue : seenBy(state, catalogue)).in(locale);
  return {
    theme,
    alternates,
    source: goods ? readingOf(source, goods) : source,
    sized: (address) => shop.signer.sign(address),
    rich,
    prefix: prefixOf(state),
    today: on ?? today(),
    time: { most: ask.traced ? tracedTimeoutMs : renderTimeoutMs, now: workClock() },
    ...rest,
    path,
  };
}

/** The catalogue as a state shows it: releases without what is kept out of live. */
export const seenBy = (state: StateRow, catalogue: StoredCatalogue): StoredCatalogue =>
  state.kind === 'release' ? asCustomersSee(catalogue) : catalogue;

const dayMs = 86_400_000;
let day = { number: -1, iso: '' };

/** Today in UTC, as ISO 8601. Every request asks for it: written once a day. */
export function today(): string {
  const number = Math.floor(Date.now() / dayMs);
  if (number !== day.number) day = { number, iso: new Date(number * dayMs).toISOString().slice(0, 10) };
  return day.iso;
}

/** Environment variable, set at start: drafts have no host names, and stand below one address instead. */
export const togetherVariable = 'LAST_DRAFTS_TOGETHER';

/** Read once: a process's environment is slow to ask. */
let together: boolean | null = null;

/** What stands before every path of a state: nothing, where each has a host name. */
export function prefixOf(state: StateRow): string {
  together ??= process.env[togetherVariable] === '1';
  if (!together) return '';
  return state.kind === 'draft' ? `/draft/${state.slug ?? ''}` : (state.address ?? '');
}

/** Names a page as it was made: two with the same name are the same, byte for byte. */
export const shownHash = (html: string): string => etagOf(html).slice(1, -1);
