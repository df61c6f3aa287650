/** A stretch of markup: a tag with its brackets, or the text between two. Comments, and the insides of scripts and styles, are neither. */
export interface MarkupPart {
  tag: string;
  text: string;
}

/**
 * Cuts rich text into tags and texts in one pass, so that its time grows with its length whatever is in it. A `<` that begins no
 * tag, and a tag without an end, are text.
 */
export function* markupParts(markup: string): Generator<MarkupPart> {
  let at = 0;
  let textFrom = 0;
  /** After the last `>` and the last `-->` nothing is looked for again. */
  const lastTag = markup.lastIndexOf('>');
  const lastComment = markup.lastIndexOf('-->');
  /** Bounds how often a stretch is looked at again, where quotes that do not pair make tags run on. */
  let left = 4 * markup.length + 100;
  const unended = new Set<string>();
  const text = (to: number): MarkupPart[] => (to > textFrom ? [{ tag: '', text: markup.slice(textFrom, to) }] : []);
  for (;;) {
    at = markup.indexOf('<', at);
    if (at < 0 || at > lastTag) break;
    if (markup.startsWith('<!--', at)) {
      if (at + 4 > lastComment) {
        at++;
        continue;
      }
      yield* text(at);
      at = textFrom = markup.indexOf('-->', at + 4) + 3;
      continue;
    }
    if (!/^<\/?[a-zA-Z]/.test(markup.slice(at, at + 3))) {
      at++;
      continue;
    }
    const end = tagEnd(markup, at + 1);
    left -= Math.abs(end) - at;
    if (left < 0 || end === -markup.length) break;
    if (end < 0) {
      at++;
      continue;
    }
    yield* text(at);
    const tag = markup.slice(at, end);
    yield { tag, text: '' };
    at = textFrom = end;
    const name = /^<(script|style)\b/i.exec(tag)?.[1]?.toLowerCase();
    if (!name || unended.has(name)) continue;
    const close = new RegExp(`</${name}\\s*>`, 'gi');
    close.lastIndex = at;
    if (close.test(markup)) at = textFrom = close.lastIndex;
    else unended.add(name);
  }
  yield* text(markup.length);
}

/** Offset after the `>` that ends a tag, its quoted values passed over; where it has none, the offset where that is plain, negative. */
function tagEnd(markup: string, from: number): number {
  let quote = 0;
  for (let at = from; at < markup.length; at++) {
    const code = markup.charCodeAt(at);
    if (quote) {
      if (code === quote) quote = 0;
    } else if (code === 34 || code === 39) quote = code;
    else if (code === 62) return at + 1;
    else if (code === 60) return -at;
  }
  return -markup.length;
}
