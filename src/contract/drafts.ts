import { z } from 'zod';
import { endpoint } from './endpoint';
import { problemItem, author, layer, stateName, fileChange, themePath, differingStep, slugAnswer } from './shared';

/** Drafts: their list, what differs from live, publishing, comparing, bringing in. */

export const publishRequest = z.strictObject({
  note: z.string().max(500).default(''),
  /** How often live had changed, and the draft's revision, when the publisher looked: when either changed since, nothing is published. */
  turn: z.int(),
  revision: z.int(),
});

export const publishAnswer = z.object({ number: z.number() });

export const contentAnswer = z.object({
  /** An owner lets staff publish what is content alone. */
  allowed: z.boolean(),
  /** Nothing but pieces and words differs from what is live. */
  only: z.boolean(),
  changes: z.array(
    z.object({
      kind: z.enum(['piece', 'phrase', 'file']),
      name: z.string(),
      change: z.enum(['added', 'changed', 'removed']),
    }),
  ),
  /** What was looked at, as publishing asks for it. */
  turn: z.number(),
  revision: z.number(),
});
export type ContentAnswer = z.output<typeof contentAnswer>;

export const changesAnswer = z.object({
  /** Files that differ from what is live. */
  files: z.array(z.object({ path: z.string(), change: z.enum(['added', 'changed', 'removed']) })),
  /** Of each file and of the whole theme only the first are reported; errors come first. */
  problems: z.array(problemItem),
  /** How many there are, notes aside. */
  count: z.number(),
});
export type ChangesAnswer = z.output<typeof changesAnswer>;

export const draftItem = z.object({
  slug: z.string(),
  name: z.string(),
  note: z.string(),
  ...author,
  /** What it was copied from: “Release 2”, “Spring fit-out”; null: it is the first. */
  from: z.string().nullable(),
  /** Only those who see the source may see it. */
  closed: z.boolean(),
  /** Changes made in it. */
  changes: z.number(),
  /** The base and add-ons that it stands on. */
  below: z.array(layer),
  /** Files in which it differs from what is live. */
  differs: z.number(),
  removedAt: z.string().nullable(),
});
export type DraftItem = z.output<typeof draftItem>;

export const draftsAnswer = z.object({ drafts: z.array(draftItem), removed: z.array(draftItem) });
export type DraftsAnswer = z.output<typeof draftsAnswer>;

export const copyRequest = z.strictObject({
  from: stateName,
  name: z.string().trim().min(1, 'Give it a name').max(80),
  note: z.string().max(500).default(''),
});

export const renameDraftRequest = z.strictObject({
  name: z.string().trim().min(1, 'Give it a name').max(80),
  note: z.string().max(500),
});

export const compareAnswer = z.object({
  /** What the two are called. */
  a: z.string(),
  b: z.string(),
  below: z.array(z.object({ a: layer.nullable(), b: layer.nullable() })),
  files: z.array(
    fileChange.extend({ a: z.string().nullable(), b: z.string().nullable(), text: z.boolean(), layer: z.string() }),
  ),
  /** Assignments and registered alternates that differ, in words. */
  assignments: z.array(z.string()),
  /** Of the second, where it is a draft: goes up with each change. */
  revision: z.number(),
  /** Goes up each time another release goes live. */
  turn: z.number(),
});
export type CompareAnswer = z.output<typeof compareAnswer>;

export const bringRequest = z.strictObject({ from: stateName, paths: z.array(themePath).max(10_000).optional() });

export const bringAnswer = z.object({
  files: z.array(
    z.object({
      path: z.string(),
      outcome: z.enum(['taken', 'merged', 'conflict']),
      says: z.string(),
      mine: z.string().nullable(),
      theirs: z.string().nullable(),
      both: z.string().nullable(),
    }),
  ),
});
export type BringAnswer = z.output<typeof bringAnswer>;

const draft = '/api/drafts/{draft}';

export const draftEndpoints = {
  list: endpoint('GET', '/api/drafts', 'Lists drafts, and those that were deleted', { answer: draftsAnswer }),
  copy: endpoint('POST', '/api/drafts', 'Copies a draft or a release to a new draft', {
    body: copyRequest,
    answer: slugAnswer,
  }),
  one: endpoint('GET', draft, 'Gives one draft', { answer: draftItem }),
  rename: endpoint('PUT', draft, 'Names a draft', { body: renameDraftRequest, answer: draftItem }),
  remove: endpoint('DELETE', draft, 'Deletes a draft; it can be put back'),
  putBack: endpoint('POST', '/api/removed-drafts/{removed}/back', 'Puts a deleted draft back'),
  changes: endpoint('GET', `${draft}/changes`, 'Gives the files that differ from live, and the problems of the draft', {
    answer: changesAnswer,
  }),
  publish: endpoint('POST', `${draft}/publish`, 'Makes the draft a release, and that live', {
    body: publishRequest,
    answer: publishAnswer,
  }),
  content: endpoint('GET', `${draft}/content`, 'Gives the pieces and words that differ from what is live', {
    answer: contentAnswer,
  }),
  publishContent: endpoint(
    'POST',
    `${draft}/publish-content`,
    'The same, where nothing but pieces and words differs and an owner allows it',
    { body: publishRequest, answer: publishAnswer },
  ),
  close: endpoint(
    'PUT',
    `${draft}/closed`,
    'Keeps a draft to developers and owners, or opens it to staff and readers',
    {
      body: z.strictObject({ closed: z.boolean() }),
      answer: draftItem,
    },
  ),
  planBring: endpoint('GET', `${draft}/bring`, 'Says what would come into the draft from another state', {
    query: z.object({ from: stateName }),
    answer: bringAnswer,
  }),
  bring: endpoint('POST', `${draft}/bring`, 'Brings changes of another state into the draft', {
    body: bringRequest,
    answer: bringAnswer,
  }),
  compare: endpoint('GET', '/api/compare', 'Says what differs from state `a` to state `b`', {
    query: z.object({ a: stateName, b: stateName }),
    answer: compareAnswer,
  }),
  comparePages: endpoint('GET', '/api/compare/pages', 'Finds the pages that differ from state `a` to state `b`', {
    query: z.object({ a: stateName, b: stateName }),
    sends: 'lines',
    answer: differingStep,
  }),
};
