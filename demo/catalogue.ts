import sharp from 'sharp';
import type { CatalogueDraft } from '@/contract/catalogue-file';
import {
  articleTexts,
  attributeTexts,
  categoryTexts,
  contentTexts,
  fieldTexts,
  french,
  menuTexts,
  tagTexts,
  brandTexts,
} from './french';
import { moreGoods, palette, sizes, type Good } from './goods';
import { draw, type Drawing } from './pictures';

type Product = NonNullable<CatalogueDraft['products']>[number];

/**
 * Withy Quay, an invented chandlery. Every name, text, price and number here is made up for this project.
 * Longer than most files: the demo's goods are one table, in the order of the shop.
 */
const firstGoods: Good[] = [
  {
    slug: 'tarred-hemp-rope',
    type: 'rope',
    name: 'Tarred hemp rope, three-strand',
    drawing: 'coil',
    price: 420,
    step: 360,
    stocks: [120, 80, 34, 60, 0, 18, 44, 12, 5],
    summary: 'Hard-laid and Stockholm-tarred. Sold by the metre.',
    brand: 'osier-ropewalk',
    sku: 'WQ-THR',
    added: '2026-02-03',
    description:
      '<p>Laid by hand on our neighbour’s walk from long-staple hemp, then drawn warm through Stockholm tar.</p><h3>What it is for</h3><p>Mooring, lanyards and everything aboard that should smell of a boat.</p><h3>Working it</h3><ul><li>Splices cleanly with a wooden fid.</li><li>Whip the ends before cutting.</li><li>Takes up about a tenth in length when wet.</li></ul>',
    tags: ['natural-fibre', 'load-rated', 'by-the-metre', 'traditional'],
    categories: ['natural-fibre-rope', 'mooring'],
    options: [palette('brown', 'natural', 'black'), sizes('diameter', 'Diameter', 'mm', 8, 12, 16)],
    attributes: [
      { name: 'Lay', value: 'right-hand' },
      { name: 'Strands', value: '3' },
      { name: 'Stock code', value: 'K9-204', visible: false },
    ],
    fields: {
      sold_by: 'metre',
      guides: 'care, knots, delivery',
      breaking_load: '14.7',
      diameter: '12',
      material: 'Hemp',
      lay: 'right-hand',
      lead_time: '2',
    },
    related: ['oak-fid-small', 'waxed-whipping-twine', 'stockholm-tar', 'splicing-kit'],
    film: 'https://player.withyquay.example/hemp-walk',
  },
  {
    slug: 'manila-rope',
    type: 'rope',
    name: 'Manila rope',
    drawing: 'coil',
    price: 310,
    step: 240,
    stocks: [200, 140, 60],
    summary: 'Golden, grippy and easy on the hands.',
    brand: 'osier-ropewalk',
    sku: 'WQ-MAN',
    added: '2025-11-14',
    description: '<p>Grade-one abacá, lightly oiled. Swells in the wet and holds a knot like a grudge.</p>',
    tags: ['natural-fibre', 'load-rated', 'by-the-metre'],
    categories: ['natural-fibre-rope'],
    options: [palette('natural'), sizes('diameter', 'Diameter', 'mm', 10, 14, 20)],
    attributes: [{ name: 'Lay', value: 'right-hand' }],
    fields: { sold_by: 'metre', breaking_load: '12.1', diameter: '14', material: 'Abacá' },
    related: ['tarred-hemp-rope', 'mooring-set'],
  },
  {
    slug: 'polyester-braid',
    type: 'rope',
    name: 'Polyester braid',
    drawing: 'braid',
    price: 145,
    step: 95,
    stocks: [300, 260, 120, 40, 0, 90, 75],
    summary: 'Low stretch for halyards and sheets, in six colours and four sizes.',
    brand: 'marl-and-fid',
    sku: 'WQ-PBR',
    added: '2026-04-20',
    description: '<p>Sixteen-plait cover over a braided core. Stretches under 4% at a third of its breaking load.</p>',
    tags: ['synthetic', 'load-rated', 'by-the-metre', 'running-rigging'],
    categories: ['synthetic-rope'],
    options: [
      palette('navy', 'red', 'white', 'green', 'ochre', 'black'),
      sizes('diameter', 'Diameter', 'mm', 6, 8, 10, 12),
    ],
    attributes: [
      { name: 'Plait', value: '16-plait' },
      { name: 'Floats', value: 'no' },
    ],
    fields: {
      sold_by: 'metre',
      breaking_load: '21.5',
      diameter: '8',
      material: 'Polyester',
      film: 'https://player.withyquay.example/braid',
    },
    related: ['bronze-jam-cleat', 'oak-horn-cleat'],
  },
  {
    slug: 'floating-line',
    type: 'rope',
    name: 'Floating line',
    drawing: 'braid',
    price: 95,
    was: 130,
    stocks: [80, 3],
    summary: 'Bright, light and hard to lose.',
    brand: 'marl-and-fid',
    sku: 'WQ-FLO',
    added: '2026-05-02',
    description: '<p>Polypropylene line for throwing, towing and tying up the tender.</p>',
    tags: ['synthetic', 'by-the-metre', 'offer', 'safety'],
    categories: ['synthetic-rope'],
    options: [palette('ochre', 'red')],
    attributes: [{ name: 'Floats', value: 'yes' }],
    fields: { sold_by: 'metre', diameter: '10', material: 'Polypropylene' },
  },
  {
    slug: 'waxed-whipping-twine',
    type: 'cord',
    name: 'Waxed whipping twine',
    drawing: 'spool',
    price: 480,
    stocks: [46, 31, 4],
    summary: 'Fifty metres on a beech spool.',
    brand: 'osier-ropewalk',
    sku: 'WQ-TWI',
    added: '2025-09-01',
    description: '<p>Five-ply polyester, waxed so that a turn stays where it is put.</p>',
    tags: ['synthetic', 'rigging', 'gift'],
    categories: ['cord'],
    options: [palette('white', 'brown', 'navy')],
    attributes: [{ name: 'Length', value: '50 m' }],
    fields: { material: 'Polyester', diameter: '1' },
    related: ['splicing-kit', 'oak-fid-small'],
  },
  {
    slug: 'shock-cord',
    type: 'cord',
    name: 'Shock cord',
    drawing: 'hank',
    price: 120,
    stocks: [60, 60],
    summary: '',
    brand: 'marl-and-fid',
    sku: 'WQ-SHO',
    added: '2025-07-19',
    tags: ['synthetic', 'by-the-metre'],
    categories: ['cord'],
    options: [palette('black', 'white')],
    fields: { sold_by: 'metre', diameter: '6' },
  },
  {
    slug: 'oak-horn-cleat',
    type: 'cleat',
    name: 'Oak horn cleat',
    drawing: 'cleat',
    colour: '#a06a35',
    price: 1450,
    step: 450,
    stocks: [14, 9, 2],
    summary: 'Steamed, oiled, and drilled for two bolts.',
    brand: 'withy-yard',
    sku: 'WQ-OHC',
    added: '2026-01-11',
    description: '<p>Turned from one piece of green oak so that the grain runs along the horns.</p>',
    tags: ['deck', 'traditional', 'gift'],
    categories: ['cleats'],
    options: [sizes('length', 'Length', 'mm', 120, 180, 240)],
    attributes: [{ name: 'Wood', value: 'English oak' }],
    fields: { material: 'Oak', lead_time: '5' },
    related: ['bronze-jam-cleat', 'deck-oil'],
  },
  {
    slug: 'bronze-jam-cleat',
    type: 'cleat',
    name: 'Bronze jam cleat',
    drawing: 'jam',
    colour: '#b0813a',
    price: 2890,
    stocks: [11],
    summary: 'Two toothed jaws on stiff springs.',
    brand: 'blackmere-forge',
    sku: 'WQ-BJC',
    added: '2026-03-08',
    description: '<p>Holds line from 6 to 12 mm and lets go when told.</p>',
    tags: ['deck', 'running-rigging'],
    categories: ['cleats'],
    attributes: [{ name: 'Line', value: '6 to 12 mm' }],
    fields: { material: 'Bronze', breaking_load: '3.2' },
  },
  {
    slug: 'bronze-bow-shackle',
    type: 'shackle',
    name: 'Bronze bow shackle',
    drawing: 'bow',
    colour: '#b58a45',
    price: 990,
    step: 520,
    stocks: [25, 18, 7, 0],
    summary: 'Forged, pinned and stamped with its load.',
    brand: 'blackmere-forge',
    sku: 'WQ-BBS',
    added: '2026-02-27',
    description:
      '<p>Forged from aluminium bronze, proof-tested singly.</p><table><thead><tr><th>Pin</th><th>Working load</th></tr></thead><tbody><tr><td>6 mm</td><td>4.9 kN</td></tr><tr><td>10 mm</td><td>12.3 kN</td></tr></tbody></table>',
    tags: ['deck', 'load-rated', 'mooring'],
    categories: ['shackles', 'mooring'],
    options: [sizes('pin', 'Pin', 'mm', 6, 8, 10, 12)],
    attributes: [{ name: 'Tested to', value: 'twice the working load' }],
    fields: {
      material: 'Aluminium bronze',
      breaking_load: '24.5',
      rigging: '<p>Pin down, load in line, mouse the pin with wire.</p>',
    },
    related: ['galvanised-d-shackle', 'mooring-set'],
  },
  {
    slug: 'galvanised-d-shackle',
    type: 'shackle',
    name: 'Galvanised D shackle',
    drawing: 'dee',
    colour: '#8f989c',
    price: 340,
    stocks: [0],
    summary: 'The plain one that does most of the work.',
    brand: 'blackmere-forge',
    sku: 'WQ-GDS',
    added: '2025-06-30',
    description: '<p>Hot-dip galvanised steel.</p>',
    tags: ['deck', 'load-rated', 'mooring'],
    categories: ['shackles'],
    fields: { material: 'Steel', breaking_load: '19.6' },
  },
  {
    slug: 'brass-oarlock',
    type: 'rowing',
    name: 'Brass oarlock',
    drawing: 'oarlock',
    colour: '#c9a348',
    price: 2150,
    stocks: [16],
    summary: 'Round-horned, for leathered oars. Sold singly.',
    brand: 'blackmere-forge',
    sku: 'WQ-OAR',
    added: '2025-12-05',
    tags: ['rowing', 'traditional'],
    categories: ['deck-hardware'],
    fields: { material: 'Brass' },
    related: ['canvas-bucket'],
  },
  {
    slug: 'oak-fid-small',
    type: 'tool',
    name: 'Oak fid, small',
    drawing: null,
    price: 860,
    stocks: [22],
    summary: 'Opens the lay without cutting a yarn.',
    brand: 'withy-yard',
    sku: 'WQ-FID',
    added: '2026-06-01',
    description: '<p>Turned from oak offcuts and waxed. 180 mm.</p>',
    tags: ['rigging', 'traditional', 'gift'],
    categories: ['deck-hardware'],
    attributes: [{ name: 'Length', value: '180 mm' }],
    fields: { material: 'Oak' },
  },
  {
    slug: 'anchor-lamp',
    type: 'lamp',
    name: 'Anchor lamp',
    drawing: 'lamp',
    colour: '#b07a2a',
    price: 8900,
    stocks: [6, 1],
    summary: 'All-round white, visible two miles on a clear night.',
    brand: 'tidelamp',
    sku: 'WQ-ANL',
    added: '2026-03-30',
    description: '<p>Brass and copper with a ribbed glass. Burns lamp oil for eighteen hours at a filling.</p>',
    tags: ['lamp', 'safety', 'gift'],
    categories: ['lamps'],
    options: [
      {
        slug: 'finish',
        name: 'Finish',
        texts: { fr: { name: 'Finition' } },
        values: [
          { slug: 'polished', name: 'Polished', texts: { fr: { name: 'Poli' } } },
          { slug: 'lacquered', name: 'Lacquered', texts: { fr: { name: 'Verni' } } },
        ],
      },
    ],
    attributes: [{ name: 'Burning time', value: '18 hours' }],
    fields: { material: 'Brass', lead_time: '10', film: 'https://player.withyquay.example/anchor-lamp' },
    related: ['cabin-lantern', 'handbook-of-knots'],
  },
  {
    slug: 'cabin-lantern',
    type: 'lamp',
    name: 'Cabin lantern',
    drawing: 'lamp',
    colour: '#3f5a4a',
    price: 5400,
    was: 6400,
    stocks: [9],
    summary: 'Swings in gimbals, hangs level.',
    brand: 'tidelamp',
    sku: 'WQ-CAL',
    added: '2026-04-11',
    description: '<p>For a bulkhead or a beam. The gimbals lock for harbour.</p>',
    tags: ['lamp', 'offer', 'gift'],
    categories: ['lamps'],
    fields: { material: 'Steel, enamelled' },
  },
  {
    slug: 'spar-varnish',
    type: 'finish',
    name: 'Spar varnish',
    drawing: 'tin',
    colour: '#a3541c',
    price: 1890,
    step: 1500,
    stocks: [30, 12],
    summary: 'Tung oil and resin, flexible enough for a mast.',
    brand: 'withy-yard',
    sku: 'WQ-VAR',
    added: '2025-10-10',
    description: '<p>Five thin coats, a day apart, and a dry spring.</p>',
    tags: ['finish', 'wood'],
    categories: ['finishes'],
    options: [sizes('size', 'Size', 'l', '0.5', '2.5')],
    attributes: [{ name: 'Drying time', value: '24 hours' }],
    fields: {},
    related: ['deck-oil', 'stockholm-tar'],
  },
  {
    slug: 'deck-oil',
    type: 'finish',
    name: 'Deck oil',
    drawing: 'tin',
    colour: '#54652f',
    price: 1650,
    stocks: [24],
    summary: 'Feeds teak and oak, stays matt.',
    brand: 'withy-yard',
    sku: 'WQ-DOI',
    added: '2025-10-12',
    description:
      '<p>Wipe on, wait, wipe off. Rags soaked in oil can catch fire by themselves: dry them flat outdoors.</p>',
    tags: ['finish', 'wood'],
    categories: ['finishes'],
  },
  {
    slug: 'stockholm-tar',
    type: 'finish',
    name: 'Stockholm tar',
    drawing: 'tin',
    colour: '#33261d',
    price: 1420,
    stocks: [17],
    summary: 'Kiln-burnt pine tar for rope and timber.',
    sku: 'WQ-TAR',
    added: '2025-10-15',
    description: '<p>Thin with turpentine by half for hemp, neat for timber.</p>',
    tags: ['finish', 'traditional', 'wood'],
    categories: ['finishes'],
    fields: { lead_time: '3' },
  },
  {
    slug: 'canvas-bucket',
    type: 'canvas',
    name: 'Canvas bucket',
    drawing: 'bucket',
    price: 2450,
    stocks: [8, 6, 0],
    summary: 'Folds flat, stands when wet, roped at the rim.',
    brand: 'withy-yard',
    sku: 'WQ-BUC',
    added: '2026-05-18',
    description: '<p>Proofed flax canvas, double-stitched, eight litres.</p>',
    tags: ['canvas', 'traditional', 'gift'],
    categories: ['canvas'],
    options: [palette('natural', 'navy', 'green')],
    attributes: [{ name: 'Holds', value: '8 l' }],
    fields: { material: 'Flax canvas' },
  },
  {
    slug: 'mainsail-cover-made-to-measure',
    type: 'canvas',
    drawing: 'cover',
    colour: '#24406b',
    price: 23900,
    stocks: [4],
    name: 'Mainsail cover, made to measure for boats between four and seven metres, with storm lacing, drain eyelets and a mast collar in the colour of your choice',
    summary: 'Send us four measurements; we send you a cover.',
    brand: 'withy-yard',
    sku: 'WQ-MSC',
    added: '2026-06-20',
    description: '<p>Acrylic canvas that breathes, laced with shock cord.</p>',
    tags: ['canvas', 'to-measure'],
    categories: ['canvas'],
    fields: { lead_time: '21', material: 'Acrylic canvas' },
  },
  {
    slug: 'quay-pennant',
    type: 'flag',
    name: 'Quay pennant',
    drawing: 'flag',
    colour: '#b3261e',
    price: 1750,
    stocks: [0],
    summary: 'Our own burgee, sewn not printed.',
    brand: 'withy-yard',
    sku: 'WQ-PEN',
    added: '2026-07-01',
    description: '<p>Woven polyester with a rope and toggle.</p>',
    tags: ['flag', 'gift'],
    categories: ['flags'],
  },
  {
    slug: 'tide-notebook',
    type: 'book',
    name: 'Tide notebook',
    drawing: 'book',
    colour: '#35566f',
    price: 950,
    stocks: [52],
    summary: 'Waterproof pages, a pencil that floats.',
    brand: 'quayside-press',
    sku: 'WQ-TID',
    gtin: '0000000000017',
    added: '2026-08-09',
    description: '<p>A year of blank tide tables and room for what happened instead.</p>',
    tags: [],
    categories: ['books'],
  },
  {
    slug: 'handbook-of-knots',
    type: 'book',
    name: 'Handbook of Knots',
    drawing: 'book',
    colour: '#7a2f2a',
    price: 1890,
    was: 2200,
    stocks: [33],
    summary: 'Sixty knots, drawn from the tyer’s side.',
    brand: 'quayside-press',
    sku: 'WQ-KNO',
    gtin: '0000000000024',
    added: '2026-08-15',
    description: '<p>Each knot on one opening: how it is tied, what it is for, and when it lets you down.</p>',
    tags: ['rigging', 'offer', 'gift'],
    categories: ['books'],
    attributes: [{ name: 'Pages', value: '144' }],
    related: ['splicing-kit', 'waxed-whipping-twine'],
  },
  {
    slug: 'splicing-kit',
    type: 'set',
    name: 'Splicing kit',
    drawing: 'kit',
    colour: '#84461c',
    price: 4200,
    was: 4900,
    stocks: [13],
    summary: 'Fid, twine, rope and the book, in a canvas roll.',
    brand: 'withy-yard',
    sku: 'WQ-SPK',
    added: '2026-09-01',
    description: '<p>Everything for a first eye splice and the fiftieth.</p>',
    tags: ['rigging', 'offer', 'gift'],
    categories: ['deck-hardware', 'books'],
    members: ['oak-fid-small', 'waxed-whipping-twine', 'manila-rope', 'handbook-of-knots'],
  },
  {
    slug: 'mooring-set',
    type: 'set',
    name: 'Mooring set',
    drawing: 'kit',
    colour: '#2f5d46',
    price: 11500,
    stocks: [5],
    summary: 'Two lines, two shackles, two cleats: enough to stay.',
    brand: 'withy-yard',
    sku: 'WQ-MOO',
    added: '2026-09-14',
    description: '<p>For boats to six metres. Lines are spliced to order.</p>',
    tags: ['mooring', 'load-rated'],
    categories: ['mooring'],
    members: ['tarred-hemp-rope', 'bronze-bow-shackle', 'oak-horn-cleat'],
    fields: { lead_time: '4', breaking_load: '14.7' },
  },
];

