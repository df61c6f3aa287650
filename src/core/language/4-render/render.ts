import { Source } from '../1-parse/source';
import type { Compiled } from './compiled';
import type { FunctionContext } from '../filters/functions';
import type { SiteServices } from '../filters/services';
import { nearest } from '../nearest';
import { problem, type Problem } from '../problems';
import { escapeText } from '../values/escape';
import { formatFor } from '../values/formats';
import type { LocaleFormat } from '../values/locale';
import { isRecord, record, type RecordValue, type Value } from '../values/values';
import { maxDraws, maxNotices, maxPage, maxSteps, maxText, OverBudget, stepsPerLook } from './budget';
import { readInput } from './inputs';
import { missingInput, placedInputs } from './placed';
import type { GivenAnswer, Question } from './questions';
import { helpers, printed, type Fills, type Inputs, type Origin, type PlaceCode } from './runtime';
import { Trace } from './trace';

/** Where a render finds templates, by name. */
export interface TemplateLookup {
  compiled(name: string, traced?: boolean): Compiled | null;
  names(): string[];
}

export interface RenderOptions {
  locale: string;
  services: SiteServices;
  /** `shop`, `look` and `visit`: in reach of every template. */
  globals: { shop?: Value; look?: Value; visit?: Value };
  /** Hosts that scripts and frames may come from, besides this site. */
  hosts?: Iterable<string>;
  /** Schemes that links may have besides `http https mailto tel sms`. */
  schemes?: Iterable<string>;
  /** Most loop turns, draws and items that filters and comparisons go through. */
  steps?: number;
  /** Largest page, in UTF-16 units; a text or list on the way may be a quarter of it. */
  size?: number;
  /** Longest time in milliseconds, with the clock that tells it; none: steps alone bound it. */
  time?: { most: number; now: () => number };
  /** With marks in the page and a trace beside it. */
  traced?: boolean;
  /** Answers to the page's questions, by name. */
  answers?: Readonly<Record<string, GivenAnswer>>;
  /** What is rendered is a placement by itself, of this id: its shelves are asked for. */
  placed?: string;
}

/** One draw of a template on a page: which, and which file asked for it. */
export interface Drawn {
  name: string;
  by: string | null;
}

export interface Rendered {
  html: string;
  problems: Problem[];
  /** Every template that took part, in the order of first appearance, with the file that drew it. */
  drawn: Drawn[];
  /** Of a traced render: what its marks speak of. */
  trace: Trace | null;
  /** The questions that it asks, in its order. */
  questions: Question[];
  /** `shop`, `look` and `visit`, as its templates saw them. */
  globals: RenderOptions['globals'];
  /** Whether the clock ended a part of it: made again it may come out differently. */
  timedOut: boolean;
}

const none: ReadonlySet<string> = new Set();
const inSmallLetters = (names: Iterable<string> | undefined): ReadonlySet<string> =>
  names ? new Set(Array.from(names, (name) => name.toLowerCase())) : none;

/**
 * One page being rendered: its budget, what it may ask, and what went wrong.
 * Longer than most files: what compiled templates call shares one budget.
 */
export class Render implements FunctionContext {
  readonly format: LocaleFormat;
  readonly services: SiteServices;
  readonly globals: RenderOptions['globals'];
  readonly hosts: ReadonlySet<string>;
  readonly schemes: ReadonlySet<string>;
  readonly currency: string;
  timedOut = false;
  readonly problems: Problem[] = [];
  readonly trace: Trace | null;
  readonly questions: Question[] = [];
  readonly #answers: RenderOptions['answers'];
  /** Left until the clock is looked at; compiled loops count it down themselves. */
  steps: number;
  readonly size: number;
  readonly #maxText: number;
  #stepsLeft: number;
  /** Left of what may be printed in long texts: short ones are bounded by the steps. */
  #room: number;
  /** Left of what draws may give, each counted again in the draw around it. */
  #drawnRoom: number;
  #notices = 0;
  readonly #lookup: TemplateLookup;
  readonly #page: Inputs;
  readonly #budget: { steps: number; time: RenderOptions['time'] };
  #deadline: number;
  #reserves = 10;
  readonly #found = new Map<string, Compiled>();
  readonly #drawn: Drawn[] = [];
  readonly #path: string[] = [];
  #once: Set<string> | null = null;
  /** The placement that is drawn: shelves of its piece are its own. */
  #placed: string | null = null;
  #reported: Set<string> | null = null;
  #at: Origin | null = null;

  constructor(lookup: TemplateLookup, page: Inputs, options: RenderOptions) {
    this.#lookup = lookup;
    this.#page = page;
    this.format = formatFor(options.locale);
    this.services = options.services;
    this.globals = options.globals;
    this.#placed = options.placed ?? null;
    this.#answers = options.answers;
    this.hosts = inSmallLetters(options.hosts);
    this.schemes = inSmallLetters(options.schemes);
    const currency = isRecord(options.globals.shop) ? options.globals.shop.currency : null;
    this.currency = typeof currency === 'string' ? currency : 'GBP';
    this.trace = options.traced ? new Trace() : null;
    if (this.trace) this.trace.page = page;
    // Marks are not part of the page, and have room of their own.
    this.size = (options.size ?? maxPage) * (options.traced ? 2 : 1);
    this.#maxText = options.size ? options.size >> 2 : maxText;
    this.#room = this.size;
    this.#drawnRoom = 16 * this.size;
    const { steps = maxSteps, time } = options;
    this.#budget = { steps, time };
    this.#stepsLeft = steps;
    this.#deadline = time ? time.now() + time.most : 0;
    this.steps = 0;
    this.#refill();
  }

