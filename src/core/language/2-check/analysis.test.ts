import { describe, expect, it } from 'vitest';
import { parseTemplate } from '../1-parse/template';
import { generate } from '../3-compile/generate';
import { analysisOf } from './analysis';

const analysed = (text: string) => analysisOf(parseTemplate('a.html', text));

/** The fields that are kept, by the name that they begin with. */
function repeated(text: string): Record<string, string[]> {
  const found: Record<string, string[]> = {};
  for (const [maker, paths] of analysed(text).repeated) {
    const name = typeof maker === 'string' ? maker : 'item' in maker ? maker.item : maker.name;
    found[name] = [...paths];
  }
  return found;
}

describe('fields that are read more than once', () => {
  it.each<[text: string, kept: Record<string, string[]>]>([
    ['{product.name}', {}],
    ['{product.name}{product.name}', { product: ['.name'] }],
    ['{product.name}{product.price}', {}],
    ['<p title="{product.name}" do:when="product.name">x</p>', { product: ['.name'] }],
    // As a record, and as a value.
    ['{product.brand.name}{product.brand.url}', { product: ['.brand!'] }],
    ['{product.brand.name}{product.brand}', { product: ['.brand'] }],
    ['{product.brand.name}{product.brand.name}{product.brand.url}', { product: ['.brand.name', '.brand!'] }],
    // Each name has its own: an inner one hides the outer.
    ['<p do:each="one in list">{one.name}{one.name}</p>', { one: ['.name'] }],
    ['{one.name}<p do:each="one in list">{one.name}</p>', {}],
    ['<p do:let="a = product.name">{a}{product.name}</p>', { product: ['.name'] }],
    ['<p do:let="a = product">{a.name}{a.name}</p>{product.name}', { a: ['.name'] }],
    ['<p do:let="a = b.c; b = a">{b.c}</p>{b.c}', { b: ['.c'] }],
    ['<p do:each="b in b.c">{b.c}</p>{b.c}', { b: ['.c'] }],
    // Where a value is another at each turn of a filter, or is worked out in place, nothing is kept.
    ['{list | where(it.name)}{list | where(it.name)}', {}],
    ['<p do:each="one, at in list">{at.number}{at.number}</p>', {}],
    // What is printed as written is not read.
    ['<p do:as-written>{product.name}{product.name}</p>', {}],
    ['{t("a", name: product.name)}{[product.name] | join(", ")}', { product: ['.name'] }],
    ['<draw name="b"><fill gap="c">{product.name}</fill>{product.name}</draw>', { product: ['.name'] }],
  ])('%s', (text, kept) => {
    expect(repeated(text)).toEqual(kept);
  });

  it('are kept by the code, each beside its name', () => {
    const template = parseTemplate('a.html', '<p do:each="one in list">{one.name}{one.name}{one.price}</p>');
    const { code } = generate(template, analysisOf(template));
    const [declared] = /let (q\d+);/.exec(code)?.slice(1) ?? [];
    expect(declared).toBeDefined();
    expect(code.split(`${declared} ?? (${declared} = `)).toHaveLength(3);
    expect(code).toContain('for (let');
    expect(code.indexOf(`let ${declared};`)).toBeGreaterThan(code.indexOf('for (let'));
  });
});

describe('what a template says by itself', () => {
  it('is worked out once for each', () => {
    const template = parseTemplate('a.html', '<p>{a.b}</p>');
    expect(analysisOf(template)).toBe(analysisOf(template));
    expect(analysisOf({ ...template })).not.toBe(analysisOf(template));
  });

  it('names the chains that a later condition asks about', () => {
    const text = '<p do:when="a">1</p><p do:otherwise>2</p><p do:when="b">3</p><p do:each="x in y">4</p>';
    expect([...analysed(text).asked]).toEqual([0]);
  });

  it.each([
    ['<a href="{a}">x</a>', ['address']],
    ['<script src="{a}"></script>', ['loading']],
    ['<img alt="{a}" src="{b}" srcset="{c}">', ['alt', 'address', 'candidates']],
    ['<p class="{a}" style="color: {b}" hidden="{c}" title="d" id="{e}">', ['class', 'style', 'boolean', 'plain']],
    ['<p onclick="x" do:when="a">', []],
    ['<meta http-equiv="refresh" content="{a}">', ['fixed']],
    ['<meta name="description" content="{a}">', ['plain']],
    ['<draw name="a" href="{b}"/>', []],
  ])('says what each attribute does with a value: %s', (text, places) => {
    expect([...analysed(text).places.values()]).toEqual(places);
  });
});
