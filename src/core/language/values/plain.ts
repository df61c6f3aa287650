import { decodeHTML } from 'entities';
import { markupParts } from './markup';

const blockEnd =
  /^<(?:\/(?:address|article|aside|blockquote|dd|details|div|dl|dt|fieldset|figcaption|figure|footer|form|h[1-6]|header|hgroup|li|main|nav|ol|p|pre|section|summary|table|td|th|tr|ul)\s*>|(?:br|hr)\b)/i;

/** Markup as plain text: tags and comments out, every entity decoded, a block's end as a space, white space folded. */
export function plainText(markup: string): string {
  let out = '';
  for (const { tag, text } of markupParts(markup)) out += tag === '' ? text : blockEnd.test(tag) ? ' ' : '';
  return decodeHTML(out).replace(/\s+/g, ' ').trim();
}
