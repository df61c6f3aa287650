import { filterTable } from '../filters/table';
import { functionTable } from '../filters/functions';
import { attributePlace } from '../2-check/places';
import { candidates, joinedAddress, wholeAddress, type Loads, type Piece, type Reporter } from '../values/address';
import { add, divide, multiply, negate, remainder, subtract } from '../values/arithmetic';
import { contains, equal, less, lessOrEqual, more, moreOrEqual } from '../values/compare';
import { escapeText } from '../values/escape';
import { toScriptJson } from '../values/json';
import { plainText } from '../values/plain';
import { harmlessStyle, joinedStyle } from '../values/style';
import {
  asList,
  asRecord,
  Day,
  Html,
  isEmpty,
  isRecord,
  itemOf,
  Money,
  record,
  RecordValue,
  type Value,
} from '../values/values';
import type { LocaleFormat } from '../values/locale';
import type { Meter } from '../values/meter';
import type { Source } from '../1-parse/source';
import type { Question } from './questions';
import { withoutMarks } from '../3-compile/sites';
import type { Trace } from './trace';

/** What printing asks of the render that it is part of. */
interface Host extends Meter, Reporter, Loads {
  readonly format: LocaleFormat;
  /** Charges for a long text before it is printed. */
  long(size: number): void;
  /** Adds a question to the page; null for the second of one name. */
  ask(question: Question): RecordValue | null;
}

/** Texts longer than this are charged for as they are printed. */
const long = 256;

