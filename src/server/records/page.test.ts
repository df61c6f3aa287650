import { describe, expect, it } from 'vitest';
import { draftOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { exportCatalogue } from '@/store';
import { recordPage } from './page';
import { readRecord } from './record';
import { usedBy } from './used-by';
import type { WantedChange } from './wanted';

const shop = demoShop();
const draft = draftOf(shop, 'spring');
const asked = { view: null, address: '/product/shock-cord', origin: 'http://spring.localhost:4171', shown: null };
const page = (...changes: WantedChange[]) => recordPage(shop, draft, { ...asked, changes: changes as never });
const change = (before: object, after: object): WantedChange => ({
  ...{ kind: 'product', slug: 'shock-cord' },
  before: before as never,
  after: after as never,
});

describe('the page of a record with changes that are not saved', () => {
  it('is as saving would make it, and nothing is saved', () => {
    const before = [exportCatalogue(shop.catalogue()), shop.catalogue().revision];
    const first = page();
    expect(first.html).toContain('<h1');
    for (const name of ['Bungee', 'Elastic line', 'Bungee']) {
      const { html, page: about } = page(change({ name: 'Shock cord' }, { name }));
      expect(html).toMatch(new RegExp(`<h1[^>]*>(?:<[^>]+>)*${name}`));
      expect(about?.template).toBe('product/default');
    }
    expect(page(change({ tags: [] }, { tags: ['load-rated'] })).html).not.toBe(first.html);
    expect([exportCatalogue(shop.catalogue()), shop.catalogue().revision]).toEqual(before);
    expect(page().html).toBe(first.html);
  });
  it('says which template the page would get', () => {
    const type = String(readRecord(shop, 'product', 'shock-cord').record.type);
    expect(page(change({ type }, { type: 'book' })).page?.subject?.slug).toBe('shock-cord');
  });
  it('is refused where the changes could not be saved', () => {
    expect(() => page(change({ name: 'Shock cord' }, { name: '' }))).toThrow('name of “shock-cord”');
    expect(page().html).toContain('Shock cord');
  });
});

describe('what uses a custom field', () => {
  const { all, fields } = usedBy(shop, draft, 'product');
  const of = (key: string) => fields.find((one) => one.key === key);
  it('is each template that reads it, each rule that asks for it, and how many products have it', () => {
    expect(all).toBe(61);
    expect(of('lead_time')).toMatchObject({ filled: 10 });
    expect(of('lead_time')).toMatchObject({ shelves: [{ shelf: 'below-price', piece: 'pieces/lead-time' }] });
    expect(of('sold_by')?.templates.length).toBeGreaterThan(0);
    expect(fields.map(({ key }) => key).sort()).toEqual(
      shop
        .catalogue()
        .fieldDefinitions('product')
        .map(({ key }) => key)
        .sort(),
    );
  });
  it('names a template of every page that a field changes', () => {
    for (const { key, filled, templates, shelves } of fields) {
      if (!filled) continue;
      const [slug] = shop.sql
        .all<{ slug: string }>(
          `SELECT p.slug FROM product p JOIN field_value v ON v.subject_id = p.id
           JOIN field_definition d ON d.id = v.definition_id AND d.subject = 'product' AND d.key = ? AND v.value <> '' LIMIT 1`,
          key,
        )
        .map((row) => row.slug);
      const value = (readRecord(shop, 'product', slug ?? '').record.fields as Record<string, string>)[key] ?? '';
      const made = (changes: WantedChange[]) =>
        recordPage(shop, draft, { ...asked, address: `/product/${slug}`, changes: changes as never });
      const [before, after] = [
        made([]),
        made([{ kind: 'product', slug: slug ?? '', before: { fields: { [key]: value } }, after: { fields: {} } }]),
      ];
      if (before.html === after.html) continue;
      const drawn = new Set([before.page?.template, ...(before.page?.drawn ?? []).map(({ name }) => name)]);
      const files = [...templates.map(({ file }) => file.replace(/\.html$/, '')), ...shelves.map(({ piece }) => piece)];
      expect([key, files.some((file) => drawn.has(file))]).toEqual([key, true]);
    }
  });
});
