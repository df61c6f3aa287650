import { describe, expect, it } from 'vitest';
import { lookOf } from './look';
import { isReadable, listingRows, settingsOf, withListing, withSetting } from './look-form';

const base = JSON.stringify({
  settings: [
    { name: 'accent', type: 'colour', label: 'Accent', group: 'Colours', value: '#111111' },
    { name: 'width', type: 'number', label: 'Width', value: 1160, min: 800, max: 1600, step: 20, unit: 'px' },
    { name: 'shape', type: 'choice', value: 'round', choices: ['round', { value: 'flat', label: 'Flat' }] },
  ],
  listings: { default: { page_size: 12, columns: 4 }, tag: { columns: 3 } },
});

describe('the form of the look', () => {
  it('is made from what the layers declare; the shop’s own may say values alone', () => {
    const own = withSetting(null, 'accent', '#222222');
    expect(
      settingsOf([base], own).map(({ name, type, value, below, own: mine }) => [name, type, value, below, mine]),
    ).toEqual([
      ['accent', 'colour', '#222222', '#111111', true],
      ['width', 'number', 1160, 1160, false],
      ['shape', 'choice', 'round', 'round', false],
    ]);
    expect(settingsOf([base], own)[1]).toMatchObject({ min: 800, max: 1600, step: 20, unit: 'px' });
    expect(settingsOf([base], own)[2]?.choices).toEqual([
      { value: 'round', label: 'round' },
      { value: 'flat', label: 'Flat' },
    ]);
    expect(settingsOf([base], null)[0]).toMatchObject({ label: 'Accent', group: 'Colours', own: false });
  });
  it('writes a value where it stands, adds one that is new, removes one', () => {
    const own = '{"settings":[{"name":"width","value":900,"note":"kept"},{"name":"shape","value":"flat"}],"mine":1}';
    expect(JSON.parse(withSetting(own, 'width', 1000))).toEqual({
      settings: [
        { name: 'width', value: 1000, note: 'kept' },
        { name: 'shape', value: 'flat' },
      ],
      mine: 1,
    });
    expect(JSON.parse(withSetting(withSetting(own, 'accent', '#333333'), 'width', undefined))).toEqual({
      settings: [
        { name: 'width', note: 'kept' },
        { name: 'shape', value: 'flat' },
        { name: 'accent', value: '#333333' },
      ],
      mine: 1,
    });
  });
  it('sets listings by kind, and reaches templates so', () => {
    const own = withListing(withListing(null, 'tag', 'columns', 2), 'default', 'page_size', 24);
    const rows = listingRows([base], own);
    expect(rows.find(({ kind }) => kind === 'tag')).toEqual({
      kind: 'tag',
      values: { page_size: 24, columns: 2 },
      own: ['columns'],
    });
    const filtered = withListing(withListing(own, 'filtered', 'columns', 6), 'category_filtered', 'page_size', 36);
    // What a filtered category does not say, any filtered listing says.
    const both = { page_size: 36, columns: 6 };
    expect(listingRows([base], filtered).find(({ kind }) => kind === 'category_filtered')?.values).toEqual(both);
    expect((lookOf([base, filtered]).listings as unknown as Record<string, unknown>).category_filtered).toMatchObject(
      both,
    );
    expect(rows.find(({ kind }) => kind === 'brand')?.values).toEqual({ page_size: 24, columns: 4 });
    expect((lookOf([base, own]).listings as unknown as Record<string, unknown>).tag).toMatchObject({
      page_size: 24,
      columns: 2,
    });
    expect(JSON.parse(withListing(own, 'tag', 'columns', undefined))).toEqual({
      settings: [],
      listings: { default: { page_size: 24 } },
    });
  });
  it('keeps which values get tiles, of all products and of one, as lists that templates reach', () => {
    const own = withListing(withListing(null, 'category', 'values', ['navy']), 'category', 'values_of', { rope: [] });
    expect(listingRows([base], own).find(({ kind }) => kind === 'category')).toMatchObject({
      values: { values: ['navy'], values_of: { rope: [] } },
      own: ['values', 'values_of'],
    });
    const { category, tag } = lookOf([base, own]).listings as unknown as Record<string, unknown>;
    expect(category).toMatchObject({ values: ['navy'], values_of: { rope: [] } });
    expect(tag).toMatchObject({ values: [], values_of: {} });
  });
  it('that only the shop declares has nothing below to go back to', () => {
    const own = '{"settings":[{"name":"mine","type":"choice","label":"Mine","value":"a","choices":["a","b"]}]}';
    const mine = (text: string) => settingsOf([base], text).find(({ name }) => name === 'mine');
    expect(mine(own)).toMatchObject({ own: false, value: 'a' });
    expect(mine(withSetting(own, 'mine', 'b'))).toMatchObject({ own: false, value: 'b', label: 'Mine' });
  });
  it('that the shop declares again keeps that when its value is removed', () => {
    const own = '{"settings":[{"name":"accent","label":"Rope red","value":"#a00"}]}';
    expect(JSON.parse(withSetting(own, 'accent', undefined))).toEqual({
      settings: [{ name: 'accent', label: 'Rope red' }],
    });
    const [setting] = settingsOf([base], withSetting(own, 'accent', undefined)).filter(({ name }) => name === 'accent');
    expect(setting).toMatchObject({ label: 'Rope red', own: false });
    expect(setting?.value).toBe(settingsOf([base], null).find(({ name }) => name === 'accent')?.value);
  });
  it('a file that cannot be read is told from one that can', () => {
    expect([null, '{}', '{', '[]', '7', 'null'].map(isReadable)).toEqual([true, true, false, false, false, false]);
    expect(settingsOf([base], '{').map(({ own }) => own)).toEqual([false, false, false]);
    expect(settingsOf(['{"settings":[{"name":"a","type":"odd","min":"x"},7]}'], null)).toMatchObject([
      { name: 'a', type: 'text', min: null },
    ]);
  });
});
