import fc from 'fast-check';
import { defaultTreeAdapter, html as names, parse, parseFragment, type DefaultTreeAdapterMap } from 'parse5';
import { attributePlace } from '../2-check/places';
import { Html, withoutMarks, type Problem, type Value } from '../index';
import { hostileTheme, type HostileTheme } from './hostile';
import { pageOf, themeOf } from './theme-of';
import { vectors } from './places';

type Node = DefaultTreeAdapterMap['node'];
type Element = DefaultTreeAdapterMap['element'];

/** Values that try to leave their place, besides the vectors: beginnings and ends of tags, entities, addresses and declarations. */
const beginnings =
  '--|--x|le |script |script/|area |cript |nt |lt;b|#60;|34|58alert(1)|3aalert(1)|colon;alert(1)|lt;img src=x onerror=alert(1)>|amp;|b|img src=x onerror=alert(1) |script|ipt>alert(1)|le>|area>|cript>|/script|!--|--!>|?|/|//evil.example|evil.example/x|evil.example|/evil.example|\\evil.example|\\\\evil.example|https:evil.example|https:/evil.example|http:evil.example|javascript|javascript:alert(1)|:alert(1)|script:alert(1)|text/html,<script>alert(1)</script>|url|url(//evil.example)|l(//evil.example)|rl(//evil.example/x)|(|)|rgb|red;x:y|/|*/|75rl|x, javascript:alert(1) 2x| onclick=alert(1) x=|"|\'|`|=|{v}|]]>|\t|\n| x'.split(
    '|',
  );
export const hostileValues: string[] = [...beginnings, ...vectors];

/** What stands for a value that tries nothing: no scheme and no entity begins or ends in it. */
const plainValue = '_x';

/** What a browser makes of a page, as far as a value must not change it. */
interface Reading {
  /** Elements in order, with the names of their attributes. */
  elements: { name: string; attributes: Map<string, string> }[];
  /** Elements, comments and the text of scripts and styles, in the order of the tree. */
  shape: string;
  /** All other text, entities decoded. */
  text: string;
}

/** Elements in which a browser decodes no entities. */
const undecoded = new Set(['script', 'style', 'iframe', 'xmp', 'noembed', 'noframes', 'noscript']);

const rendered = ({ layers, page, placed }: HostileTheme, value: string, traced: boolean) => {
  const theme = themeOf(layers);
  const data: Record<string, Value> = { v: value, l: [value, value], y: true, n: false, h: new Html('<i>h</i>') };
  const { html, problems } = pageOf(
    theme,
    data,
    {
      services: {
        phrase: () => null,
        placements: (shelf) => (placed[shelf] ? [{ id: null, piece: placed[shelf], inputs: { v: { value } } }] : []),
      },
      steps: 20_000,
      traced,
    },
    page,
  );
  return { html, problems };
};

function read(html: string, scripting: boolean): Reading {
  const options = { scriptingEnabled: scripting };
  const root = /^<!doctype/i.test(html)
    ? parse(html, options)
    : parseFragment(defaultTreeAdapter.createElement('div', names.NS.HTML, []), html, options);
  const elements: Reading['elements'] = [];
  let shape = '';
  let text = '';
  const walk = (node: Node): void => {
    if (node.nodeName === '#text' && 'value' in node && !undecoded.has(node.parentNode?.nodeName ?? ''))
      text += node.value;
    if (node.nodeName === '#comment') shape += '<!---->';
    if ('tagName' in node) {
      const { tagName, attrs } = node as Element;
      elements.push({
        name: tagName,
        attributes: new Map(attrs.map(({ name, prefix, value }) => [prefix ? `${prefix}:${name}` : name, value])),
      });
      shape += `<${tagName}>`;
      if (tagName === 'script' || tagName === 'style') {
        const data = /^application\/(?:ld\+)?json$/.test(elements.at(-1)?.attributes.get('type') ?? '');
        if (!data) for (const child of node.childNodes) if ('value' in child) shape += JSON.stringify(child.value);
      }
    }
    if ('content' in node) walk(node.content);
    else if ('childNodes' in node) for (const child of node.childNodes) walk(child);
    if ('tagName' in node) shape += '</>';
  };
  walk(root);
  return { elements, shape, text };
}

