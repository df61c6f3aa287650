import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { undoChange } from '@/server/goods';
import { GoodsDesk } from '@/server/testing/goods-desk';
import { countRecords, listedRecords, type RecordKind } from '@/store';
import { saveRecords } from './save';

const desk = new GoodsDesk();
const { making } = desk;
afterAll(() => desk.close());

type Fields = Record<string, unknown>;
const save = (kind: RecordKind, slug: string, before: Fields | null, after: Fields | null) =>
  saveRecords(desk.shop, [{ kind, slug, before, after }], making);
const add = (kind: RecordKind, slug: string, after: Fields) => save(kind, slug, null, { slug, ...after });
const undo = (id: number | null) => undoChange(desk.shop, id ?? 0, making);
/** Categories in their order, each with the one above it. */
const tree = () => listedRecords(desk.shop.sql, 'category').map(({ slug, parent }) => `${parent ?? ''}>${slug}`);

beforeEach(() => {
  desk.clear();
  for (const slug of ['bulbs', 'seeds', 'tools']) add('category', slug, { name: slug });
  for (const slug of ['early', 'late']) add('category', slug, { name: slug, parent: 'bulbs' });
});

describe('lists of records', () => {
  it('hold what their kind counts', () => {
    save('field', 'product height', null, {
      ...{ subject: 'product', key: 'height', name: 'Height', type: 'number', unit: 'cm' },
    });
    add('tag', 'shade', { name: 'Shade' });
    add('brand', 'tuber', { name: 'Tuber', summary: 'Bulbs since 1900' });
    add('product', 'aconite', {
      ...{ name: 'Aconite', added: '2026-01-01', brand: 'tuber', tags: ['shade'], categories: ['early'] },
      fields: { height: '8' },
    });
    add('menu', 'main', { name: 'Main', items: [{ label: 'All', target: '/listing/all', children: [] }] });
    add('article', 'spring', { title: 'Spring', added: '2026-02-01' });
    const list = (kind: Parameters<typeof listedRecords>[1]) =>
      listedRecords(desk.shop.sql, kind).map(({ slug, name, note, count }) => [slug, name, note, count]);
    expect(list('tag')).toEqual([['shade', 'Shade', '', 1]]);
    expect(list('brand')).toEqual([['tuber', 'Tuber', 'Bulbs since 1900', 1]]);
    expect(list('field')).toEqual([['product height', 'Height', 'product · number, cm', 1]]);
    expect(list('menu')).toEqual([['main', 'Main', 'main', 1]]);
    expect(list('article')).toEqual([['spring', 'Spring', '2026-02-01', null]]);
    expect(list('content')).toEqual([]);
    expect(listedRecords(desk.shop.sql, 'category').find(({ slug }) => slug === 'early')?.count).toBe(1);
    expect(countRecords(desk.shop.sql)).toEqual({
      ...{
        product: 1,
        category: 5,
        tag: 1,
        brand: 1,
        field: 1,
        content: 0,
        article: 1,
        menu: 1,
        picture: 0,
        redirect: 0,
      },
    });
  });
});

describe('a category that is moved', () => {
  it('stands where it was put, and goes back', () => {
    const { id } = save('category', 'tools', { position: 2 }, { position: 0 });
    expect(tree().filter((one) => one.startsWith('>'))).toEqual(['>tools', '>bulbs', '>seeds']);
    undo(id);
    expect(tree().filter((one) => one.startsWith('>'))).toEqual(['>bulbs', '>seeds', '>tools']);
  });
  it('stands below another, among those that are there', () => {
    const { id } = save('category', 'seeds', { parent: null, position: 1 }, { parent: 'bulbs', position: 1 });
    expect(tree().filter((one) => one.startsWith('bulbs>'))).toEqual(['bulbs>early', 'bulbs>seeds', 'bulbs>late']);
    undo(id);
    expect(tree().filter((one) => one.startsWith('>'))).toEqual(['>bulbs', '>seeds', '>tools']);
  });
  it('never stands below itself, at any depth, nor by two moves at once', () => {
    const ring = 'A category cannot stand below itself';
    expect(() => save('category', 'bulbs', { parent: null }, { parent: 'late' })).toThrow(ring);
    expect(() => save('category', 'bulbs', { parent: null }, { parent: 'bulbs' })).toThrow(ring);
    expect(() =>
      saveRecords(
        desk.shop,
        [
          { kind: 'category', slug: 'seeds', before: { parent: null }, after: { parent: 'tools' } },
          { kind: 'category', slug: 'tools', before: { parent: null }, after: { parent: 'seeds' } },
        ],
        making,
      ),
    ).toThrow(ring);
    expect(tree()).toHaveLength(5);
  });
  it('is undone as an addition, though another moved beside it', () => {
    const { id } = add('category', 'pots', { name: 'Pots' });
    save('category', 'tools', { position: 2 }, { position: 3 });
    expect(undo(id).left).toEqual([]);
    expect(tree().filter((one) => one.startsWith('>'))).toEqual(['>bulbs', '>seeds', '>tools']);
  });
});

describe('records that are made and removed', () => {
  it('need a name and a slug that is free', () => {
    expect(() => add('category', 'bulbs', { name: 'Bulbs again' })).toThrow('There is a category “bulbs” already.');
    expect(() => save('category', '', null, { slug: '', name: 'None' })).toThrow('small letters, digits');
    expect(() => save('category', 'цветы', null, { slug: 'цветы', name: 'Flowers' })).toThrow('small letters, digits');
  });
  it('stay while something stands below them', () => {
    expect(() => save('category', 'bulbs', {}, null)).toThrow('The category “bulbs” is in use');
    const { id } = save('category', 'tools', {}, null);
    expect(tree()).not.toContain('>tools');
    undo(id);
    expect(tree()).toContain('>tools');
  });
});
