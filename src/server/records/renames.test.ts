import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { undoChange } from '@/server/goods';
import { GoodsDesk } from '@/server/testing/goods-desk';
import type { RecordKind } from '@/store';
import { saveRecords } from './save';

const desk = new GoodsDesk();
const { making } = desk;
afterAll(() => desk.close());

type Fields = Record<string, unknown>;
const save = (kind: RecordKind, slug: string, before: Fields | null, after: Fields | null) =>
  saveRecords(desk.shop, [{ kind, slug, before, after }], making);
const rename = (kind: RecordKind, from: string, to: string) => save(kind, from, { slug: from }, { slug: to });
const undo = (id: number | null) => undoChange(desk.shop, id ?? 0, making);
const redirects = () => (desk.catalogue().redirects ?? []).map(({ path, target }) => `${path} > ${target}`);

beforeEach(() => {
  desk.clear();
  save('tag', 'shade', null, { slug: 'shade', name: 'Shade' });
  save('category', 'bulbs', null, { slug: 'bulbs', name: 'Bulbs' });
  save('category', 'early', null, { slug: 'early', name: 'Early', parent: 'bulbs' });
  const product = { slug: 'aconite', name: 'Aconite', added: '2026-01-01', tags: ['shade'], categories: ['early'] };
  save('product', 'aconite', null, { ...product, variants: [{ sku: 'A-1', price: 350 }] });
  const items = [
    { label: 'Bulbs', target: '/category/bulbs?view=list', children: [{ label: 'A', target: '/product/aconite' }] },
    { label: 'All', target: '/listing/all' },
  ];
  save('menu', 'main', null, { slug: 'main', name: 'Main', items });
});

describe('a record that gets another slug', () => {
  it('is named by it wherever it was named, and its address redirects', () => {
    const saved = saveRecords(
      desk.shop,
      [
        { kind: 'category', slug: 'bulbs', before: { slug: 'bulbs' }, after: { slug: 'bulbs-and-corms' } },
        { kind: 'tag', slug: 'shade', before: { slug: 'shade' }, after: { slug: 'for-shade' } },
        { kind: 'product', slug: 'aconite', before: { slug: 'aconite' }, after: { slug: 'winter-aconite' } },
      ],
      making,
    );
    expect(saved.records.slice(0, 3).map(({ slug, record }) => [slug, record?.slug])).toEqual([
      ['bulbs-and-corms', 'bulbs-and-corms'],
      ['for-shade', 'for-shade'],
      ['winter-aconite', 'winter-aconite'],
    ]);
    const { categories, products, menus } = desk.catalogue();
    expect(categories?.find(({ slug }) => slug === 'early')?.parent).toBe('bulbs-and-corms');
    expect(products?.[0]).toMatchObject({ slug: 'winter-aconite', tags: ['for-shade'], categories: ['early'] });
    expect(menus?.[0]?.items).toMatchObject([
      { target: '/category/bulbs-and-corms?view=list', children: [{ target: '/product/winter-aconite' }] },
      { target: '/listing/all' },
    ]);
    expect(redirects()).toEqual([
      '/category/bulbs > /category/bulbs-and-corms',
      '/listing/tag/shade > /listing/tag/for-shade',
      '/product/aconite > /product/winter-aconite',
    ]);
  });

  it('has one redirect from each earlier slug, and none from the one that it has', () => {
    rename('product', 'aconite', 'b');
    rename('product', 'b', 'c');
    expect(redirects()).toEqual(['/product/aconite > /product/c', '/product/b > /product/c']);
    rename('product', 'c', 'aconite');
    expect(redirects()).toEqual(['/product/b > /product/aconite', '/product/c > /product/aconite']);
  });

  it('may not take a slug that another has, or that no address can have', () => {
    expect(() => rename('category', 'bulbs', 'early')).toThrow('There is a category “early” already');
    for (const slug of ['', 'Früh', 'a b', 'цветы', '-a'])
      expect(() => rename('category', 'early', slug)).toThrow('small letters, digits and single hyphens');
    expect(redirects()).toEqual([]);
  });

  it('keeps its history, which can be undone after it as before', () => {
    const { id: named } = save('product', 'aconite', { name: 'Aconite' }, { name: 'Winter aconite' });
    const { id: untagged } = save('product', 'aconite', { tags: ['shade'] }, { tags: [] });
    rename('product', 'aconite', 'winter-aconite');
    rename('tag', 'shade', 'for-shade');
    expect(undo(named).left).toEqual([]);
    expect(undo(untagged).left).toEqual([]);
    expect(desk.product('winter-aconite')).toMatchObject({ name: 'Aconite', tags: ['for-shade'] });
  });

  it('gets its earlier one back by undoing that, and what named it meanwhile still leads there', () => {
    const before = desk.catalogue();
    const { id } = rename('category', 'bulbs', 'corms');
    expect(undo(id).left).toEqual([]);
    expect({ ...desk.catalogue(), redirects: [] }).toEqual(before);
    expect(redirects()).toEqual(['/category/corms > /category/bulbs']);
  });

  it('leaves its earlier one to another, which then is meant by it', () => {
    rename('tag', 'shade', 'for-shade');
    expect(desk.shop.catalogue().redirects().slugOf('tag', 'shade')).toBe('for-shade');
    save('tag', 'shade', null, { slug: 'shade', name: 'Another' });
    expect(desk.shop.catalogue().redirects().slugOf('tag', 'shade')).toBeNull();
    expect(desk.shop.catalogue().redirects().earlier('tag', 'for-shade')).toEqual([]);
  });

  it('does not get it back where another has it by now', () => {
    const { id } = rename('tag', 'shade', 'for-shade');
    save('tag', 'shade', null, { slug: 'shade', name: 'Another' });
    expect(undo(id).left).toContain('There is another tag “shade” now');
    expect(desk.product('aconite')?.tags).toEqual(['for-shade']);
  });
});

describe('redirects', () => {
  it('are written by hand, changed and removed', () => {
    save('redirect', '/old', null, { path: '/old', target: '/product/aconite' });
    save('redirect', '/old', { target: '/product/aconite' }, { target: 'https://elsewhere.example/' });
    expect(redirects()).toEqual(['/old > https://elsewhere.example/']);
    const { id } = save('redirect', '/old', {}, null);
    expect(redirects()).toEqual([]);
    undo(id);
    expect(redirects()).toHaveLength(1);
  });
  it('lead from a path of the site to a page or an address', () => {
    for (const [path, target] of [
      ['old', '/a'],
      ['//evil.example', '/a'],
      ['/old?x=1', '/a'],
      ['/old', 'javascript:x()'],
      ['/old', '//evil.example'],
    ] as const)
      expect(() => save('redirect', path, null, { path, target })).toThrow(/a path of this site/);
  });
});
