import { expect, it } from 'vitest';
import { demoShop } from '@/server/testing/demo-shop';
import { stateOf } from '@/server/shop';
import { readingOf } from './reads';

const shop = demoShop();
const { theme } = shop.theme(stateOf(shop, 'live'));

it('has all that a theme has, and writes down whatever is asked of it', () => {
  const names = [...Object.keys(theme), ...Object.getOwnPropertyNames(Object.getPrototypeOf(theme))];
  const reading = readingOf(theme, new Set()) as unknown as object;
  expect(names.filter((name) => !(name in reading))).toEqual([]);
  const reads = new Set<string>();
  const noted = readingOf(theme, reads);
  expect(noted.phraseIn('en', 'add-to-cart')).toBe(theme.phraseIn('en', 'add-to-cart'));
  expect(noted.placedOn('home')).toEqual(theme.placedOn('home'));
  expect(noted.look).toBe(theme.look);
  expect(noted.checkAll).toBeTypeOf('function');
  expect([...reads]).toEqual(['phrase\nen\nadd-to-cart', 'shelf\nhome', 'look', 'whole']);
});
