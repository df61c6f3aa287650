import { setTimeout as wait } from 'node:timers/promises';
import { Shop } from '@/server/shop';
import { makeOrder } from '@/server/testing/orders';
import { Feeds } from '@/store';
import { median, type Report } from './live';
import { share } from './painted';
import { seeded, serve, type Served } from './server';

const products = 10_000;
const lines = 20_000;
const page = '/product/deck-oil';

/** Times of a product page, asked for every 20 milliseconds until `until` is over. */
async function pageTimes(server: Served, until: Promise<unknown>): Promise<number[]> {
  const times: number[] = [];
  let isOver = false;
  void until.finally(() => (isOver = true));
  while (!isOver) {
    const from = performance.now();
    await server.visit(page);
    times.push(performance.now() - from);
    await wait(20);
  }
  return times;
}

/** A feed while the shop is visited, and a long list of orders. */
export async function feedFigures({ asked, say, figure }: Report): Promise<void> {
  if (asked('feed', 'feed.live')) {
    say(`A feed of ${lines.toLocaleString('en')} figures into ${products.toLocaleString('en')} products`);
    const folder = seeded(products);
    const shop = new Shop(folder);
    const known = [...new Feeds(shop.sql).figures()];
    shop.sql.db.close();
    const server = await serve(folder);
    const send = async (some: object[]): Promise<void> => {
      const body = some.map((one) => JSON.stringify(one)).join('\n');
      const answer = await fetch(`${server.at}/api/feed`, { method: 'POST', headers: server.headers, body });
      if (!answer.ok) throw new Error(`The feed was answered with ${answer.status}: ${await answer.text()}`);
    };
    await server.visit(page);
    const before = await pageTimes(server, wait(4000));
    const from = performance.now();
    const sending = (async () => {
      for (let at = 0; at < lines; at += 2000)
        await send(
          known
            .slice(at % known.length, (at % known.length) + 2000)
            .map(({ sku }) => ({ sku, price: 1000 + at, stock: 7 })),
        );
    })();
    const during = await pageTimes(server, sending);
    await sending;
    const seconds = (performance.now() - from) / 1000;
    figure('feed', lines / seconds, 'lines/s', 'in requests of 2,000, the shop visited meanwhile; at least 2,000');
    const ratio = share(during, 0.95) / share(before, 0.95);
    say(
      `  a page took ${share(before, 0.5).toFixed(1)}, ${share(before, 0.95).toFixed(1)} ms before, ${share(during, 0.5).toFixed(1)}, ${share(during, 0.95).toFixed(1)}, ${share(during, 0.99).toFixed(1)} ms meanwhile (50, 95 and 99 of 100)`,
    );
    figure('feed.page', ratio, '×', 'the 95th percentile of a product page meanwhile, over that before; at most 2');
    const [one] = known;
    const shown: number[] = [];
    for (let round = 0; round < 5; round++) {
      const price = 700_000 + round * 1111;
      const began = performance.now();
      const path = `/product/${one?.product}`;
      await send(
        known.filter(({ product }) => product === one?.product).map(({ sku }) => ({ sku, price, wasPrice: null })),
      );
      const printed = (price / 100).toLocaleString('en-GB', { minimumFractionDigits: 2 });
      while (!(await server.visit(path)).text.includes(printed))
        if (performance.now() - began > 20_000) throw new Error('The page does not show the price');
      shown.push(performance.now() - began);
    }
    figure('feed.live', median(shown), 'ms', 'from a price’s request until a visitor sees it; at most 1,000');
    server.end();
  }
  if (asked('orders.list')) {
    const folder = seeded(null);
    const shop = new Shop(folder);
    shop.themes.transaction(() => {
      for (let at = 0; at < 10_000; at++)
        makeOrder(shop, `customer-${at}@example.org`, new Date(Date.UTC(2026, 0, 1) + at * 60_000).toISOString(), [
          ['Deck oil', 'OIL-1', 2, 1450],
          ['Bow shackle', 'SH-10', 1, 900],
        ]);
    });
    shop.sql.db.close();
    const server = await serve(folder);
    const times: number[] = [];
    for (let round = 0; round < 11; round++) {
      const began = performance.now();
      await (
        await fetch(`${server.at}/api/orders?words=${round % 2 ? 'shackle' : ''}`, { headers: server.headers })
      ).text();
      times.push(performance.now() - began);
    }
    const [cold = 0, ...warm] = times;
    const what = 'the first hundred of 10,000 orders, with and without words; at most 300';
    figure('orders.list', share(warm, 0.95), 'ms', `${what}. The first after the start took ${cold.toFixed(0)}`);
    server.end();
  }
}
