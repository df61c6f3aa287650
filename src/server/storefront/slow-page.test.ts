import { beforeEach, expect, it, vi } from 'vitest';
import { stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { pageOf } from './page';

/** How many of the pages that follow are out of time from the first, and how often one was made. */
const late = vi.hoisted(() => ({ left: 0, made: 0 }));
vi.mock('./work-clock', () => ({
  workClock: () => {
    late.made++;
    const step = late.left-- > 0 ? 1e6 : 0;
    let now = 0;
    return () => (now += step);
  },
}));

const shop = demoShop();
const at = (path: string, more = {}) => {
  const { html, timedOut } = pageOf(shop, stateOf(shop, 'live'), { path, query: {}, ...more });
  return { timedOut, whole: html.includes('class="facts"'), made: late.made };
};

beforeEach(() => Object.assign(late, { left: 0, made: 0 }));

it('a page that is made in time is made once', () =>
  expect(at('/product/working-smock')).toEqual({ timedOut: false, whole: true, made: 1 }));

it('the first of a template that the clock ends is made a second time, and comes whole', () => {
  late.left = 1;
  expect(at('/product/working-smock')).toEqual({ timedOut: false, whole: true, made: 2 });
});

it('from then on one of that template that is too slow is not, nor one that is too slow twice', () => {
  late.left = 1;
  expect(at('/product/working-smock')).toEqual({ timedOut: true, whole: false, made: 1 });
  Object.assign(late, { left: 2, made: 0 });
  expect(at('/category/canvas')).toMatchObject({ timedOut: true, made: 2 });
});
