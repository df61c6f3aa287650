import { z } from 'zod';
import { endpoint } from './endpoint';
import { themePath, author } from './shared';

/** Changes of a draft, and earlier contents of its files. */

/** One content of a path. */
export const contentAnswer = z.object({ text: z.string().nullable(), size: z.number(), hash: z.string() });
export type ContentAnswer = z.output<typeof contentAnswer>;

/** A content of a path in a version of a base or an add-on. */
export const versionOfFile = z.object({ name: z.string(), version: z.string(), hash: z.string() });
export type VersionOfFile = z.output<typeof versionOfFile>;

/** Names a content. */
const contentHash = z.string().regex(/^[0-9a-f]{32}$/);

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
  hash: contentHash,
  expected: z.string().nullable(),
});

const draft = '/api/drafts/{draft}';

export const historyEndpoints = {
  list: endpoint('GET', `${draft}/history`, 'Lists the changes of a draft; with `path`, of that file in any draft', {
    query: z.object({ path: themePath.optional() }),
    answer: z.array(changeItem),
  }),
  rename: endpoint('PUT', `${draft}/history/{change}`, 'Names a change', { body: retitleRequest }),
  undo: endpoint('DELETE', `${draft}/history/{change}`, 'Undoes a change, as a change of its own'),
  restore: endpoint('POST', `${draft}/restore`, 'Puts an earlier content of a file into the shop’s layer again', {
    body: restoreRequest,
  }),
  content: endpoint('GET', '/api/content', 'Gives a content that a path ever had, by its hash', {
    query: z.object({ path: themePath, hash: contentHash }),
    answer: contentAnswer,
  }),
  bytes: endpoint('GET', '/api/content/raw', 'The same as bytes', {
    query: z.object({ path: themePath, hash: contentHash }),
    sends: 'bytes',
  }),
  versions: endpoint(
    'GET',
    '/api/content/versions',
    'Lists a path in every version of a base or an add-on that has it',
    {
      query: z.object({ path: themePath }),
      answer: z.array(versionOfFile),
    },
  ),
};
