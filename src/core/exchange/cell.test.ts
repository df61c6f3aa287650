import type { FieldShape } from '@/core/catalogue';
import { describe, expect, it } from 'vitest';
import { cellOf, writeCell, type CellContext } from './cell';
import { readTarget, type Target } from './columns';
import { mergeFields } from './merge-record';
import type { WholeProduct } from './merge-product';

const variant = (sku: string, price: number, stock: number) => ({
  ...{ sku, price, stock, name: '', wasPrice: null, values: {}, texts: {} },
});
const fern: WholeProduct = {
  ...{ live: true, slug: 'fern', type: 'plant', name: 'Fern', summary: 'Green', description: '<p>Likes shade</p>' },
  ...{ brand: null, sku: '', gtin: '', added: '2026-01-31', tags: ['shade', 'hardy'], categories: ['ferns'] },
  attributes: [{ name: 'Height', value: '30 cm', visible: true, texts: { fr: { value: '30 cm de haut' } } }],
  ...{ fields: { water: '2', care: '' }, fieldTexts: { fr: { care: 'Peu' } }, texts: { fr: { name: 'Fougère' } } },
  ...{ options: [], media: [], members: [], related: ['moss'] },
  variants: [variant('F-1', 450, 3)],
};
const pots = { ...fern, variants: [variant('P-1', 450, 3), variant('P-2', 900, 3)] };
const context: CellContext = {
  currency: 'EUR',
  fields: new Map<string, FieldShape>([
    ['water', { type: 'number', several: false, choices: [] }],
    ['potted', { type: 'flag', several: false, choices: [] }],
    ['sown', { type: 'day', several: false, choices: [] }],
    ['film', { type: 'link', several: false, choices: [] }],
    ['light', { type: 'text', several: false, choices: ['Shade', 'Full sun'] }],
    ['uses', { type: 'text', several: true, choices: ['Pots', 'Beds', 'Walls'] }],
    ['sizes', { type: 'number', several: true, choices: [] }],
  ]),
  nameOf: (kind, slug) => Object.entries(slugs[kind] ?? {}).find(([, one]) => one === slug)?.[0] ?? null,
  slugOf: (kind, called) => slugs[kind]?.[called.toLowerCase()] ?? null,
};
const slugs: Record<string, Record<string, string>> = {
  tag: { shade: 'shade', hardy: 'hardy', 'full sun': 'sun' },
  brand: { moss: 'moss' },
  category: { ferns: 'ferns' },
};
const at = (target: string) => readTarget(target) as Target;

const shown: [target: string, product: WholeProduct, text: string, locked?: string][] = [
  ['name', fern, 'Fern'],
  ['name@fr', fern, 'Fougère'],
  ['summary@fr', fern, ''],
  ['price', fern, '4.50'],
  ['price', pots, '4.50 – 9.00', 'Its variants differ'],
  ['stock', pots, '3'],
  ['sku', pots, '2 variants', 'Its variants differ'],
  ['was_price', fern, ''],
  ['tags', fern, 'shade, hardy'],
  ['tags', { ...fern, tags: ['sun'] }, 'full sun'],
  ['field:potted', { ...fern, fields: { potted: 'true' } }, 'yes'],
  ['pictures', fern, ''],
  ['brand', fern, ''],
  ['field:water', fern, '2'],
  ['field:care@fr', fern, 'Peu'],
  ['attribute:Height', fern, '30 cm'],
  ['attribute:Height@fr', fern, '30 cm de haut'],
  ['attribute:Width', fern, ''],
  ['product', fern, 'fern', 'A slug is changed in the record'],
  ['price', { ...fern, variants: [] }, '', 'It has no variant'],
];

