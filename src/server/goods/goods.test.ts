import { truncateSync } from 'node:fs';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { countsOf as counts, cups, GoodsDesk, issuesOf as issues } from '@/server/testing/goods-desk';
import { GoodsHistory, putMedia } from '@/store';
import { applyImport } from './apply';
import { undoChange } from './undo';
import { retireTag } from './retire-tag';

const desk = new GoodsDesk();
const { making } = desk;
beforeEach(() => desk.clear());
afterAll(() => desk.close());

describe('a table of goods that comes in', () => {
  it('is looked at first: what would be added, in kinds', async () => {
    const before = desk.catalogue();
    const staging = await desk.plan(cups);
    expect(issues(staging)).toEqual([]);
    expect(counts(staging)).toEqual({ 'brand added': 1, 'category added': 3, 'product added': 2, 'tag added': 2 });
    expect(desk.catalogue()).toEqual(before);
  });
  it('then taken: products with variants, options, brand, categories, tags and attributes', async () => {
    expect(await desk.bring(cups)).toMatchObject({ records: 8, left: [] });
    expect(desk.product('becher')).toMatchObject({
      name: 'Becher Nord',
      brand: 'toepferei-sund'.replace('oe', 'o'),
      categories: ['becher'],
      tags: ['neu', 'steinzeug'],
      attributes: [{ name: 'Glasur', value: 'matt' }],
      options: [
        {
          slug: 'colour',
          name: 'Farbe',
          values: [
            { slug: 'blau', name: 'Blau' },
            { slug: 'grun', name: 'Grün' },
          ],
        },
      ],
      variants: [
        { sku: 'B-1', name: 'Blau', price: 1250, stock: 4, values: { colour: 'blau' } },
        { sku: 'B-2', name: 'Grün', price: 1350, stock: 0, values: { colour: 'grun' } },
      ],
    });
    expect(desk.product('schale')?.variants).toMatchObject([{ sku: 'S-1', price: 123_400 }]);
    expect(desk.catalogue().categories?.map(({ slug, parent }) => [slug, parent])).toEqual([
      ['kuche', null],
      ['becher', 'kuche'],
      ['schalen', 'kuche'],
    ]);
  });
  it('and again changes nothing', async () => {
    await desk.bring(cups);
    expect(counts(await desk.plan(cups))).toEqual({});
  });
  it('changes fields one by one, by article number alone too', async () => {
    await desk.bring(cups);
    const staging = await desk.plan('Artikelnummer;Preis\nB-2;9,95\n');
    expect([
      counts(staging),
      staging.page('changed', 0, 9).map(({ slug, after }) => [slug, Object.keys(after)]),
    ]).toEqual([{ 'product changed': 1 }, [['becher', ['variants']]]]);
    applyImport(desk.shop, staging, making);
    expect(desk.product('becher')?.variants?.map(({ price }) => price)).toEqual([1250, 995]);
  });
  it('leaves variants what they are where only their figures change, and finds products by new words', async () => {
    await desk.bring(cups);
    const variants = () =>
      desk.shop.sql.all(
        'SELECT id, sku, price, was_price, stock FROM variant WHERE sku IN (?, ?) ORDER BY id',
        'B-1',
        'B-2',
      );
    const before = variants() as { id: number }[];
    await desk.bring('sku,price,was_price,stock\nB-1,11.00,12.50,9\n');
    expect(variants()).toEqual([
      { ...before[0], price: 1100, was_price: 1250, stock: 9 },
      { ...before[1], price: 1350, was_price: null, stock: 0 },
    ]);
    expect(desk.product('becher')?.variants?.map(({ values }) => values)).toEqual([
      { colour: 'blau' },
      { colour: 'grun' },
    ]);
    const found = (words: string) => desk.shop.catalogue().search(words, 9).length;
    const had = [found('Nord'), found('Fjord'), found('steinzeug'), found('Keramik')];
    await desk.bring('product,name\nbecher,Becher Fjord\n');
    await desk.bring(JSON.stringify({ tags: [{ slug: 'steinzeug', name: 'Keramik' }] }), { format: 'json' });
    expect([had, [found('Nord'), found('Fjord'), found('steinzeug'), found('Keramik')]]).toEqual([
      [1, 0, 2, 0],
      [0, 1, 0, 2],
    ]);
  });
  it('knows categories by paths that begin anywhere', async () => {
    await desk.bring(cups);
    const more = (path: string) => `Artikelgruppe;Bezeichnung;Artikelnummer;Preis;Kategorie\nneu;Neu;N-1;1;${path}\n`;
    const made = async (path: string) => {
      const staging = await desk.plan(more(path));
      return ['added']
        .flatMap((what) => staging.page(what as 'added', 0, 9))
        .flatMap(({ kind, after }) => (kind === 'category' ? [`${String(after.parent)} > ${String(after.slug)}`] : []));
    };
    expect(await made('Küche > Schalen')).toEqual([]);
    expect(await made('schalen')).toEqual([]);
    expect(await made('Becher > Klein')).toEqual(['becher > klein']);
    expect(await made('Bad > Becher')).toEqual(['null > bad', 'bad > becher-2']);
  });
  it('replaces all when it is asked to', async () => {
    await desk.bring(cups);
    const staging = await desk.plan(cups.split('\n').slice(0, 3).join('\n'), { mode: 'replace' });
    expect(counts(staging)).toEqual({ 'product removed': 1 });
    applyImport(desk.shop, staging, making);
    expect(desk.catalogue().products?.map(({ slug }) => slug)).toEqual(['becher']);
  });
  it('is refused when a record changed since it was looked at', async () => {
    await desk.bring(cups);
    const staging = await desk.plan('Artikelnummer;Preis\nB-2;9,95\n');
    await desk.bring('Artikelnummer;Preis\nB-2;8\n');
    expect(() => applyImport(desk.shop, staging, making)).toThrow('“becher” was changed since this was looked at');
    expect(desk.product('becher')?.variants?.[1]?.price).toBe(800);
  });
});

