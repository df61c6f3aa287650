import { z } from 'zod';
import { endpoint } from './endpoint';
import { problemItem, layer, themePath, fileChange, differingStep, slugAnswer } from './shared';

/** Layers of a draft, and what its files stand on. */

/** How a file of the shop's own stands to what is below it. */
export const standing = z.enum(['new', 'amends', 'adds', 'override', 'drifted', 'same']);
export type Standing = z.output<typeof standing>;

export const layersAnswer = z.object({
  layers: z.array(layer),
  rows: z.array(
    z.object({
      path: z.string(),
      /** Hash in each layer, in their order; null: it has no such file. */
      hashes: z.array(z.string().nullable()),
      /** Layers whose file changes the one below instead of replacing it. */
      amends: z.array(z.boolean()),
      /** How the shop's own stands to what is below; null: the shop has none. */
      standing: standing.nullable(),
      text: z.boolean(),
    }),
  ),
});
export type LayersAnswer = z.output<typeof layersAnswer>;

/** What the form of the look is made from: the texts below the shop's own, the lowest first, the theme's fonts, and the options of the shop's products with their values. */
export const lookAnswer = z.object({
  below: z.array(z.string()),
  fonts: z.array(z.string()),
  options: z.array(z.object({ slug: z.string(), values: z.array(z.string()) })),
});
export type LookAnswer = z.output<typeof lookAnswer>;

/** Three texts of a file that drifted, and the two later ones merged. */
export const driftAnswer = z.object({
  path: z.string(),
  /** What the shop's was taken from; null: not known. */
  origin: z.string().nullable(),
  originOf: z.string().nullable(),
  below: z.string().nullable(),
  belowHash: z.string().nullable(),
  belowOf: z.string(),
  own: z.string(),
  hash: z.string(),
  /** Of an amendment: its places that are gone below, with the nearest one as the fix. */
  lost: z.array(problemItem),
});
export type DriftAnswer = z.output<typeof driftAnswer>;

export const settleRequest = z.strictObject({
  path: themePath,
  text: z.string(),
  expected: z.string(),
  /** Hash of what is below, as it was looked at. */
  below: z.string(),
});

export const versionItem = layer.extend({ id: z.number(), files: z.number() });
export type VersionItem = z.output<typeof versionItem>;

export const updateAnswer = z.object({
  from: layer.nullable(),
  to: layer,
  files: z.array(fileChange),
  touched: z.array(
    z.object({
      path: z.string(),
      outcome: z.enum([
        'merged',
        'conflict',
        'needless',
        'alone',
        'covers',
        'fits',
        'moved',
        'unsure',
        'lost',
        'breaks',
      ]),
      says: z.string(),
      lost: z.array(problemItem).optional(),
      /** Places by path that are not where they were; `is` null: gone; `other`: what else may be meant. */
      places: z
        .array(
          z.object({
            line: z.number(),
            was: z.string(),
            is: z.string().nullable(),
            certain: z.boolean(),
            other: z.string().nullable(),
          }),
        )
        .optional(),
      /** Problems that it has with the update and had not before. */
      breaks: z.array(problemItem).optional(),
    }),
  ),
});
export type UpdateAnswer = z.output<typeof updateAnswer>;

export const updateRequest = z.strictObject({ to: z.int() });

const draft = '/api/drafts/{draft}';

export const layerEndpoints = {
  all: endpoint('GET', `${draft}/layers`, 'Lists every file of a draft, with its hash in each layer', {
    answer: layersAnswer,
  }),
  look: endpoint('GET', `${draft}/look`, 'Gives what the form of the look is made from', { answer: lookAnswer }),
  drift: endpoint('GET', `${draft}/drift`, 'Gives the texts of a file that drifted, and both later ones merged', {
    query: z.object({ path: themePath }),
    answer: driftAnswer,
  }),
  settle: endpoint('PUT', `${draft}/drift`, 'Saves what a drifted file is to be', { body: settleRequest }),
  planUpdate: endpoint('GET', `${draft}/update`, 'Says what another version below would change', {
    query: z.object({ to: z.coerce.number().int() }),
    answer: updateAnswer,
  }),
  update: endpoint('POST', `${draft}/update`, 'Copies the draft onto another version of what it stands on', {
    body: updateRequest,
    answer: slugAnswer.extend({ plan: updateAnswer }),
  }),
  updatedPages: endpoint('GET', `${draft}/update/pages`, 'Finds the pages that another version below would change', {
    query: z.object({ to: z.coerce.number().int() }),
    sends: 'lines',
    answer: differingStep,
  }),
  versions: endpoint('GET', '/api/versions', 'Lists the versions of bases and add-ons', {
    answer: z.array(versionItem),
  }),
  addVersion: endpoint(
    'POST',
    '/api/versions',
    'Brings in a version of a base or an add-on; no draft stands on it yet',
    {
      query: z.object({ kind: z.enum(['base', 'add-on']).optional() }),
      takes: 'zip',
      answer: versionItem,
    },
  ),
};
