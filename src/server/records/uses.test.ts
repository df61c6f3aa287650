import { describe, expect, it } from 'vitest';
import { saidBy } from '@/core/catalogue';
import { draftOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { RecordReader, type RecordKind } from '@/store';
import { recordPage } from './page';
import { usedBy } from './used-by';
import type { WantedChange } from './wanted';

/**
 * What is said to use a part of records, held to the pages: a part that changes a page when it changes is used by a template, piece or
 * shelf of that page. The pages are the check: they are made by the renderer, which knows nothing of this.
 */

const shop = demoShop();
const draft = draftOf(shop, 'spring');
const reader = () => new RecordReader(shop.catalogue());
type Fields = Record<string, unknown>;

const made = (address: string, changes: readonly WantedChange[]) =>
  recordPage(shop, draft, {
    ...{ view: null, address, origin: 'http://spring.localhost:4171', shown: null },
    changes: changes as never,
  });

/** Records of each kind that differ in what they have, with pages that show them. */
const looked: [kind: RecordKind, slug: string, pages: string[]][] = [
  ...['shock-cord', 'working-smock', 'mooring-set', 'deck-oil', 'tarred-hemp-rope'].map(
    (slug): [RecordKind, string, string[]] => ['product', slug, [`/product/${slug}`, '/listing/all']],
  ),
  ['category', 'rope-and-cord', ['/category/rope-and-cord', '/']],
  ['category', 'lamps', ['/category/lamps', '/']],
  ['content', 'delivery', ['/content/delivery']],
  ['article', 'first-eye-splice', ['/article/first-eye-splice', '/article']],
  ['tag', 'load-rated', ['/listing/tag/load-rated', '/product/tarred-hemp-rope']],
  ['brand', 'withy-yard', ['/listing/brand/withy-yard', '/product/deck-oil', '/product/working-smock']],
  ['shop', 'shop', ['/', '/content/delivery']],
];

/** Other values that a part may have. */
function others(kind: RecordKind, part: string, value: unknown): unknown[] {
  if (part === 'live') return [];
  if (part === 'added') return ['2020-02-29'];
  if (part === 'brand') return [null, 'marl-and-fid'];
  if (part === 'parent') return ['anchors'];
  if (part === 'position') return [3];
  if (part === 'type') return ['book'];
  if (part === 'gtin') return ['4006381333931'];
  if (part === 'locales' || part === 'locale') return [];
  if (part === 'currency') return ['EUR'];
  if (part === 'description' || part === 'body') return ['<p>Quite another text</p>'];
  if (part === 'tags' || part === 'related' || part === 'members' || part === 'categories') {
    const more = {
      tags: 'load-rated',
      related: 'bronze-jam-cleat',
      members: 'bronze-jam-cleat',
      categories: 'anchors',
    }[part];
    return [[], [...(value as string[]), more]].filter((one) => new Set(one).size === one.length);
  }
  if (part === 'attributes') return [[], [{ name: 'Smell', value: 'tar', visible: true, texts: {} }]];
  if (part === 'variants')
    return [
      (value as Fields[]).map((one) => ({ ...one, price: Number(one.price) + 111 })),
      (value as Fields[]).map((one) => ({ ...one, stock: 0 })),
      (value as Fields[]).map((one) => ({ ...one, wasPrice: Number(one.price) + 500 })),
    ];
  if (part === 'options')
    return (value as Fields[]).length
      ? [
          (value as Fields[]).map((one) => ({ ...one, name: `${String(one.name)}s` })),
          (value as { values: Fields[] }[]).map((one) => ({
            ...one,
            values: one.values.map((inner) => ({ ...inner, name: `${String(inner.name)}ish`, colour: '#123456' })),
          })),
        ]
      : [];
  if (part === 'media')
    return (value as Fields[]).length
      ? [[], (value as Fields[]).map((one) => ({ ...one, alt: 'Something else' }))]
      : [];
  return kind && typeof value === 'string' ? [`${value} altered`] : [];
}

/** Each part of a record that differs, with custom fields one by one. */
function* changesOf(kind: RecordKind, slug: string): Generator<[part: string, change: WantedChange]> {
  const record = reader().read(kind, [slug]).get(slug) as Fields;
  const change = (before: Fields, after: Fields) => ({ kind, slug, before, after }) as WantedChange;
  for (const part of Object.keys(saidBy[kind] ?? {})) {
    if (part !== 'fields') {
      for (const other of others(kind, part, record[part]))
        yield [part, change({ [part]: record[part] }, { [part]: other })];
      continue;
    }
    if (kind !== 'product' && kind !== 'category') continue;
    const values = (record.fields ?? {}) as Record<string, string>;
    for (const { key, type } of shop.catalogue().fieldDefinitions(kind)) {
      const [before, after] = [
        { [key]: values[key] },
        { [key]: type === 'number' ? '77' : type === 'flag' ? 'true' : 'x' },
      ];
      if (values[key]) yield [`fields.${key}`, change({ fields: before }, { fields: {} })];
      else if (type !== 'link' && type !== 'day') yield [`fields.${key}`, change({ fields: {} }, { fields: after })];
    }
  }
}

describe('what uses a part of records', () => {
  it.each(['product', 'category', 'content', 'article', 'tag', 'brand', 'shop'] as const)(
    'is known for every field that the schema gives a %s',
    (kind) => {
      const [slug = ''] = looked.filter(([one]) => one === kind).map(([, one]) => one);
      const apart = new Set(['slug', 'texts', 'fieldTexts']);
      const record = reader().read(kind, [slug]).get(slug) as Fields;
      expect(Object.keys(saidBy[kind] ?? {}).sort()).toEqual(
        Object.keys(record)
          .filter((field) => !apart.has(field))
          .sort(),
      );
    },
  );
  it.each(looked)('names a template or shelf of each page that a part changes: %s %s', (kind, slug, pages) => {
    let changed = 0;
    for (const address of pages) {
      const before = made(address, []);
      const drawn = new Set([before.page?.template, ...(before.page?.drawn ?? []).map(({ name }) => name)]);
      for (const [part, change] of changesOf(kind, slug)) {
        const after = made(address, [change]);
        if (after.html === before.html) continue;
        changed++;
        const both = new Set([...drawn, after.page?.template, ...(after.page?.drawn ?? []).map(({ name }) => name)]);
        const { templates, shelves, rules } = usedBy(shop, draft, { kind, part });
        const files = [
          ...templates.map(({ file }) => file.replace(/\.html$/, '')),
          ...shelves.map(({ piece }) => piece),
        ];
        const named =
          files.some((file) => both.has(file)) || (rules.length > 0 && after.page?.template !== before.page?.template);
        expect([kind, slug, address, part, named]).toEqual([kind, slug, address, part, true]);
      }
    }
    expect(changed).toBeGreaterThan(0);
  });
  it('is each template with its line, each shelf and rule, and how many have it', () => {
    const used = (part: string, kind = 'product') => usedBy(shop, draft, { kind, part });
    expect(used('fields.lead_time')).toMatchObject({
      ...{ all: 61, filled: 10, shelves: [{ shelf: 'below-price', piece: 'pieces/lead-time' }] },
    });
    expect(used('fields.sold_by').templates.length).toBeGreaterThan(0);
    expect(used('summary').templates.map(({ file }) => file)).toContain('product/default.html');
    expect(used('brand').filled).toBeLessThanOrEqual(61);
    expect(used('title', 'article')).toMatchObject({ all: 4, filled: 4 });
  });
});