describe('undo of an import', () => {
  it('leaves the catalogue as it was, new records and changed ones', async () => {
    await desk.bring(cups);
    const before = desk.catalogue();
    const change = await desk.bring(
      `${cups.replace('13,50', '14,00').replace('Schale Süd', 'Schale West')}teller;Teller;T-1;5;1;;Andere;Küche > Teller;;\n`,
    );
    expect(desk.catalogue()).not.toEqual(before);
    expect(undoChange(desk.shop, change.id, making).left).toEqual([]);
    expect(desk.catalogue()).toEqual(before);
  });
  it('of one that replaced all too, and the undo can be undone', async () => {
    await desk.bring(cups);
    const before = desk.catalogue();
    const change = await desk.bring('Artikelgruppe;Bezeichnung;Preis;Artikelnummer\nkrug;Krug;3;K-1\n', {
      mode: 'replace',
    });
    const after = desk.catalogue();
    const undo = undoChange(desk.shop, change.id, making);
    const byName = (all: typeof before) => ({
      ...all,
      products: [...(all.products ?? [])].sort((a, b) => (a.slug < b.slug ? -1 : 1)),
    });
    expect(byName(desk.catalogue())).toEqual(byName(before));
    undoChange(desk.shop, undo.id, making);
    expect(byName(desk.catalogue())).toEqual(byName(after));
  });
  it('after others worked on: by field, and what they changed stays', async () => {
    await desk.bring(cups);
    const change = await desk.bring(
      cups.replace('13,50', '14,00').replace('Becher Nord', 'Becher Ost').replace('matt', 'glatt'),
    );
    await desk.bring('Artikelgruppe;Bezeichnung\nbecher;Becher Mitte\n');
    expect(undoChange(desk.shop, change.id, making).left).toEqual(['name of the product “becher” was changed since']);
    expect(desk.product('becher')).toMatchObject({
      name: 'Becher Mitte',
      attributes: [{ value: 'matt' }],
      variants: [{}, { price: 1350 }],
    });
  });
  it('by value: what another wrote beside it in the same field stays without a word', async () => {
    await desk.bring(cups);
    const change = await desk.bring('Artikelnummer;Preis\nB-2;9,95\n');
    await desk.bring('Artikelnummer;Preis\nB-1;8\n');
    expect(undoChange(desk.shop, change.id, making).left).toEqual([]);
    expect(desk.product('becher')?.variants?.map(({ price }) => price)).toEqual([800, 1350]);
  });
  it('asks where others changed the same, and does nothing until it knows', async () => {
    await desk.bring(cups);
    const change = await desk.bring('Artikelnummer;Preis\nB-1;9,95\nB-2;9,95\n');
    await desk.bring('Artikelnummer;Preis\nB-2;8\n');
    const prices = () => desk.product('becher')?.variants?.map(({ price }) => price);
    const undo = (overlapping: 'ask' | 'replace') => undoChange(desk.shop, change.id, making, () => {}, overlapping);
    expect(() => undo('ask')).toThrow(
      expect.objectContaining({
        body: expect.objectContaining({
          code: 'overlap',
          left: ['price of B-2 of the product “becher” was changed since'],
        }) as object,
      }),
    );
    expect(prices()).toEqual([995, 800]);
    undo('replace');
    expect(prices()).toEqual([1250, 1350]);
  });
  it('does not remove what is in use by now', async () => {
    const change = await desk.bring(cups);
    await desk.bring('Artikelgruppe;Bezeichnung;Preis;Artikelnummer;Marke\nkrug;Krug;3;K-1;Töpferei Sund\n');
    expect(undoChange(desk.shop, change.id, making).left).toEqual(['The brand “topferei-sund” is in use by now']);
    expect(desk.catalogue().products?.map(({ slug, brand }) => [slug, brand])).toEqual([['krug', 'topferei-sund']]);
  });
  it('is done once, and listed with who did it', async () => {
    const change = await desk.bring(cups);
    undoChange(desk.shop, change.id, { ...making, by: 'Kim' });
    expect(() => undoChange(desk.shop, change.id, making)).toThrow('“Goods” was undone already');
    expect(() => undoChange(desk.shop, 99, making)).toThrow('There is no change 99');
    expect(
      new GoodsHistory(desk.shop.sql)
        .list()
        .map(({ title, by, added, removed, undoneBy }) => ({ title, by, added, removed, undoneBy })),
    ).toEqual([
      { title: 'Undo: Goods', by: 'Kim', added: 0, removed: 8, undoneBy: null },
      { title: 'Goods', by: 'Robin', added: 8, removed: 0, undoneBy: 2 },
    ]);
  });
});