/** What compiled templates call; the short names stand in generated code only. */
export const helpers = {
  R: RecordValue,
  /** A loop's position, for a probe. */
  position: record,
  rec: asRecord,
  e: isEmpty,
  g: itemOf,
  lst: asList,
  eq: equal,
  has: contains,
  add,
  sub: subtract,
  mul: multiply,
  div: divide,
  rem: remainder,
  neg: negate,
  lt: less,
  le: lessOrEqual,
  gt: more,
  ge: moreOrEqual,
  F: Object.fromEntries(filterTable),
  N: Object.fromEntries(functionTable),
  js(value: Value, rt: Host): string {
    const text = toScriptJson(value, rt);
    rt.long(text.length);
    return text;
  },
  /** A question as the piece that draws it sees it, from the attributes of its `<ask>`; null for the second of one name. */
  ask(given: Inputs, rt: Host): RecordValue | null {
    const text = (value: Value) => (value === null || value === undefined ? '' : printed(value, rt));
    const length = (value: Value) => (/^\d+$/.test(text(value)) ? Number(text(value)) : null);
    return rt.ask({
      name: text(given.$name),
      type: text(given.$type) || 'text',
      label: text(given.$label),
      help: text(given.$help) || null,
      options: text(given.$options)
        .split(',')
        .map((option) => option.trim())
        .filter(Boolean),
      required: !isEmpty(given.$required) || given.$required === '',
      least: length(given.$least),
      most: length(given.$most),
    });
  },
  unmark: withoutMarks,

  /** A value printed in text; `place` 1: where only text can stand. */
  t(value: Value, place: PlaceCode, rt: Host): string {
    if (typeof value === 'string') {
      if (value.length > long) rt.long(value.length);
      return escapeText(value);
    }
    if (value === null || value === undefined) return '';
    if (value instanceof Money) return escapeText(rt.format.money(value));
    if (value instanceof Html && place !== 1) {
      rt.long(value.markup.length);
      return value.markup;
    }
    const text = printed(value, rt);
    if (text.length > long) rt.long(text.length);
    return escapeText(text);
  },

  /** Parts of an input joined to one text, unescaped. */
  jn(parts: (string | [Value])[], rt: Host): string {
    let all = '';
    for (const part of parts) {
      const text = typeof part === 'string' ? part : printed(part[0], rt);
      if (all.length + text.length > long) rt.charge(all.length + text.length);
      all += text;
    }
    return all;
  },
  /** The fills of a draw, where several may fill one gap: the first of each that is there. */
  fl(given: [string, Fills[string]][]): Fills {
    const fills: Fills = {};
    for (const [gap, fill] of given) fills[gap] ??= fill;
    return fills;
  },

  pos: (list: Value[], at: number) =>
    record({
      number: at + 1,
      index: at,
      first: at === 0,
      final: at === list.length - 1,
      count: list.length,
      previous: list[at - 1] ?? null,
      next: list[at + 1] ?? null,
    }),

  /** A text or number in an attribute. */
  s(value: string | number, rt: Host): string {
    if (typeof value === 'number') return plainDigits(value);
    if (value.length > long) rt.long(value.length);
    return escapeText(value);
  },

  /** A text or number as an address. */
  ad(value: string | number, loads: boolean, rt: Host): string {
    if (typeof value === 'string' && value.length > long) rt.long(value.length);
    return wholeAddress(typeof value === 'string' ? value : plainDigits(value), loads ? rt : null, rt);
  },

  /** An attribute that is one value. `kind` 1: true and false as words; 2: never dropped. */
  a1(value: Value, start: string, bare: string, quote: string, kind: 0 | 1 | 2, rt: Host): string {
    if (typeof value === 'string') {
      if (value.length > long) rt.long(value.length);
      return start + escapeText(value) + quote;
    }
    if (typeof value === 'number') return start + printed(value, rt) + quote;
    if (typeof value === 'boolean' && kind !== 1) return value ? bare : kind === 2 ? start + quote : '';
    if (value === null || value === undefined || isRecord(value)) return kind === 2 ? start + quote : '';
    return start + escapeText(printed(value, rt)) + quote;
  },

  /** A value among other text in an attribute. */
  am(value: Value, kind: 0 | 1, rt: Host): string {
    if (value === null || value === undefined || (value === false && kind === 0)) return '';
    const text = typeof value === 'string' ? value : printed(value, rt);
    if (text.length > long) rt.long(text.length);
    return escapeText(text);
  },

  /** An attribute that is there or not, by whether its value is empty; 0 counts as empty here. `hidden` may say when it ends. */
  bo(value: Value, start: string, bare: string, quote: string): string {
    if (isEmpty(value) || value === 0) return '';
    return value === 'until-found' && /\bhidden$/i.test(bare) ? start + value + quote : bare;
  },

  cls(parts: (string | [Value])[], start: string, quote: string, rt: Host): string {
    let all = '';
    for (const part of parts) all += typeof part === 'string' ? part : escapeText(classNames(part[0], rt));
    if (all.length > long) rt.long(all.length);
    const folded = unfolded.test(all) ? all.replace(/\s+/g, ' ').trim() : all;
    return folded ? start + folded + quote : '';
  },

  /** A further class, or several, after those that are there. */
  cl(value: Value, rt: Host): string {
    const names = classNames(value, rt).replace(/\s+/g, ' ').trim();
    if (names.length > long) rt.long(names.length);
    return names ? ` ${escapeText(names)}` : '';
  },

  adr(value: Value, start: string, bare: string, quote: string, loads: boolean, rt: Host): string {
    if (typeof value !== 'string') {
      if (value === null || value === undefined || value === false || isRecord(value)) return '';
      if (value === true) return bare;
    }
    const text = typeof value === 'string' ? value : printed(value, rt);
    if (text.length > long) rt.long(text.length);
    return start + wholeAddress(text, loads ? rt : null, rt) + quote;
  },

  ads: (parts: (string | [Value])[], loads: boolean, rt: Host): string =>
    joinedAddress(pieces(parts, rt), loads ? rt : null, rt),

  sst(parts: (string | [Value])[], start: string, quote: string, rt: Host): string {
    const [first] = parts;
    if (
      parts.length === 1 &&
      Array.isArray(first) &&
      (first[0] === null || first[0] === undefined || first[0] === false)
    )
      return '';
    return start + candidates(pieces(parts, rt), rt) + quote;
  },

  css(parts: (string | [Value])[], simple: boolean, rt: Host): string {
    if (simple) {
      let all = '';
      for (const part of parts) {
        const text = typeof part === 'string' ? part : part[0] === false ? '' : printed(part[0], rt);
        if (text.length > long) rt.long(text.length);
        if (typeof part !== 'string' && !harmlessStyle.test(text)) return joinedStyle(pieces(parts, rt), rt);
        all += text;
      }
      return all;
    }
    return joinedStyle(pieces(parts, rt), rt);
  },

  /** A record's entries as attributes, each as if it were written there; those written out already win. */
  atr(value: Value, element: string, written: string[], rt: Host): string {
    if (!isRecord(value)) return '';
    let out = '';
    const refreshes = written.includes('http-equiv');
    for (const name of Object.keys(value)) {
      if (!/^[A-Za-z_][\w:.-]*$/.test(name) || written.includes(name.toLowerCase()) || /^do:/i.test(name)) continue;
      const given = value[name] as Value;
      const place = attributePlace(element, name, refreshes);
      const start = ` ${name}="`;
      if (place === 'script' || place === 'fixed') continue;
      if (place === 'class') out += helpers.cls([[given]], start, '"', rt);
      else if (place === 'address' || place === 'loading') {
        out += helpers.adr(given, start, ` ${name}`, '"', place === 'loading', rt);
      } else if (place === 'candidates') out += helpers.sst([[given]], start, '"', rt);
      else if (place === 'style') {
        if (!isEmpty(given)) {
          rt.refusedStyle(printed(given, rt));
          out += `${start}"`;
        }
      } else if (place === 'boolean') out += helpers.bo(given, start, ` ${name}`, '"');
      else out += helpers.a1(given, start, ` ${name}`, '"', place === 'words' ? 1 : place === 'alt' ? 2 : 0, rt);
    }
    return out;
  },
};

