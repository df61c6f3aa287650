import { createStore } from 'zustand/vanilla';
import type { PhraseItem, SavePhrasesRequest } from '@/contract/phrases';
import { isSame, textProblem } from '@/core/phrases';

export type Phrase = string | Record<string, string>;

/** A phrase in one language as it was typed, and as it showed when typing began. */
export interface Typed {
  key: string;
  locale: string;
  /** null: the shop's own goes, and what is below shows again. */
  phrase: Phrase | null;
  seen: Phrase | null;
}

/** Where typed phrases are kept, so that they outlive a reload. */
export interface Keeps {
  all(): Typed[];
  put(one: Typed): void;
  drop(one: Pick<Typed, 'key' | 'locale'>): void;
}

interface State {
  typed: ReadonlyMap<string, Typed>;
}

export const nameOf = ({ key, locale }: Pick<Typed, 'key' | 'locale'>): string => `${locale} ${key}`;

/** What is typed into phrases and not saved yet. */
export class PhraseStore {
  readonly state = createStore<State>(() => ({ typed: new Map() }));

  constructor(private readonly keeps: Keeps) {
    this.state.setState({ typed: new Map(keeps.all().map((one) => [nameOf(one), one])) });
  }

  typedOf(key: string, locale: string): Typed | null {
    return this.state.getState().typed.get(nameOf({ key, locale })) ?? null;
  }

  /** Types a text, or one of a phrase's plural forms; nothing left in it means what is below. */
  type(row: Pick<PhraseItem, 'key'>, locale: string, shown: Phrase | null, form: string, text: string): void {
    const before = this.typedOf(row.key, locale);
    const now = before ? before.phrase : shown;
    let phrase: Phrase | null = text === '' ? null : text;
    if (form) {
      const { [form]: _, ...others } = now !== null && typeof now === 'object' ? now : {};
      const forms = text === '' ? others : { ...others, [form]: text };
      phrase = Object.keys(forms).length ? forms : null;
    }
    this.put({ key: row.key, locale, phrase, seen: before ? before.seen : shown });
  }

  /** The phrase as a whole, as with forms for numbers in place of one text. */
  put(one: Typed): void {
    if (isSame(one.phrase, one.seen)) return this.drop(one);
    this.keeps.put(one);
    this.state.setState(({ typed }) => ({ typed: new Map(typed).set(nameOf(one), one) }));
  }

  drop(one: Pick<Typed, 'key' | 'locale'>): void {
    this.keeps.drop(one);
    this.state.setState(({ typed }) => {
      const left = new Map(typed);
      left.delete(nameOf(one));
      return { typed: left };
    });
  }

  /** What is saved now: typed further meanwhile, it is a change of what was saved. */
  saved(edits: readonly Typed[]): void {
    for (const edit of edits) {
      const now = this.typedOf(edit.key, edit.locale);
      if (now) this.put({ ...now, seen: edit.phrase });
    }
  }

  /** Mine stays, over what someone else made of it meanwhile. */
  keepMine(one: Typed, now: Phrase | null): void {
    this.put({ ...one, seen: now });
  }
}

/** What keeps typed phrases from being saved. */
export interface Standing {
  ready: Typed[];
  /** Someone else changed these meanwhile. */
  late: Typed[];
  /** These cannot be saved as they are. */
  wrong: Typed[];
}

export function standingOf(
  typed: Iterable<Typed>,
  rows: ReadonlyMap<string, PhraseItem>,
  locales: readonly string[],
): Standing {
  const standing: Standing = { ready: [], late: [], wrong: [] };
  for (const one of typed) {
    const row = rows.get(one.key);
    const shown = (row?.texts[locales.indexOf(one.locale)]?.phrase ?? null) as Phrase | null;
    if (!row || !locales.includes(one.locale)) continue;
    if (!isSame(shown, one.seen)) standing.late.push(one);
    else if (problemsIn(row, one.locale, one.phrase).some(({ severity }) => severity === 'error'))
      standing.wrong.push(one);
    else standing.ready.push(one);
  }
  return standing;
}

export interface FormProblem {
  form: string;
  text: string;
  severity: 'error' | 'warning';
}

/** What is wrong with a phrase in a language, by plural form ('' for a text without). */
export function problemsIn(
  row: Pick<PhraseItem, 'places' | 'first'>,
  locale: string,
  phrase: Phrase | null,
): FormProblem[] {
  if (phrase === null) return [];
  const about = { places: row.places, first: row.first as Phrase | null };
  const forms = typeof phrase === 'string' ? { '': phrase } : phrase;
  const found = Object.entries(forms).flatMap(([form, text]): FormProblem[] => {
    const wrong = textProblem(about, locale, form, text);
    return wrong ? [{ form, ...wrong }] : [];
  });
  if (typeof phrase === 'object' && !Object.hasOwn(phrase, 'other'))
    found.push({ form: 'other', text: 'The form “other” is needed: it stands in for all the rest', severity: 'error' });
  return found;
}

export const editsOf = (typed: readonly Typed[]): SavePhrasesRequest => ({ edits: typed.map((one) => ({ ...one })) });
