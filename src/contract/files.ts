import { z } from 'zod';
import { layer, problemItem, themePath, together } from './shared';

/** Files of a draft. */

export const fileAnswer = z.object({
  path: z.string(),
  text: z.string(),
  /** Hash in the shop's layer: what a save must have started from. Null: the shop has no file of its own here. */
  hash: z.string().nullable(),
  layer,
  /** What serves below the shop's file; null when nothing does. */
  below: layer.nullable(),
  /** It changes the file below instead of replacing it. */
  amends: z.boolean(),
  problems: z.array(problemItem),
});
export type FileAnswer = z.output<typeof fileAnswer>;

export const saveRequest = z.strictObject({
  path: themePath,
  text: z.string(),
  /** The hash that the writer started from; null: the shop had no file of its own. */
  expected: z.string().nullable(),
  /** Saves that say the same, one after the other, are one change. */
  together,
});

export const saveAnswer = z.object({ hash: z.string().nullable(), layer, problems: z.array(problemItem) });
export type SaveAnswer = z.output<typeof saveAnswer>;

export const revertRequest = z.strictObject({ path: themePath, expected: z.string() });

/** Several files of the shop's layer, saved together or not at all; a null text removes one. */
export const saveFilesRequest = z.strictObject({
  /** What the change is called in the history; empty: by its files. */
  title: z.string().max(120).default(''),
  together,
  files: z
    .array(z.strictObject({ path: themePath, text: z.string().nullable(), expected: z.string().nullable() }))
    .min(1)
    .max(200),
});
export type SaveFilesRequest = z.input<typeof saveFilesRequest>;

/** What becomes of dropped files whose place is taken: asked, put in their place, or left out. */
export const onTaken = z.enum(['ask', 'replace', 'skip']);
export type OnTaken = z.output<typeof onTaken>;

/** Dropped files that are in the shop's layer now; the change can be undone. null: nothing differed. */
export const dropAnswer = z.object({ paths: z.array(z.string()), change: z.number().nullable() });
export type DropAnswer = z.output<typeof dropAnswer>;

/** `expected`: hash of the shop's own file as it was seen; null: it was never saved. `unsaved`: texts that stand open. */
export const renameFileRequest = z.strictObject({
  path: themePath,
  to: themePath,
  expected: z.string().nullable(),
  unsaved: z.array(z.strictObject({ path: themePath, text: z.string(), expected: z.string().nullable() })).default([]),
});

/** The paths that were written or removed with it. */
export const renameFileAnswer = z.object({ paths: z.array(z.string()) });
export type RenameFileAnswer = z.output<typeof renameFileAnswer>;
