import { describe, expect, it } from 'vitest';
import { places, placesPiece, vectors } from '../testing/places';
import { pageOf, themeOf } from '../testing/theme-of';
import { elementsOf } from '../testing/trees';

/** Attributes that a browser follows, loads or sends to. */
const followed = new Set([
  'href',
  'src',
  'action',
  'formaction',
  'data',
  'xlink:href',
  'poster',
  'background',
  'ping',
  'cite',
]);
const base = 'https://shop.example/product/x';
/** Whether a browser would run an address or take markup from it: by its scheme, as the URL standard reads it (Node’s URL). */
function harmful(address: string): boolean {
  try {
    return !/^(?:https?|mailto|tel|sms|about):$/.test(new URL(address, base).protocol);
  } catch {
    return false;
  }
}
const loads = new Set(['script src', 'link href', 'base href', 'iframe src', 'object data']);

/** Attributes that are there or not by the value alone: `class` and addresses that are empty. */
const shape = (html: string) => elementsOf(html).map(({ tagName }) => tagName);

describe(`${vectors.length} vectors as values in ${Object.keys(places).length} places: parse5 finds nothing but what the template wrote`, () => {
  it('there are a few hundred', () => expect(vectors.length).toBeGreaterThan(200));
  for (const [place, template] of Object.entries(places)) {
    it(place, () => {
      const theme = themeOf({ 'product/default.html': template, ...placesPiece });
      const render = (v: string) => pageOf(theme, { v }).html;
      const plain = elementsOf(render('x'));
      const names = plain.map(
        ({ attrs }) => new Set(attrs.map(({ name, prefix }) => (prefix ? `${prefix}:${name}` : name))),
      );
      for (const vector of vectors) {
        const html = render(vector);
        expect([vector, shape(html)]).toEqual([vector, plain.map(({ tagName }) => tagName)]);
        elementsOf(html).forEach(({ tagName, attrs }, at) => {
          for (const { name, prefix, value } of attrs) {
            const full = prefix ? `${prefix}:${name}` : name;
            expect([vector, full, names[at]?.has(full)]).toEqual([vector, full, true]);
            expect(full).not.toMatch(/^on|^srcdoc$/i);
            if (followed.has(full)) expect([vector, value, harmful(value)]).toEqual([vector, value, false]);
            if (full === 'srcset')
              for (const one of value.split(',')) expect([vector, harmful(one.trim())]).toEqual([vector, false]);
            if (full === 'style')
              for (const [, address = ''] of value.matchAll(/url\(\s*["']?([^"')]*)/gi))
                expect([vector, harmful(address)]).toEqual([vector, false]);
            if (loads.has(`${tagName} ${full}`) && value !== '') {
              const { host, protocol } = new URL(value, base);
              expect([vector, value, protocol === 'about:' || host === 'shop.example']).toEqual([vector, value, true]);
            }
          }
        });
      }
    });
  }
  it('data for scripts is read back as the value that it was', () => {
    const theme = themeOf({ 'product/default.html': places['data for scripts'] as string });
    for (const vector of vectors) {
      const text = /<script[^>]*>([^]*)<\/script>/.exec(pageOf(theme, { v: vector }).html)?.[1] ?? '';
      expect(JSON.parse(text)).toEqual({ v: vector.toWellFormed(), w: [vector.toWellFormed()] });
    }
  });
});