const written: [target: string, product: WholeProduct, text: string, comes: object][] = [
  ['name', fern, ' Tree fern ', { name: 'Tree fern' }],
  ['name@fr', fern, '', { texts: {} }],
  ['summary@fr', fern, 'Verte', { texts: { fr: { name: 'Fougère', summary: 'Verte' } } }],
  ['price', fern, '€ 5', { variants: [variant('F-1', 500, 3)] }],
  ['stock', pots, '8', { variants: [variant('P-1', 450, 8), variant('P-2', 900, 8)] }],
  ['was_price', fern, '6.00', { variants: [{ ...variant('F-1', 450, 3), wasPrice: 600 }] }],
  ['sku', fern, 'F-9', { variants: [variant('F-9', 450, 3)] }],
  ['tags', fern, 'Full sun, shade', { tags: ['sun', 'shade'] }],
  ['tags', fern, '', { tags: [] }],
  ['brand', fern, 'Moss', { brand: 'moss' }],
  ['field:water', fern, '3.50', { fields: { water: '3.5', care: '' } }],
  ['field:water', fern, '', { fields: { care: '' } }],
  ['field:potted', fern, 'Yes', { fields: { water: '2', care: '', potted: 'true' } }],
  ['field:sown', fern, '1.3.2026', { fields: { water: '2', care: '', sown: '2026-03-01' } }],
  ['field:care', fern, 'Little', { fields: { water: '2', care: 'Little' } }],
  ['field:care@fr', fern, '', { fieldTexts: {} }],
  [
    'attribute:Width',
    fern,
    '9 cm',
    { attributes: [...fern.attributes, { name: 'Width', value: '9 cm', visible: true, texts: {} }] },
  ],
  ['attribute:Height', fern, '', { attributes: [] }],
  ['attribute:Height@fr', fern, 'haut', { attributes: [{ ...fern.attributes[0], texts: { fr: { value: 'haut' } } }] }],
  ['gtin', fern, '4006381333931', { gtin: '4006381333931' }],
  ['added', fern, '2026-02-01', { added: '2026-02-01' }],
  ['live', fern, 'No', { live: false }],
  ['field:light', fern, 'full SUN', { fields: { ...fern.fields, light: 'Full sun' } }],
  ['field:uses', fern, 'pots, walls, Pots', { fields: { ...fern.fields, uses: 'Pots\nWalls' } }],
  ['field:sizes', fern, '9 | 12.50', { fields: { ...fern.fields, sizes: '9\n12.5' } }],
  ['field:uses@fr', fern, 'Pots, Murs', { fieldTexts: { fr: { care: 'Peu', uses: 'Pots\nMurs' } } }],
];

const refused: [target: string, product: WholeProduct, text: string, why: string][] = [
  ['name', fern, ' ', 'A product needs a name'],
  ['price', fern, 'abc', '“abc” is not a price'],
  ['price', fern, '-1', 'below nothing'],
  ['price', pots, '5', 'Its variants differ'],
  ['stock', fern, '1.5', 'not a whole number'],
  ['tags', fern, 'shade, snow', 'There is no tag “snow”'],
  ['brand', fern, 'Nobody', 'There is no brand “Nobody”'],
  ['field:water', fern, 'much', 'not a number'],
  ['field:potted', fern, 'perhaps', 'neither yes nor no'],
  ['field:film', fern, 'a film', 'not a link'],
  ['live', fern, 'perhaps', 'neither yes nor no'],
  ['field:light', fern, 'dusk', '“dusk” is none of its choices: Shade, Full sun'],
  ['field:uses', fern, 'pots, roofs', '“roofs” is none of its choices'],
  ['field:sizes', fern, '9, big', '“big” is not a number'],
  ['gtin', fern, '4006381333932', 'no GTIN'],
  ['added', fern, 'soon', 'not a day'],
  ['sku', fern, '', 'needs an article number'],
];

describe('a cell of the table of products', () => {
  it.each(shown)('%s shows', (target, product, text, locked = '') => {
    const cell = cellOf(product, at(target), context);
    expect(cell.text).toBe(text);
    if (locked) expect(cell.locked).toContain(locked);
  });
  it.each(written)('%s takes', (target, product, text, comes) => {
    const change = writeCell(product, at(target), text, context);
    if (!change || 'wrong' in change) throw new Error(JSON.stringify(change));
    const now = product as unknown as Record<string, unknown>;
    expect(mergeFields(change.before, change.after, now)).toEqual({ fields: comes, overlaps: [] });
    // And back again.
    expect(mergeFields(change.after, change.before, { ...now, ...comes })).toEqual({
      fields: Object.fromEntries(Object.keys(comes).map((field) => [field, now[field]])),
      overlaps: [],
    });
  });
  it.each(refused)('%s refuses', (target, product, text, why) => {
    expect(writeCell(product, at(target), text, context)).toMatchObject({
      wrong: expect.stringContaining(why) as string,
    });
  });
  it('changes nothing where the text is the same', () => {
    expect(writeCell(fern, at('price'), '4.50', context)).toBeNull();
    expect(writeCell(fern, at('attribute:Width'), '', context)).toBeNull();
  });
});
