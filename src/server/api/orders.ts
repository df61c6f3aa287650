import { stringify } from 'csv-stringify/sync';
import { minorDigits } from '@/core/language';
import { orderEndpoints, type WholeOrder } from '@/contract/orders';
import { People } from '@/server/accounts';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import { newSecret } from '@/server/orders';
import { OrderEvents, OrderHolds, Orders } from '@/store';
import { hereName } from './noted';
import { serveAll } from './serve';

/** Orders that are sent at once. */
const page = 100;

function one(shop: Shop, number: number): WholeOrder {
  const order = new Orders(shop.sql).one(number) ?? refuse(404, 'order', `There is no order ${number}.`);
  const all = new OrderEvents(shop.sql);
  const events = all.of(number).map(({ key: _, number: _of, ...event }) => event);
  return { ...order, events, sends: all.receiver() !== null && !order.madeOn.startsWith('draft ') };
}
const receiverOf = (shop: Shop) => ({
  ...(new OrderEvents(shop.sql).receiver() ?? { url: null, secret: null }),
  hold: new OrderHolds(shop.sql).rule(),
});
const now = () => new Date().toISOString();

export const orderCalls = serveAll(orderEndpoints, {
  list: ({ shop, query: { before = null, ...filter } }) => {
    const orders = new Orders(shop.sql);
    const found = orders.list(filter, before, page + 1);
    return {
      orders: found.slice(0, page),
      counts: orders.counts(filter),
      more: found.length > page,
      stuck: new OrderEvents(shop.sql).stuck(),
    };
  },
  one: ({ shop, order }) => one(shop, order),
  set: ({ shop, order, body: { state, was }, by }) => {
    const orders = new Orders(shop.sql);
    return shop.themes.transaction(() => {
      const before = one(shop, order);
      if (before.state !== was && before.state !== state)
        refuse(
          409,
          'order-changed',
          `Order ${order} is ${before.state} since ${before.by || 'someone'} said so. Look at it, then decide again.`,
        );
      if (before.state === state) return before;
      const at = now();
      orders.set(order, state, at, by || hereName);
      const holds = new OrderHolds(shop.sql);
      const isTried = before.madeOn.startsWith('draft ');
      if (state === 'new' && !isTried) holds.hold(order, before.lines, at, was === 'taken');
      if (state !== 'new') holds.letGo(order, state === 'cancelled');
      new OrderEvents(shop.sql).add(order, state, at, by || hereName, isTried);
      new People(shop.sql).log(by || hereName, 'order', `${order} is ${state}`);
      return one(shop, order);
    });
  },
  receiver: ({ shop }) => receiverOf(shop),
  setReceiver: ({ shop, body: { url = undefined, newSecret: isNew = false, hold }, by }) => {
    const before = receiverOf(shop);
    const log = (about: string) => new People(shop.sql).log(by || hereName, 'set', about);
    shop.themes.transaction(() => {
      if (url !== undefined) {
        const secret = isNew || before.secret === null ? newSecret() : before.secret;
        new OrderEvents(shop.sql).setReceiver(url === null ? null : { url, secret });
        log(
          url === null ? 'orders are sent nowhere' : `orders are sent to ${url}${isNew ? ', with another secret' : ''}`,
        );
      }
      if (hold !== undefined) {
        new OrderHolds(shop.sql).setRule(hold);
        const long = hold === 'taken' ? 'until they are taken' : `for ${hold} hours`;
        log(hold === 'no' ? 'orders hold no stock' : `orders hold stock ${long}`);
      }
    });
    return receiverOf(shop);
  },
  hurry: ({ shop }) => {
    new OrderEvents(shop.sql).hurry(now());
    return {};
  },
  send: ({ shop, order, body }) => {
    const events = new OrderEvents(shop.sql);
    if (!events.receiver())
      refuse(409, 'no-receiver', 'Orders are sent nowhere yet: an owner says where, above the list.');
    if (!events.again(order, body.event, now())) refuse(404, 'event', `Order ${order} has no such event.`);
    return one(shop, order);
  },
  sheet: ({ shop, query }) => {
    const rows = [...new Orders(shop.sql).whole(query)].flatMap(({ lines, ...order }) => {
      const digits = minorDigits(order.currency);
      const amount = (minor: number) => (minor / 10 ** digits).toFixed(digits);
      return lines.map((line) => ({
        ...{ order: order.number, made: order.madeAt, on: order.madeOn, state: order.state, email: order.email },
        ...{ language: order.locale, product: line.product, sku: line.sku, name: line.name, variant: line.variant },
        ...{ quantity: line.quantity, price: amount(line.price), total: amount(line.total), currency: order.currency },
        answers: line.answers.map(({ label, value }) => `${label}: ${value}`).join('; '),
      }));
    });
    const columns = [
      ...[
        'order',
        'made',
        'on',
        'state',
        'email',
        'language',
        'product',
        'sku',
        'name',
        'variant',
        'quantity',
        'price',
      ],
      ...['total', 'currency', 'answers'],
    ];
    // A cell that a spreadsheet would take for a formula is text.
    const text = stringify(rows, { header: true, columns, escape_formulas: true, record_delimiter: 'windows' });
    return new Response(text, {
      headers: {
        'Content-Type': 'text/csv; charset=utf-8',
        'Content-Disposition': 'attachment; filename="orders.csv"',
        'Cache-Control': 'no-store',
      },
    });
  },
});