describe('a tag that is retired', () => {
  it('goes from all products as one change, which can be undone', async () => {
    await desk.bring(cups);
    const before = desk.catalogue();
    const retired = retireTag(desk.shop, 'steinzeug', making);
    expect([retired?.had, desk.product('becher')?.tags, desk.product('schale')?.tags]).toEqual([2, ['neu'], []]);
    expect(desk.catalogue().tags?.map(({ slug }) => slug)).toEqual(['neu']);
    expect(retireTag(desk.shop, 'steinzeug', making)).toBeNull();
    expect(undoChange(desk.shop, retired?.id ?? 0, making).left).toEqual([]);
    const sorted = (file: ReturnType<typeof desk.catalogue>) => ({
      ...file,
      tags: [...(file.tags ?? [])].sort((a, b) => (a.slug < b.slug ? -1 : 1)),
    });
    expect(sorted(desk.catalogue())).toEqual(sorted(before));
  });
});

describe('everything that cannot be imported is reported, with its line', () => {
  const table: [name: string, text: string | Buffer, said: string[]][] = [
    [
      'prices that are none',
      'product,name,sku,price\na,A,1,-1\nb,B,2,1000000000\nc,C,3,"12,50"\nd,D,4,abc\ne,E,5,7.50\n',
      [
        '2 price: “-1” is below nothing: a price is 0 or more',
        '3 price: “1000000000” is too high for a price: at most 100,000,000',
        '4 price: “12,50” has its decimals after “,”; the file’s prices have them after “.”',
        '5 price: “abc” is not a price',
      ],
    ],
    [
      'ragged rows',
      'product;name;sku;price\na;A;1\nb;B;2;3;4\nc;C;3;4\n',
      [
        '2 : The row has 3 cells, the headings are 4: it is left out',
        '3 : The row has 5 cells, the headings are 4: it is left out',
      ],
    ],
    [
      'an article number twice in a product',
      'product;name;sku;price\na;A;1;2\na;A;1;3\n',
      ['3 : The article number “1” is there twice'],
    ],
    [
      'an article number of two products',
      'product;name;sku;price\na;A;1;2\nb;B;1;3\n',
      ['3 : The article number “1” is one of “a” already'],
    ],
    [
      'two names with one address',
      'name;sku;price\nBlue cup;1;2\nBlue: cup;2;2\n',
      [
        '2 : “blue cup” and “blue: cup” come to the same address “blue-cup”: give one of them another, in a column “product”',
      ],
    ],
    ['a new product without a name', 'product;sku;price\na;1;2\n', ['2 : A product that is new needs a name']],
    ['a new variant without a price', 'product;name;sku\na;A;1\n', ['2 : The variant “1” is new, and needs a price']],
    [
      'a name in another script, and nothing else',
      'name;price\n茶;2\n',
      [
        '2 : “茶” has no Latin letter or digit that an address could be made of: give the product one, in a column “product”',
      ],
    ],
    [
      'letters that are not UTF-8',
      Buffer.from('product;name;sku;price\na;Größe;1;2\n', 'latin1'),
      [
        '1 : The file is not UTF-8 and does not say how it is encoded: it was read as windows-1252. Check whether accents and signs are right',
      ],
    ],
    [
      'a name in “related” that is no product',
      'product;name;sku;price;related\na;A;1;2;b\n',
      ['0 related: “a” names “b”, which is no product: the name is left out'],
    ],
  ];
  it.each(table)('%s', async (_, text, said) => expect(issues(await desk.plan(text))).toEqual(said));
  it('in both lists of a product, it is left out of both', async () => {
    const text = 'product,name,sku,price,related,members\nc,C,3,2,,\na,A,1,2,b|c,x|c\n';
    const staging = await desk.plan(text);
    applyImport(desk.shop, staging, making);
    expect([issues(staging).length, desk.product('a')?.related, desk.product('a')?.members]).toEqual([2, ['c'], ['c']]);
  });
  it('pictures that are not there yet, each once', async () => {
    putMedia(desk.shop.sql, 'b.png', 'image/png', Buffer.from('x'));
    const text =
      'product,name,sku,price,pictures\na,A,1,2,a.png|b.png\nb,B,2,2,a.png\nc,C,3,2,https://x.example/c.png\n';
    expect(issues(await desk.plan(text))).toEqual([
      '0 pictures: There is no picture “a.png” yet, which “a” names: bring it in too',
    ]);
  });

  const unreadable: [name: string, text: string | Buffer, said: string][] = [
    ['an empty file', '', 'The file is empty.'],
    ['the wrong delimiter', 'one column\nand no more\n', 'Only one column was found'],
    ['a quote left open', 'a;b\n1;"2\n3;4\n', 'A quote that opens in or after line 2 is not closed'],
    ['a picture', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 1, 0, 2, 3, 4]), 'This is not a text file'],
  ];
  it.each(unreadable)('%s', async (_, text, said) => expect(desk.plan(text)).rejects.toThrow(said));

  it.each(['csv', 'json'] as const)('2 GB of %s', async (format) => {
    // Nearly all of it is a hole: the disk holds a line.
    const grow = (file: string) => truncateSync(file, 2_000_000_000);
    await expect(desk.plan('product,name\n', { format }, grow)).rejects.toThrow('The file has 2.0 GB: at most');
  });

  it('UTF-16 with its mark is read', async () => {
    const text = Buffer.concat([
      Buffer.from([0xff, 0xfe]),
      Buffer.from('product;name;sku;price\na;Größe;1;2\n', 'utf16le'),
    ]);
    const staging = await desk.plan(text);
    expect([issues(staging), staging.page('added', 0, 1)[0]?.after.name]).toEqual([[], 'Größe']);
  });
  it('cells that a table program would compute are texts', async () => {
    await desk.bring("product;name;sku;price\na;'=1+1;1;2\nb;=2+2;2;2\n");
    expect([desk.product('a')?.name, desk.product('b')?.name]).toEqual(['=1+1', '=2+2']);
  });
});
