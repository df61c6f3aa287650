import fc from 'fast-check';
import { expect, it } from 'vitest';
import { undoChange } from '@/server/goods';
import { startShop } from '@/server/seeding/new-shop';
import { Shop } from '@/server/shop/shop';
import { catalogueFile } from '@/contract/catalogue-file';
import { cleanRichText } from '@/server/catalogue';
import { exportCatalogue, importCatalogue, openDatabase, RecordReader, Statements } from '@/store';
import { wholeDatabase } from '@/store/testing/whole-database';
import { saveRecords } from './save';

/**
 * Undo against a model that shares no code with it: a map of values, each written by a change, of which undoing puts back those that
 * nobody wrote since. Two people work in turns.
 */

const slugs = ['fern', 'moss'];
const keys = ['water', 'light', 'care'];
const tags = ['shade', 'sun', 'new'];
const skus = ['1', '2'];

const shop = new Shop(':memory:');
startShop(shop, { name: 'Moss', currency: 'EUR', languages: ['de'], theme: 'empty' }, '2026-11-28T10:00:00.000Z');
const saving = (by: string) => ({ title: 'A change', at: '2026-11-28T10:00:00.000Z', by });
saveRecords(
  shop,
  [
    ...keys.map((key) => ({
      kind: 'field' as const,
      slug: `product ${key}`,
      before: null,
      after: { subject: 'product', key, name: key, type: 'text' },
    })),
    ...tags.map((slug) => ({ kind: 'tag' as const, slug, before: null, after: { slug, name: slug } })),
    ...slugs.map((slug) => ({
      kind: 'product' as const,
      slug,
      before: null,
      after: {
        slug,
        name: slug,
        added: '2026-01-01',
        variants: skus.map((sku) => ({ sku: `${slug}-${sku}`, price: 100 })),
      },
    })),
  ],
  saving('Robin'),
);

/** One value of one product: where it stands, and how the catalogue's records say it. */
interface Value {
  slug: string;
  path: string;
}
type State = Map<string, string>;
const at = ({ slug, path }: Value) => `${slug} ${path}`;

/** The values as they are in the shop. */
function read(): State {
  const state: State = new Map();
  for (const [slug, record] of new RecordReader(shop.catalogue()).read('product', slugs)) {
    const {
      name,
      fields,
      tags: own,
      variants,
    } = record as unknown as {
      name: string;
      fields: Record<string, string>;
      tags: string[];
      variants: { sku: string; price: number }[];
    };
    state.set(`${slug} name`, name);
    for (const key of keys) state.set(`${slug} field ${key}`, fields[key] ?? '');
    for (const tag of tags) state.set(`${slug} tag ${tag}`, own.includes(tag) ? 'yes' : '');
    for (const { sku, price } of variants) state.set(`${slug} price ${sku}`, String(price));
  }
  return state;
}

/** What makes a record say something else of one value: only that value is named. */
function fieldsOf({ slug, path }: Value, text: string): Record<string, unknown> {
  const [part = '', name = ''] = path.split(' ');
  if (part === 'name') return { name: text };
  if (part === 'field') return { fields: text ? { [name]: text } : {} };
  if (part === 'tag') return { tags: text ? [name] : [] };
  return { variants: [{ sku: `${slug}-${name}`, price: Number(text) }] };
}

const valueOf = fc.record({
  slug: fc.constantFrom(...slugs),
  path: fc.constantFrom('name', ...keys.map((key) => `field ${key}`), ...tags.map((tag) => `tag ${tag}`)),
});
const priceOf = fc.record({
  slug: fc.constantFrom(...slugs),
  path: fc.constantFrom(...skus.map((sku) => `price ${sku}`)),
});
const step = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({ by: fc.constantFrom('Robin', 'Kim'), value: valueOf, text: fc.constantFrom('a', 'b', 'c') }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      by: fc.constantFrom('Robin', 'Kim'),
      value: priceOf,
      text: fc.constantFrom('100', '200', '300'),
    }),
  },
  { weight: 2, arbitrary: fc.record({ undo: fc.nat(8), over: fc.boolean() }) },
);

/** All tables of the catalogue, what is worked out of the records among them. */
function goodsOf(sql: Statements): Record<string, string[]> {
  const all = wholeDatabase(sql);
  return Object.fromEntries(Object.entries(all).filter(([table]) => !themeTables.has(table)));
}
const themeTables = new Set([
  ...['blob', 'brought', 'change', 'column_mapping', 'layer', 'layer_file', 'live', 'save', 'signing_key', 'state'],
  ...['state_layer', 'went_live'],
]);

/** A database that was filled with the records as they are, and has seen none of the changes. */
function rebuilt(): Statements {
  const file = catalogueFile.parse(JSON.parse(JSON.stringify(exportCatalogue(shop.catalogue()))));
  for (const table of ['product_search', 'product', 'field_value', 'translation']) other.run(`DELETE FROM ${table}`);
  importCatalogue(other, file, cleanRichText);
  return other;
}
const other = new Statements(openDatabase(':memory:'));

it('is what a map of values says, in 1,000 sequences of edits by two people', () => {
  fc.assert(
    fc.property(fc.array(step, { minLength: 2, maxLength: 7 }), (steps) => {
      const model = read();
      /** Changes that can be undone: what each wrote. */
      const changes: { id: number; wrote: { key: string; before: string; after: string }[] }[] = [];
      for (const one of steps) {
        if ('undo' in one) {
          if (!changes.length) continue;
          const [undone] = changes.splice(one.undo % changes.length, 1);
          if (!undone) continue;
          const wrote = undone.wrote.flatMap(({ key, before, after }) => {
            const now = model.get(key) ?? '';
            // What another wrote since stays, unless it is to be put back too.
            if (now !== after && now !== before && !one.over) return [];
            if (now === before) return [];
            model.set(key, before);
            return [{ key, before: now, after: before }];
          });
          const { id } = undoChange(shop, undone.id, saving('Robin'), () => {}, one.over ? 'replace' : 'leave');
          changes.push({ id, wrote });
        } else {
          const { value, text: wanted, by } = one;
          const key = value.path.startsWith('price')
            ? `${value.slug} price ${value.slug}-${value.path.slice(6)}`
            : at(value);
          const text = value.path.startsWith('tag') ? (wanted === 'a' ? '' : 'yes') : wanted;
          const before = model.get(key) ?? '';
          const { id } = saveRecords(
            shop,
            [{ kind: 'product', slug: value.slug, before: fieldsOf(value, before), after: fieldsOf(value, text) }],
            saving(by),
          );
          expect(id === null).toBe(before === text);
          if (id === null) continue;
          model.set(key, text);
          changes.push({ id, wrote: [{ key, before, after: text }] });
        }
      }
      expect(read()).toEqual(model);
      expect(goodsOf(shop.sql)).toEqual(goodsOf(rebuilt()));
    }),
    { numRuns: 1000 },
  );
});
