import { nearestOf } from '@/core/language';
import type { Phrase } from '@/core/theme';
import { isSame, textProblem } from './check';
import { formsOf, inOrder } from './forms';
import type { PhraseRow } from './table';
import type { PhraseEdit } from './write';

/** A table of phrases as translators get it: a row a text, a column a language. The first row has the headings. */
export type Sheet = string[][];

export interface SheetProblem {
  /** From 1, the headings being the first. */
  line: number;
  /** Heading of the column; '' for the whole row. */
  column: string;
  text: string;
  /** An error keeps its cell out; a warning does not. */
  severity: 'error' | 'warning';
}

export interface SheetChange {
  line: number;
  key: string;
  /** Plural form; '' where the phrase has none. */
  form: string;
  locale: string;
  from: string;
  to: string;
}

export interface SheetPlan {
  edits: PhraseEdit[];
  changes: SheetChange[];
  problems: SheetProblem[];
  /** Cells that say what is there already. */
  same: number;
}

const keyHeading = 'key';
const formHeading = 'form';

/** All phrases as a table: key, plural form, and a column for each language. */
export function toSheet(rows: readonly PhraseRow[], locales: readonly string[]): Sheet {
  const sheet: Sheet = [[keyHeading, formHeading, ...locales]];
  for (const { key, texts, first } of rows) {
    const phrases = [first, ...texts.map(({ phrase }) => phrase)];
    const counted = phrases.filter((one): one is Record<string, string> => one !== null && typeof one === 'object');
    if (phrases.some((one) => typeof one === 'string') || !counted.length)
      sheet.push([key, '', ...texts.map(({ phrase }) => (typeof phrase === 'string' ? phrase : ''))]);
    if (!counted.length) continue;
    const forms = inOrder([...counted.flatMap(Object.keys), ...locales.flatMap((locale) => formsOf(locale).needed)]);
    for (const form of forms)
      sheet.push([
        key,
        form,
        ...texts.map(({ phrase }) => (phrase !== null && typeof phrase === 'object' ? (phrase[form] ?? '') : '')),
      ]);
  }
  return sheet;
}

/** What a table that came back changes. Empty cells, and columns that are not there, change nothing. */
export function fromSheet(sheet: Sheet, rows: readonly PhraseRow[], locales: readonly string[]): SheetPlan {
  const plan: SheetPlan = { edits: [], changes: [], problems: [], same: 0 };
  const say = (line: number, column: string, text: string, severity: SheetProblem['severity'] = 'error') =>
    void plan.problems.push({ line, column, text, severity });
  const headings = (sheet[0] ?? []).map((one) => one.trim());
  const keyAt = headings.indexOf(keyHeading);
  const formAt = headings.indexOf(formHeading);
  if (keyAt < 0) {
    say(1, '', `The first row needs a column “${keyHeading}” with the phrases’ keys`);
    return plan;
  }
  const columns = headings.flatMap((heading, at) => {
    if (at === keyAt || at === formAt || heading === '') return [];
    const locale = locales.find((one) => one.toLowerCase() === heading.toLowerCase());
    if (locale === undefined) {
      say(1, heading, `The shop has no language “${heading}”: it has ${locales.map((one) => `“${one}”`).join(', ')}`);
      return [];
    }
    if (headings.indexOf(heading) !== at) {
      say(1, heading, `The column “${heading}” stands here twice: the first one counts`);
      return [];
    }
    return [{ at, locale, heading, nth: locales.indexOf(locale) }];
  });
  const byKey = new Map(rows.map((row) => [row.key, row]));
  const seen = new Set<string>();
  const made = new Map<string, { edit: PhraseEdit; row: PhraseRow; line: number; heading: string }>();
  for (const [at, cells] of sheet.entries()) {
    const line = at + 1;
    const key = (cells[keyAt] ?? '').trim();
    if (line === 1 || cells.every((cell) => cell.trim() === '')) continue;
    const row = byKey.get(key);
    if (!row) {
      const near = nearestOf(key, [...byKey.keys()]);
      say(
        line,
        keyHeading,
        key ? `There is no phrase “${key}”${near ? `; did you mean “${near.name}”?` : ''}` : 'This row has no key',
      );
      continue;
    }
    const form = formAt < 0 ? '' : (cells[formAt] ?? '').trim();
    if (seen.has(`${key} ${form}`)) {
      say(line, keyHeading, `“${key}”${form && ` (${form})`} stands here twice: the first one counts`);
      continue;
    }
    seen.add(`${key} ${form}`);
    for (const { at, locale, heading, nth } of columns) {
      const text = cells[at] ?? '';
      if (text.trim() === '') continue;
      const shown = row.texts[nth]?.phrase ?? null;
      const begun = made.get(`${key} ${locale}`)?.edit.phrase ?? shown;
      const now = form ? (begun !== null && typeof begun === 'object' ? begun[form] : undefined) : begun;
      if (now === text) {
        plan.same++;
        continue;
      }
      if (!form && begun !== null && typeof begun === 'object') {
        say(line, heading, `“${key}” has plural forms here: give each in a row of its own, with its form`);
        continue;
      }
      const wrong = textProblem(row, locale, form, text);
      if (wrong) say(line, heading, wrong.text, wrong.severity);
      if (wrong?.severity === 'error') continue;
      const phrase: Phrase = form ? { ...(typeof begun === 'object' ? begun : null), [form]: text } : text;
      made.set(`${key} ${locale}`, { edit: { key, locale, phrase, seen: shown }, row, line, heading });
      plan.changes.push({ line, key, form, locale, from: typeof now === 'string' ? now : '', to: text });
    }
  }
  for (const { edit, line, heading } of made.values()) {
    const { phrase, locale, key } = edit;
    if (phrase !== null && typeof phrase === 'object' && !Object.hasOwn(phrase, 'other')) {
      say(line, heading, `“${key}” needs a text for the form “other” too`);
      plan.changes = plan.changes.filter((one) => one.key !== key || one.locale !== locale);
      continue;
    }
    if (phrase !== null && typeof phrase === 'object') {
      const lacks = formsOf(locale).needed.filter((form) => !Object.hasOwn(phrase, form));
      if (lacks.length)
        say(line, heading, `“${key}” still lacks ${lacks.map((one) => `“${one}”`).join(', ')}`, 'warning');
    }
    if (!isSame(phrase, edit.seen)) plan.edits.push(edit);
  }
  plan.problems.sort((a, b) => a.line - b.line);
  return plan;
}
