import { parse, parseFragment, type DefaultTreeAdapterMap } from 'parse5';
import { describe, expect, it } from 'vitest';
import { parseTemplate } from '../index';
import { voidElements } from '../1-parse/names';
import dijit from '../testing/samples/dijit.json';
import emails from '../testing/samples/foundation-emails.json';
import uikit from '../testing/samples/uikit.json';
import { pageOf, themeOf } from '../testing/theme-of';

/** HTML of general-purpose packages, each with its licence: two collections of interface parts, and one of e-mail templates. */
const samples = [dijit, uikit, emails];

/** Whether, by parse5, every element has both its tags, every end tag an element, and stands where it is written, and no brace is in text or attributes. */
function wellFormed(text: string): boolean {
  const errors: string[] = [];
  const options = {
    sourceCodeLocationInfo: true,
    onParseError: ({ code }: { code: string }) => errors.push(code),
  } as const;
  const root = /<html|<!doctype/i.test(text) ? parse(text, options) : parseFragment(text, options);
  if (/\{/.test(text.replace(/(<(script|style)\b[^>]*>)[^]*?(<\/\2>)/gi, '$1$3'))) return false;
  if (errors.some((code) => /end-tag|non-void|misplaced|nested|eof|duplicate|invalid-first-character/.test(code)))
    return false;
  const closed = (node: DefaultTreeAdapterMap['node']): boolean => {
    if (!('childNodes' in node)) return true;
    return node.childNodes.every((child) => {
      if (!('tagName' in child)) return true;
      const at = child.sourceCodeLocation;
      if (!at ? child.tagName !== 'tbody' : !at.endTag && !voidElements.has(child.tagName)) return false;
      return closed('content' in child ? child.content : child);
    });
  };
  return closed(root) && ends(root) === endTags(text);
}

/** Elements with an end tag. */
function ends(node: DefaultTreeAdapterMap['node']): number {
  if (!('childNodes' in node)) return 0;
  const inside = 'content' in node ? node.content.childNodes : node.childNodes;
  return inside.reduce((sum, child) => sum + ends(child), 'tagName' in node && node.sourceCodeLocation?.endTag ? 1 : 0);
}

/** End tags in the text: parse5 passes over those that close nothing. */
function endTags(text: string): number {
  const bare = text
    .replace(/<!--[^]*?-->/g, '')
    .replace(/(<(script|style|textarea|title)\b[^>]*>)[^]*?(<\/\2>)/gi, '$1$3');
  return bare.match(/<\/[a-z]/gi)?.length ?? 0;
}

describe('well-formed HTML without braces passes through byte for byte', () => {
  const files = samples.flatMap(({ from, files }) =>
    Object.entries<string>(files).map(([path, text]) => [`${from}: ${path}`, text] as const),
  );
  it('that is what all samples are', () => {
    expect(files.filter(([, text]) => !wellFormed(text)).map(([path]) => path)).toEqual([]);
    expect(files.length).toBe(119);
  });
  for (const [path, text] of files) {
    it(path, () => {
      expect(parseTemplate('page.html', text).problems.map((one) => `${one.line}: ${one.message}`)).toEqual([]);
      expect(pageOf(themeOf({ 'product/default.html': text })).html === text).toBe(true);
    });
  }
});
