import { z } from 'zod';
import { layer, problemItem, themePath } from './api';

/** Requests and answers about layers, drafts, releases and history. */

/** Says who sends a request, their name escaped as in an address. */
export const authorHeader = 'x-last-author';

/** Names of drafts in addresses. */
export const slug = z
  .string()
  .max(60)
  .regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'a name of small letters, digits and single hyphens');

/** A state of the shop's theme: `draft/spring`, `release/3`, or `live`. */
export const stateName = z
  .string()
  .regex(/^(?:draft\/[a-z0-9-]{1,60}|release\/\d{1,7}|live)$/, 'draft/…, release/… or live');

const author = { madeAt: z.string(), madeBy: z.string() };

export const draftItem = z.object({
  slug: z.string(),
  name: z.string(),
  note: z.string(),
  ...author,
  /** What it was copied from: “Release 2”, “Spring fit-out”; null: it is the first. */
  from: z.string().nullable(),
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

export const releaseItem = z.object({
  number: z.number(),
  name: z.string(),
  note: z.string(),
  ...author,
  /** The draft that it was made of. */
  from: z.string().nullable(),
  live: z.boolean(),
  below: z.array(layer),
});
export type ReleaseItem = z.output<typeof releaseItem>;

export const releasesAnswer = z.object({
  releases: z.array(releaseItem),
  /** Goes up each time another release goes live. */
  turn: z.number(),
});
export type ReleasesAnswer = z.output<typeof releasesAnswer>;

export const liveRequest = z.strictObject({ turn: z.int() });

export const copyRequest = z.strictObject({
  from: stateName,
  name: z.string().trim().min(1, 'Give it a name').max(80),
  note: z.string().max(500).default(''),
});
export const renameDraftRequest = z.strictObject({
  name: z.string().trim().min(1, 'Give it a name').max(80),
  note: z.string().max(500),
});
export const slugAnswer = z.object({ slug: z.string() });

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

/** What becomes of dropped files whose place is taken: asked, put in their place, or left out. */
export const onTaken = z.enum(['ask', 'replace', 'skip']);
export type OnTaken = z.output<typeof onTaken>;

/** Dropped files that are in the shop's layer now; the change can be undone. null: nothing differed. */
export const dropAnswer = z.object({ paths: z.array(z.string()), change: z.number().nullable() });
export type DropAnswer = z.output<typeof dropAnswer>;

/** What the form of the look is made from: the texts below the shop's own, the lowest first, and the theme's fonts. */
export const lookAnswer = z.object({ below: z.array(z.string()), fonts: z.array(z.string()) });
export type LookAnswer = z.output<typeof lookAnswer>;

/** One content of a path. */
export const contentAnswer = z.object({ text: z.string().nullable(), size: z.number(), hash: z.string() });
export type ContentAnswer = z.output<typeof contentAnswer>;

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

export const versionItem = layer.extend({ id: z.number(), files: z.number() });
export type VersionItem = z.output<typeof versionItem>;

const fileChange = z.object({ path: z.string(), change: z.enum(['added', 'changed', 'removed']) });

/** A content of a path in a version of a base or an add-on. */
export const versionOfFile = z.object({ name: z.string(), version: z.string(), hash: z.string() });
export type VersionOfFile = z.output<typeof versionOfFile>;

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

/** A page that comes out different. */
export const differingPage = z.object({ path: z.string(), name: z.string(), kind: z.string(), lines: z.number() });
export type DifferingPage = z.output<typeof differingPage>;

export const restoreRequest = z.strictObject({
  path: themePath,
  hash: z.string().regex(/^[0-9a-f]{32}$/),
  expected: z.string().nullable(),
});
