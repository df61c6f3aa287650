import { z } from 'zod';
import { endpoint } from './endpoint';
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

/** Files of a draft, each with the layer that serves it. */
export const filesAnswer = z.array(
  z.object({
    path: z.string(),
    layer,
    /** Whether a layer below has it too. */
    below: z.boolean(),
    /** Hash of the shop's own; null: it has none. */
    own: z.string().nullable(),
  }),
);
export type FileItem = z.output<typeof filesAnswer>[number];

/** Files that a ZIP changed. */
export const replacedAnswer = z.object({ changed: z.number() });

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

const draft = '/api/drafts/{draft}';

export const fileEndpoints = {
  list: endpoint('GET', `${draft}/files`, 'Lists the files of a draft, each with the layer that serves it', {
    answer: filesAnswer,
  }),
  saveAll: endpoint('PUT', `${draft}/files`, 'Saves several files of the shop’s layer, all or none', {
    body: saveFilesRequest,
    answer: filesAnswer,
  }),
  open: endpoint('GET', `${draft}/file`, 'Opens a file, as it serves or as a layer has it', {
    query: z.object({ path: themePath, layer: z.string().max(200).optional() }),
    answer: fileAnswer,
  }),
  save: endpoint('PUT', `${draft}/file`, 'Saves a file of the shop’s layer', { body: saveRequest, answer: saveAnswer }),
  revert: endpoint('DELETE', `${draft}/file`, 'Removes the shop’s own file; answers with what serves instead', {
    body: revertRequest,
    answer: fileAnswer.nullable(),
  }),
  rename: endpoint('POST', `${draft}/rename`, 'Gives a file another path; what names it follows', {
    body: renameFileRequest,
    answer: renameFileAnswer,
  }),
  drop: endpoint('POST', `${draft}/drop`, 'Takes dropped files: each goes where its kind belongs', {
    takes: 'form',
    answer: dropAnswer,
  }),
  zip: endpoint('GET', `${draft}/zip`, 'Gives a layer of the draft as a ZIP: the shop’s own, or the one named', {
    query: z.object({ layer: z.string().max(200).optional() }),
    sends: 'bytes',
  }),
  replaceAll: endpoint('PUT', `${draft}/zip`, 'Replaces the shop’s own files with those of a ZIP, as one change', {
    takes: 'zip',
    answer: replacedAnswer,
  }),
};
