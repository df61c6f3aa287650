import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse, parseFragment, type DefaultTreeAdapterMap } from 'parse5';
import { describe, expect, it } from 'vitest';
import { parseTemplate } from '../index';
import { voidElements } from '../1-parse/names';
import { pageOf, themeOf } from '../testing/theme-of';

/** HTML that ships in general-purpose packages: two collections of interface parts, and one of e-mail templates. */
const packages = ['dijit', 'uikit', 'foundation-emails'];

function pages(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    return entry.isDirectory() ? pages(path) : /\.html?$/.test(entry.name) ? [path] : [];
  });
}

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
  const files = packages
    .flatMap((name) => pages(join('node_modules', name)))
    .map((path) => [path, readFileSync(path, 'utf8')] as const);
  const fit = files.filter(([, text]) => wellFormed(text));
  it('there are a few hundred files of it', () => expect(fit.length).toBeGreaterThan(250));
  for (const [path, text] of fit) {
    it(path.replace('node_modules/', ''), () => {
      expect(parseTemplate('page.html', text).problems.map((one) => `${one.line}: ${one.message}`)).toEqual([]);
      expect(pageOf(themeOf({ 'product/default.html': text })).html === text).toBe(true);
    });
  }
});
