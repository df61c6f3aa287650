import type { UnsavedText, Shop } from '@/server/shop';
import { Surveyor, surveyLookup, type Survey } from '@/core/inspect';
import { readPath, type Subject } from '@/core/address';
import { tracedPages } from '@/core/storefront';
import { countOfKind, isStoredKind, type StateRow } from '@/store';
import { prefixOf, today, tracedTimeoutMs } from '@/server/storefront';

/** What is to be surveyed: a template, over all subjects of the kind of a page. */
export interface SurveyAsk {
  /** Path of the page without its language: its kind is meant. */
  path: string;
  tried: string | null;
  /** Name of the template whose outcomes are looked for. */
  template: string;
  unsaved: readonly UnsavedText[];
}

export interface SurveyStep {
  survey: Survey;
  of: number;
  done: boolean;
}

/** Subjects between two looks at the clock, and milliseconds between two answers. */
const look = 25;
const reportIntervalMs = 250;

/** Looks at every subject of a kind through a template; yields what was found so far now and then, and at the end. */
export function* survey(shop: Shop, draft: StateRow, ask: SurveyAsk, now: () => number): Generator<SurveyStep> {
  const { theme, alternates } = shop.themeWith(draft, ask.unsaved);
  const kind: Subject['kind'] = readPath(ask.path)?.kind ?? 'product';
  const source = shop.catalogue();
  const surveyor = new Surveyor(ask.template);
  const of = isStoredKind(kind) ? countOfKind(shop.sql, kind) : 0;
  const request = {
    theme,
    alternates,
    source,
    path: ask.path,
    query: {},
    prefix: prefixOf(draft),
    today: today(),
    tried: ask.tried,
    time: { most: tracedTimeoutMs, now },
  };
  let last = now();
  for (const page of tracedPages(request, kind, surveyLookup(theme, ask.template))) {
    surveyor.add(page);
    if (surveyor.looked % look || now() - last < reportIntervalMs) continue;
    last = now();
    yield { survey: surveyor.survey(), of, done: false };
  }
  yield { survey: surveyor.survey(), of: surveyor.looked, done: true };
}
