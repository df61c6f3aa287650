import { renderPage, type Problem, Day, Html, Money, record, type Value } from '@/core/language';
import { Theme, type Layer } from './theme';

/** One worked case: a small theme, a page, its data, and what must come. The keys are explained in cases/README.md. */
export interface Case {
  name: string;
  files?: Record<string, string>;
  layers?: Record<string, string>[];
  page: string;
  data?: Record<string, unknown>;
  locale?: string;
  expect: { html?: string; error?: string };
}

export interface Outcome {
  html: string;
  /** Code of the first error, from checking the files or rendering the page; null when there is none. */
  error: string | null;
  problems: Problem[];
}

/** Renders and checks a case's theme. */
export function runCase(one: Case): Outcome {
  const stack = one.layers ?? [one.files ?? {}];
  const layers: Layer[] = stack.map((files, at) => ({
    kind: at === 0 ? 'base' : 'shop',
    name: `layer ${at + 1}`,
    version: '1',
    files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: text, text }])),
  }));
  const theme = new Theme(layers, one.locale ?? 'en-GB');
  const data = record(
    Object.fromEntries(Object.entries(one.data ?? {}).map(([name, value]) => [name, toValue(value)])),
  );
  const { shop, look, visit } = data as Record<string, Value>;
  const checked = theme.names().flatMap((name) => theme.check(name));
  const rendered = renderPage(theme, one.page, data, {
    locale: theme.locale,
    globals: { shop, look, visit },
    hosts: theme.hosts,
    schemes: theme.schemes,
    time: { most: 400, now: () => performance.now() },
    services: { phrase: (key) => theme.phrase(key), asset: (path) => `/assets/${path}` },
  });
  const problems = [...checked, ...rendered.problems];
  return { html: rendered.html, error: problems.find((one) => one.severity === 'error')?.code ?? null, problems };
}

/** What differs from what was expected; null when nothing does. */
export function judge(one: Case, outcome: Outcome): string | null {
  const { html, error } = one.expect;
  if ((error ?? null) !== outcome.error) {
    return `expected ${error ? `the error “${error}”` : 'no error'}, came ${outcome.error ? `“${outcome.error}”` : 'none'}`;
  }
  if (html !== undefined && html !== outcome.html) {
    return `expected ${JSON.stringify(html)}\n     came ${JSON.stringify(outcome.html)}`;
  }
  return null;
}

/** JSON as the language's values: `$html`, `$money` and `$date` objects become theirs, other objects records. */
export function toValue(json: unknown): Value {
  if (Array.isArray(json)) return json.map(toValue);
  if (typeof json !== 'object' || json === null) return json as Value;
  const given = json as Record<string, unknown>;
  if (typeof given.$html === 'string') return new Html(given.$html);
  if (typeof given.$date === 'string') return Day.read(given.$date);
  if (Array.isArray(given.$money)) return new Money(given.$money[0] as number, given.$money[1] as string);
  return record(Object.fromEntries(Object.entries(given).map(([name, value]) => [name, toValue(value)])));
}
