import { Bits, type Definitions } from '@/core/catalogue';
import { assignedTo, templateOf, type Alternates, type Rule, type Target } from './alternates';
import { dayAfter, inSeason, turnsOf } from './season';
import { chooser, compile, wrongRule, type Choice } from './choose';
import { Matcher, type FactTable } from './table';

/** How a subject comes to its template: the same for all that come to it the same way. */
export type Way = Pick<Choice, 'template' | 'because' | 'rule'>;

/** What a rule came to over all subjects. */
export interface RuleCount {
  rule: Rule;
  /** Why it cannot be asked; null when it can. */
  wrong: string | null;
  /** On that day it is not in force. */
  idle: boolean;
  /** For how many its condition holds, whatever goes before it. */
  holds: number;
  /** To how many it gives their template. */
  decides: number;
}

export interface CoverAsk {
  alternates: Alternates;
  target: Target;
  table: FactTable;
  exists: (template: string) => boolean;
  today: string;
  definitions: Definitions;
}

/** Which template every subject of a target gets. */
export class Coverage {
  readonly ways: Way[] = [];
  /** Number of the way, by place. */
  readonly of: Uint16Array;
  rules: RuleCount[] = [];
  /** How many subjects were computed so far, in all that was asked of it. */
  computed = 0;
  readonly #numbers = new Map<string, number>();
  readonly #held = new Map<string, Bits>();

  constructor(readonly ask: CoverAsk) {
    this.of = new Uint16Array(ask.table.size);
  }

  /** Works everything out, a step a rule; yields how many rules are done. */
  *work(): Generator<number> {
    const { alternates, target, table, exists, today, definitions } = this.ask;
    const { pins, rules } = assignedTo(alternates, target);
    const left = Bits.full(table.size);
    this.of.fill(this.#way({ template: templateOf(target, 'default'), because: 'default', rule: null }));
    this.computed += table.size;
    // Of several pins of one subject the first counts, also where its file is missing.
    const firsts = new Map([...pins].reverse().map((pin) => [pin.slug, pin]));
    for (const pin of firsts.values()) {
      const template = templateOf(pin, pin.alternate);
      if (!exists(template)) continue;
      for (const place of table.placesOf(pin.slug)) {
        left.put(place, false);
        this.of[place] = this.#way({ template, because: 'pin', rule: null });
      }
    }
    const matcher = new Matcher(table, today);
    for (const [at, rule] of rules.entries()) {
      const wrong = wrongRule(rule, definitions)?.says ?? null;
      const idle = !inSeason(rule, today);
      const template = templateOf(rule, rule.alternate);
      const count: RuleCount = { rule, wrong, idle, holds: 0, decides: 0 };
      if (wrong === null) {
        const found = matcher.match(rule.when);
        this.#held.set(rule.id, found);
        count.holds = found.count();
        if (!idle && exists(template)) {
          const taken = left.members(found);
          const way = this.#way({ template, because: 'rule', rule: rule.id });
          for (const place of taken) this.of[place] = way;
          left.leave(found);
          count.decides = taken.length;
        }
      }
      this.rules.push(count);
      yield at + 1;
    }
  }

  /** Computes again what changed: these subjects alone. Their facts have been put into the table. */
  update(places: Iterable<number>): void {
    const { alternates, target, table, exists, today, definitions } = this.ask;
    const choose = chooser(alternates, exists, today, definitions);
    const counts = new Map(this.rules.map((one) => [one.rule.id, one]));
    const asked = this.rules.flatMap((count) => {
      const held = this.#held.get(count.rule.id);
      return held ? [{ count, test: compile(count.rule.when, today), held }] : [];
    });
    for (const place of places) {
      this.computed++;
      const facts = table.factsAt(place);
      const slug = table.slugs[place] as string;
      const before = this.ways[this.of[place] as number] as Way;
      const { template, because, rule } = choose.choose(target, slug, facts);
      this.of[place] = this.#way({ template, because, rule });
      for (const [id, step] of [
        [before.rule, -1],
        [rule, 1],
      ] as const) {
        const count = id === null ? undefined : counts.get(id);
        if (count) count.decides += step;
      }
      // All are compared before any is put: rules that ask the same share what they hold for.
      const turned = asked.filter(({ test, held }) => test(facts) !== held.has(place));
      const now = turned.map(({ held }) => !held.has(place));
      for (const [at, { count, held }] of turned.entries()) {
        count.holds += now[at] ? 1 : -1;
        held.put(place, now[at] as boolean);
      }
    }
  }

  /** The places of those that one rule holds for, whatever goes before it. */
  heldBy(rule: string): Bits | null {
    return this.#held.get(rule) ?? null;
  }

  wayOf(place: number): Way {
    return this.ways[this.of[place] as number] as Way;
  }

  /** How many come to their template by each way, in the order of the ways. */
  counts(): number[] {
    const counts = this.ways.map(() => 0);
    for (const way of this.of) (counts[way] as number)++;
    return counts;
  }

  #way(way: Way): number {
    const key = `${way.because} ${way.rule ?? ''} ${way.template}`;
    let number = this.#numbers.get(key);
    if (number === undefined) {
      this.#numbers.set(key, (number = this.ways.length));
      this.ways.push(way);
    }
    return number;
  }
}

/** Which template every subject gets, all at once. */
export function cover(ask: CoverAsk): Coverage {
  const coverage = new Coverage(ask);
  for (const step of coverage.work()) void step;
  return coverage;
}

/** Of a day on which someone gets another template than the day before. */
export interface Switch {
  day: string;
  /** Who gets another one, at most `named` of them, by place. */
  places: number[];
  count: number;
  rules: string[];
}

/** Days on which something may switch: a rule begins, or is over; every day when a rule asks for the last days. */
function daysOf(rules: readonly Rule[], today: string, days: number): string[] {
  const last = dayAfter(today, days);
  if (rules.some((rule) => JSON.stringify(rule.when).includes('"test":"last"')))
    return Array.from({ length: days }, (_, at) => dayAfter(today, at + 1));
  return [...new Set(rules.flatMap((rule) => turnsOf(rule, today, last)))].sort();
}

/** What will switch in the coming days, without anyone touching anything. */
export function switches(ask: CoverAsk, days: number, named = 12): Switch[] {
  const { rules } = assignedTo(ask.alternates, ask.target);
  const found: Switch[] = [];
  let before = cover(ask);
  for (const day of daysOf(rules, ask.today, days)) {
    const now = cover({ ...ask, today: day });
    const places: number[] = [];
    const by = new Set<string>();
    let count = 0;
    for (let place = 0; place < ask.table.size; place++) {
      const [was, is] = [before.wayOf(place), now.wayOf(place)];
      if (was.template === is.template) continue;
      count++;
      for (const rule of [was.rule, is.rule]) if (rule !== null) by.add(rule);
      if (places.length < named) places.push(place);
    }
    if (count) found.push({ day, places, count, rules: [...by] });
    before = now;
  }
  return found;
}
