import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import type { z } from 'zod';
import type { phraseUsesAnswer, PhrasesAnswer, savePhrasesRequest, SheetAnswer } from '@/contract/phrases';
import { delimiterOf, encodingOf } from '@/core/exchange';
import {
  formsOf,
  fromSheet,
  phrasePlaces,
  phraseTable,
  planPhrases,
  textsOf,
  toSheet,
  type PhraseEdit,
} from '@/core/phrases';
import type { Theme } from '@/core/theme';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import type { StateRow } from '@/store';
import type { Edit } from './edits';
import { wrongText } from './files';

const localesOf = (shop: Shop): string[] => shop.catalogue().shop().locales;

/** All phrases of a draft, side by side in the shop's languages. */
export function phrasesOf(shop: Shop, draft: StateRow): PhrasesAnswer {
  const { theme } = shop.theme(draft);
  const locales = localesOf(shop);
  return {
    locales: locales.map((locale) => ({ locale, forms: formsOf(locale).needed })),
    layers: theme.layers
      .filter(({ kind, files }) => kind === 'shop' || [...files.keys()].some((path) => path.startsWith('words/')))
      .map(({ name }) => name),
    rows: phraseTable(theme, locales),
  };
}

/** Where a phrase is named, each with its line. */
export function phraseUsesOf(shop: Shop, draft: StateRow, key: string): z.output<typeof phraseUsesAnswer> {
  return phrasePlaces(shop.theme(draft).theme, key);
}

const said = (phrase: PhraseEdit['phrase']): string =>
  phrase === null ? 'nothing' : `“${textsOf(phrase).join(' / ')}”`;

/** The files of words that edits come to. Refused whole where someone else changed one of the phrases since. */
function planned(shop: Shop, draft: StateRow, theme: Theme, edits: readonly PhraseEdit[], title: string): Edit {
  const { files, late, unreadable } = planPhrases(theme, localesOf(shop), edits);
  if (unreadable.length)
    refuse(
      422,
      'text',
      `${unreadable.join(' and ')} of the shop is not valid JSON. Fix it on the Bench first; nothing was saved.`,
    );
  if (late.length)
    refuse(409, 'overlap', 'Someone changed some of these phrases meanwhile: nothing was saved yet.', {
      left: late.map(({ key, locale, now }) => `“${key}” in ${locale} says ${said(now)} by now.`),
    });
  const wrong = files.flatMap(({ path, text }) => (text === null ? [] : (wrongText(path, text) ?? [])));
  if (wrong[0] !== undefined) refuse(413, 'text', wrong[0]);
  const own = theme.layers.at(-1)?.files;
  return {
    revision: draft.revision,
    title,
    files: files.map(({ path, text }) => ({
      path,
      bytes: text === null ? null : Buffer.from(text),
      expected: own?.get(path)?.hash ?? null,
    })),
  };
}

export function planPhraseEdits(shop: Shop, draft: StateRow, { edits }: z.output<typeof savePhrasesRequest>): Edit {
  const { theme } = shop.theme(draft);
  const locales = localesOf(shop);
  const foreign = edits.find(({ locale }) => !locales.includes(locale));
  if (foreign) refuse(422, 'language', `The shop has no language “${foreign.locale}”.`);
  const whole = edits.map((one): PhraseEdit => ({ ...one, phrase: settled(one.phrase), seen: settled(one.seen) }));
  const [first] = whole;
  const title = whole.length === 1 ? `Phrase ${first?.key ?? ''}` : `${whole.length} phrases`;
  return planned(shop, draft, theme, whole, title);
}

type Given = z.output<typeof savePhrasesRequest>['edits'][number]['phrase'];

const settled = (phrase: Given): PhraseEdit['phrase'] =>
  phrase === null || typeof phrase === 'string'
    ? phrase
    : Object.fromEntries(Object.entries(phrase).filter((one): one is [string, string] => one[1] !== undefined));

/** All phrases as CSV for translators: UTF-8 with its mark, as spreadsheets need it. */
export function sheetOf(shop: Shop, draft: StateRow): string {
  const { theme } = shop.theme(draft);
  const locales = localesOf(shop);
  return stringify(toSheet(phraseTable(theme, locales), locales), { bom: true, record_delimiter: '\r\n' });
}

/** What a CSV of phrases changes: what is reported, and what is written. */
export function planSheet(
  shop: Shop,
  draft: StateRow,
  bytes: Uint8Array,
): { told: Omit<SheetAnswer, 'change'>; edit: Edit } {
  const { theme } = shop.theme(draft);
  const locales = localesOf(shop);
  const { edits, ...told } = fromSheet(readSheet(bytes), phraseTable(theme, locales), locales);
  return { told, edit: planned(shop, draft, theme, edits, 'Phrases from a table') };
}

function readSheet(bytes: Uint8Array): string[][] {
  if (!bytes.length) refuse(422, 'file', 'The file is empty.');
  const text = new TextDecoder(encodingOf(bytes.subarray(0, 256_000)).encoding).decode(bytes);
  if (/[\x00-\x08\x0e-\x1a]/.test(text.slice(0, 100_000)))
    refuse(422, 'file', 'This is no table of phrases: give a CSV file, as “Export CSV” makes it.');
  try {
    return parse(text, {
      delimiter: delimiterOf(text.slice(0, 256_000)),
      bom: true,
      relax_column_count: true,
    });
  } catch (error) {
    return refuse(422, 'file', `The file cannot be read as CSV: ${(error as Error).message}`);
  }
}
