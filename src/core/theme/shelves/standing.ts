import { type Condition, inSeason } from '@/core/alternates';
import type { SubjectKind } from '@/core/catalogue';
import type { PlacedInput, Placement } from '@/core/language';
import type { InputEntry, ShelfEntry } from './file';

/** The page that shelves are looked at on. */
export interface ShelvesPage {
  template: string;
  /** Path of its subject, without the first slash: `product/tarred-hemp-rope`; '' where it has none. */
  subject: string;
  kind: SubjectKind | null;
  today: string;
  /** The language of the page, and those that stand in for it, in their order. */
  locales: readonly string[];
  /** Whether a condition holds of the subject. */
  holds: (when: Condition) => boolean;
}

/** Why a placement is not on a page; `null`: it is, unless a required input is empty. */
export type NotHere = 'hidden' | 'elsewhere' | 'date' | 'condition';

/** Whether a placement stands on a page, and why not. */
export function notHere(one: ShelfEntry, page: ShelvesPage): NotHere | null {
  if (one.kind !== undefined && one.kind !== page.kind) return 'elsewhere';
  if (one.template !== undefined && one.template !== page.template) return 'elsewhere';
  if (one.subject !== undefined && one.subject !== page.subject) return 'elsewhere';
  if (one.hidden) return 'hidden';
  if (!inSeason({ from: one.from ?? null, to: one.to ?? null, yearly: one.yearly }, page.today)) return 'date';
  return one.when && !page.holds(one.when) ? 'condition' : null;
}

/** What stands on one shelf of a page, in order. */
export const placementsOn = (entries: readonly ShelfEntry[], shelf: string, page: ShelvesPage): Placement[] =>
  entries.filter((one) => one.shelf === shelf && !notHere(one, page)).map((one) => placementOf(one, page.locales));

/** A placement as a page draws it, in its language. */
export const placementOf = ({ id, piece, inputs }: ShelfEntry, locales: readonly string[]): Placement => ({
  ...{ id: id ?? null, piece },
  inputs: Object.fromEntries(Object.entries(inputs).map(([name, given]) => [name, placedOf(given, locales)])),
});

function placedOf(given: InputEntry, locales: readonly string[]): PlacedInput {
  if (typeof given !== 'object' || Array.isArray(given)) return { value: given };
  return 'texts' in given ? { value: textIn(given.texts, locales) } : given;
}

const baseOf = (locale: string): string => locale.split('-')[0] as string;

/**
 * The text for a language, as language tags are looked up (RFC 4647, 3.4): the language itself, then the same without its region, then the next
 * language; at last whichever was written first.
 */
export function textIn(texts: Readonly<Record<string, string>>, locales: readonly string[]): string {
  const written = Object.entries(texts).filter(([, text]) => text.trim() !== '');
  for (const locale of locales) {
    const own = written.find(([one]) => one === locale) ?? written.find(([one]) => baseOf(one) === baseOf(locale));
    if (own) return own[1];
  }
  return written[0]?.[1] ?? '';
}
