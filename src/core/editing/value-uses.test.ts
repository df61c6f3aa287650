import { describe, expect, it } from 'vitest';
import { Theme, type Layer } from '@/core/theme';
import { renamedUses, valueUses, type NamedThing } from './value-uses';

const layer = (kind: Layer['kind'], name: string, files: Record<string, string>): Layer => ({
  ...{ kind, name, version: '1' },
  files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: `${name} ${path} ${text}`, text }])),
});

/** What a single template names: `tag:sale`, in its order. */
const namedIn = (source: string, more: Record<string, string> = {}): string[] =>
  valueUses(new Theme([layer('shop', 'Own', { 'product/default.html': source, ...more })]))
    .filter(({ file }) => file === 'product/default.html')
    .map(({ of, value, from, to }) => `${of}:${source.slice(from, to) === value ? value : '?'}`);

describe('what a template names', () => {
  const cases: [source: string, names: string[]][] = [
    ["{content('care').title}", ['content:care']],
    [
      "{menu('main') | json}{category('rope').name}{product('manila').name}",
      ['menu:main', 'category:rope', 'product:manila'],
    ],
    ["<p do:each=\"one in products(tag: 'offer', category: 'rope', limit: 4)\"></p>", ['tag:offer', 'category:rope']],
    ['<p do:each="one in products(type: \'book\')"></p>', ['type:book']],
    ['<p do:when="\'load-rated\' in product.tags"></p>', ['tag:load-rated']],
    [
      "<p do:when=\"'load-rated' not in product.tags and 'lamps' in product.categories\"></p>",
      ['tag:load-rated', 'category:lamps'],
    ],
    ['<p do:when="product.type == \'book\'"></p>', ['type:book']],
    ["<p do:when=\"product.type in ['book', 'flag']\"></p>", ['type:book', 'type:flag']],
    ['<p do:when="product.brand.slug == \'osier\'"></p>', ['brand:osier']],
    ['<p do:when="category.slug != \'finishes\'"></p>', ['category:finishes']],
    ["{product.attributes | first(it.name == 'Lay')}", ['attribute:Lay']],
    ['<p do:each="tag in product.tags" do:when="tag.slug == \'sale\'"></p>', ['tag:sale']],
    ['<p do:each="one in product.options"><b do:when="one.slug == \'colour\'">x</b></p>', ['option:colour']],
    ["{products(limit: 3) | split_by('colour')}", ['option:colour']],
    ['<a href="/content/care#wash">Care</a>', ['content:care']],
    ['<a href="/listing/tag/offer?page=2">Offers</a>', ['tag:offer']],
    ["{'/category/rope'}", ['category:rope']],
    ['<a href="/cart">Cart</a><a href="/product/{product.slug}">It</a>', []],
    ["{product.name == 'care'}{t('care')}{asset('care')}", []],
    ['<draw name="pieces/guide" page="care" title="care"/>', ['content:care']],
    ['<draw name="pieces/outer" guide="care"/>', ['content:care']],
  ];
  const pieces = {
    'pieces/guide.html': '<takes name="page"><takes name="title"><p>{title}{content(page | trim).title}</p>',
    'pieces/outer.html': '<takes name="guide"><draw name="pieces/guide" page="{guide}"/>',
  };
  it.each(cases)('%s', (source, names) => expect(namedIn(source, pieces)).toEqual(names));
});

const theme = new Theme([
  layer('base', 'Quay', {
    'product/default.html': '<p do:when="\'offer\' in product.tags"></p>',
    'pieces/row.html': '<takes name="tag"><p do:each="one in products(tag: tag)"></p>',
    'look.json': '{"listings": {"default": {"split_by": "colour", "values_of": {"offer": []}}}}',
  }),
  layer('shop', 'Own', {
    'home/default.html': '<a href="/listing/tag/offer">A</a>\n<draw name="pieces/row" tag="offer"/>',
    'alternates.json': JSON.stringify({
      alternates: [{ kind: 'product', name: 'book', label: 'Book', types: ['book'] }],
      pins: [
        { kind: 'category', slug: 'offer', alternate: 'default' },
        { kind: 'listing', slug: 'tag/offer', alternate: 'default' },
      ],
      rules: [
        {
          ...{ id: 'a', kind: 'product', alternate: 'book' },
          when: {
            any: [
              { fact: 'tag', test: 'is', value: ['sale', 'offer'] },
              { fact: 'slug', test: 'is', value: ['offer'] },
            ],
          },
        },
        {
          ...{ id: 'b', kind: 'product', alternate: 'book' },
          when: { not: [{ fact: 'attribute', name: 'Lay', test: 'is', value: ['offer'] }] },
        },
        { id: 'c', kind: 'listing', alternate: 'book', when: { fact: 'tag', test: 'is', value: ['offer'] } },
      ],
    }),
    'shelves.json': JSON.stringify({
      placements: [
        {
          id: 'x',
          shelf: 'home',
          piece: 'pieces/row',
          inputs: { tag: 'offer', heading: 'offer' },
          subject: 'listing/tag/offer',
        },
        { id: 'y', shelf: 'home', piece: 'pieces/row', subject: 'product/offer' },
      ],
    }),
  }),
]);

describe('what a theme names', () => {
  const places = (of: NamedThing, value: string) =>
    valueUses(theme)
      .filter((use) => use.of === of && use.value === value)
      .map(({ where, file, line, layer: name }) => `${where} ${name} ${file} ${line}`);
  it('is told with where it stands', () => {
    expect(places('tag', 'offer')).toEqual([
      'template Own home/default.html 1',
      'template Own home/default.html 2',
      'template Quay product/default.html 1',
      'pin Own alternates.json 1',
      'rule Own alternates.json 1',
      'rule Own alternates.json 1',
      'shelf Own shelves.json 1',
      'shelf Own shelves.json 1',
    ]);
    expect(places('product', 'offer')).toEqual([
      'rule Own alternates.json 1',
      'look Quay look.json 1',
      'shelf Own shelves.json 1',
    ]);
    expect(places('category', 'offer')).toEqual(['pin Own alternates.json 1']);
    expect(places('type', 'book')).toEqual(['alternate Own alternates.json 1']);
    expect(places('attribute', 'Lay')).toEqual(['rule Own alternates.json 1']);
    expect(places('option', 'colour')).toEqual(['look Quay look.json 1']);
  });
  it('takes over another name in the files of a layer, and nothing else', () => {
    const own = theme.layers[1] as Layer;
    const texts = renamedUses(own, valueUses(theme), { of: 'tag', value: 'offer' }, 'on-offer');
    expect([...texts.keys()].sort()).toEqual(['alternates.json', 'home/default.html', 'shelves.json']);
    expect(texts.get('home/default.html')).toBe(
      '<a href="/listing/tag/on-offer">A</a>\n<draw name="pieces/row" tag="on-offer"/>',
    );
    expect(JSON.parse(texts.get('alternates.json') ?? '')).toMatchObject({
      pins: [{ slug: 'offer' }, { slug: 'tag/on-offer' }],
      rules: [
        { when: { any: [{ value: ['sale', 'on-offer'] }, { value: ['offer'] }] } },
        { when: { not: [{ value: ['offer'] }] } },
        { when: { value: ['on-offer'] } },
      ],
    });
    expect(JSON.parse(texts.get('shelves.json') ?? '')).toMatchObject({
      placements: [
        { inputs: { tag: 'on-offer', heading: 'offer' }, subject: 'listing/tag/on-offer' },
        { subject: 'product/offer' },
      ],
    });
  });
});