const goods: Good[] = [...firstGoods, ...moreGoods];

/** Texts in French, where there are some. */
const fr = <T extends object>(texts: T | null): Record<string, T> => (texts ? { fr: texts } : {});

/** Every combination of the options' values, the first option slowest. */
function combinations(options: NonNullable<Good['options']>): Record<string, string>[] {
  return options.reduce<Record<string, string>[]>(
    (made, option) => made.flatMap((one) => option.values.map((value) => ({ ...one, [option.slug]: value.slug }))),
    [{}],
  );
}

function made(good: Good): Product {
  const { drawing: _, colour: __, price, step = 0, was, stocks, unmade = [], raster: ___, film, ...rest } = good;
  const options = good.options ?? [];
  const last = options[options.length - 1];
  const variants = combinations(options)
    .filter((values) => !unmade.includes(Object.values(values).join(' ')))
    .map((values, at) => {
      const place = last ? last.values.findIndex((value) => value.slug === values[last.slug]) : 0;
      return {
        sku: options.length ? `${good.sku}-${at + 1}` : (good.sku as string),
        price: price + step * place,
        wasPrice: was ?? null,
        stock: stocks[Math.min(at, stocks.length - 1)] as number,
        values,
      };
    });
  const [name, summary, description] = french[good.slug] ?? [];
  const materials = Object.entries(good.fields ?? {}).flatMap(([key, value]) =>
    fieldTexts[value] && key !== 'sold_by' ? [[key, fieldTexts[value] as string] as const] : [],
  );
  return {
    ...rest,
    variants,
    attributes: (good.attributes ?? []).map((one) => ({
      ...one,
      texts: fr(
        attributeTexts[one.name]
          ? { name: attributeTexts[one.name], value: attributeTexts[one.value] ?? one.value }
          : null,
      ),
    })),
    fieldTexts: fr(materials.length ? Object.fromEntries(materials) : null),
    media: [
      ...picturesOf(good).map(({ svg: _, ...media }) => media),
      ...(film
        ? [
            {
              kind: 'embed' as const,
              path: film,
              alt: `${good.name as string}: film`,
              texts: fr(name ? { alt: `${name} : film` } : null),
            },
          ]
        : []),
    ],
    texts: fr(name ? { name, ...(summary ? { summary } : {}), ...(description ? { description } : {}) } : null),
  };
}