  get drawn(): Drawn[] {
    return this.#drawn;
  }

  print(value: Value): string {
    return printed(value, this);
  }

  blocked(address: string): void {
    this.#report('blocked', { value: address.slice(0, 80) });
  }

  refusedStyle(value: string): void {
    this.#report('style-value', { value: value.slice(0, 80) });
  }

  missingPhrase(key: string): void {
    this.#report('phrase', { name: key, locale: this.format.locale });
  }

  /** Puts a question to the customer; null when the page has one of that name already. */
  ask(question: Question): RecordValue | null {
    this.work(this.questions.length >> 4);
    if (this.questions.some((one) => one.name === question.name)) {
      this.#report('ask', { text: `Two questions are called “${question.name}”: the second is left out of the page` });
      return null;
    }
    this.questions.push(question);
    const { value = null, problem = null } = (this.#answers && Object.hasOwn(this.#answers, question.name)
      ? this.#answers[question.name]
      : null) ?? { value: null, problem: null };
    return record({ ...question, value, problem });
  }

  #refill(): void {
    const portion = this.#budget.time ? Math.min(stepsPerLook, this.#stepsLeft) : this.#stepsLeft;
    this.#stepsLeft -= portion;
    this.steps += portion;
  }

  /** Called by compiled loops when their portion of steps is spent, or the page grew too large. */
  spent(size: number): void {
    if (size > this.size) throw new OverBudget('it grew larger than a page may be');
    while (this.steps < 0) {
      if (this.#stepsLeft <= 0) throw new OverBudget('it took more steps than a page may take');
      const { time } = this.#budget;
      if (time && time.now() > this.#deadline) {
        this.timedOut = true;
        throw new OverBudget('it took longer than a page may take', true);
      }
      this.#refill();
    }
  }

  /** After a piece was ended the rest of the page gets a tenth of the budget, so that one piece does not end them all; ten times at most. */
  #goOn(): void {
    if (this.#reserves-- <= 0) {
      this.steps = 0;
      this.#stepsLeft = 0;
      return;
    }
    const { steps, time } = this.#budget;
    this.steps = Math.max(this.steps, 0);
    this.#stepsLeft = Math.max(this.#stepsLeft, 0) + Math.ceil(steps / 10);
    this.#room = Math.max(this.#room, Math.ceil(this.size / 10));
    this.#drawnRoom = Math.max(this.#drawnRoom, this.size);
    if (time) this.#deadline = Math.max(this.#deadline, time.now() + time.most / 10);
  }

  work(steps: number): void {
    this.steps -= steps;
    if (this.steps < 0) this.spent(0);
  }

  charge(size: number): void {
    if (size > this.#maxText) throw new OverBudget('it made a text or list larger than a page may make');
    this.work(1 + (size >> 4));
  }

  /** A long text is about to be printed. */
  long(size: number): void {
    this.#room -= size;
    if (this.#room < 0) throw new OverBudget('it grew larger than a page may be');
    this.work(size >> 8);
  }

  once(key: string): boolean {
    const once = (this.#once ??= new Set());
    if (once.has(key)) return false;
    once.add(key);
    return true;
  }

  /** Fixed text as a value of an input's type. */
  read(value: Value, type: string): Value {
    if (typeof value !== 'string') return value;
    return readInput(value, type, (kind, slug) => this.services[kind]?.(slug) ?? null);
  }

  #compiled(name: string, by: Origin | null): Compiled | null {
    let compiled = this.#found.get(name);
    if (compiled) return compiled;
    compiled = (name && this.#lookup.compiled(name, this.trace !== null)) || undefined;
    if (!compiled) return null;
    this.#found.set(name, compiled);
    this.#drawn.push({ name, by: this.#path.length ? (by?.[0].file ?? null) : null });
    return compiled;
  }

  draw(
    given: Value,
    inputs: Inputs,
    written: string[] | null,
    fills: Fills | null,
    place: PlaceCode,
    origin: Origin | null,
    frame = -1,
    site = -1,
  ): string {
    // The second question of a name has been left out.
    if ('$question' in inputs && inputs.$question === null) return '';
    if (this.#path.length) this.work(1);
    let name = typeof given === 'string' ? given : '';
    const instead = this.services.alternate?.(name, inputs);
    // An alternate may draw what it stands for.
    if (instead !== undefined && !this.#path.includes(instead)) name = instead;
    const before = this.#at;
    this.#at = origin;
    const compiled = this.#compiled(name, origin);
    let failed: Problem | null = null;
    if (!compiled) {
      const wanted = name || this.print(given) || '(empty)';
      failed = this.#report('missing', { name: wanted, near: nearest(name, this.#lookup.names()) });
    } else if (this.#path.length >= maxDraws) {
      failed = this.#report('depth', { name, limit: maxDraws });
    } else {
      this.#path.push(name);
      try {
        const html = this.#run(compiled, name, inputs, written, fills, place, frame, site);
        this.#drawnRoom -= html.length;
        if (html.length > this.size || (this.#drawnRoom < 0 && this.#path.length > 1)) this.spent(this.size + 1);
        this.#at = before;
        this.#path.pop();
        return html;
      } catch (error) {
        const why = error instanceof OverBudget || error instanceof Error ? error.message : String(error);
        failed = this.#report(error instanceof OverBudget ? 'budget' : 'fault', { name, why });
        if (error instanceof OverBudget) this.#goOn();
        this.#path.pop();
      }
    }
    this.#at = before;
    return failed ? this.#notice(failed, place, frame, site) : '';
  }

  #run(
    { run, template, traced }: Compiled,
    name: string,
    inputs: Inputs,
    written: string[] | null,
    fills: Fills | null,
    place: PlaceCode,
    frame: number,
    site: number,
  ): string {
    const { trace } = this;
    if (!trace) return run(this, inputs, written, fills, place);
    // Where only text can stand, marks would be seen: what stands there is made plain.
    const number = trace.template({
      name,
      template,
      sites: traced?.sites ?? [],
      bindings: traced?.bindings ?? new Map(),
    });
    const html = run(this, inputs, written, fills, place, trace.draw(frame, site, number), trace);
    return place === 1 ? helpers.unmark(html) : html;
  }

  /** In a preview, a notice where a piece is missing. */
  #notice({ message, file, line }: Problem, place: PlaceCode, frame: number, site: number): string {
    if (!this.trace || place === 1 || frame < 0 || ++this.#notices > maxNotices) return '';
    return `<span data-last-notice="${frame}.${site}">${escapeText(`${message} (${file}, line ${line})`)}</span>`;
  }

  /**
   * The pieces placed on a shelf, drawn: `most` at most; null when fewer than `least` show, and the shelf's own contents stand. `own`: the shelf is
   * of the placement that is drawn, and of no page.
   */
  shelf(
    name: string,
    own: boolean,
    least: number,
    most: number,
    place: PlaceCode,
    origin: Origin,
    frame = -1,
    site = -1,
  ): string | null {
    const within = this.#placed;
    if (own && within === null) return null;
    const shelf = own ? `${within}/${name}` : name;
    if (frame >= 0) this.trace?.shelf(frame, site, shelf);
    const shown: { id: string | null; piece: string; given: Inputs }[] = [];
    for (const { id, piece, inputs } of this.services.placements?.(shelf) ?? []) {
      if (shown.length >= most) break;
      const takes = this.#compiled(piece, origin)?.template.takes ?? [];
      const given = placedInputs(inputs, takes, this.services, (path) => this.#bound(path));
      if (!missingInput(takes, given)) shown.push({ id, piece, given });
    }
    if (shown.length < Math.max(1, least)) return null;
    const html = shown.map(({ id, piece, given }) => {
      this.#placed = id;
      if (id !== null && this.#found.has(piece)) this.trace?.placing(id);
      return this.draw(piece, given, null, null, place, origin, frame, site);
    });
    this.#placed = within;
    return html.join('');
  }

  /** A field of the page's subject: `product.fields.lead_time`. */
  #bound(path: string): Value {
    const [first = '', ...rest] = path.split('.');
    let value: Value = this.#page[`$${first}`];
    for (const name of rest) value = isRecord(value) ? (value[name] as Value) : null;
    return value ?? null;
  }

  #report(code: Problem['code'], about: Record<string, string | number>): Problem | null {
    const [source, from, to] = this.#at ?? [new Source(this.#file(), ''), 0, 0];
    const key = `${code} ${source.layer} ${source.file} ${from} ${JSON.stringify(about)}`;
    const reported = (this.#reported ??= new Set());
    const fault = problem(code, source, { from, to }, about);
    if (reported.has(key) || reported.size > 200) return fault;
    reported.add(key);
    this.problems.push(fault);
    return fault;
  }

  #file(): string {
    const name = this.#path[this.#path.length - 1];
    return name ? `${name}.html` : '';
  }
}

/** Renders a page template with its data. Never throws: what fails is left out and reported. */
export function renderPage(lookup: TemplateLookup, name: string, data: RecordValue, options: RenderOptions): Rendered {
  const inputs: Inputs = {};
  if (isRecord(data)) for (const field of Object.keys(data)) inputs[`$${field}`] = data[field] as Value;
  const render = new Render(lookup, inputs, options);
  const html = render.draw(name, inputs, null, null, 0, null);
  return {
    html,
    problems: render.problems,
    drawn: render.drawn,
    trace: render.trace,
    questions: render.questions,
    globals: options.globals,
    timedOut: render.timedOut,
  };
}
