import { z } from 'zod';
import { endpoint } from './endpoint';
import { author } from './shared';

/** Goods on their way in and out: files that are looked at and imported, what was changed, and exports. */

export const encodings = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const;

const column = z.object({
  heading: z.string(),
  /** What the column is taken for, as our own files head it; null: it is left out. */
  target: z.string().nullable(),
  /** How that was found. */
  by: z.enum(['heading', 'word', 'values', 'nothing']),
});

/** A file that came, and how it is read. */
export const lookAnswer = z.object({
  upload: z.string(),
  name: z.string(),
  bytes: z.number(),
  /** Of a table: how it is written, its columns, and its first rows. null: a catalogue file. */
  table: z
    .object({
      encoding: z.enum(encodings),
      /** Whether the bytes leave no doubt about the encoding. */
      sure: z.boolean(),
      delimiter: z.string(),
      mark: z.enum(['.', ',']),
      columns: z.array(column),
      sample: z.array(z.array(z.string())),
    })
    .nullable(),
});
export type LookAnswer = z.output<typeof lookAnswer>;

/** How a file is to be taken. */
export const dryRunRequest = z.strictObject({
  mode: z.enum(['merge', 'replace']),
  columns: z.record(z.string().max(500), z.string().max(200).nullable()).default({}),
  encoding: z.enum(encodings).optional(),
  delimiter: z.string().length(1).optional(),
  mark: z.enum(['.', ',']).optional(),
});
export type DryRunRequest = z.input<typeof dryRunRequest>;

export const goodsIssue = z.object({
  line: z.number(),
  column: z.string(),
  value: z.string(),
  message: z.string(),
  severity: z.enum(['error', 'warning']),
});

const what = z.enum(['added', 'changed', 'removed']);

/** What an import would do to the live shop's pages. */
const effects = z.object({
  /** Records that were rehearsed, and how many there are. */
  rehearsed: z.number(),
  of: z.number(),
  /** Products that would get another template, by the templates' labels; from '': they are new. */
  templates: z.array(z.object({ from: z.string(), to: z.string(), count: z.number(), examples: z.array(z.string()) })),
  /** What would be wrong with assignments, and is not now. */
  assignments: z.array(z.string()),
  /** Pages that were made, and what would be wrong on them, and is not now. */
  pages: z.number(),
  problems: z.array(z.object({ page: z.string(), file: z.string(), line: z.number(), message: z.string() })),
});
export type GoodsEffects = z.output<typeof effects>;

/** How far a dry run is, and at its end what the import would do. */
export const dryRunStep = z.object({
  /** Rows or products that were gone through. */
  done: z.number(),
  result: z
    .object({
      counts: z.array(z.object({ kind: z.string(), what, count: z.number() })),
      errors: z.number(),
      warnings: z.number(),
      /** The first of them. */
      issues: z.array(goodsIssue),
      /** null: nothing is live, or nothing would change. */
      effects: effects.nullable(),
    })
    .optional(),
});
export type DryRunStep = z.output<typeof dryRunStep>;

export const recordChange = z.object({
  kind: z.string(),
  slug: z.string(),
  what,
  /** Each field that differs, as people read it. */
  fields: z.array(z.object({ field: z.string(), before: z.string(), after: z.string() })),
});

/** How far an import or an undo is, and at its end what it came to. */
export const goodsStep = z.object({
  done: z.number(),
  made: z
    .object({
      /** Number of the change: it can be undone by that. */
      id: z.number(),
      records: z.number(),
      /** What could not be done, in words. */
      left: z.array(z.string()),
    })
    .optional(),
  /** What others changed since, in words: nothing was undone, since it was to be asked. */
  asked: z.array(z.string()).optional(),
});
export type GoodsStep = z.output<typeof goodsStep>;

export const goodsChange = z.object({
  id: z.number(),
  title: z.string(),
  ...author,
  undoes: z.number().nullable(),
  undoneBy: z.number().nullable(),
  added: z.number(),
  changed: z.number(),
  removed: z.number(),
});
export type GoodsChangeItem = z.output<typeof goodsChange>;

export const goodsEndpoints = {
  upload: endpoint('POST', '/api/goods/files', 'Takes a file of goods, to be looked at', {
    query: z.object({ name: z.string().min(1).max(200) }),
    takes: 'bytes',
    answer: lookAnswer,
  }),
  look: endpoint('GET', '/api/goods/files/{upload}', 'Says how a file of goods is read', {
    query: z.object({ encoding: z.enum(encodings).optional(), delimiter: z.string().length(1).optional() }),
    answer: lookAnswer,
  }),
  dryRun: endpoint('POST', '/api/goods/files/{upload}/dry-run', 'Works out what an import would change', {
    body: dryRunRequest,
    sends: 'lines',
    answer: dryRunStep,
  }),
  changes: endpoint('GET', '/api/goods/files/{upload}/changes', 'Lists what an import would change', {
    query: z.object({ what, from: z.coerce.number().int().nonnegative().default(0) }),
    answer: z.array(recordChange),
  }),
  issues: endpoint('GET', '/api/goods/files/{upload}/issues', 'Gives all that cannot be taken, as CSV', {
    sends: 'bytes',
  }),
  import: endpoint('POST', '/api/goods/files/{upload}/import', 'Imports a file as its dry run said', {
    sends: 'lines',
    answer: goodsStep,
  }),
  history: endpoint('GET', '/api/goods/changes', 'Lists changes of goods', { answer: z.array(goodsChange) }),
  changed: endpoint('GET', '/api/goods/changes/{change}/records', 'Says what a change did, value by value', {
    query: z.object({ from: z.coerce.number().int().nonnegative().default(0) }),
    answer: z.array(recordChange),
  }),
  undo: endpoint('POST', '/api/goods/changes/{change}/undo', 'Undoes a change of goods, value by value', {
    query: z.object({ overlapping: z.enum(['ask', 'leave', 'replace']).default('ask') }),
    sends: 'lines',
    answer: goodsStep,
  }),
  export: endpoint('GET', '/api/goods/export', 'Gives all goods as a file', {
    query: z.object({ format: z.enum(['csv', 'json', 'jsonld']) }),
    sends: 'bytes',
  }),
};