interface Picture {
  path: string;
  alt: string;
  width: number;
  height: number;
  shows: [string, string][];
  texts: Record<string, { alt: string }>;
  svg: string;
}

/** Pictures kept as PNG are this wide and high. */
const rasterSize = 1200;

function picturesOf({ slug, name, drawing, colour, options = [], raster }: Good): Picture[] {
  if (!drawing) return [];
  const short = (text: string) => text.split(',')[0] as string;
  const coloured = options.find((option) => option.slug === 'colour');
  const kinds = coloured?.values.map((value) => ({
    ...value,
    shows: [['colour', value.slug]] as [string, string][],
  })) ?? [{ slug: 'plain', name: '', colour: colour ?? '#8d6a45', shows: [] as [string, string][], texts: undefined }];
  const inFrench = french[slug]?.[0];
  const alt = (what: string, kind: string, close: string) =>
    `${short(what)}${kind ? `, ${kind.toLowerCase()}` : ''}${close}`;
  const size = raster ? rasterSize : 480;
  return kinds.flatMap((kind) =>
    [0, 1].map((view) => ({
      path: `${slug}-${kind.slug}${view ? '-close' : ''}.${raster ? 'png' : 'svg'}`,
      alt: alt(name as string, kind.name, view ? ', from close by' : ''),
      width: size,
      height: size,
      shows: kind.shows,
      texts: fr(inFrench ? { alt: alt(inFrench, kind.texts?.fr?.name ?? '', view ? ', de près' : '') } : null),
      svg: draw(drawing, kind.colour ?? '#8d6a45', view),
    })),
  );
}

