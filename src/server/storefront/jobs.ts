import { type PageAsk, type MadePage, type Shop, shopJobs } from '@/server/shop';
import type { Question } from '@/core/language';
import type { StateRow } from '@/store';
import { spriteOf } from './icons';
import { madeFrom, stillHolds } from './made-from';
import { fragmentOf, pageOf, pictureOf, samplePictureOf, shownHash } from './page';
import { isBlank } from './rehearse';
import { etagOf } from '@/server/http';

/** A page as the server sends it. */
export interface SentPage {
  status: 200 | 404;
  html: string;
  questions: Question[];
  /** Whether the clock ended a part of it: such a page is not kept. */
  timedOut: boolean;
}

/** A page's bytes, with their ETag. */
export interface ReadyPage extends MadePage {
  status: 200 | 404;
  timedOut: boolean;
  /** Nothing of it is left to be shown. */
  blank: boolean;
  /** What it was made from; null: that is not known. */
  from: string | null;
}

function page(shop: Shop, state: StateRow, ask: PageAsk): SentPage {
  const { status, html, questions, timedOut } = pageOf(shop, state, ask);
  return { status, html, questions, timedOut };
}

/** The same ready to send; with a `view`, for the Bench's frame of that number. */
function sent(shop: Shop, state: StateRow, ask: PageAsk, view: string | null): ReadyPage {
  const { status, html, timedOut } = page(shop, state, ask);
  const whole = view === null ? html : withBenchScript(html, view, shownHash(html));
  const bytes = bytesOf(whole);
  return { status, bytes, etag: etagOf(bytes), timedOut, blank: isBlank(html), from: null };
}

/**
 * A page that is to be kept, with what it was made from. Null: it was made from `before`, all of which is as it was, so the page that is kept is as it
 * would be made now.
 */
function kept(shop: Shop, state: StateRow, ask: PageAsk, before: string | null): ReadyPage | null {
  // All of it reads the same state of the goods, whatever is written meanwhile.
  return shop.sql.snapshot(() => {
    if (before !== null && stillHolds(shop, state, before)) return null;
    const reads = { theme: new Set<string>(), goods: new Set<string>() };
    const ready = sent(shop, state, { ...ask, reads: reads.theme, goods: reads.goods }, null);
    return { ...ready, from: madeFrom(shop, state, reads) };
  });
}

/** A piece by its own address, with what it was made from. */
interface KeptPiece {
  html: string;
  from: string | null;
}

/** The same of a piece by its own address: null where it is as it was made `before`, or is not served, or could not be made whole. */
function keptPiece(shop: Shop, state: StateRow, ask: PageAsk, before: string | null): KeptPiece | null {
  return shop.sql.snapshot(() => {
    if (before !== null && stillHolds(shop, state, before)) return null;
    const reads = { theme: new Set<string>(), goods: new Set<string>() };
    const made = fragmentOf(shop, state, { ...ask, reads: reads.theme, goods: reads.goods });
    return made && !made.timedOut ? { html: made.html, from: madeFrom(shop, state, reads) } : null;
  });
}

/** A text as UTF-8 in memory of its own, which may go to another thread without being copied. */
function bytesOf(text: string): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(Buffer.byteLength(text));
  Buffer.from(bytes.buffer).write(text);
  return bytes;
}

/** Puts the script that talks with the Bench at the top of a page's head. */
function withBenchScript(html: string, view: string, shown: string): string {
  const benchScript = `<script src="/bench-frame.js" data-view="${view}" data-shown="${shown}"></script>`;
  const at = html.search(/<head[\s>]/i);
  const end = at < 0 ? 0 : html.indexOf('>', at) + 1;
  return html.slice(0, end) + benchScript + html.slice(end);
}

/** What threads do for the storefront: pages, pieces on their own, pictures drawn by templates, icons. */
export const storefrontJobs = shopJobs('storefront', {
  page,
  sent,
  kept,
  keptPiece,
  fragment: (shop: Shop, state: StateRow, ask: PageAsk): string | null => fragmentOf(shop, state, ask)?.html ?? null,
  picture: pictureOf,
  sample: samplePictureOf,
  sprite: (shop: Shop, state: StateRow) => spriteOf(shop.theme(state).theme),
});
