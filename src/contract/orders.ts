import { z } from 'zod';
import { endpoint } from './endpoint';

/** Orders that customers made: to read, to print, to take along, and to say what became of them. Amounts in minor units. */

export const orderState = z.enum(['new', 'taken', 'cancelled']);
export type OrderState = z.output<typeof orderState>;

const day = z.iso.date();
/** What is left out holds for any. Days in UTC, both included. */
const filter = {
  state: orderState.optional(),
  words: z.string().max(200).optional(),
  from: day.optional(),
  to: day.optional(),
};
export const orderFilter = z.object(filter);
export type OrderFilter = z.output<typeof orderFilter>;

export const orderRow = z.object({
  number: z.number(),
  madeAt: z.string(),
  /** `release 3`, or `draft spring`: an order that someone tried there. */
  madeOn: z.string(),
  email: z.string(),
  locale: z.string(),
  currency: z.string(),
  total: z.number(),
  /** How many things are ordered. */
  count: z.number(),
  state: orderState,
  /** When it got this state, and from whom; null: it is new. */
  changedAt: z.string().nullable(),
  by: z.string().nullable(),
});
export type OrderRow = z.output<typeof orderRow>;

/** What happened to an order, and whether the shop’s own system was told. */
export const orderEvent = z.object({
  id: z.number(),
  what: z.enum(['made', ...orderState.options]),
  at: z.string(),
  by: z.string(),
  /** When it is told next; null: it was told, or is not to be. */
  dueAt: z.string().nullable(),
  sentAt: z.string().nullable(),
  tries: z.number(),
  /** What came of the last try. */
  said: z.string(),
});
export type OrderEventItem = z.output<typeof orderEvent>;

/** Where orders are told to; null: nowhere. The secret is what their signature is made with (base64). */
/** How long an order holds stock: not at all, until it is taken, or so many hours if it is not taken before. */
const hold = z.union([z.enum(['no', 'taken']), z.int().min(1).max(720)]);
export type HoldRule = z.output<typeof hold>;

const receiver = z.object({ url: z.string().nullable(), secret: z.string().nullable(), hold });
export type ReceiverItem = z.output<typeof receiver>;

export const wholeOrder = orderRow.extend({
  /** Whether there is somewhere to send it. */
  sends: z.boolean(),
  events: z.array(orderEvent),
  lines: z.array(
    z.object({
      product: z.string(),
      sku: z.string(),
      name: z.string(),
      variant: z.string(),
      quantity: z.number(),
      price: z.number(),
      total: z.number(),
      answers: z.array(z.object({ label: z.string(), value: z.string() })),
    }),
  ),
});
export type WholeOrder = z.output<typeof wholeOrder>;

export const orderEndpoints = {
  list: endpoint('GET', '/api/orders', 'Lists orders, the latest first', {
    query: orderFilter.extend({ before: z.coerce.number().int().optional() }),
    answer: z.object({
      orders: z.array(orderRow),
      /** How many there are in each state, of those that the rest of the filter leaves. */
      counts: z.object({ new: z.number(), taken: z.number(), cancelled: z.number() }),
      more: z.boolean(),
      /** What could not be told to the shop’s own system, what came of the last try, and when the next is; null: nothing. */
      stuck: z.object({ count: z.number(), said: z.string(), next: z.string() }).nullable(),
    }),
  }),
  sheet: endpoint('GET', '/api/orders/sheet', 'Sends orders as CSV, a row for each of their lines', {
    query: orderFilter,
    sends: 'bytes',
  }),
  receiver: endpoint('GET', '/api/orders/receiver', 'Gives where orders are sent to, and how long they hold stock', {
    answer: receiver,
  }),
  setReceiver: endpoint('PUT', '/api/orders/receiver', 'Says where orders are sent to, and how long they hold stock', {
    body: z.strictObject({
      url: z
        .url({ protocol: /^https?$/, message: 'The address is to begin with https:// or http://.' })
        .max(2000)
        .nullable()
        .optional(),
      hold: hold.optional(),
      /** Makes another secret: what was signed with the one before is believed no longer. */
      newSecret: z.boolean().optional(),
    }),
    answer: receiver,
  }),
  hurry: endpoint('POST', '/api/orders/send', 'Tells now what could not be told yet', {}),
  send: endpoint('POST', '/api/orders/{order}/send', 'Tells once more what happened to an order, under the same id', {
    body: z.strictObject({ event: z.int() }),
    answer: wholeOrder,
  }),
  one: endpoint('GET', '/api/orders/{order}', 'Reads an order with its lines', { answer: wholeOrder }),
  set: endpoint('POST', '/api/orders/{order}/state', 'Says what became of an order', {
    /** `was`: what the one who says it saw: refused where someone else has said something meanwhile. */
    body: z.strictObject({ state: orderState, was: orderState }),
    answer: wholeOrder,
  }),
};