/** Where a template prints: 1 where only text can stand, 2 inside SVG or MathML, else 0. */
export type PlaceCode = 0 | 1 | 2;
/** Inputs of a template, each under `$name`. */
export type Inputs = Record<string, Value>;
/** What was put into gaps, each under `$gap`; `$` is the unnamed one. */
export type Fills = Record<string, ((place: PlaceCode) => string) | undefined>;
/** File and offsets of the tag that draws. */
export type Origin = [source: Source, from: number, to: number];

export type TemplateFunction = (
  rt: Host,
  inputs: Inputs,
  written: string[] | null,
  fills: Fills | null,
  place: PlaceCode,
  frame?: number,
  trace?: Trace,
) => string;

/** A value as the text that it prints, unescaped. Records and none print nothing. */
export function printed(value: Value, rt: Pick<Host, 'format' | 'work' | 'charge'>): string {
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return plainDigits(value);
  if (typeof value === 'boolean') return String(value);
  if (value === null || value === undefined) return '';
  if (value instanceof Money) return rt.format.money(value);
  if (value instanceof Day) return value.iso;
  if (value instanceof Html) return value.plain(plainText);
  if (!Array.isArray(value)) return '';
  let out = '';
  for (const item of value) {
    rt.work(1);
    const text = printed(item, rt);
    if (text.length + out.length > long) rt.charge(text.length + out.length);
    if (text) out += out ? `, ${text}` : text;
  }
  return out;
}

function plainDigits(value: number): string {
  const text = String(value);
  return text.includes('e') ? value.toLocaleString('en', { useGrouping: false, maximumFractionDigits: 20 }) : text;
}

/** White space that is to be folded. */
const unfolded = /^\s|\s$|\s\s|[\t\n\f\r\u00a0-\uffff]/;

function classNames(value: Value, rt: Host): string {
  if (typeof value === 'string') return value;
  if (!Array.isArray(value))
    return typeof value === 'boolean' || value === null || value === undefined ? '' : printed(value, rt);
  let all = '';
  for (const item of value) {
    rt.work(1);
    const names = classNames(item, rt);
    if (names.length + all.length > long) rt.charge(names.length + all.length);
    if (names) all += all ? ` ${names}` : names;
  }
  return all;
}

function pieces(parts: (string | [Value])[], rt: Host): Piece[] {
  return parts.map((part) => {
    if (typeof part === 'string') return { written: part };
    const [value] = part;
    const text = value === false || value === null || value === undefined ? '' : printed(value, rt);
    if (text.length > long) rt.long(text.length);
    return { value: text };
  });
}
