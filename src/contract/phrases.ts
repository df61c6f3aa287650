import { z } from 'zod';
import { endpoint } from './endpoint';

/** The phrases of a draft in all of the shop's languages. */

/** Longest text of a phrase, in characters. */
export const maxPhraseChars = 20_000;
/** Largest table of phrases that is taken, in bytes. */
export const maxSheetBytes = 20_000_000;

const phrase = z.union([
  z.string().max(maxPhraseChars),
  z.partialRecord(z.enum(['zero', 'one', 'two', 'few', 'many', 'other']), z.string().max(maxPhraseChars)),
]);

const row = z.object({
  key: z.string(),
  /** What stands in where a language has none. */
  first: phrase.nullable(),
  /** Values that may be put into it: `name` of `{name}`. */
  places: z.array(z.string()),
  /** By language, in the order of `locales`. */
  texts: z.array(
    z.object({
      phrase: phrase.nullable(),
      /** The topmost layer that has it; '' where none has. */
      layer: z.string(),
      own: z.boolean(),
      /** Plural forms that the language needs and the phrase has not. */
      lacks: z.array(z.string()),
    }),
  ),
  /** How often templates and shelves name it. */
  uses: z.number(),
});
export type PhraseItem = z.output<typeof row>;

export const phrasesAnswer = z.object({
  /** The shop's languages, its first one first, with the plural forms that a counted phrase needs in each. */
  locales: z.array(z.object({ locale: z.string(), forms: z.array(z.string()) })),
  /** Layers that have words, the lowest first. */
  layers: z.array(z.string()),
  rows: z.array(row),
});
export type PhrasesAnswer = z.output<typeof phrasesAnswer>;

export const savePhrasesRequest = z.strictObject({
  edits: z
    .array(
      z.strictObject({
        key: z.string().min(1).max(300),
        locale: z.string().max(40),
        /** null: the shop's own goes, and what is below shows again. */
        phrase: phrase.nullable(),
        /** The phrase as it showed when it was changed. */
        seen: phrase.nullable(),
      }),
    )
    .min(1)
    .max(5000),
});
export type SavePhrasesRequest = z.input<typeof savePhrasesRequest>;

/** Files that name a phrase, and where. */
export const phraseUsesAnswer = z.array(
  z.object({ file: z.string(), layer: z.string(), line: z.number(), from: z.number(), text: z.string() }),
);

export const sheetAnswer = z.object({
  changes: z.array(
    z.object({
      line: z.number(),
      key: z.string(),
      form: z.string(),
      locale: z.string(),
      from: z.string(),
      to: z.string(),
    }),
  ),
  problems: z.array(
    z.object({ line: z.number(), column: z.string(), text: z.string(), severity: z.enum(['error', 'warning']) }),
  ),
  /** Cells that say what is there already. */
  same: z.number(),
  /** The change that was written; null: none. */
  change: z.number().nullable(),
});
export type SheetAnswer = z.output<typeof sheetAnswer>;

const phrases = '/api/drafts/{draft}/phrases';

export const phraseEndpoints = {
  all: endpoint('GET', phrases, 'Lists all phrases in all of the shop’s languages', { answer: phrasesAnswer }),
  save: endpoint('POST', phrases, 'Changes phrases in the shop’s words, together or not at all', {
    body: savePhrasesRequest,
    answer: z.object({ change: z.number().nullable() }),
  }),
  uses: endpoint('GET', `${phrases}/uses`, 'Lists the places that name a phrase', {
    query: z.object({ key: z.string().max(300) }),
    answer: phraseUsesAnswer,
  }),
  sheet: endpoint('GET', `${phrases}/sheet`, 'Sends all phrases as CSV for translators', { sends: 'bytes' }),
  takeSheet: endpoint('POST', `${phrases}/sheet`, 'Tells what a CSV of phrases changes, and writes it where asked to', {
    query: z.object({ write: z.enum(['yes', 'no']).default('no') }),
    takes: 'bytes',
    answer: sheetAnswer,
  }),
};
