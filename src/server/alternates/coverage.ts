import { LRUCache } from 'lru-cache';
import { type MadeTheme, type Shop, wordingOf } from '@/server/shop';
import type {
  CoverageItem,
  CoverLine,
  FallAnswer,
  MatchAnswer,
  TargetItem,
  WhoItem,
  WhoRequest,
} from '@/contract/alternates';
import {
  assignedTo,
  sameTarget,
  targetKey,
  templateOf,
  type Alternates,
  type Target,
  wrongRule,
  leavesOf,
  type Condition,
  cover,
  Coverage,
  switches,
  type CoverAsk,
  retired,
  problemsOf,
  Matcher,
  type FactTable,
} from '@/core/alternates';
import { subjectOf, World } from '@/core/catalogue';
import { catalogueState, changedProducts, factTable, groupsOf, namesAt, type Groups, type StateRow } from '@/store';
import { today } from '@/server/storefront';

/** How many days ahead switches are reported. */
const ahead = 30;
/** How often progress is reported, in milliseconds. */
const often = 60;
/** When more products than this changed one by one, all are read again. */
const maxPatched = 1000;
/** Subjects listed with a match. */
const listed = 100;

/** Tables that are cached: those of every kind, and of some searches that rules ask for. */
const maxTables = 12;

interface Table {
  table: FactTable;
  revision: number;
  groups: Map<string, Groups>;
}

/**
 * Who gets what, worked out from the whole catalogue and kept. A change of the assignments computes the target again; a
 * change of single products only those.
 */
export class Covers {
  readonly #tables = new LRUCache<string, Table>({ max: maxTables });
  /** What the subjects of a table are called. */
  readonly #named = new WeakMap<FactTable, { names: string[]; details: string[] }>();
  readonly #covers = new Map<string, Coverage>();

  constructor(readonly shop: Shop) {}

  /** Subjects of a target in columns, brought up to the catalogue's revision. */
  #table(target: Target, alternates: Alternates): Table {
    const { sql } = this.shop;
    const { revision, whole } = catalogueState(sql);
    const searches = target.kind === 'listing' ? searchesIn(alternates, target) : [];
    const withCategories = target.kind === 'listing' && target.piece !== undefined;
    const key = JSON.stringify([target.kind, withCategories, searches]);
    let cached = this.#tables.get(key);
    if (
      cached &&
      cached.revision !== revision &&
      !(cached.revision >= whole && this.#patch(cached, target, revision))
    ) {
      cached = undefined;
    }
    if (!cached) {
      cached = {
        table: factTable(sql, target.kind, { searches, withCategories }),
        revision,
        groups: new Map(),
      };
      this.#tables.set(key, cached);
    }
    return cached;
  }

  /** Reads the products that changed, one by one; false when all have to be read again. */
  #patch(kept: Table, target: Target, revision: number): boolean {
    if (target.kind !== 'product')
      return target.kind === 'content' || target.kind === 'article' || target.kind === 'home';
    const changed = changedProducts(this.shop.sql, kept.revision, maxPatched + 1);
    if (changed.length + kept.table.changed.size > maxPatched) return false;
    const world = new World(this.shop.catalogue(), (path) => path, '/');
    const places: number[] = [];
    for (const product of world.productsById(changed)) {
      const subject = subjectOf(product);
      const [place] = subject ? kept.table.placesOf(subject.slug) : [];
      if (!subject || place === undefined) return false;
      kept.table.put(place, subject.facts);
      places.push(place);
    }
    kept.revision = revision;
    kept.groups.clear();
    this.#named.delete(kept.table);
    for (const coverage of this.#covers.values()) if (coverage.ask.table === kept.table) coverage.update(places);
    return true;
  }

  askOf(made: MadeTheme, target: Target, on: string | null, alternates = made.alternates): CoverAsk {
    const source = this.shop.catalogue();
    return {
      alternates,
      target,
      table: this.#table(target, alternates).table,
      exists: (template) => made.theme.file(`${template}.html`) !== null,
      today: on ?? today(),
      definitions: (kind) => source.fieldDefinitions(kind),
    };
  }

  /** Who gets what of a target, from what is cached or computed now; yields how many of its rules are done. */
  *coverage(state: StateRow, target: Target, on: string | null): Generator<{ done: number; of: number }, Coverage> {
    const themeNow = this.shop.theme(state);
    const ask = this.askOf(themeNow, target, on);
    // The same assignments, whatever else was saved.
    const mentioned = [...ask.alternates.pins, ...ask.alternates.rules].map((one) => templateOf(one, one.alternate));
    const present = [...new Set(mentioned)].filter(ask.exists).join(' ');
    const { hash = '' } = themeNow.theme.file('alternates.json') ?? {};
    const key = `${hash} ${present} ${ask.today} ${target.kind} ${targetKey(target)}`;
    const cached = this.#covers.get(key);
    if (cached && cached.ask.table === ask.table) return cached;
    const coverage = new Coverage(ask);
    const of = assignedTo(ask.alternates, target).rules.length;
    for (const done of coverage.work()) yield { done, of };
    if (this.#covers.size > 12) this.#covers.delete(this.#covers.keys().next().value as string);
    this.#covers.set(key, coverage);
    return coverage;
  }

  /** Who gets what of a target. */
  now(state: StateRow, target: Target, on: string | null): Coverage {
    const steps = this.coverage(state, target, on);
    for (;;) {
      const { done, value } = steps.next();
      if (done) return value;
    }
  }

  #groups(target: Target, alternates: Alternates, by: 'category' | 'type'): Groups {
    const kept = this.#table(target, alternates);
    let groups = kept.groups.get(by);
    if (!groups) kept.groups.set(by, (groups = groupsOf(this.shop.sql, target.kind, kept.table.slugs, by)));
    return groups;
  }

