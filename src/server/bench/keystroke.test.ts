import { expect, it, vi } from 'vitest';
import type { Theme } from '@/core/theme';
import { draftOf } from '@/server/shop/states';
import { demoShop } from '@/server/testing/demo-shop';
import { reachAt, viewPage } from './preview';

/** How many themes were made. */
const count = vi.hoisted(() => ({ themes: 0 }));
vi.mock('@/core/theme', async (load) => {
  const real = await load<{ Theme: typeof Theme }>();
  const construct = (theme: typeof Theme, given: ConstructorParameters<typeof Theme>) => {
    count.themes++;
    return new theme(...given);
  };
  return { ...real, Theme: new Proxy(real.Theme, { construct }) };
});

it('a keystroke makes one theme, for the page and for what is in reach alike', () => {
  const shop = demoShop();
  const draft = draftOf(shop, 'spring');
  const page = { view: null, address: '/product/tarred-hemp-rope', try: null, origin: 'http://localhost:4171' };
  const view = (text: string) => {
    const unsaved = [{ path: 'pieces/price.html', text }];
    viewPage(shop, draft, { ...page, unsaved, shown: null, open: 'pieces/price.html' });
    const place = { file: 'pieces/price.html', layer: 'Withy Quay', offset: 5, frame: null, open: [], search: '' };
    reachAt(shop, draft, { ...page, ...place, unsaved });
  };
  view('<p>{price}</p>');
  const before = count.themes;
  view('<p>{price} </p>');
  expect(count.themes).toBe(before + 1);
  view('<p>{price} </p>');
  expect(count.themes).toBe(before + 1);
});
