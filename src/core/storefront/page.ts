import type { Subject } from '@/core/address';
import { type Choice, subjectInput } from '@/core/alternates';
import type { RuleSubject } from '@/core/catalogue';
import {
  type Drawn,
  type Problem,
  type Question,
  record,
  type Rendered,
  type Trace,
  type Value,
} from '@/core/language';
import { placementsOn } from '@/core/theme';
import { factsOf, findData, seenOf } from './find';
import { servedInputs } from './fragment';
import type { PageRequest } from './request';
import { Setting } from './setting';

export interface Page {
  status: 200 | 404;
  html: string;
  /** What the address asks for; null where no page is. */
  subject: (Subject & { name: string }) | null;
  choice: Choice;
  problems: Problem[];
  drawn: Drawn[];
  trace: Trace | null;
  /** Paths of the theme's files that the page links: style sheets, scripts, pictures. */
  assets: string[];
  /** The questions that the page asks, in its order. */
  questions: Question[];
  /** Texts that are shown in the shop's first language, for want of this one: each with what it is. */
  untranslated: string[];
  /** `shop`, `look` and `visit`, as its templates saw them. */
  globals: Rendered['globals'];
  /** Whether the clock ended a part of it: it is not kept. */
  timedOut: boolean;
}

/** Makes a page: from the address to its subject, from the subject to its template, from both to HTML. */
export function makePage(request: PageRequest): Page {
  const setting = new Setting(request);
  const { theme } = setting;
  const found = findData(setting);
  const subject = found && { ...found.subject, name: found.name };
  const choice: Choice = found
    ? setting.chooser.choose({ kind: found.subject.kind }, found.subject.slug, factsOf(found), request.tried)
    : { template: 'not-found/default', because: 'default', rule: null, broken: null };
  setting.canonical = found?.canonical ?? null;
  const page = setting.shelvesPage(choice.template, found);
  const rendered = setting.render(choice.template, found?.data ?? record({}), (shelf) =>
    placementsOn(theme.placedOn(shelf), shelf, page),
  );
  return {
    status: found ? 200 : 404,
    subject,
    choice,
    assets: [...setting.assets],
    untranslated: setting.untranslated(),
    ...rendered,
  };
}

/** The page for when nothing else can be made: it sees no subject. Null where the theme has none. */
export function makeErrorPage(request: PageRequest): Rendered | null {
  const setting = new Setting(request);
  const name = 'error/default';
  return setting.theme.template(name) ? setting.render(name, record({}), () => []) : null;
}

/** The subject of an address, as assignments see it; null where there is no such page. Nothing is rendered. */
export function subjectAt(
  request: PageRequest,
): { subject: Subject; name: string; seen: Pick<RuleSubject, 'slug' | 'facts'> & { kind: Subject['kind'] } } | null {
  const setting = new Setting(request);
  const found = findData(setting);
  if (!found) return null;
  const { subject, name } = found;
  return { subject, name, seen: seenOf(found) ?? { ...subject, facts: () => null } };
}

/** A piece by an address of its own (`/fragment/pieces/suggestions?q=…`); null for one that is not served. */
export function makeFragment(request: PageRequest): Rendered | null {
  const setting = new Setting(request);
  const name = decoded(request.path.replace(/^\/fragment\//, ''));
  const template = name === null ? null : setting.theme.template(name);
  const inputs = template && servedInputs(template, request.query, setting.world);
  return name !== null && inputs ? setting.render(name, inputs, () => []) : null;
}

/** A piece's template alone, given the subject of an address; null where it takes no such subject. No alternate takes its place. */
export function makePiece(request: PageRequest, name: string): Rendered | null {
  const setting = new Setting({ ...request, alternates: { alternates: [], pins: [], rules: [] } });
  const template = setting.theme.template(name);
  const input = template && subjectInput(template);
  const data = findData(setting)?.data as Record<string, Value> | undefined;
  const given = input && data?.[input.kind];
  return input && given ? setting.render(name, record({ [input.name]: given }), () => []) : null;
}

function decoded(path: string): string | null {
  try {
    return decodeURIComponent(path);
  } catch {
    return null;
  }
}
