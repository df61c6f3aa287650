import {
  compileTemplate,
  Html,
  isEmpty,
  Money,
  parseTemplate,
  plainText,
  type RecordValue,
  type TemplateLookup,
  type Trace,
  type Value,
  drawsOf,
  writeExpression,
  gapsOf,
  type Site,
} from '@/core/language';
import type { Theme } from '@/core/theme';
import { outcomeInWords, type OutcomeOf } from './awkward-words';

/** A subject that was chosen, and why. */
export interface Chosen {
  path: string;
  name: string;
  reasons: string[];
}

export interface Survey {
  chosen: Chosen[];
  /** Outcomes that no subject gives. */
  missing: OutcomeOf[];
  outcomes: number;
  looked: number;
  /** For each outcome a subject that gives it. */
  examples: { key: string; held: boolean; path: string; name: string }[];
}

/** Most subjects that are chosen. */
const maxChosen = 8;

/**
 * The theme's templates for a survey of one of them: those on the way to it are whole; of all others only the gaps are left,
 * so that what fills them is looked at, and nothing else is made.
 */
export function surveyLookup(theme: Theme, name: string): TemplateLookup {
  const leads = new Map<string, boolean>();
  const leadsThere = (from: string, path: readonly string[]): boolean => {
    if (from === name) return true;
    const known = leads.get(from);
    if (known !== undefined) return known;
    if (path.includes(from)) return false;
    const template = theme.template(from);
    const found = template !== null && drawsOf(template).some(({ to }) => leadsThere(to, [...path, from]));
    leads.set(from, found);
    return found;
  };
  const stubs = new Map<string, ReturnType<TemplateLookup['compiled']>>();
  return {
    names: () => theme.names(),
    compiled: (wanted, traced) => {
      if (leadsThere(wanted, [])) return theme.compiled(wanted, traced);
      let stub = stubs.get(wanted);
      if (stub === undefined) {
        const template = theme.template(wanted);
        const gaps = template
          ? [...gapsOf(template)].map((gap) => (gap ? `<gap name="${gap}"></gap>` : '<gap></gap>'))
          : [];
        stub = template && compileTemplate(parseTemplate(`${wanted}.html`, gaps.join('')), true);
        stubs.set(wanted, stub);
      }
      return stub;
    },
  };
}

interface Candidate {
  path: string;
  name: string;
  mask: bigint;
}

/** Something that a subject can have most or least of. */
interface Extreme {
  says: string;
  value: number;
  path: string;
  name: string;
}

/** Gathers outcomes of a template subject by subject, and chooses the few that together show them all. */
export class Surveyor {
  looked = 0;
  readonly #file: string;
  readonly #numbers = new Map<string, number>();
  readonly #outcomes: OutcomeOf[] = [];
  /** The first subject for each set of outcomes. */
  readonly #candidates = new Map<bigint, Candidate>();
  readonly #extremes = new Map<string, Extreme>();
  readonly #sites = new WeakMap<Site, string>();

  constructor(name: string) {
    this.#file = `${name}.html`;
  }

  /** Takes note of a subject's page. */
  add({ path, name, subject, trace }: { path: string; name: string; subject: RecordValue | null; trace: Trace }): void {
    this.looked++;
    let mask = 0n;
    for (let at = 0; at < trace.conditions.length; at += 4) {
      const [frame, site, held] = trace.conditions.slice(at, at + 3) as [number, number, number];
      mask |= this.#bit(trace.site(frame, site), held === 1, false);
    }
    for (let at = 0; at < trace.loops.length; at += 3) {
      const [frame, site, count] = trace.loops.slice(at, at + 3) as [number, number, number];
      mask |= this.#bit(trace.site(frame, site), count > 0, true);
    }
    if (!this.#candidates.has(mask)) this.#candidates.set(mask, { path, name, mask });
    if (subject) this.#measure(path, name, subject);
  }

  #bit(site: Site, held: boolean, loop: boolean): bigint {
    if (site.source.file !== this.#file) return 0n;
    let key = this.#sites.get(site);
    if (key === undefined)
      this.#sites.set(site, (key = `${site.source.layer} ${site.from} ${loop ? 'loop' : 'condition'}`));
    let number = this.#numbers.get(key);
    if (number === undefined) {
      number = this.#outcomes.length;
      this.#numbers.set(key, number);
      const { file } = site.source;
      const { line } = site.source.place(site.from);
      const text = site.expression ? writeExpression(site.expression) : 'otherwise';
      for (const one of [true, false]) this.#outcomes.push({ key, text, file, line, held: one, loop });
    }
    return 1n << BigInt(held ? number : number + 1);
  }

  #measure(path: string, name: string, subject: RecordValue): void {
    for (const [says, value] of measures(subject)) {
      const before = this.#extremes.get(says);
      if (value !== null && (!before || value > before.value)) this.#extremes.set(says, { says, value, path, name });
    }
  }

