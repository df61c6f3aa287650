import { z } from 'zod';

/** What several resources share: subjects, layers, problems, names, refusals. */

/** Largest file of text that may be saved, in bytes. */
export const maxTextBytes = 1_000_000;

export const subjectKind = z.enum(['home', 'product', 'category', 'listing', 'content', 'article', 'articles', 'cart']);
export type SubjectKind = z.output<typeof subjectKind>;

export const subject = z.object({ kind: subjectKind, slug: z.string(), name: z.string(), detail: z.string() });
export type SubjectItem = z.output<typeof subject>;

export const layer = z
  .object({ kind: z.enum(['base', 'add-on', 'shop']), name: z.string(), version: z.string() })
  .meta({ id: 'Layer' });
export type LayerItem = z.output<typeof layer>;

export const problemItem = z
  .object({
    code: z.string(),
    severity: z.enum(['error', 'warning', 'note']),
    file: z.string(),
    from: z.number(),
    to: z.number(),
    line: z.number(),
    column: z.number(),
    length: z.number(),
    message: z.string(),
    layer: z.string(),
    /** What certainly fixes it: stretches of the file, by offsets, and what takes their place. */
    fix: z
      .object({
        title: z.string(),
        edits: z.array(z.object({ from: z.number(), to: z.number(), text: z.string() })),
        /** Phrases that it brings, for each of the shop's languages that lacks them. */
        phrases: z.array(z.object({ key: z.string(), text: z.string() })).optional(),
      })
      .optional(),
  })
  .meta({ id: 'Problem' });
export type ProblemItem = z.output<typeof problemItem>;

/** Path of a file in a theme: plain names with `/` between, no way out of the folder. */
export const themePath = z
  .string()
  .max(200)
  .regex(
    /^(?!.*(?:^|\/)\.)[A-Za-z0-9._-]+(?:\/[A-Za-z0-9._-]+)*$/,
    'a path of letters, digits, “.”, “_” and “-” with “/” between, no part beginning with “.”',
  );

export const together = z.string().max(60).optional();

/** Most files that may stand unsaved in a request, and most characters of all together. */
const maxUnsaved = 40;

/** Texts in editors that are not saved. */
export const unsavedTexts = z
  .array(z.strictObject({ path: themePath, text: z.string().max(maxTextBytes) }))
  .max(maxUnsaved)
  .default([]);

/** What every refused request answers: a sentence for people, and for some codes what they need to go on. */
export const refusal = z.object({
  code: z.string(),
  message: z.string(),
  /** With `changed`: the file as it is now. */
  now: z.object({ text: z.string(), hash: z.string().nullable() }).optional(),
  problems: z.array(problemItem).optional(),
  /** With `there`: files that would be replaced, or hidden, by what came. */
  there: z.array(z.object({ path: z.string(), layer })).optional(),
  /** With `overlap`: what others changed since, a sentence each. */
  left: z.array(z.string()).optional(),
  /** With `cells`: cells of a table that cannot be written, and why; with `now`, what another wrote there meanwhile. */
  cells: z
    .array(z.object({ slug: z.string(), column: z.string(), message: z.string(), now: z.string().optional() }))
    .optional(),
});
export type Refusal = z.output<typeof refusal>;

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

export const author = { madeAt: z.string(), madeBy: z.string() };

export const fileChange = z.object({ path: z.string(), change: z.enum(['added', 'changed', 'removed']) });

/** A page that comes out different. */
export const differingPage = z.object({ path: z.string(), name: z.string(), kind: z.string(), lines: z.number() });
export type DifferingPage = z.output<typeof differingPage>;

/** Pages that come out different, as far as was looked. */
export const differingStep = z.object({
  pages: z.array(differingPage),
  looked: z.number(),
  of: z.number(),
  done: z.boolean(),
});
export type DifferingStep = z.output<typeof differingStep>;

/** Name of a draft that was made. */
export const slugAnswer = z.object({ slug: z.string() });