const bases = ['http://shop.example/product/x', 'https://shop.example/product/x'];
/** An address by the URL Standard, as Node has it: scheme and host; null for what is not an address. */
function addressed(address: string, base: string): { protocol: string; host: string } | null {
  try {
    const { protocol, host } = new URL(address, base);
    return { protocol, host };
  } catch {
    return null;
  }
}

/** The candidates of a `srcset` by the HTML standard (4.8.4.2.2), each its address. */
export function candidatesOf(srcset: string): string[] {
  const found: string[] = [];
  let rest = srcset;
  for (;;) {
    rest = rest.replace(/^[\s,]+/, '');
    if (rest === '') return found;
    const [url = ''] = /^\S+/.exec(rest) ?? [];
    rest = rest.slice(url.length);
    found.push(url.replace(/,+$/, ''));
    if (url.endsWith(',')) continue;
    let depth = 0;
    let at = 0;
    for (; at < rest.length; at++) {
      if (rest[at] === '(') depth++;
      else if (rest[at] === ')') depth = Math.max(0, depth - 1);
      else if (rest[at] === ',' && depth === 0) break;
    }
    rest = rest.slice(at + 1);
  }
}

const plainText = (css: string): string =>
  css
    .replace(/\/\*[^]*?(?:\*\/|$)/g, '')
    .replace(/\\([0-9a-fA-F]{1,6})\s?/g, (_, hex: string) => String.fromCodePoint(parseInt(hex, 16) || 0xfffd));
