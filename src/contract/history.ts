import { z } from 'zod';
import { themePath, author } from './shared';

/** Changes of a draft, and earlier contents of its files. */

/** One content of a path. */
export const contentAnswer = z.object({ text: z.string().nullable(), size: z.number(), hash: z.string() });
export type ContentAnswer = z.output<typeof contentAnswer>;

/** A content of a path in a version of a base or an add-on. */
export const versionOfFile = z.object({ name: z.string(), version: z.string(), hash: z.string() });
export type VersionOfFile = z.output<typeof versionOfFile>;

export const changeItem = z.object({
  id: z.number(),
  title: z.string(),
  ...author,
  /** Name of the draft that it was made in. */
  draft: z.string(),
  /** What it changed of the layers below, in words; null: nothing. */
  below: z.string().nullable(),
  /** The change that it undid, or that undid it. */
  undoes: z.number().nullable(),
  undoneBy: z.number().nullable(),
  files: z.array(
    z.object({ path: z.string(), was: z.string().nullable(), hash: z.string().nullable(), text: z.boolean() }),
  ),
});
export type ChangeItem = z.output<typeof changeItem>;

export const retitleRequest = z.strictObject({ title: z.string().trim().min(1, 'Give it a name').max(120) });

export const restoreRequest = z.strictObject({
  path: themePath,
  hash: z.string().regex(/^[0-9a-f]{32}$/),
  expected: z.string().nullable(),
});