  #names({ kind }: Target, table: FactTable) {
    let named = this.#named.get(table);
    if (!named) this.#named.set(table, (named = namesAt(this.shop.sql, kind, table.slugs)));
    return named;
  }

  /** The map of a target, reported as it becomes known, with what is wrong in all targets and what will switch. */
  *map(
    state: StateRow,
    ask: { target: TargetItem; on: string | null; by: 'category' | 'type' },
    now: () => number = () => 0,
  ): Generator<CoverLine> {
    const { target, on, by } = ask;
    const line: CoverLine = {
      progress: { done: 0, of: 1 },
      coverage: null,
      problems: null,
      switches: null,
      done: false,
    };
    const steps = this.coverage(state, target, on);
    let step = steps.next();
    for (let reportedAt = now(); !step.done; step = steps.next()) {
      if (now() - reportedAt < often) continue;
      reportedAt = now();
      yield { ...line, progress: step.value };
    }
    const coverage = step.value;
    line.progress = { done: 1, of: 1 };
    line.coverage = this.#mapOf(coverage, this.#groups(target, coverage.ask.alternates, by));
    yield { ...line };
    const { names } = this.#names(target, coverage.ask.table);
    line.coverage = null;
    line.switches = switches(coverage.ask, ahead).map(({ day, count, places, rules }) => ({
      day,
      count,
      rules,
      names: places.map((place) => names[place] as string),
    }));
    line.problems = this.problems(state, on);
    yield { ...line, done: true };
  }

  /** What is wrong with the assignments of a state, in all targets. */
  problems(state: StateRow, on: string | null): ReturnType<typeof problemsOf> {
    const themeNow = this.shop.theme(state);
    const coverages = targetsIn(themeNow.alternates).map((target) => this.now(state, target, on));
    const words = wordingOf(this.shop);
    return problemsOf(themeNow, coverages, {
      words,
      definitions: words.definitions,
      has: words.has,
      exists: (template) => themeNow.theme.file(`${template}.html`) !== null,
      nameOf: (target, slug) => {
        const coverage = coverages.find((one) => sameTarget(one.ask.target, target));
        const [place] = coverage?.ask.table.placesOf(slug) ?? [];
        return place === undefined || !coverage ? slug : (this.#names(target, coverage.ask.table).names[place] ?? slug);
      },
    });
  }

  #mapOf(coverage: Coverage, { groups, of }: Groups): CoverageItem {
    const totals = coverage.counts();
    const counts = groups.map(() => new Map<number, number>());
    for (let place = 0; place < coverage.ask.table.size; place++) {
      const own = counts[of[place] as number] as Map<number, number>;
      const way = coverage.of[place] as number;
      own.set(way, (own.get(way) ?? 0) + 1);
    }
    return {
      size: coverage.ask.table.size,
      ways: coverage.ways.map((way, at) => ({ ...way, count: totals[at] ?? 0 })),
      rules: coverage.rules.map(({ rule, holds, decides, wrong, idle }) => ({
        id: rule.id,
        holds,
        decides,
        wrong,
        idle,
      })),
      groups: groups.map((group, at) => ({ ...group, counts: [...(counts[at] as Map<number, number>)] })),
    };
  }

  /** Some of a target's subjects: those at a place of the map that fit the words. */
  who(state: StateRow, ask: WhoRequest): { total: number; rows: WhoItem[] } {
    const { target, on, by, group, template, because, rule, from, limit } = ask;
    const coverage = this.now(state, target, on);
    const { alternates } = coverage.ask;
    const { names, details } = this.#names(target, coverage.ask.table);
    const { slugs, size } = coverage.ask.table;
    const within = group === null ? null : this.#groups(target, alternates, by);
    const meant = within && below(within, group as string);
    const ways = coverage.ways.map(
      (way) =>
        (template === null || way.template === template) &&
        (because === null || way.because === because) &&
        (rule === null || way.rule === rule),
    );
    const words = ask.words.toLowerCase().split(/\s+/).filter(Boolean);
    const found: number[] = [];
    for (let place = 0; place < size; place++) {
      if (!ways[coverage.of[place] as number]) continue;
      if (meant && !meant.has(within?.of[place] as number)) continue;
      if (words.length) {
        const text = `${names[place] as string} ${slugs[place] as string} ${details[place] as string}`.toLowerCase();
        if (!words.every((word) => text.includes(word))) continue;
      }
      found.push(place);
    }
    return { total: found.length, rows: found.slice(from, from + limit).map((place) => this.#row(coverage, place)) };
  }

  #row(coverage: Coverage, place: number): WhoItem {
    const { target, table } = coverage.ask;
    const { names, details } = this.#names(target, table);
    const view = target.kind === 'listing' ? table.factsAt(place)({ fact: 'view' }) : null;
    const query = target.kind === 'listing' ? table.factsAt(place)({ fact: 'query' }) : null;
    const { template, because, rule } = coverage.wayOf(place);
    return {
      kind: target.kind,
      slug: table.slugs[place] as string,
      name: typeof query === 'string' && query ? `${names[place] as string} “${query}”` : (names[place] as string),
      detail: details[place] as string,
      view: typeof view === 'string' ? view : null,
      template,
      because,
      rule,
    };
  }

  /** Whom a condition holds for, while a rule is being made. */
  match(
    state: StateRow,
    ask: { target: TargetItem; on: string | null; when: Condition; id: string | null },
  ): MatchAnswer {
    const themeNow = this.shop.theme(state);
    const { target, when, on, id } = ask;
    // A search is a subject as soon as a rule asks for it.
    const rule = { id: id ?? '', ...target, alternate: 'default', when, from: null, to: null, note: '' };
    const alternates = { ...themeNow.alternates, rules: [...themeNow.alternates.rules, rule] };
    const asked = this.askOf(themeNow, target, on, target.kind === 'listing' ? alternates : themeNow.alternates);
    const wrong = wrongRule(rule, asked.definitions)?.says ?? null;
    if (wrong !== null) return { count: 0, of: asked.table.size, taken: 0, wrong, rows: [] };
    const coverage =
      target.kind === 'listing' ? cover({ ...asked, alternates: themeNow.alternates }) : this.now(state, target, on);
    const found = new Matcher(asked.table, asked.today).match(when).members();
    const { rules } = assignedTo(themeNow.alternates, target);
    const at = rules.findIndex((one) => one.id === id);
    const before = new Set((at < 0 ? rules : rules.slice(0, at)).map((one) => one.id));
    let taken = 0;
    for (const place of found) {
      const way = coverage.wayOf(place);
      if (way.because === 'pin' || (way.rule !== null && before.has(way.rule))) taken++;
    }
    const rows = [...found.subarray(0, listed)].map((place) => this.#row(coverage, place));
    return { count: found.length, of: asked.table.size, taken, wrong: null, rows };
  }

  /** Who falls back, and to what, when an alternate is retired. */
  fall(state: StateRow, { target, name }: { target: TargetItem; name: string }): FallAnswer {
    const themeNow = this.shop.theme(state);
    const now = this.now(state, target, null);
    const then = cover({ ...now.ask, alternates: retired(themeNow.alternates, target, name) });
    const template = templateOf(target, name);
    const to = new Map<string, number>();
    const rows: WhoItem[] = [];
    let count = 0;
    for (let place = 0; place < now.ask.table.size; place++) {
      if (now.wayOf(place).template !== template) continue;
      count++;
      const next = then.wayOf(place).template;
      to.set(next, (to.get(next) ?? 0) + 1);
      if (rows.length < listed) rows.push({ ...this.#row(now, place), template: next });
    }
    return { count, to: [...to].map(([next, n]) => ({ template: next, count: n })), rows };
  }
}

/** The targets that have alternates or assignments. */
export function targetsIn({ alternates, pins, rules }: Alternates): Target[] {
  const found: Target[] = [];
  for (const { kind, piece } of [...alternates, ...pins, ...rules])
    if (!found.some((one) => sameTarget(one, { kind, piece })))
      found.push(piece === undefined ? { kind } : { kind, piece });
  return found;
}

/** Texts that the rules of a target ask of searches. */
function searchesIn({ rules }: Alternates, target: Target): string[] {
  const asked = rules
    .filter((rule) => sameTarget(rule, target))
    .flatMap((rule) => [...leavesOf(rule.when)])
    .flatMap((leaf) => {
      if (leaf.fact !== 'query') return [];
      return leaf.test === 'is' ? leaf.value : leaf.test === 'begins' || leaf.test === 'contains' ? [leaf.value] : [];
    });
  return [...new Set(asked)].sort();
}

/** Numbers of a group and of all below it. */
function below({ groups }: Groups, key: string): Set<number> {
  const meant = new Set<string>([key]);
  for (let grown = -1; grown !== meant.size;) {
    grown = meant.size;
    for (const group of groups) if (group.parent !== null && meant.has(group.parent)) meant.add(group.key);
  }
  return new Set(groups.flatMap((group, at) => (meant.has(group.key) ? [at] : [])));
}
