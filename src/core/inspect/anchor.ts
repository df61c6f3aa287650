import search from 'approx-string-match';

/**
 * Where something stands in a text, kept so that it is found again once the text was changed: its position, what stands there, and what stands around
 * it, as the text position and text quote selectors of the W3C's Web Annotation Data Model have it. Offsets in UTF-16 units.
 */
export interface Anchor {
  start: number;
  /** What stands there; of something long its beginning. */
  exact: string;
  prefix: string;
  suffix: string;
}

/** A text that something may stand in. `own`: the file that it stood in. */
export interface AnchorText {
  text: string;
  own: boolean;
}

/** Where something was found: in which of the texts, and whether it stands there as it was. */
export interface Found {
  at: number;
  from: number;
  to: number;
  same: boolean;
}

/** How much is kept of what stands there, and of what stands around it, in UTF-16 units. */
const longest = 300;
const around = 120;
/** Of so short a text, as much around it has to be the same: one like it may stand anywhere. */
const short = 30;
/** So much around it has to be the same where what stood there is gone, on each side, and it may have become so long. */
const edge = 24;
/** What is much like it, and has so much as it was on either side, is taken for it. */
const little = 8;
const grown = 2000;

export function anchorOf(text: string, from: number, to: number): Anchor {
  const exact = text.slice(from, Math.min(to, from + longest));
  const end = from + exact.length;
  return {
    start: from,
    exact,
    prefix: text.slice(Math.max(0, from - around), from),
    suffix: text.slice(end, end + around),
  };
}

/**
 * Finds what an anchor meant in texts as they are now: first where it stood, in the order of its own texts, as it was or changed; then as it was,
 * elsewhere (it was moved, or its file renamed). null: it is gone.
 */
export function findAnchor(anchor: Anchor, texts: readonly AnchorText[]): Found | null {
  for (const [at, { own, text }] of texts.entries()) {
    if (!own) continue;
    const same = exactly(anchor, text);
    const found = same ?? nearly(anchor, text);
    if (found) return { at, from: found.from, to: found.to, same: same !== null };
  }
  if (anchor.exact.length < edge) return null;
  let best: (Hit & { at: number }) | null = null;
  for (const [at, { own, text }] of texts.entries()) {
    const hit = own ? null : exactly(anchor, text);
    if (hit && (!best || hit.like > best.like)) best = { ...hit, at };
  }
  return best && { at: best.at, from: best.from, to: best.to, same: true };
}

interface Hit {
  from: number;
  to: number;
  /** How many units around it are as they were. */
  like: number;
}

/** The likeliest of the places where the same stands. */
function exactly(anchor: Anchor, text: string): Hit | null {
  const { exact, start } = anchor;
  if (!exact) return null;
  let best: Hit | null = null;
  for (let from = text.indexOf(exact); from >= 0; from = text.indexOf(exact, from + 1)) {
    const { before, after } = likeness(anchor, text, from, from + exact.length);
    const hit = { from, to: from + exact.length, like: before + after };
    const nearer = best?.like === hit.like && Math.abs(from - start) < Math.abs(best.from - start);
    if (!best || hit.like > best.like || nearer) best = hit;
  }
  return best && (exact.length >= short || best.like >= wanted(anchor)) ? best : null;
}

/** What stood there, changed: something much like it, or whatever stands between what stood around it. */
function nearly(anchor: Anchor, text: string): { from: number; to: number } | null {
  const { exact, prefix, suffix } = anchor;
  const [best] = search(text, exact, Math.floor(exact.length * 0.35))
    .map(({ start, end, errors }) => ({ from: start, to: end, errors, ...likeness(anchor, text, start, end) }))
    .filter(
      ({ before, after, errors }) =>
        Math.min(before, after) >= little || (before + after >= wanted(anchor) && errors <= exact.length * 0.15),
    )
    .sort((a, b) => b.before + b.after - b.errors - (a.before + a.after - a.errors) || a.from - b.from);
  if (best) return best;
  const [before, after] = [prefix.slice(-edge), suffix.slice(0, edge)];
  if (before.length < edge || after.length < edge) return null;
  for (let at = text.indexOf(before); at >= 0; at = text.indexOf(before, at + 1)) {
    const from = at + before.length;
    const to = text.indexOf(after, from);
    // Where nothing is left between them, it was removed.
    if (to > from && to - from <= grown && text.slice(from, to).trim()) return { from, to };
  }
  return null;
}

/** How much around it has to be as it was, for what is not the same or is short. */
const wanted = ({ prefix, suffix }: Anchor): number => Math.min(edge, (prefix.length + suffix.length) / 2);

/** How many units before and after a place are as they were. */
function likeness(
  { prefix, suffix }: Anchor,
  text: string,
  from: number,
  to: number,
): { before: number; after: number } {
  let before = 0;
  while (before < prefix.length && before < from && text[from - 1 - before] === prefix[prefix.length - 1 - before])
    before++;
  let after = 0;
  while (after < suffix.length && text[to + after] === suffix[after]) after++;
  return { before, after };
}
