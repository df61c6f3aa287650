import { describe, expect, it } from 'vitest';
import { Theme, type Layer } from '@/core/theme';
import { fieldUses } from './field-uses';

const layer = (kind: Layer['kind'], name: string, files: Record<string, string>): Layer => ({
  ...{ kind, name, version: '1' },
  files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: `${name} ${path}`, text }])),
});

const theme = new Theme([
  layer('base', 'Quay', {
    'product/default.html':
      '<draw name="pieces/load" product="{product}"/>\n<p do:when="product.fields.lead_time > 3">{product.fields.lead_time} days</p>\n<dl do:each="field in product.fields"></dl>',
    'pieces/load.html':
      '<takes name="product" type="Product">\n{product.fields[\'breaking load\']} {category.fields.note}',
    'category/default.html': '<p>{parent.fields.note}</p>',
    'pieces/old.html': '{product.fields.gone}',
  }),
  layer('shop', 'Withy Quay', {
    'product/rated.html': '<amend of="product/default"><append mark="x">{product.fields.rating}</append></amend>',
    'pieces/old.html': '<p>covered</p>',
  }),
]);

describe('what reads custom fields', () => {
  it('is each place of the templates that serve, with whose they are', () => {
    const said = fieldUses(theme).map(
      ({ key, subject, file, line }) => `${key ?? 'all'} of ${subject}: ${file} ${line}`,
    );
    expect(said.sort()).toEqual(
      [
        'note of category: category/default.html 1',
        'breaking load of product: pieces/load.html 2',
        'note of category: pieces/load.html 2',
        'lead_time of product: product/default.html 2',
        'lead_time of product: product/default.html 2',
        'all of product: product/default.html 3',
        'rating of product: product/rated.html 1',
      ].sort(),
    );
  });
});
