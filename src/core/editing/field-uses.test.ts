import { describe, expect, it } from 'vitest';
import { Theme, type Layer } from '@/core/theme';
import { strict } from '@/core/language/testing/theme-of';
import { fieldUses } from './field-uses';

const layer = (kind: Layer['kind'], name: string, files: Record<string, string>): Layer => ({
  ...{ kind, name, version: '1' },
  files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: `${name} ${path} ${text}`, text }])),
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

const said = (of: Theme, about: RegExp) =>
  fieldUses(of)
    .map(({ object, field, file, line }) => `${object}.${field ?? '*'}: ${file} ${line}`)
    .filter((one) => about.test(one))
    .sort();

describe('what reads fields of the catalogue', () => {
  it('is each place of the templates that serve, with whose they are by the names that hold them', () => {
    expect(said(theme, /Fields/)).toEqual(
      [
        'CategoryFields.note: category/default.html 1',
        'ProductFields.breaking load: pieces/load.html 2',
        'CategoryFields.note: pieces/load.html 2',
        'ProductFields.lead_time: product/default.html 2',
        'ProductFields.*: product/default.html 3',
        'ProductFields.rating: product/rated.html 1',
      ].sort(),
    );
  });
  it('is told by types where the schema is at hand: through loops, inputs and names that are given', () => {
    const typed = strict({
      'pieces/tile.html': '<takes name="it" type="Product">\n<b>{it.summary}</b>',
      'category/default.html':
        '<p do:each="one in listing.products" do:let="made_by = one.brand">{one.name} {made_by.name}</p>\n' +
        '<script type="application/ld+json" do:json="listing.products | first | structured"></script>\n' +
        "<i do:let=\"made = { name: 'x' }\">{category['description']}</i>",
    });
    expect(said(typed, /Product\.|Brand|Category/)).toEqual(
      [
        'Product.summary: pieces/tile.html 2',
        'Product.brand: category/default.html 1',
        'Product.name: category/default.html 1',
        'Brand.name: category/default.html 1',
        'Product.*: category/default.html 2',
        'Category.description: category/default.html 3',
      ].sort(),
    );
  });
});