  /** The subjects chosen so far: a greedy cover of the outcomes, then the extremes, eight at most. */
  survey(): Survey {
    const all = [...this.#candidates.values()];
    const every = all.reduce((sum, { mask }) => sum | mask, 0n);
    const chosen: (Chosen & { mask: bigint })[] = [];
    let left = every;
    while (left && chosen.length < maxChosen) {
      let best: Candidate | null = null;
      let gain = 0;
      for (const one of all) {
        const now = bits(one.mask & left);
        if (now > gain) [best, gain] = [one, now];
      }
      if (!best) break;
      const fresh = best.mask & left;
      chosen.push({ path: best.path, name: best.name, mask: best.mask, reasons: this.#words(fresh) });
      left &= ~best.mask;
    }
    for (const { says, path, name } of this.#extremes.values()) {
      const known = chosen.find((one) => one.path === path);
      if (known) known.reasons.push(says);
      else if (chosen.length < maxChosen) chosen.push({ path, name, mask: 0n, reasons: [says] });
    }
    const missing = this.#outcomes.filter((_, at) => !(every & (1n << BigInt(at))));
    return {
      chosen: chosen.map(({ path, name, reasons }) => ({ path, name, reasons })),
      missing,
      outcomes: this.#outcomes.length,
      looked: this.looked,
      examples: this.#outcomes.flatMap(({ key, held }, at) => {
        const one = all.find(({ mask }) => mask & (1n << BigInt(at)));
        return one ? [{ key, held, path: one.path, name: one.name }] : [];
      }),
    };
  }

  #words(mask: bigint): string[] {
    return this.#outcomes.flatMap((one, at) => (mask & (1n << BigInt(at)) ? [outcomeInWords(one)] : []));
  }
}

function bits(mask: bigint): number {
  let count = 0;
  for (let rest = mask; rest; rest &= rest - 1n) count++;
  return count;
}

const lengthOf = (value: Value): number =>
  typeof value === 'string'
    ? value.length
    : value instanceof Html
      ? value.plain(plainText).length
      : Array.isArray(value)
        ? value.length
        : 0;

/** What a subject can have most or least of, with how much; null: it does not count. */
function* measures(subject: RecordValue): Iterable<[string, number | null]> {
  const has = (name: string) => name in subject;
  const of = (name: string) => subject[name] as Value;
  const name = has('name') ? 'name' : 'title';
  yield ['the longest name', lengthOf(of(name))];
  if (has('variants')) {
    yield ['the most variants', lengthOf(of('variants'))];
    yield ['no picture', isEmpty(of('image')) ? 1 : null];
    yield ['the most pictures', lengthOf(of('media'))];
    yield ['no description', isEmpty(of('description')) ? 1 : null];
    yield ['the longest description', lengthOf(of('description'))];
    yield ['sold out', of('sold_out') === true ? 1 : null];
    yield ['no tags', isEmpty(of('tags')) ? 1 : null];
    const price = of('price');
    yield ['the highest price', price instanceof Money ? price.amount : null];
    return;
  }
  if (has('children')) {
    yield ['the most categories below', lengthOf(of('children'))];
    yield ['no products', of('product_count') === 0 ? 1 : null];
    yield ['the deepest', lengthOf(of('path'))];
    yield ['no picture', isEmpty(of('image')) ? 1 : null];
    yield ['the longest description', lengthOf(of('description'))];
    return;
  }
  if (has('body')) {
    yield ['the longest text', lengthOf(of('body'))];
    yield ['no text', isEmpty(of('body')) ? 1 : null];
    return;
  }
  if (has('count')) {
    const count = of('count');
    yield ['the most products', typeof count === 'number' ? count : null];
    yield ['no products', count === 0 ? 1 : null];
  }
}
