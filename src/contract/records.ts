import { z } from 'zod';
import { fieldSubjects } from '@/core/catalogue';
import { condition } from '@/core/alternates';
import { namedThings } from '@/core/editing';
import { viewAnswer, viewRequest } from './bench';
import { endpoint } from './endpoint';

/** Goods as they are kept by hand: products as a table, records one by one. */

/** A column as files of goods head it: `name`, `name@fr`, `field:lead_time`. */
const column = z.string().min(1).max(200);
const slug = z.string().min(1).max(200);

/** Which products, in which order, and which of their cells. */
export const cellsAsk = z.strictObject({
  search: z.string().max(200).default(''),
  where: condition.nullable().default(null),
  sort: z.strictObject({ column, down: z.boolean() }).nullable().default(null),
  columns: z.array(column).max(60),
  from: z.int().nonnegative().default(0),
  count: z.int().min(1).max(500).default(100),
});
export type CellsAsk = z.output<typeof cellsAsk>;

const row = z.object({
  slug: z.string(),
  name: z.string(),
  /** Whether customers see it. */
  live: z.boolean(),
  /** By column: what it shows, and why it cannot be written here (null: it can). */
  cells: z.record(z.string(), z.object({ text: z.string(), locked: z.string().nullable() })),
});
export type TableRowItem = z.output<typeof row>;

export const tableAnswer = z.object({
  revision: z.number(),
  /** Products that the search and filter leave. */
  total: z.number(),
  all: z.number(),
  rows: z.array(row),
});
export type TableAnswer = z.output<typeof tableAnswer>;

/** Cells that are written: what stood there, and what is to. */
export const cellsRequest = z.strictObject({
  cells: z
    .array(z.strictObject({ slug, column, was: z.string(), text: z.string().max(1_000_000) }))
    .min(1)
    .max(50_000),
  /** Cells that cannot be written are left out, and told; else nothing is written where one cannot be. */
  partly: z.boolean().default(false),
  /** Columns that the answer gives of the products that were written, where those are few. */
  columns: z.array(column).max(60).default([]),
});

/** What is done to a column of many products at once. */
export const bulkRequest = z.strictObject({
  column,
  /** Of lists, `add` and `remove` name some entries; `fill` writes only where nothing is. */
  action: z.enum(['set', 'add', 'remove', 'fill']),
  text: z.string().max(100_000),
  /** These products, or all that a search and filter leave. */
  slugs: z.array(slug).max(10_000).nullable(),
  search: z.string().max(200).default(''),
  where: condition.nullable().default(null),
});

export const savedAnswer = z.object({
  /** Number of the change; null: nothing was changed. */
  change: z.number().nullable(),
  /** Products that were changed. */
  count: z.number(),
  /** Cells that were left as they are, and why: the first of them. */
  left: z.array(z.object({ slug: z.string(), column: z.string(), message: z.string(), now: z.string().optional() })),
  leftCount: z.number(),
  rows: z.array(row),
});
export type SavedAnswer = z.output<typeof savedAnswer>;

/** How far writing is, and at its end what was written. */
export const bulkStep = z.object({ done: z.number(), saved: savedAnswer.optional() });
export type BulkStep = z.output<typeof bulkStep>;

/** A column that a table may have. */
const columnItem = z.object({
  column,
  label: z.string(),
  /** The texts that its cells may be; none: any. */
  choices: z.array(z.string()),
  /** What stands in it: how it is edited, filtered and aligned. */
  type: z.enum([
    'text',
    'html',
    'number',
    'money',
    'flag',
    'day',
    'link',
    'picture',
    'list',
    'brand',
    'tags',
    'categories',
    'count',
  ]),
  unit: z.string(),
  group: z.string(),
  sorted: z.boolean(),
  /** The fact that a filter asks; null: it is not filtered by. */
  fact: z.object({ fact: z.string(), name: z.string().optional() }).nullable(),
});
export type ColumnItem = z.output<typeof columnItem>;

export const recordKind = z.enum([
  'shop',
  'field',
  'brand',
  'tag',
  'category',
  'product',
  'content',
  'article',
  'menu',
  'redirect',
]);
export type RecordKindName = z.output<typeof recordKind>;

/** A record as a catalogue file has it: docs/catalogue.md lists the fields of each kind. */
const record = z.record(z.string(), z.unknown());

/**
 * What is to become of a record: fields as they were seen and as they are to be. `before` null: it is added; `after` null: it is removed.
 * Objects and lists in them need hold only what is to change.
 */
const wanted = z.strictObject({ kind: recordKind, slug, before: record.nullable(), after: record.nullable() });

/** Kinds that are few, and listed whole. */
export const listedKind = recordKind.exclude(['shop', 'product']);
export type ListedKindName = z.output<typeof listedKind>;

export const listedRecord = z.object({
  slug: z.string(),
  name: z.string(),
  /** What tells it from others: the type of a field, the day of an article. */
  note: z.string(),
  /** Of a category: the one that it stands below. */
  parent: z.string().nullable(),
  /** How many products have it; of a custom field, how many subjects; of a menu, how many links. */
  count: z.number().nullable(),
});
export type ListedItem = z.output<typeof listedRecord>;

/** A custom field as the shop defines it. */
const fieldDefinition = z.object({
  key: z.string(),
  name: z.string(),
  type: z.enum(['text', 'html', 'number', 'flag', 'day', 'link', 'picture']),
  unit: z.string(),
  help: z.string(),
  choices: z.array(z.string()),
  several: z.boolean(),
});
export type FieldItem = z.output<typeof fieldDefinition>;