const categoryPictures: Record<string, [Drawing, string]> = {
  'rope-and-cord': ['coil', '#7a4a21'],
  'natural-fibre-rope': ['coil', '#d3b98a'],
  'synthetic-rope': ['braid', '#24406b'],
  'deck-hardware': ['bow', '#b58a45'],
  cleats: ['cleat', '#a06a35'],
  lamps: ['lamp', '#b07a2a'],
  finishes: ['tin', '#a3541c'],
  'canvas-and-flags': ['bucket', '#2f5d46'],
  books: ['book', '#7a2f2a'],
};

const articlePictures: Record<string, [Drawing, string]> = {
  'first-eye-splice': ['coil', '#d3b98a'],
  'choosing-a-mooring-line': ['bow', '#b58a45'],
  'lamps-that-stay-lit': ['lamp', '#b07a2a'],
};

/** Every picture of the demo as it is drawn, by its path; those whose path ends in .png are kept as PNG. */
export function demoDrawings(): { path: string; svg: string }[] {
  return [
    ...goods.flatMap(picturesOf).map(({ path, svg }) => ({ path, svg })),
    ...Object.entries(categoryPictures).map(([slug, [drawing, colour]]) => ({
      path: `category-${slug}.svg`,
      svg: draw(drawing, colour, 1),
    })),
    ...Object.entries(articlePictures).map(([slug, [drawing, colour]]) => ({
      path: `article-${slug}.svg`,
      svg: draw(drawing, colour, 0),
    })),
  ];
}

