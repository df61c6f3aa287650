import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import type { CellsAsk } from '@/contract/records';
import { undoChange } from '@/server/goods';
import { GoodsDesk } from '@/server/testing/goods-desk';
import { bulkEdit, saveCells, type WrittenCell } from './cells';
import { tableColumns, titleOfCells } from './columns';
import { saveRecords } from './save';
import { GoodsTable } from './table';

const desk = new GoodsDesk();
const { making } = desk;
afterAll(() => desk.close());

const bulbs = `product,name,sku,price,stock,brand,categories,tags,field:height,field:scented,attribute:Colour,summary
aconite,Winter aconite,A-1,3.50,40,Tuber and Sons,Bulbs > Early,early,8,,yellow,
allium,Été allium,A-2,4.00,0,,Bulbs > Late,"late,tall",90,no,purple,For the back of a border
zinnia,Zinnia,Z-1,2.00,5,,,,60,yes,,
anemone,Anemone,N-1,2.75,12,Tuber and Sons,Bulbs > Early,"early,shade",,,blue,
anemone,,N-2,3.25,3,,,,,,,
`;

beforeEach(async () => {
  desk.clear();
  const json = {
    fields: [
      { subject: 'product', key: 'height', name: 'Height', type: 'number', unit: 'cm' },
      { subject: 'product', key: 'scented', name: 'Scented', type: 'flag' },
    ],
  };
  await desk.bring(JSON.stringify(json), { format: 'json' });
  await desk.bring(bulbs);
});

const ask = (more: Partial<CellsAsk> = {}): CellsAsk => ({
  ...{ search: '', where: null, sort: null, columns: ['name', 'price'], from: 0, count: 100 },
  ...more,
});
const slugs = (table: GoodsTable, more: Partial<CellsAsk> = {}) => table.page(ask(more)).rows.map(({ slug }) => slug);
const cells = (columns: string[], slug: string) =>
  new GoodsTable(desk.shop).rows([slug], columns).map(({ cells: all }) => columns.map((one) => all[one]?.text))[0];

describe('the table of products', () => {
  it('stands as the catalogue does, a page at a time', () => {
    const table = new GoodsTable(desk.shop);
    expect(table.page(ask({ from: 1, count: 2 }))).toMatchObject({
      ...{ total: 4, all: 4 },
      rows: [
        {
          slug: 'allium',
          name: 'Été allium',
          cells: { name: { text: 'Été allium', locked: null }, price: { text: '4.00' } },
        },
        { slug: 'zinnia' },
      ],
    });
  });

  const sorts: [column: string, down: boolean, comes: string[]][] = [
    ['name', false, ['anemone', 'allium', 'aconite', 'zinnia']],
    ['name', true, ['zinnia', 'aconite', 'allium', 'anemone']],
    ['price', false, ['zinnia', 'anemone', 'aconite', 'allium']],
    ['field:height', true, ['allium', 'zinnia', 'aconite', 'anemone']],
    ['attribute:Colour', false, ['anemone', 'allium', 'aconite', 'zinnia']],
    ['attribute:Colour', true, ['aconite', 'allium', 'anemone', 'zinnia']],
    ['tags', false, ['aconite', 'allium', 'zinnia', 'anemone']],
  ];
  it.each(sorts)('sorted by %s, down: %s', (column, down, comes) =>
    expect(slugs(new GoodsTable(desk.shop), { sort: { column, down } })).toEqual(comes),
  );

  const filters: [name: string, more: Partial<CellsAsk>, comes: string[]][] = [
    ['tag', { where: { fact: 'tag', test: 'is', value: ['early'] } }, ['aconite', 'anemone']],
    ['no tag', { where: { fact: 'tag', test: 'empty' } }, ['zinnia']],
    ['an empty custom field', { where: { fact: 'field', name: 'height', test: 'empty' } }, ['anemone']],
    ['no summary', { where: { fact: 'summary', test: 'empty' } }, ['aconite', 'zinnia', 'anemone']],
    [
      'a category with those below it',
      { where: { fact: 'category', test: 'is', value: ['bulbs'] } },
      ['aconite', 'allium', 'anemone'],
    ],
    [
      'a price, and a brand',
      {
        where: {
          all: [
            { fact: 'price', test: 'at-most', value: 300 },
            { fact: 'brand', test: 'filled' },
          ],
        },
      },
      ['anemone'],
    ],
    ['the beginning of a word of the name', { search: 'win' }, ['aconite']],
    ['an article number of a variant', { search: 'N-2' }, ['anemone']],
    ['a value of an attribute', { search: 'purp' }, ['allium']],
    ['a part of the slug', { search: 'inni' }, ['zinnia']],
    [
      'a search in what a filter leaves',
      { search: 'early', where: { fact: 'attribute', name: 'Colour', test: 'is', value: ['Blue'] } },
      ['anemone'],
    ],
    ['nothing that is there', { search: 'snowdrop' }, []],
  ];
  it.each(filters)('filtered: %s', (_, more, comes) => expect(slugs(new GoodsTable(desk.shop), more)).toEqual(comes));

  it('follows each change, as a table that is read again', async () => {
    const table = new GoodsTable(desk.shop);
    const same = () => {
      for (const [column, down] of sorts)
        expect(slugs(table, { sort: { column, down } })).toEqual(
          slugs(new GoodsTable(desk.shop), { sort: { column, down } }),
        );
      for (const [, more] of filters) expect(slugs(table, more)).toEqual(slugs(new GoodsTable(desk.shop), more));
    };
    same();
    const { id } = saveCells(
      desk.shop,
      [
        { slug: 'zinnia', column: 'name', was: 'Zinnia', text: 'Alpine zinnia' },
        { slug: 'zinnia', column: 'tags', was: '', text: 'early' },
        { slug: 'allium', column: 'attribute:Colour', was: 'purple', text: '' },
      ],
      making,
    );
    expect(slugs(table, { sort: { column: 'name', down: false } })[0]).toBe('zinnia');
    same();
    undoChange(desk.shop, id ?? 0, making);
    same();
    await desk.bring('product,name\nbegonia,Begonia\n');
    expect(table.page(ask()).all).toBe(5);
    same();
  });

  it('has a column for each custom field, attribute and language', () => {
    const columns = tableColumns(desk.shop);
    expect(
      columns.filter(({ group }) => group !== 'Product').map(({ column, type, unit }) => [column, type, unit]),
    ).toEqual([
      ['field:height', 'number', 'cm'],
      ['field:scented', 'flag', ''],
      ['attribute:Colour', 'text', ''],
      ['name@en', 'text', ''],
      ['summary@en', 'text', ''],
    ]);
    const { rows } = new GoodsTable(desk.shop).page(ask({ columns: columns.map(({ column }) => column) }));
    expect(rows.map(({ cells: all }) => Object.keys(all).length)).toEqual(rows.map(() => columns.length));
  });
});