export const recordAnswer = z.object({
  kind: recordKind,
  slug: z.string(),
  record,
  /** The shop's languages, the first one first. */
  locales: z.array(z.string()),
  currency: z.string(),
  /** Custom fields that it may have. */
  fields: z.array(fieldDefinition),
  /** What records of each kind are called, by slug: brands, tags and categories that it may name. */
  names: z.object({
    brand: z.record(z.string(), z.string()),
    tag: z.record(z.string(), z.string()),
    category: z.record(z.string(), z.string()),
  }),
  types: z.array(z.string()),
});
export type RecordAnswer = z.output<typeof recordAnswer>;

export const recordSaved = z.object({
  /** Number of the change; null: nothing differs. */
  change: z.number().nullable(),
  /** The records as they are now; null: it was removed. */
  records: z.array(z.object({ kind: recordKind, slug: z.string(), record: record.nullable() })),
});

export const fieldUsesAnswer = z.object({
  /** Records of the kind that there are, and how many have something there. */
  all: z.number(),
  filled: z.number(),
  templates: z.array(z.object({ file: z.string(), line: z.number(), text: z.string() })),
  /** Shelves on which a piece is filled with it. */
  shelves: z.array(z.object({ shelf: z.string(), piece: z.string() })),
  /** Rules of alternates that ask for it, by their number. */
  rules: z.array(z.object({ number: z.number(), label: z.string() })),
});
export type FieldUsesAnswer = z.output<typeof fieldUsesAnswer>;

/** What a theme names by a text of its own, and how it is called there. */
const named = z.object({
  of: z.enum(namedThings),
  value: z.string().min(1).max(200),
});

export const valueUsesAnswer = z.object({
  uses: z.array(
    z.object({
      where: z.enum(['template', 'pin', 'rule', 'alternate', 'shelf', 'look']),
      file: z.string(),
      layer: z.string(),
      line: z.number(),
      text: z.string(),
    }),
  ),
  /** Menus that link it. */
  menus: z.array(z.object({ slug: z.string(), name: z.string() })),
  /** How many products have it; null: products do not have such. */
  having: z.number().nullable(),
});

export type ValueUsesAnswer = z.output<typeof valueUsesAnswer>;

export const recordEndpoints = {
  list: endpoint('GET', '/api/goods/list', 'Lists the records of a kind that are few', {
    query: z.object({ kind: listedKind }),
    answer: z.array(listedRecord),
  }),
  counts: endpoint('GET', '/api/goods/counts', 'Says how many records there are of each kind', {
    answer: z.record(z.string(), z.number()),
  }),
  misfits: endpoint('GET', '/api/goods/misfits', 'Says which values of a custom field would not fit another type', {
    query: z.object({
      subject: z.enum(fieldSubjects),
      key: z.string().max(100),
      type: fieldDefinition.shape.type,
      several: z.enum(['true', 'false']).default('false'),
      /** One a line. */
      choices: z.string().max(20_000).default(''),
    }),
    answer: z.object({ count: z.number(), examples: z.array(z.object({ slug: z.string(), value: z.string() })) }),
  }),
  record: endpoint('GET', '/api/goods/record', 'Gives a record of the catalogue', {
    query: z.object({ kind: recordKind, slug }),
    answer: recordAnswer,
  }),
  save: endpoint('POST', '/api/goods/records', 'Saves changes of records, as one change', {
    body: z.strictObject({
      changes: z.array(wanted).min(1).max(500),
      title: z.string().max(200),
      /** Takes the place of what others wrote meanwhile. */
      force: z.boolean().default(false),
    }),
    answer: recordSaved,
  }),
  usedBy: endpoint('GET', '/api/drafts/{draft}/field-uses', 'Says what uses a part of records', {
    query: z.object({ kind: recordKind, part: z.string().min(1).max(120) }),
    answer: fieldUsesAnswer,
  }),
  valueUses: endpoint('GET', '/api/drafts/{draft}/value-uses', 'Says what names something of the catalogue', {
    query: named,
    answer: valueUsesAnswer,
  }),
  players: endpoint('GET', '/api/drafts/{draft}/players', 'Lists the players that a draft’s theme knows for films', {
    answer: z.array(z.object({ share: z.string(), player: z.string() })),
  }),
  follow: endpoint(
    'POST',
    '/api/drafts/{draft}/value-uses',
    'Writes another slug in place of an earlier one, wherever a draft’s own files name it',
    {
      body: z.strictObject({ of: named.shape.of, from: named.shape.value, to: slug }),
      answer: z.object({ change: z.number().nullable(), paths: z.array(z.string()) }),
    },
  ),
  page: endpoint(
    'POST',
    '/api/drafts/{draft}/record-page',
    'Makes the page of a record with changes that are not saved',
    {
      body: viewRequest
        .omit({ unsaved: true, open: true, on: true, try: true })
        .extend({ changes: z.array(wanted).max(20) }),
      answer: viewAnswer.pick({ page: true, html: true, shown: true }),
    },
  ),
  table: endpoint('POST', '/api/goods/table', 'Gives rows of the table of products', {
    body: cellsAsk,
    answer: tableAnswer,
  }),
  columns: endpoint('GET', '/api/goods/columns', 'Lists the columns that the table of products may have', {
    answer: z.object({
      columns: z.array(columnItem),
      currency: z.string(),
      /** What products may name. */
      names: z.object({
        brand: z.array(z.string()),
        tag: z.array(z.string()),
        category: z.array(z.string()),
        type: z.array(z.string()),
      }),
    }),
  }),
  cells: endpoint('POST', '/api/goods/cells', 'Writes cells of the table of products, as one change', {
    body: cellsRequest,
    answer: savedAnswer,
  }),
  bulk: endpoint('POST', '/api/goods/bulk', 'Writes a column of many products, as one change', {
    body: bulkRequest,
    sends: 'lines',
    answer: bulkStep,
  }),
};
