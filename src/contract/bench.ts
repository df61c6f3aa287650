import { z } from 'zod';
import { fieldSubjects } from '@/core/catalogue';
import { endpoint } from './endpoint';
import { themePath, unsavedTexts, subject, layer, problemItem } from './shared';

/** What the Bench asks. */

export const pageAnswer = z.object({
  status: z.number(),
  /** Address of the page, with the state's prefix. */
  address: z.string(),
  subject: subject.omit({ detail: true }).nullable(),
  template: z.string(),
  because: z.enum(['tried', 'pin', 'rule', 'default']),
  /** Alternates that there are for this kind of page, `default` first. */
  choices: z.array(z.object({ name: z.string(), label: z.string() })),
  /** Templates that made the page, each with the file that drew it and the layer that serves it. */
  drawn: z.array(z.object({ name: z.string(), by: z.string().nullable(), layer })),
  assets: z.array(z.object({ path: z.string(), layer })),
  problems: z.array(problemItem),
  /** The page in each of the shop's languages; `prefix` stands before its path: `/fr`, or nothing for the first. */
  languages: z.array(z.object({ locale: z.string(), prefix: z.string(), current: z.boolean() })),
  /** Texts that are shown in the shop's first language, for want of this one: each with what it is. */
  untranslated: z.array(z.string()),
});
export type PageAnswer = z.output<typeof pageAnswer>;

/** Asks for the page that a frame shows, made with what is being typed. */
export const viewRequest = z.strictObject({
  /** Number of the view that the frame got; null: by address. */
  view: z.string().nullable(),
  address: z.string().max(2000),
  try: z.string().nullable(),
  /** The day that it is shown as of; null: today. */
  on: z.iso.date().nullish(),
  /** Scheme and host of the frame. */
  origin: z.string().max(200),
  unsaved: unsavedTexts,
  /** The file that is open, when the shop may write it: while it has errors the last good page stays. */
  open: themePath.nullable().default(null),
  /** Name of the page that the frame shows: the same is not sent again. */
  shown: z.string().nullable(),
});
export type ViewRequest = z.input<typeof viewRequest>;

const part = z.object({
  text: z.string(),
  object: z.string().nullable(),
  path: z.array(z.string()),
  comparison: z.boolean(),
});

const placeTable = z.object({
  sources: z.array(z.object({ file: z.string(), layer: z.string() })),
  templates: z.array(
    z.object({
      name: z.string(),
      places: z.array(
        z.object({
          kind: z.enum(['element', 'value', 'condition', 'loop', 'draw', 'gap', 'fill', 'shelf']),
          source: z.number(),
          from: z.number(),
          to: z.number(),
          line: z.number(),
          text: z.string(),
          mark: z.string().nullable(),
          parts: z.array(part).optional(),
          element: z.object({ from: z.number(), openTo: z.number() }).optional(),
          under: z.number().optional(),
        }),
      ),
    }),
  ),
  parents: z.array(z.number()),
  madeAt: z.array(z.number()),
  templateOf: z.array(z.number()),
  indexes: z.array(z.number()),
  gaps: z.array(z.tuple([z.number(), z.number(), z.number()])),
  loops: z.array(z.number()),
  conditions: z.array(z.number()),
  said: z.array(z.string()),
  placed: z.array(z.tuple([z.number(), z.string()])),
  shelves: z.array(z.tuple([z.number(), z.number(), z.string()])),
  rendered: z.array(z.number()),
});

export const viewAnswer = z.object({
  /** Null for a piece that was fetched by itself. */
  page: pageAnswer.nullable(),
  /** The page with its marks; null when the frame shows just that, and when it cannot be made. */
  html: z.string().nullable(),
  shown: z.string(),
  /** An unsaved file that cannot be read as it stands: the last good page stays. */
  broken: problemItem.nullable(),
  /** Name of the layer that is written: the shop's. */
  shopLayer: z.string(),
  table: placeTable,
});
export type ViewAnswer = z.output<typeof viewAnswer>;

const target = z.strictObject({ file: themePath, layer: z.string().max(200), from: z.number() });

/** Something to be done at a place of the page; answered with the files as they would be, nothing is written. */
export const changeRequest = z.strictObject({
  target,
  action: z.discriminatedUnion('kind', [
    z.strictObject({
      kind: z.enum(['before', 'after', 'prepend', 'append', 'replace']),
      text: z.string().max(20_000),
    }),
    z.strictObject({ kind: z.literal('remove') }),
    z.strictObject({ kind: z.literal('move'), where: z.enum(['before', 'after', 'into']), to: target }),
    z.strictObject({ kind: z.literal('override') }),
    /** A name is handed down from the template that has it to this one, by each draw between. */
    z.strictObject({ kind: z.literal('hand-down'), name: z.string().max(80), from: z.string(), way: z.array(target) }),
  ]),
  /** The page's own template: an alternate that amends the target's file takes the change. */
  into: themePath.nullish(),
  unsaved: unsavedTexts,
});
export type ChangeRequest = z.input<typeof changeRequest>;

