import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { countsOf as counts, cups, GoodsDesk, issuesOf as issues } from '@/server/testing/goods-desk';
import { applyImport } from './apply';

const desk = new GoodsDesk();
beforeEach(() => desk.clear());
afterAll(() => desk.close());

describe('a catalogue file', () => {
  const json = (more: object) => JSON.stringify({ ...more });
  it('changes only what it says of records that are there', async () => {
    await desk.bring(cups);
    const staging = await desk.plan(json({ products: [{ slug: 'becher', summary: 'Neu' }] }), { format: 'json' });
    expect([issues(staging), counts(staging)]).toEqual([[], { 'product changed': 1 }]);
    applyImport(desk.shop, staging, desk.making);
    expect(desk.product('becher')).toMatchObject({ summary: 'Neu', name: 'Becher Nord', variants: [{}, {}] });
  });
  it('out and in again changes nothing, and replaces all by itself', async () => {
    await desk.bring(cups);
    for (const mode of ['merge', 'replace'] as const)
      expect(counts(await desk.plan(JSON.stringify(desk.catalogue()), { format: 'json', mode }))).toEqual({});
  });
  const wrong: [name: string, text: string, said: string[]][] = [
    ['cut short', '{"products": [', ['1 15: The file is not valid JSON: a closing bracket ] is missing at its end']],
    ['a list', '[]', ['1 1: The file holds no catalogue']],
    ['an unknown part', '{\n"goods": []}', ['2 goods: A catalogue file has no “goods”']],
    [
      'two of one slug',
      '{"tags": [\n{"slug": "a", "name": "A"},\n{"slug": "a", "name": "B"}]}',
      ['3 slug: “a” is there twice'],
    ],
    [
      'several mistakes',
      '{"products": [\n{"slug": "A a"},\n{"slug": "b", "name": "B", "added": "soon", "variants": [\n{"sku": "1", "price": -1}]}]}',
      [
        '2 products.0.slug: small letters, digits and single hyphens',
        '2 products.0.name: Invalid input: expected string, received undefined',
        '2 products.0.added: Invalid input: expected string, received undefined',
        '3 products.1.added: Invalid ISO date',
        '4 products.1.variants.0.price: Too small: expected number to be >=0',
      ],
    ],
    [
      'a category below itself',
      '{"categories": [{"slug": "a", "name": "A", "parent": "b"}, {"slug": "b", "name": "B", "parent": "a"}]}',
      [
        '1 parent: The category “a” would stand below itself: a < b < a',
        '1 categories.1: There is no category “a”, which “b” names',
      ],
    ],
    [
      'names of nothing',
      '{"products": [\n{"slug": "a", "name": "A", "added": "2026-01-01", "brand": "x", "tags": ["y"]}]}',
      ['2 products.0: There is no brand “x”, which “a” names'],
    ],
  ];
  it.each(wrong)('%s', async (_, text, said) => {
    const staging = await desk.plan(text, { format: 'json' });
    expect(issues(staging)).toEqual(said);
  });
  it('categories may come before the one above them', async () => {
    await desk.bring(
      json({
        categories: [
          { slug: 'b', name: 'B', parent: 'a' },
          { slug: 'a', name: 'A' },
        ],
      }),
      { format: 'json' },
    );
    expect(desk.catalogue().categories?.map(({ slug }) => slug)).toEqual(['a', 'b']);
  });
});