const loadingCalls = (css: string): number =>
  plainText(css).match(/(?:url|image|image-set|src|cross-fade|element|paint)\(/gi)?.length ?? 0;

/** Values that HTML does not change as it reads them: line ends and NUL it does. */
const legible = /^(?=.*\S)[^\r\n\0\ud800-\udfff]+$/;

/** What is wrong with one attribute, given what it is with a plain value in its place; null when nothing is. */
function wrongAttribute(
  element: string,
  name: string,
  value: string,
  plain: string,
  now: string,
  hostByValue: boolean,
): string | null {
  const place = attributePlace(element, name);
  const said = (what: string) => `<${element} ${name}="${value}"> ${what}`;
  if ((place === 'plain' || place === 'words' || place === 'alt') && legible.test(now))
    return value === plain.replaceAll(plainValue, () => now) ? null : said(`is not “${plain}” with ${now}`);
  if (place === 'script') return value === plain ? null : said('runs');
  if (place === 'fixed') return value === plain ? null : said('is not as written');
  const judge = (address: string, before: string): string | null => {
    for (const base of bases) {
      const [to, was] = [addressed(address, base), addressed(before, base)];
      if (!to || (to.protocol === was?.protocol && to.host === was.host)) continue;
      if (to.protocol === 'about:') continue;
      if (!/^(?:https?|mailto|tel|sms):$/.test(to.protocol)) return said(`has the scheme ${to.protocol}`);
      // With a value at its start, or as its host, a link may lead anywhere, but nothing may be loaded from there.
      if ((before.startsWith(plainValue) || hostByValue) && place !== 'loading') continue;
      if (to.host !== was?.host && was !== null) return said(`leads to ${to.host} instead of ${was.host}`);
    }
    return null;
  };
  if (place === 'address' || place === 'loading') return judge(value, plain);
  if (place === 'candidates') {
    const [now, was] = [candidatesOf(value), candidatesOf(plain)];
    if (now.length > was.length) return said('has more candidates');
    if (now.length === was.length)
      for (const [at, one] of now.entries()) {
        const wrong = judge(one, was[at] ?? '');
        if (wrong) return wrong;
      }
  }
  if (place === 'style') {
    if (loadingCalls(value) > loadingCalls(plain)) return said('loads more');
    for (const [, address = ''] of plainText(value).matchAll(/url\(\s*["']?([^"')]*)/gi)) {
      const found = addressed(address, bases[0] as string);
      if (found && !/^(?:https?|mailto|tel|sms|about|data):$/.test(found.protocol)) return said('loads a script');
    }
    if (value.split(';').length > plain.split(';').length) return said('has more declarations');
  }
  return null;
}

/** What a value changes that only the template may decide: a sentence, with the page; null when it changes nothing. */
export function escaped(theme: HostileTheme, value: string): string | null {
  // A template may leave the host of a link to a value: `https://{v}`.
  const hostByValue = /(?:[/\\]{2}|https?:)["' ]*\{/.test(
    theme.layers.map((files) => Object.values(files).join('')).join(''),
  );
  const { html } = rendered(theme, value, false);
  // White space alone leaves a browser's tables and heads otherwise than text does.
  const plain = rendered(theme, value === '' ? '' : /[^\s\0]/.test(value) ? plainValue : ' ', false).html;
  for (const scripting of [false, true]) {
    const [now, was] = [read(html, scripting), read(plain, scripting)];
    const meant = was.text.replaceAll(plainValue, () => value);
    // Tags that are seen as text hold attributes, whose places treat a value otherwise.
    if (legible.test(value) && !/<[a-z/]/i.test(was.text) && now.shape === was.shape && now.text !== meant)
      return `The text is “${now.text}” instead of “${meant}” in ${html}`;
    if (now.shape !== was.shape) return `The tree is another:\n${now.shape}\n${was.shape}\nin ${html}`;
    for (const [at, { name, attributes }] of now.elements.entries()) {
      const before = was.elements[at]?.attributes ?? new Map<string, string>();
      for (const [attribute, given] of attributes) {
        const plainly = before.get(attribute);
        // A class or a boolean attribute may be left out by a value that is empty.
        if (plainly === undefined && !/^(?:class|checked|hidden|data-y)$/.test(attribute) && value !== '')
          return `<${name}> has an attribute “${attribute}” besides in ${html}`;
        const wrong = wrongAttribute(name, attribute, given, plainly ?? '', value, hostByValue);
        if (wrong) return `${wrong} in ${html}`;
      }
    }
  }
  return null;
}

/** Whether the preview of a theme is its live page, marks aside. */
export function previewDiffers(theme: HostileTheme, value: string): string | null {
  const [plain, traced] = [rendered(theme, value, false), rendered(theme, value, true)];
  const over = (problems: Problem[]) => problems.some(({ code }) => code === 'budget');
  if (over(plain.problems) || over(traced.problems)) return null;
  const bare = withoutMarks(traced.html);
  return bare === plain.html ? null : `The preview is another page:\n${bare}\n${plain.html}`;
}

/** Tapes and values that are tried, by fast-check. */
const pairs = (values: fc.Arbitrary<string>) =>
  fc.property(fc.array(fc.nat(65_535), { minLength: 8, maxLength: 90 }), values, (tape, value) => {
    const theme = hostileTheme(tape);
    const wrong = escaped(theme, value) ?? previewDiffers(theme, value);
    if (wrong) throw new Error(`${wrong}\nby ${JSON.stringify(value)} in ${JSON.stringify(theme, null, 1)}`);
  });
const anyValue = fc.oneof(fc.constantFrom(...beginnings), fc.constantFrom(...vectors));

/** Pages of so many pairs, for a browser to run. */
export function hostilePages(count: number, seed: number): string[] {
  const found = fc.sample(
    fc.tuple(fc.array(fc.nat(65_535), { minLength: 20, maxLength: 90 }), fc.constantFrom(...hostileValues)),
    { numRuns: count, seed },
  );
  return found.map(([tape, value]) => rendered(hostileTheme(tape), value, false).html);
}

/**
 * Tries so many pairs of theme and value (any, or one of `values`); gives the smallest in which a value changed more than it may,
 * or the first when that will do; null when there is none.
 */
export function firstEscape(
  count: number,
  seed: number,
  { smallest = true, values }: { smallest?: boolean; values?: readonly string[] } = {},
): string | null {
  const tried = pairs(values ? fc.constantFrom(...values) : anyValue);
  const { failed, errorInstance } = fc.check(tried, { numRuns: count, seed, endOnFailure: !smallest });
  return failed ? String((errorInstance as Error | null)?.message ?? 'It failed without an error') : null;
}