/** The pictures as files, the raster ones made from their drawings. */
export async function demoPictures(): Promise<
  { path: string; type: string; bytes: Buffer; width: number; height: number }[]
> {
  return Promise.all(
    demoDrawings().map(async ({ path, svg }) => {
      const raster = path.endsWith('.png');
      const bytes = Buffer.from(svg);
      return {
        path,
        type: raster ? 'image/png' : 'image/svg+xml',
        bytes: raster ? await sharp(bytes, { density: 180 }).resize(rasterSize).png().toBuffer() : bytes,
        width: raster ? rasterSize : 480,
        height: raster ? rasterSize : 480,
      };
    }),
  );
}

const pageTexts = (texts: [title: string, summary: string, body: string] | undefined) =>
  fr(texts ? { title: texts[0], ...(texts[1] ? { summary: texts[1] } : {}), body: texts[2] } : null);

const category = (slug: string, parent: string | null, name: string, summary = '', description = '') => {
  const [other, about, long] = categoryTexts[slug] ?? [];
  return {
    slug,
    parent,
    name,
    summary,
    description,
    media: categoryPictures[slug]
      ? [
          {
            path: `category-${slug}.svg`,
            alt: name,
            width: 480,
            height: 480,
            texts: fr(other ? { alt: other } : null),
          },
        ]
      : [],
    texts: fr(
      other ? { name: other, ...(about ? { summary: about } : {}), ...(long ? { description: long } : {}) } : null,
    ),
  };
};

