import { decodeHTML } from 'entities';

const blocks =
  /<\/(?:address|article|aside|blockquote|dd|details|div|dl|dt|fieldset|figcaption|figure|footer|form|h[1-6]|header|hgroup|li|main|nav|ol|p|pre|section|summary|table|td|th|tr|ul)\s*>|<(?:br|hr)\b[^>]*>/gi;

/** Markup as plain text: tags and comments out, every entity decoded, a block's end as a space, white space folded. */
export function plainText(markup: string): string {
  const spaced = markup
    .replace(/<!--[^]*?-->/g, '')
    .replace(/<(script|style)\b[^>]*>[^]*?<\/\1\s*>/gi, '')
    .replace(blocks, ' ')
    .replace(/<\/?[a-zA-Z](?:"[^"]*"|'[^']*'|[^"'<>])*>/g, '');
  return decodeHTML(spaced).replace(/\s+/g, ' ').trim();
}
