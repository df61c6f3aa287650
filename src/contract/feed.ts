import { z } from 'zod';
import { endpoint } from './endpoint';

/** Goods that another system sends: lines of JSON (NDJSON), each taken or refused by itself. Prices in minor units, as in catalogue files. */

const name = z.string().min(1).max(200);
/** What has to be so of the record that is there, or nothing is done (RFC 9110, 13.1): `*`, or entity tags as they were given. */
const conditions = { ifMatch: z.string().max(1000).optional(), ifNoneMatch: z.string().max(1000).optional() };
/** Figures of the variant of an article number; what is left out stays. */
const figures = z.strictObject({
  ...conditions,
  sku: name,
  price: z.int().nonnegative().optional(),
  wasPrice: z.int().nonnegative().nullable().optional(),
  stock: z.int().optional(),
});
const kind = z.enum(['brand', 'tag', 'category', 'product', 'content', 'article', 'menu', 'redirect']);
const fields = z.record(z.string(), z.unknown());
/** A record whole, made where there is none; some of its fields; or that it goes. */
const put = z.strictObject({ ...conditions, kind, slug: name, put: fields });
const patch = z.strictObject({ ...conditions, kind, slug: name, patch: fields });
const remove = z.strictObject({ ...conditions, kind, slug: name, remove: z.literal(true) });
export const feedLine = z.union([figures, put, patch, remove]);
export type FeedLine = z.output<typeof feedLine>;

export const feedAnswer = z.object({
  /** Lines that came, that changed something, and that left all as it was. */
  lines: z.number(),
  taken: z.number(),
  same: z.number(),
  refusedCount: z.number(),
  /** The first of those that were refused, by their number from 1. */
  refused: z.array(z.object({ line: z.number(), code: z.string(), message: z.string() })),
  /** Nothing was kept: it was only tried. */
  dry: z.boolean(),
});
export type FeedAnswer = z.output<typeof feedAnswer>;

export const figureLine = z.object({
  sku: z.string(),
  product: z.string(),
  price: z.number(),
  wasPrice: z.number().nullable(),
  stock: z.number(),
});

const changed = z.object({
  cursor: z.number(),
  kind: z.string(),
  slug: z.string(),
  what: z.enum(['added', 'changed', 'removed']),
  at: z.string(),
  by: z.string(),
  title: z.string(),
});

/** Which record: a redirect by its path, others by their slug. */
const which = z.object({ kind, slug: name });
/** Whether something was changed; the entity tag of the record as it is now, null where it is gone. */
const written = z.object({ taken: z.boolean(), etag: z.string().nullable() });

export const feedEndpoints = {
  take: endpoint('POST', '/api/feed', 'Takes lines of goods from another system; under an Idempotency-Key once', {
    query: z.object({
      /** Tries it, and keeps nothing. */
      dry: z.enum(['true', 'false']).optional(),
    }),
    takes: 'bytes',
    headers: ['Idempotency-Key'],
    answer: feedAnswer,
  }),
  figures: endpoint('GET', '/api/feed/figures', 'Gives prices and stock of all variants, as lines', {
    sends: 'lines',
    answer: figureLine,
  }),
  record: endpoint('GET', '/api/feed/record', 'Gives a record as it can be put, with its entity tag', {
    query: which,
    answer: z.object({ record: fields, etag: z.string() }),
  }),
  put: endpoint('PUT', '/api/feed/record', 'Puts a record whole; only if If-Match and If-None-Match hold', {
    query: which,
    body: fields,
    headers: ['If-Match', 'If-None-Match'],
    answer: written,
  }),
  patch: endpoint('PATCH', '/api/feed/record', 'Changes some fields of a record; only if If-Match holds', {
    query: which,
    body: fields,
    headers: ['If-Match'],
    answer: written,
  }),
  remove: endpoint('DELETE', '/api/feed/record', 'Removes a record; only if If-Match holds', {
    query: which,
    headers: ['If-Match'],
    answer: written,
  }),
  changes: endpoint('GET', '/api/feed/changes', 'Lists which records were changed after a cursor, the oldest first', {
    query: z.object({
      after: z.coerce.number().int().nonnegative().default(0),
      most: z.coerce.number().int().min(1).max(10_000).default(1000),
    }),
    answer: z.object({ changes: z.array(changed), cursor: z.number(), more: z.boolean() }),
  }),
};