describe('cells that are written', () => {
  const write = (...some: WrittenCell[]) => saveCells(desk.shop, some, making);
  it('are one change, and come live', () => {
    const before = desk.catalogue();
    const saved = write(
      { slug: 'aconite', column: 'price', was: '3.50', text: '3.80' },
      { slug: 'aconite', column: 'field:scented', was: '', text: 'Ja' },
      { slug: 'allium', column: 'name@en', was: '', text: 'Allium' },
    );
    expect(saved).toMatchObject({ records: 2, left: [] });
    expect(cells(['price', 'field:scented'], 'aconite')).toEqual(['3.80', 'yes']);
    expect(desk.product('allium')?.texts).toEqual({ en: { name: 'Allium' } });
    undoChange(desk.shop, saved.id ?? 0, making);
    expect(desk.catalogue()).toEqual(before);
  });
  it('that say what is there already are no change', () =>
    expect(write({ slug: 'aconite', column: 'name', was: 'Winter aconite', text: 'Winter aconite ' })).toEqual({
      id: null,
      records: 0,
      left: [],
    }));
  it('have the names of their columns in the history', () => {
    const cell = (column: string) => ({ slug: 'allium', column });
    expect(titleOfCells(desk.shop, [cell('field:height'), cell('name@en'), cell('attribute:Colour')])).toBe(
      'Height, Name (en), Colour of allium',
    );
  });
  it('are refused, all of them, where one cannot be', () => {
    const before = desk.catalogue();
    expect(() =>
      write(
        { slug: 'aconite', column: 'price', was: '3.50', text: 'cheap' },
        { slug: 'zinnia', column: 'name', was: 'Zinnia', text: 'Z' },
      ),
    ).toThrow('“cheap” is not a price. Nothing was saved.');
    expect(desk.catalogue()).toEqual(before);
  });
  it('or leave that one out, when asked to', () => {
    const some = [
      { slug: 'aconite', column: 'price', was: '3.50', text: 'cheap' },
      { slug: 'zinnia', column: 'name', was: 'Zinnia', text: 'Z' },
      { slug: 'gone', column: 'name', was: '', text: 'Z' },
    ];
    expect(saveCells(desk.shop, some, making, { partly: true })).toMatchObject({
      records: 1,
      left: [{ slug: 'aconite', message: '“cheap” is not a price' }, { slug: 'gone' }],
    });
  });
  it('overwrite nothing that another wrote meanwhile', () => {
    write({ slug: 'aconite', column: 'price', was: '3.50', text: '3.80' });
    expect(() => write({ slug: 'aconite', column: 'price', was: '3.50', text: '4' })).toThrow(
      expect.objectContaining({
        status: 409,
        body: expect.objectContaining({
          cells: [
            { slug: 'aconite', column: 'price', message: 'Someone else changed this cell meanwhile', now: '3.80' },
          ],
        }) as object,
      }),
    );
    write({ slug: 'aconite', column: 'stock', was: '40', text: '41' });
    expect(cells(['price', 'stock'], 'aconite')).toEqual(['3.80', '41']);
  });
});