interface Item {
  label: string;
  target: string;
  children?: Item[];
}

const inFrench = ({ label, target, children }: Item): Item & { texts?: Record<string, { label: string }> } => ({
  label,
  target,
  ...(menuTexts[label] ? { texts: { fr: { label: menuTexts[label] as string } } } : {}),
  ...(children ? { children: children.map(inFrench) } : {}),
});

export const withyQuay: CatalogueDraft = {
  shop: {
    name: 'Withy Quay',
    currency: 'GBP',
    locale: 'en-GB',
    locales: ['en-GB', 'fr'],
    email: 'orders@withyquay.example',
  },
  brands: [
    {
      slug: 'osier-ropewalk',
      name: 'Osier Ropewalk',
      summary: 'Rope from the walk next door.',
      texts: { fr: { summary: brandTexts['osier-ropewalk'] as string } },
    },
    {
      slug: 'marl-and-fid',
      name: 'Marl & Fid',
      summary: 'Braids and cords that keep their colour.',
      texts: { fr: { summary: brandTexts['marl-and-fid'] as string } },
    },
    {
      slug: 'blackmere-forge',
      name: 'Blackmere Forge',
      summary: 'Bronze, brass and galvanised iron.',
      texts: { fr: { summary: brandTexts['blackmere-forge'] as string } },
    },
    {
      slug: 'tidelamp',
      name: 'Tidelamp',
      summary: 'Lamps and lanterns.',
      texts: { fr: { summary: brandTexts['tidelamp'] as string } },
    },
    {
      slug: 'withy-yard',
      name: 'Withy Yard',
      summary: 'Made here, in the loft above the shop.',
      texts: { fr: { summary: brandTexts['withy-yard'] as string } },
    },
    {
      slug: 'quayside-press',
      name: 'Quayside Press',
      summary: 'Books that survive a wet locker.',
      texts: { fr: { summary: brandTexts['quayside-press'] as string } },
    },
  ],
  categories: [
    category('goods', null, 'All goods'),
    category(
      'rope-and-cord',
      'goods',
      'Rope & cord',
      'By the metre, cut clean and whipped if you like.',
      '<p>Natural fibre for the look and the feel of it; synthetic where stretch, rot or weight matter. Not sure? <a href="/content/knots">Start with the knot.</a></p>',
    ),
    category('natural-fibre-rope', 'rope-and-cord', 'Natural fibre', 'Hemp and manila, laid the old way.'),
    category('synthetic-rope', 'rope-and-cord', 'Synthetic', 'Braids and lines that do not mind the wet.'),
    category('cord', 'rope-and-cord', 'Cord & twine'),
    category('deck-hardware', 'goods', 'Deck hardware', 'What the rope is made fast to.'),
    category('cleats', 'deck-hardware', 'Cleats', 'Horned and jamming.'),
    category('shackles', 'deck-hardware', 'Shackles'),
    category('mooring', 'deck-hardware', 'Mooring', 'Everything to stay where you are.'),
    category('anchors', 'deck-hardware', 'Anchors', 'Small anchors for small boats.'),
    category('lamps', 'goods', 'Lamps', 'To see and be seen.'),
    category('finishes', 'goods', 'Finishes', 'Oils, tar and varnish.'),
    category('canvas-and-flags', 'goods', 'Canvas & flags'),
    category('canvas', 'canvas-and-flags', 'Canvas'),
    category('flags', 'canvas-and-flags', 'Flags'),
    category('books', 'goods', 'Books', 'For the bunk and the bench.'),
  ],
  tags: [
    ['natural-fibre', 'natural fibre'],
    ['synthetic', 'synthetic'],
    ['load-rated', 'load-rated'],
    ['by-the-metre', 'by the metre'],
    ['traditional', 'traditional'],
    ['running-rigging', 'running rigging'],
    ['rigging', 'rigging'],
    ['deck', 'on deck'],
    ['mooring', 'mooring'],
    ['rowing', 'rowing'],
    ['safety', 'safety'],
    ['lamp', 'lamps'],
    ['finish', 'finishes'],
    ['wood', 'for wood'],
    ['canvas', 'canvas'],
    ['to-measure', 'made to measure'],
    ['flag', 'flags'],
    ['gift', 'a good present'],
    ['offer', 'on offer'],
    ['winter', 'for the winter'],
    ['paint', 'paint'],
    ['spares', 'spare parts'],
    ['clothing', 'clothing'],
    ['charts', 'charts'],
  ].map(([slug, name]) => ({
    slug: slug as string,
    name: name as string,
    texts: { fr: { name: tagTexts[slug as string] as string } },
  })),
  fields: [
    { subject: 'product', key: 'sold_by', name: 'Sold by', type: 'text' },
    { subject: 'product', key: 'breaking_load', name: 'Breaking load', type: 'number', unit: 'kN' },
    { subject: 'product', key: 'diameter', name: 'Diameter', type: 'number', unit: 'mm' },
    { subject: 'product', key: 'lay', name: 'Lay', type: 'text' },
    { subject: 'product', key: 'material', name: 'Material', type: 'text' },
    { subject: 'product', key: 'lead_time', name: 'Lead time', type: 'number', unit: 'days' },
    { subject: 'product', key: 'film', name: 'Film', type: 'link' },
    { subject: 'product', key: 'rigging', name: 'Rigging notes', type: 'html' },
    { subject: 'product', key: 'guides', name: 'Guides: slugs of content pages', type: 'text' },
    { subject: 'category', key: 'notice', name: 'Notice', type: 'text' },
  ],
  products: goods.map(made),
  content: [
    {
      slug: 'delivery',
      title: 'Delivery',
      summary: 'Two days on the mainland, weather allowing.',
      added: '2026-01-05',
      body: '<p>Small parcels leave the quay each morning on the carrier’s cart.</p><h2>What it costs</h2><table><thead><tr><th>Weight</th><th>Price</th></tr></thead><tbody><tr><td>to 2 kg</td><td>£3.80</td></tr><tr><td>to 20 kg</td><td>£7.50</td></tr></tbody></table><p>Spars and long coils go by arrangement.</p>',
    },
    {
      slug: 'returns',
      title: 'Returns',
      summary: 'Thirty days, no questions, except about cut rope.',
      added: '2026-01-05',
      body: '<p>Send it back as it came. Rope cut to length we take back only when it is faulty.</p>',
    },
    {
      slug: 'care',
      title: 'Caring for rope and canvas',
      summary: 'Rinse, dry, coil, hang: four words that double a rope’s life.',
      added: '2026-02-20',
      body: '<p>Salt cuts fibres from the inside.</p><ol><li>Rinse in fresh water.</li><li>Dry in the shade.</li><li>Coil with the lay.</li><li>Hang it off the floor.</li></ol>',
    },
    {
      slug: 'knots',
      title: 'Six knots to begin with',
      summary: '',
      added: '2026-03-12',
      body: '<p>The bowline, the clove hitch, the sheet bend, the rolling hitch, the figure of eight and the reef knot will see you through a season.</p>',
    },
  ].map((page) => ({ ...page, texts: pageTexts(contentTexts[page.slug]) })),
  articles: [
    {
      slug: 'first-eye-splice',
      title: 'A first eye splice',
      summary: 'An evening, a fid and patience.',
      added: '2026-04-02',
      body: '<p>Unlay the strands for six turns and tie their ends.</p><p>Tuck the first under a strand of the standing part, the next under its neighbour, and so on round. Six tucks in hemp, eight in nylon.</p><h2>What goes wrong</h2><p>Two strands under one: undo it. It will not be better for being hidden.</p>',
    },
    {
      slug: 'choosing-a-mooring-line',
      title: 'Choosing a mooring line',
      summary: 'Diameter, stretch, and the matter of the swell.',
      added: '2026-05-16',
      body: '<p>A line that is too stiff pulls the cleat out; one that is too soft takes the boat for walks.</p><p>Our rule is a millimetre a metre, and two more where the ferry passes.</p>',
    },
    {
      slug: 'lamps-that-stay-lit',
      title: 'Lamps that stay lit',
      summary: 'Wick, glass, oil: in this order.',
      added: '2026-09-28',
      body: '<p>Trim the wick square, as wide as a match. Clean the glass with newspaper. Only then blame the oil.</p>',
    },
    {
      slug: 'winter-on-the-hard',
      title: 'Winter on the hard',
      summary: '',
      added: '2026-11-08',
      body: '<p>Open every locker. Take the rope home, rinse it in the bath and hang it where nobody needs to sit.</p>',
    },
  ].map((article) => ({
    ...article,
    media: articlePictures[article.slug]
      ? [{ path: `article-${article.slug}.svg`, alt: '', width: 480, height: 480 }]
      : [],
    texts: pageTexts(articleTexts[article.slug]),
  })),
  menus: [
    {
      slug: 'main',
      name: 'Main',
      items: [
        {
          label: 'Rope & cord',
          target: '/category/rope-and-cord',
          children: [
            {
              label: 'Natural fibre',
              target: '/category/natural-fibre-rope',
              children: [
                { label: 'Tarred hemp', target: '/product/tarred-hemp-rope' },
                { label: 'Manila', target: '/product/manila-rope' },
              ],
            },
            { label: 'Synthetic', target: '/category/synthetic-rope' },
            { label: 'Cord & twine', target: '/category/cord' },
          ],
        },
        {
          label: 'Deck hardware',
          target: '/category/deck-hardware',
          children: [
            { label: 'Cleats', target: '/category/cleats' },
            { label: 'Shackles', target: '/category/shackles' },
            { label: 'Mooring', target: '/category/mooring' },
          ],
        },
        { label: 'Lamps', target: '/category/lamps' },
        { label: 'Finishes', target: '/category/finishes' },
        { label: 'Canvas', target: '/category/canvas-and-flags' },
        { label: 'Books', target: '/category/books' },
        { label: 'From the loft', target: '/article' },
      ].map(inFrench),
    },
    {
      slug: 'footer',
      name: 'Footer',
      items: [
        { label: 'Delivery', target: '/content/delivery' },
        { label: 'Returns', target: '/content/returns' },
        { label: 'Care', target: '/content/care' },
        { label: 'Knots', target: '/content/knots' },
      ].map(inFrench),
    },
  ],
};
