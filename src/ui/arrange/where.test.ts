import { describe, expect, it } from 'vitest';
import type { Placed } from '@/core/theme';
import { belongsTo, keysOf, whereHere, whereOf, type Where } from './where';

const lamps = { subject: { kind: 'category', slug: 'lamps', name: 'Lamps' }, template: 'category/default' } as const;
const home = { subject: { kind: 'home', slug: '', name: 'Home' }, template: 'home/default' } as const;
const gone = { subject: null, template: 'not-found/default' } as const;
const one = (keys: Partial<Placed>): Placed => ({ id: 'one', shelf: 's', piece: 'pieces/a', inputs: {}, ...keys });

describe('where a placement stands', () => {
  it.each<[Partial<Placed>, Where, boolean]>([
    [{}, 'everywhere', true],
    [{ subject: 'category/lamps' }, 'here', true],
    [{ subject: 'category/rope' }, 'elsewhere', false],
    [{ kind: 'category' }, 'kind', true],
    [{ kind: 'product' }, 'kind', false],
    [{ template: 'category/default' }, 'template', true],
    [{ template: 'category/long' }, 'template', false],
    [{ kind: 'category', when: { fact: 'level', test: 'at-least', value: 2 } }, 'condition', true],
  ])('%j: %s; it belongs to the page of Lamps: %s', (keys, where, belongs) => {
    expect([whereOf(one(keys), lamps), belongsTo(one(keys), lamps)]).toEqual([where, belongs]);
  });
  it.each<[string, Parameters<typeof whereHere>[0], object]>([
    ['a category', lamps, { subject: 'category/lamps' }],
    ['the first page', home, { kind: 'home' }],
    ['a page that is not there', gone, {}],
  ])('on %s it is put there alone', (_, page, keys) => expect(whereHere(page)).toEqual(keys));
  it.each<[Where, object]>([
    ['here', { subject: 'category/lamps' }],
    ['kind', { kind: 'category' }],
    ['template', { template: 'category/default' }],
    ['condition', { kind: 'category', when: { all: [] } }],
    ['everywhere', {}],
  ])('%s is written so', (where, keys) =>
    expect(Object.fromEntries(Object.entries(keysOf(where, lamps)).filter(([, value]) => value !== undefined))).toEqual(
      keys,
    ),
  );
});
