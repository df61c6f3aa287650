import { describe, expect, it } from 'vitest';
import { fieldsInWords } from './in-words';

const product = (before: object, after: object) =>
  fieldsInWords(
    { kind: 'product', slug: 'mug', what: 'changed', before: before as never, after: after as never },
    'EUR',
  ).fields;

describe('what happens to a record, as people read it', () => {
  const variant = (sku: string, price: number, more = {}) => ({
    sku,
    name: '',
    price,
    wasPrice: null,
    stock: 3,
    values: {},
    texts: {},
    ...more,
  });
  it('texts, lists and records by what they are called', () =>
    expect(
      product(
        { name: 'Mug', tags: ['a'], attributes: [{ name: 'Height', value: '9 cm', visible: true }], brand: null },
        {
          name: 'Cup',
          tags: ['a', 'b'],
          attributes: [{ name: 'Height', value: '10 cm', visible: true }],
          brand: 'maker',
        },
      ),
    ).toEqual([
      { field: 'name', before: 'Mug', after: 'Cup' },
      { field: 'tags', before: 'a', after: 'a, b' },
      { field: 'Height', before: '9 cm', after: '10 cm' },
      { field: 'brand', before: '', after: 'maker' },
    ]));
  it('custom fields and texts one by one', () =>
    expect(
      product(
        { fields: { care: 'little', water: '2' }, texts: {}, fieldTexts: { fr: { care: 'peu' } } },
        { fields: { care: 'none' }, texts: { fr: { name: 'Tasse' } }, fieldTexts: { fr: { care: 'rien' } } },
      ),
    ).toEqual([
      { field: 'care', before: 'little', after: 'none' },
      { field: 'water', before: '2', after: '' },
      { field: 'texts in fr', before: '', after: 'Tasse' },
      { field: 'care in fr', before: 'peu', after: 'rien' },
    ]));
  it('variants one by one, with prices in the currency’s units', () =>
    expect(
      product(
        { variants: [variant('M-1', 1250), variant('M-2', 900)] },
        { variants: [variant('M-1', 1300, { wasPrice: 1500 }), variant('M-3', 700)] },
      ),
    ).toEqual([
      { field: 'price of M-1', before: '12.50', after: '13.00' },
      { field: 'wasPrice of M-1', before: '', after: '15.00' },
      { field: 'variant M-2', before: '9.00, 3 in stock', after: '' },
      { field: 'variant M-3', before: '', after: '7.00, 3 in stock' },
    ]));
  it('long texts are cut', () => {
    const [field] = product({ description: '' }, { description: 'x'.repeat(1000) });
    expect(field?.after).toHaveLength(301);
  });
});
