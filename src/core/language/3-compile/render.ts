import type { Take, Template } from '../1-parse/nodes';
import { Source } from '../1-parse/source';
import type { SiteServices } from '../filters/functions';
import { nearest } from '../nearest';
import { problem, type Problem } from '../problems';
import { LocaleFormat } from '../values/locale';
import { Html, isRecord, type RecordValue, type Value } from '../values/values';
import { generate } from './generate';
import { helpers, printed, type Fills, type Inputs, type Origin, type TemplateFunction } from './runtime';

/** A template ready to run. Made once for each content; holds nothing of any render. */
export interface Compiled {
  template: Template;
  run: TemplateFunction;
}

/** Compiles a template to one JavaScript function. A template with errors compiles too: what could not be read prints nothing. */
export function compileTemplate(template: Template): Compiled {
  const make = new Function('h', generate(template)) as (h: typeof helpers) => TemplateFunction;
  return { template, run: make(helpers) };
}

/** Where a render finds templates, by name. */
export interface TemplateLookup {
  compiled(name: string): Compiled | null;
  names(): string[];
}

export interface RenderOptions {
  locale: string;
  services: SiteServices;
  /** `shop`, `look` and `visit`: in reach of every template. */
  globals: { shop?: Value; look?: Value; visit?: Value };
  /** Hosts that scripts and frames may come from, besides this site. */
  hosts?: Iterable<string>;
  /** Most loop turns, draws and items that filters go through. */
  steps?: number;
  /** Largest page, and largest text or list on the way, in UTF-16 units or items. */
  size?: number;
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
}

const mostDraws = 32;

class OverBudget extends Error {}

/** One page being made: its budget, what it may ask, and what went wrong. */
export class Render {
  readonly format: LocaleFormat;
  readonly services: SiteServices;
  readonly globals: RenderOptions['globals'];
  readonly hosts: ReadonlySet<string>;
  readonly problems: Problem[] = [];
  readonly drawn = new Map<string, Drawn>();
  readonly #lookup: TemplateLookup;
  readonly #once = new Set<string>();
  readonly #path: string[] = [];
  readonly #reported = new Set<string>();
  readonly #size: number;
  #steps: number;
  #at: Origin | null = null;

  constructor(lookup: TemplateLookup, options: RenderOptions) {
    this.#lookup = lookup;
    this.format = formatFor(options.locale);
    this.services = options.services;
    this.globals = options.globals;
    this.hosts = new Set(Array.from(options.hosts ?? [], (host) => host.toLowerCase()));
    this.#steps = options.steps ?? 1_000_000;
    this.#size = options.size ?? 8_000_000;
  }

  print = (value: Value): string => printed(value, this);

  blocked = (address: string): void => this.#report('blocked', { value: address.slice(0, 80) });

  refusedStyle = (value: string): void => this.#report('style-value', { value: value.slice(0, 80) });

  missingPhrase(key: string): void {
    this.#report('phrase', { name: key, locale: this.format.locale });
  }

  step(size: number): void {
    if (--this.#steps < 0) throw new OverBudget('it took more steps than a page may take');
    if (size > this.#size) throw new OverBudget('it grew larger than a page may be');
  }

  charge(size: number): void {
    this.#steps -= 1 + (size >> 4);
    if (this.#steps < 0) throw new OverBudget('it took more steps than a page may take');
    if (size > this.#size) throw new OverBudget('it made a text or list larger than a page may be');
  }

  once(key: string): boolean {
    if (this.#once.has(key)) return false;
    this.#once.add(key);
    return true;
  }

  draw(
    name: Value,
    inputs: Inputs,
    written: string[] | null,
    fills: Fills | null,
    place: 0 | 1,
    origin: Origin | null,
  ): string {
    const wanted = typeof name === 'string' ? name : '';
    const compiled = wanted ? this.#lookup.compiled(wanted) : null;
    const before = this.#at;
    this.#at = origin;
    if (!compiled) {
      this.#report('missing', {
        name: wanted || this.print(name) || '(empty)',
        near: nearest(wanted, this.#lookup.names()),
      });
      this.#at = before;
      return '';
    }
    if (this.#path.length >= mostDraws) {
      this.#report('depth', { name: wanted, limit: mostDraws });
      this.#at = before;
      return '';
    }
    if (!this.drawn.has(wanted))
      this.drawn.set(wanted, { name: wanted, by: this.#path.length ? (origin?.[0] ?? null) : null });
    this.#path.push(wanted);
    try {
      this.step(0);
      const given = compiled.template.takes.length ? this.#taken(compiled.template.takes, inputs, written) : inputs;
      return compiled.run(this, given, fills, place);
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      this.#report(error instanceof OverBudget ? 'budget' : 'fault', { name: wanted, why });
      return '';
    } finally {
      this.#path.pop();
      this.#at = before;
    }
  }

  /** Inputs as the template declares them: fixed text read as its type, none replaced by the default. */
  #taken(takes: Take[], inputs: Inputs, written: string[] | null): Inputs {
    const taken = { ...inputs };
    for (const take of takes) {
      const key = `$${take.name}`;
      let value = taken[key];
      if (written?.includes(take.name) && typeof value === 'string') value = this.#read(value, take);
      if ((value === null || value === undefined) && take.default !== null) value = this.#read(take.default, take);
      taken[key] = value;
    }
    return taken;
  }

  #read(text: string, take: Take): Value {
    switch (take.type) {
      case 'number':
        return /^\s*-?\d+(?:\.\d+)?\s*$/.test(text) ? Number(text) : null;
      case 'boolean':
        return text.trim() === 'true' ? true : text.trim() === 'false' ? false : text.trim() === '' ? true : null;
      case 'html':
        return new Html(text);
      case 'list':
        return text.split(',').map((item) => item.trim());
      case 'content':
        return this.services.content?.(text) ?? null;
      default:
        return text;
    }
  }

  #report(code: Problem['code'], about: Record<string, string | number>): void {
    const [file, from, to] = this.#at ?? [this.#file(), 0, 0];
    const key = `${code} ${file} ${from} ${JSON.stringify(about)}`;
    if (this.#reported.has(key) || this.#reported.size > 200) return;
    this.#reported.add(key);
    const name = file.replace(/\.html$/, '');
    const source = this.#lookup.compiled(name)?.template.source ?? new Source(file, '');
    this.problems.push(problem(code, source, { from, to }, about));
  }

  #file(): string {
    const name = this.#path[this.#path.length - 1];
    return name ? `${name}.html` : '';
  }
}

/** Renders a page template with its data. Never throws: what fails is left out and reported. */
export function renderPage(lookup: TemplateLookup, name: string, data: RecordValue, options: RenderOptions): Rendered {
  const render = new Render(lookup, options);
  const inputs: Inputs = {};
  if (isRecord(data)) for (const field of Object.keys(data)) inputs[`$${field}`] = data[field] as Value;
  const html = render.draw(name, inputs, null, null, 0, null);
  return { html, problems: render.problems, drawn: [...render.drawn.values()] };
}

const formats = new Map<string, LocaleFormat>();

/** The formatter of a locale, shared: its tables are costly to make and never change. */
export function formatFor(locale: string): LocaleFormat {
  let format = formats.get(locale);
  if (!format) formats.set(locale, (format = new LocaleFormat(locale)));
  return format;
}