describe('a column of many products', () => {
  const all = ['aconite', 'allium', 'zinnia', 'anemone'];
  const tags = () => all.map((slug) => cells(['tags'], slug)?.[0]);
  it('gets an entry more, and one less, each as one change', () => {
    const { id, records } = bulkEdit(desk.shop, all, { column: 'tags', action: 'add', text: 'early' }, making);
    expect([records, tags()]).toEqual([2, ['early', 'late, tall, early', 'early', 'early, shade']]);
    bulkEdit(desk.shop, all, { column: 'tags', action: 'remove', text: 'Tall' }, making);
    expect(tags()).toEqual(['early', 'late, early', 'early', 'early, shade']);
    // Ten changes later only that one is undone.
    for (let at = 0; at < 10; at++)
      bulkEdit(desk.shop, all, { column: 'stock', action: 'set', text: String(at) }, making);
    undoChange(desk.shop, id ?? 0, making);
    expect([tags(), cells(['stock'], 'allium')]).toEqual([['early', 'late', '', 'early, shade'], ['9']]);
  });
  it('is filled where it is empty', () => {
    bulkEdit(desk.shop, all, { column: 'field:height', action: 'fill', text: '20' }, making);
    expect(all.map((slug) => cells(['field:height'], slug)?.[0])).toEqual(['8', '90', '60', '20']);
  });
  it('says where it could not be', () => {
    const { left, records } = bulkEdit(desk.shop, all, { column: 'price', action: 'set', text: '5' }, making);
    expect([records, left]).toEqual([
      3,
      [{ slug: 'anemone', column: 'price', message: 'Its variants differ: open the record' }],
    ]);
  });
});

describe('a record that is saved', () => {
  const save = (before: object | null, after: object | null, force = false) =>
    saveRecords(
      desk.shop,
      [{ kind: 'product', slug: 'allium', before: before as never, after: after as never }],
      making,
      { force },
    );
  it('takes only what is changed, whatever others wrote beside it', () => {
    save({ name: 'Été allium', fields: { height: '90' } }, { name: 'Allium', fields: { height: '95' } });
    save({ fields: { scented: 'false' } }, { fields: { scented: 'true' } });
    expect(desk.product('allium')).toMatchObject({ name: 'Allium', fields: { height: '95', scented: 'true' } });
  });
  it('is refused where another changed the same, and can be forced', () => {
    save({ name: 'Été allium' }, { name: 'Allium' });
    expect(() => save({ name: 'Été allium' }, { name: 'Onion' })).toThrow(
      'Someone else changed name of the product “allium” meanwhile',
    );
    save({ name: 'Été allium' }, { name: 'Onion' }, true);
    expect(desk.product('allium')?.name).toBe('Onion');
  });
  it('keeps rich text as it is kept: without what runs', () => {
    const { id } = save({ description: '' }, { description: '<p onclick="x()">Tall</p><script>y()</script>' });
    expect(desk.product('allium')?.description).toBe('<p>Tall</p>');
    expect(undoChange(desk.shop, id ?? 0, making).left).toEqual([]);
  });
  it('holds custom fields to their types, those that are written alone', () => {
    expect(() => save({ fields: { height: '90' } }, { fields: { height: 'tall' } })).toThrow(
      'Height of “allium”: “tall” is not a number',
    );
    save({ fields: { scented: 'false' } }, { fields: { scented: 'Ja' } });
    expect(desk.product('allium')?.fields).toEqual({ height: '90', scented: 'true' });
    // What does not fit a type that came later stays, until it is written.
    const field = (before: object, after: object) =>
      saveRecords(
        desk.shop,
        [{ kind: 'field', slug: 'product height', before: before as never, after: after as never }],
        making,
      );
    field({ type: 'number' }, { type: 'day' });
    save({ name: 'Été allium' }, { name: 'Allium' });
    expect(desk.product('allium')?.fields).toEqual({ height: '90', scented: 'true' });
  });
  it('may not take an article number that another product has', () => {
    const variants = [{ sku: 'A-2', price: 400, stock: 0 }];
    expect(() => save({ variants }, { variants: [...variants, { sku: 'Z-1', price: 1 }] })).toThrow(
      'The product “zinnia” has the article number “Z-1” already',
    );
  });
  it('may not hold itself, nor go with itself', () => {
    for (const part of ['members', 'related'])
      expect(() =>
        saveRecords(
          desk.shop,
          [{ kind: 'product', slug: 'aconite', before: { [part]: [] }, after: { [part]: ['aconite'] } }],
          making,
        ),
      ).toThrow('itself. Nothing was saved.');
  });
  it('may be gone, or be what it cannot be', () => {
    expect(() => save({ variants: [{ sku: 'A-2', price: 400 }] }, { variants: [{ sku: 'A-2', price: -1 }] })).toThrow(
      'price of A-2',
    );
    expect(() => save({ tags: [] }, { tags: ['snow'] })).toThrow('The tag “snow” is named, but there is none');
    save({}, null);
    expect(desk.product('allium')).toBeUndefined();
    expect(() => save({ name: 'Été allium' }, { name: 'Onion' })).toThrow('The product “allium” is gone');
  });
});
