import { describe, expect, it } from 'vitest';
import type { WholeProduct } from './merge-product';
import {
  missingCombinations,
  variantsWith,
  withOption,
  withoutOption,
  withoutValue,
  withValue,
  withVariants,
} from './options';

const value = (slug: string) => ({ slug, name: slug.toUpperCase(), colour: '', texts: {} });
const variant = (sku: string, values: Record<string, string>) => ({
  ...{ sku, name: '', price: 500, wasPrice: null, stock: 3, texts: {} },
  values,
});
const rope = {
  slug: 'rope',
  options: [
    { slug: 'colour', name: 'Colour', texts: {}, values: [value('navy'), value('red')] },
    { slug: 'size', name: 'Size', texts: {}, values: [value('6'), value('8')] },
  ],
  variants: [variant('R-1', { colour: 'navy', size: '6' }), variant('R-2', { colour: 'navy', size: '8' })],
  media: [
    {
      path: 'a.png',
      shows: [
        ['colour', 'red'],
        ['size', '6'],
      ],
    },
  ],
} as unknown as WholeProduct;

describe('options of a product', () => {
  it('are added by names that are free', () => {
    expect(withOption(rope, 'Lay')?.at(-1)).toEqual({ slug: 'lay', name: 'Lay', values: [], texts: {} });
    expect([withOption(rope, 'colour '), withOption(rope, ' ')]).toEqual([null, null]);
  });
  it('get values, and variants without one the first', () => {
    const options = withOption(rope, 'Lay') ?? [];
    const one = withValue({ ...rope, options }, 'lay', 'Right') as WholeProduct;
    expect(one.variants.map(({ values }) => values.lay)).toEqual(['right', 'right']);
    const two = withValue({ ...rope, ...one }, 'lay', 'Left') as WholeProduct;
    expect(two.options.at(-1)?.values.map(({ slug }) => slug)).toEqual(['right', 'left']);
    expect(two.variants.map(({ values }) => values.lay)).toEqual(['right', 'right']);
    expect(withValue(rope, 'colour', 'navy')).toBeNull();
    expect(withValue(rope, 'gone', 'x')).toBeNull();
  });
  it('lose values that no variant has, and pictures no longer show those', () => {
    expect([variantsWith(rope, 'colour', 'navy'), withoutValue(rope, 'colour', 'navy')]).toEqual([2, null]);
    const without = withoutValue(rope, 'colour', 'red');
    expect(without?.options?.[0]?.values.map(({ slug }) => slug)).toEqual(['navy']);
    expect(without?.media?.[0]?.shows).toEqual([['size', '6']]);
  });
  it('go where variants do not differ by them', () => {
    expect(withoutOption(rope, 'size')).toBeNull();
    const without = withoutOption(rope, 'colour');
    expect(without?.options?.map(({ slug }) => slug)).toEqual(['size']);
    expect(without?.variants?.map(({ values }) => values)).toEqual([{ size: '6' }, { size: '8' }]);
    expect(without?.media?.[0]?.shows).toEqual([['size', '6']]);
  });
});

describe('variants of a product', () => {
  it('are made of the combinations that are missing', () => {
    const missing = missingCombinations(rope);
    expect(missing).toEqual([
      { colour: 'red', size: '6' },
      { colour: 'red', size: '8' },
    ]);
    expect(withVariants(rope, missing).map(({ sku, price, stock }) => `${sku} ${price} ${stock}`)).toEqual([
      'R-1 500 3',
      'R-2 500 3',
      'rope-red-6 500 0',
      'rope-red-8 500 0',
    ]);
    expect(missingCombinations({ ...rope, variants: withVariants(rope, missing) })).toEqual([]);
  });
  it('are one where there is nothing to choose', () => {
    const plain = { ...rope, options: [], variants: [], media: [] };
    expect(missingCombinations(plain)).toEqual([{}]);
    expect(withVariants(plain, [{}])).toMatchObject([{ sku: 'rope', price: 0, values: {} }]);
  });
  it('have article numbers of their own, and are not made without end', () => {
    const values = Array.from({ length: 40 }, (_, at) => value(`v${at}`));
    const options = ['a', 'b', 'c'].map((slug) => ({ slug, name: slug, texts: {}, values }));
    expect(missingCombinations({ ...rope, options, variants: [] })).toHaveLength(500);
    expect(withVariants({ ...rope, options: [] }, [{}, {}]).map(({ sku }) => sku)).toEqual([
      'R-1',
      'R-2',
      'rope',
      'rope-2',
    ]);
  });
});