export const changeAnswer = z.object({
  changes: z.array(
    z.object({
      path: z.string(),
      text: z.string(),
      way: z.enum(['edit', 'mark', 'place', 'copy']),
      caret: z.number(),
      /** Hash of the shop's file that it starts from; null: there is none. */
      from: z.string().nullable(),
    }),
  ),
  says: z.string(),
});
export type ChangeAnswer = z.output<typeof changeAnswer>;

/** Asks for the values in reach of a place of a file. */
export const reachRequest = z.strictObject({
  view: z.string().nullable(),
  address: z.string().max(2000),
  try: z.string().nullable(),
  origin: z.string().max(200),
  unsaved: unsavedTexts,
  file: themePath,
  layer: z.string().max(200),
  offset: z.number(),
  /** Frame of the page that is meant, of all in which the place was rendered. */
  frame: z.number().nullable(),
  open: z.array(z.string().max(300)).max(200),
  search: z.string().max(200),
});
export type ReachRequest = z.input<typeof reachRequest>;

const shownValue = z.object({
  kind: z.enum(['none', 'text', 'number', 'flag', 'money', 'day', 'html', 'list', 'record']),
  text: z.string(),
  empty: z.boolean(),
  picture: z.string().optional(),
  colour: z.string().optional(),
  count: z.number().optional(),
});

/** Where a value stands in the catalogue: in which record, and the names down to it there. */
const recordPlace = z.object({
  kind: z.enum(['product', 'category', 'content', 'article', 'brand', 'tag', 'shop']),
  slug: z.string(),
  path: z.array(z.string()),
});
export type RecordPlaceItem = z.output<typeof recordPlace>;

export const reachAnswer = z.object({
  rows: z.array(
    z.object({
      path: z.string(),
      name: z.string(),
      depth: z.number(),
      type: z.string(),
      shown: shownValue.nullable(),
      perhaps: z.boolean(),
      counted: z.object({ empty: z.number(), total: z.number() }).nullable(),
      opens: z.boolean(),
      open: z.boolean(),
      unit: z.string(),
      writes: z.string(),
      record: recordPlace.nullable(),
    }),
  ),
  times: z.number(),
  /** The value that is printed at the place, where it stands in the catalogue. */
  printed: z.object({ path: z.string(), record: recordPlace }).nullable(),
  out: z.array(z.object({ name: z.string(), type: z.string(), shown: shownValue.nullable(), from: z.string() })),
});
export type ReachAnswer = z.output<typeof reachAnswer>;

/** Asks which subjects together show every outcome of a template. */
export const surveyRequest = z.strictObject({
  /** A page of the kind that is meant. */
  address: z.string().max(2000),
  try: z.string().nullable(),
  /** Name of the template. */
  template: themePath,
  unsaved: unsavedTexts,
});
export type SurveyRequest = z.input<typeof surveyRequest>;

/** A line of the answer: what was found so far. */
export const surveyLine = z.object({
  survey: z.object({
    chosen: z.array(z.object({ path: z.string(), name: z.string(), reasons: z.array(z.string()) })),
    missing: z.array(
      z.object({
        key: z.string(),
        text: z.string(),
        file: z.string(),
        line: z.number(),
        held: z.boolean(),
        loop: z.boolean(),
      }),
    ),
    outcomes: z.number(),
    looked: z.number(),
    examples: z.array(z.object({ key: z.string(), held: z.boolean(), path: z.string(), name: z.string() })),
  }),
  of: z.number(),
  done: z.boolean(),
});
export type SurveyLine = z.output<typeof surveyLine>;

/** A theme as it is saved, for the language's worker in the browser. */
export const themeAnswer = z.object({
  revision: z.number(),
  locale: z.string(),
  layers: z.array(
    z.object({
      kind: z.enum(['base', 'add-on', 'shop']),
      name: z.string(),
      version: z.string(),
      files: z.array(z.object({ path: z.string(), hash: z.string(), text: z.string().nullable() })),
    }),
  ),
  definitions: z.record(z.enum(fieldSubjects), z.array(z.unknown())),
  facts: z.object({
    locales: z.array(z.string()),
    contents: z.array(z.string()),
    menus: z.array(z.string()),
    named: z.record(z.enum(['Tag', 'Category', 'Brand', 'Type', 'Option', 'Value']), z.array(z.string())),
    paths: z.array(z.string()),
  }),
});
export type ThemeAnswer = z.output<typeof themeAnswer>;

const draft = '/api/drafts/{draft}';

export const benchEndpoints = {
  view: endpoint(
    'POST',
    `${draft}/view`,
    'Renders the page of a frame with texts that are not saved, and reports on it',
    {
      body: viewRequest,
      answer: viewAnswer,
    },
  ),
  change: endpoint('POST', `${draft}/change`, 'Works out a change at a place of the page; nothing is written', {
    body: changeRequest,
    answer: changeAnswer,
  }),
  reach: endpoint('POST', `${draft}/reach`, 'Lists the values in reach of a place', {
    body: reachRequest,
    answer: reachAnswer,
  }),
  survey: endpoint('POST', `${draft}/survey`, 'Finds the subjects that together show every outcome of a template', {
    body: surveyRequest,
    sends: 'lines',
    answer: surveyLine,
  }),
  theme: endpoint('GET', `${draft}/theme`, 'Gives the theme as it is saved, for the editor’s language aid', {
    answer: themeAnswer,
  }),
};
