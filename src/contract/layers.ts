import { z } from 'zod';
import { problemItem, layer, themePath, fileChange } from './shared';

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

/** What the form of the look is made from: the texts below the shop's own, the lowest first, and the theme's fonts. */
export const lookAnswer = z.object({ below: z.array(z.string()), fonts: z.array(z.string()) });
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
      outcome: z.enum(['merged', 'conflict', 'needless', 'alone', 'covers', 'fits', 'lost']),
      says: z.string(),
      lost: z.array(problemItem).optional(),
    }),
  ),
});
export type UpdateAnswer = z.output<typeof updateAnswer>;

export const updateRequest = z.strictObject({ to: z.int() });
