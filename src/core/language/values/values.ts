import { markupParts } from './markup';
import { workOn, type Meter } from './meter';

/**
 * The values of the language. Text, Number and Flag are JavaScript's own; none is null or undefined; a List is an array;
 * Html, Money and Day are the classes below; every other object in reach is a RecordValue.
 */
export type Value = string | number | boolean | null | undefined | Html | Money | Day | RecordValue | Value[];

/**
 * An object whose own fields templates may reach. Its chain of prototypes ends in null, so that nothing of JavaScript's
 * own (`constructor`, `toString`, `__proto__`) can be found on it by any name.
 */
export class RecordValue {
  [field: string]: unknown;
  /** What the catalogue knows it by (`product:12`): two records with the same key are the same object. */
  static readonly key: unique symbol = Symbol('key');
  /** Slugs that it had before: a template may still ask for it by one of them. */
  static readonly earlier: unique symbol = Symbol('earlier');
}
bareRecord(RecordValue);
Object.setPrototypeOf(RecordValue.prototype, null);

/** Takes from a class of records what is JavaScript's own: call it once for each class that extends RecordValue. */
export function bareRecord(kind: { prototype: object }): void {
  delete (kind.prototype as { constructor?: unknown }).constructor;
}

export function isRecord(value: unknown): value is RecordValue {
  return value instanceof RecordValue;
}

/** Stands for whatever is not a record: it has no field of any name. */
export const noRecord: RecordValue = Object.freeze(new RecordValue());

/** A value's fields: of a record and a Day; of anything else none. */
export function asRecord(value: unknown): RecordValue {
  if (value instanceof RecordValue) return value;
  return value instanceof Day ? value.parts : noRecord;
}

/** A record with these fields. */
export function record(fields: Record<string, unknown>): RecordValue {
  const result = new RecordValue();
  for (const name of Object.keys(fields)) result[name] = fields[name];
  return result;
}

/** The key by which the catalogue knows a record, or null for one that is not the catalogue's. */
export function keyOf(value: RecordValue): string | null {
  return ((value as unknown as Record<symbol, unknown>)[RecordValue.key] as string | undefined) ?? null;
}

/** Rich text, cleaned and balanced before it came here. */
export class Html {
  #plain: string | null = null;
  #empty: boolean | null = null;
  constructor(readonly markup: string) {}
  /** Its text: tags out, entities decoded, a block's end as a space, white space folded. */
  plain(read: (markup: string) => string): string {
    return (this.#plain ??= read(this.markup));
  }
  empty(judge: (markup: string) => boolean): boolean {
    return (this.#empty ??= judge(this.markup));
  }
}

/** An amount in whole minor units (pence) of an ISO 4217 currency. */
export class Money {
  constructor(
    readonly amount: number,
    readonly currency: string,
  ) {}
}

/** A calendar day, as the count of days since 1970-01-01. */
export class Day {
  constructor(readonly number: number) {}

  /** The day written as ISO 8601 (`2026-03-01`), or null for what is no such day. */
  static read(text: string): Day | null {
    const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text.trim());
    if (!match) return null;
    const date = new Date(`${match[0]}T00:00:00Z`);
    if (Number.isNaN(date.getTime()) || date.toISOString().slice(0, 10) !== match[0]) return null;
    return new Day(date.getTime() / 86_400_000);
  }

  get iso(): string {
    return new Date(this.number * 86_400_000).toISOString().slice(0, 10);
  }

  /** Its parts as templates reach them: `year`, `month` and `day` as numbers, `weekday` from 1, Monday (ISO 8601). */
  get parts(): RecordValue {
    const [year, month, day] = this.iso.split('-').map(Number);
    // 1970-01-01 was a Thursday.
    return record({ year, month, day, weekday: ((((this.number + 3) % 7) + 7) % 7) + 1 });
  }
}

/** Days that a date can hold (ECMA-262: ±100,000,000 days); the years 1 to 9999 are what ISO 8601 writes in four digits. */
export function dayOf(number: number): Day | null {
  return number >= -719_162 && number <= 2_932_896 ? new Day(Math.trunc(number)) : null;
}

/** A field of a record; none for anything else, and for a field that is not there. */
export function fieldOf(value: unknown, name: string): Value {
  return asRecord(value)[name] as Value;
}

/** An item of a list by its index from 0, or a field of a record by its name. */
export function itemOf(value: unknown, key: unknown): Value {
  if (Array.isArray(value)) {
    return typeof key === 'number' && Number.isInteger(key) && key >= 0 ? (value[key] as Value) : null;
  }
  return typeof key === 'string' ? fieldOf(value, key) : null;
}

/** None, false, text of white space, a list without items, rich text without anything to see. A number is never empty. */
export function isEmpty(value: unknown, meter: Meter | null = null): boolean {
  if (value === null || value === undefined || value === false) return true;
  if (typeof value === 'string') {
    const code = value.charCodeAt(0);
    if (code > 32 && code < 127) return false;
    workOn(value, meter);
    return !/\S/.test(value);
  }
  if (typeof value !== 'object') return false;
  if (Array.isArray(value)) return value.length === 0;
  return value instanceof Html && value.empty(isBlankMarkup);
}

const media = /^<(?:img|video|audio|iframe|svg|picture|object|embed|canvas|hr|input|math)\b/i;

function isBlankMarkup(markup: string): boolean {
  for (const { tag, text } of markupParts(markup)) {
    if (tag ? media.test(tag) : /\S/.test(text.replace(/&(?:nbsp|#160|#xa0|ensp|emsp|thinsp|zwnj|zwj|shy);/gi, '')))
      return false;
  }
  return true;
}

/** A list, or the empty list for anything else. */
export function asList(value: unknown): Value[] {
  return Array.isArray(value) ? (value as Value[]) : [];
}
