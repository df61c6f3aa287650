import { problem, rewrite, type Problem } from '../problems';
import { readExpression, type Expression } from './expression';
import { openEndTag, openEntity } from './loose';
import { renamedDirectives } from './names';
import type { Attribute } from './nodes';
import type { Source } from './source';

interface Tag {
  attributes: Attribute[];
  tailFrom: number;
  to: number;
  selfClosing: boolean;
  unfinished: boolean;
}

interface Manner {
  /** Inside do:as-written: nothing is interpolated. */
  literal: boolean;
  /** A tag of the language's own. */
  own: boolean;
  html: boolean;
}

/** Reads a start tag from after its name to after its `>`, as the HTML standard's tokenizer cuts it. */
export function readAttributes(source: Source, from: number, manner: Manner, problems: Problem[]): Tag {
  const { text } = source;
  const attributes: Attribute[] = [];
  let at = from;
  for (;;) {
    const leadFrom = at;
    while (at < text.length && (isSpace(text.charCodeAt(at)) || text.charCodeAt(at) === 47)) at++;
    const code = text.charCodeAt(at);
    if (at >= text.length)
      return { attributes, tailFrom: leadFrom, to: text.length, selfClosing: false, unfinished: true };
    if (code === 62 /* > */) {
      const selfClosing = at > leadFrom && text.charCodeAt(at - 1) === 47;
      const tag = { attributes, tailFrom: leadFrom, to: at + 1, selfClosing, unfinished: false };
      interpolate(source, attributes, manner, problems);
      return tag;
    }
    if (code === 60 /* < */) {
      // A new tag begins: this one was never ended. Stop here, so that what follows is read.
      interpolate(source, attributes, manner, problems);
      return { attributes, tailFrom: leadFrom, to: at, selfClosing: false, unfinished: true };
    }
    const nameFrom = at++;
    while (at < text.length && !endsAttributeName(text.charCodeAt(at))) at++;
    const written = text.slice(nameFrom, at);
    if (written.includes('{') && !manner.literal) {
      const message =
        'A value stands in an attribute’s value, not between attributes: use do:attributes for whole attributes';
      problems.push(problem('tag', source, { from: nameFrom, to: at }, { text: message }));
    }
    const name = manner.html || manner.own ? written.toLowerCase() : written;
    let valueAt = at;
    while (valueAt < text.length && isSpace(text.charCodeAt(valueAt))) valueAt++;
    if (text.charCodeAt(valueAt) !== 61 /* = */) {
      attributes.push({ name, from: nameFrom, to: at, leadFrom, value: null, quote: '', parts: null });
      continue;
    }
    valueAt++;
    while (valueAt < text.length && isSpace(text.charCodeAt(valueAt))) valueAt++;
    const quote = text[valueAt];
    if (quote === '"' || quote === "'") {
      const end = text.indexOf(quote, valueAt + 1);
      if (end < 0) {
        const until = `its second ${quote} is missing`;
        problems.push(
          problem('unclosed', source, { from: valueAt, to: valueAt + 1 }, { what: `The value of “${written}”`, until }),
        );
        const rest = text.slice(valueAt).search(/[>\n]/);
        at = rest < 0 ? text.length : valueAt + rest;
        continue;
      }
      attributes.push({
        name,
        from: nameFrom,
        to: end + 1,
        leadFrom,
        value: { from: valueAt + 1, to: end },
        quote,
        parts: null,
      });
      at = end + 1;
    } else {
      const end = unquotedEnd(text, valueAt, manner);
      attributes.push({
        name,
        from: nameFrom,
        to: end,
        leadFrom,
        value: { from: valueAt, to: end },
        quote: '',
        parts: null,
      });
      at = end;
    }
  }
}

/** Cuts the values at their braces, unless the element is to be printed as written. */
function interpolate(source: Source, attributes: Attribute[], manner: Manner, problems: Problem[]): void {
  const names = new Set<string>();
  for (const attribute of attributes) {
    // Directives are reported where they are read; inputs of a draw are told apart by their capitals.
    const name = manner.own ? source.slice(attribute.from, attribute.from + attribute.name.length) : attribute.name;
    if (names.has(name) && !attribute.name.startsWith('do:') && !manner.literal) {
      const reported = problem('attribute', source, attribute, { name: attribute.name });
      reported.fix = rewrite('Remove it', { from: attribute.leadFrom, to: attribute.to }, '');
      problems.push(reported);
    }
    names.add(name);
  }
  if (manner.literal || attributes.some(({ name }) => (renamedDirectives.get(name) ?? name) === 'do:as-written'))
    return;
  for (const [number, attribute] of attributes.entries()) {
    if (!attribute.value || attribute.name.startsWith('do:')) continue;
    const { from, to } = attribute.value;
    if (!source.slice(from, to).includes('{')) continue;
    if (/^on/i.test(attribute.name)) {
      const text = `A value cannot stand in “${attribute.name}”; do:as-written prints a handler with braces as written`;
      problems.push(problem('script-attribute', source, attribute, { text }));
      continue;
    }
    attributes[number] = { ...attribute, parts: cut(source, from, to, problems) };
  }
}

function cut(source: Source, from: number, to: number, problems: Problem[]): (string | Expression)[] {
  const { text } = source;
  const parts: (string | Expression)[] = [];
  let run = from;
  let at = text.indexOf('{', from);
  while (at >= 0 && at < to) {
    if (at > run) parts.push(begun(source, run, at, problems));
    const { expression, end } = readExpression(source, at + 1, to, problems);
    if (expression && end < to && text.charCodeAt(end) === 125) {
      parts.push(expression);
      run = end + 1;
    } else {
      if (expression) {
        const what = 'The brace “{” is not closed by “}” before the value ends';
        problems.push(problem('expression', source, { from: at, to: Math.min(to, end + 1) }, { text: what }));
      }
      parts.push({ kind: 'bad', from: at, to: end });
      const close = text.indexOf('}', end);
      run = close >= 0 && close < to ? close + 1 : to;
    }
    at = text.indexOf('{', run);
  }
  if (run < to) parts.push(text.slice(run, to));
  return parts;
}

/** The text before a value, which may begin nothing that the value could complete. */
function begun(source: Source, from: number, to: number, problems: Problem[]): string {
  const text = source.slice(from, to);
  for (const [offset, sign, entity, what] of [
    [openEntity(text), '&', '&amp;', 'an entity'],
    [openEndTag(text), '<', '&lt;', 'an end tag'],
  ] as const) {
    // A lone “<” ends nothing in an attribute.
    if (offset < 0 || text.slice(offset) === '<') continue;
    const at = from + offset;
    const message = `The value could complete ${what} that “${text.slice(offset)}” begins: write ${entity} for the sign`;
    const reported = problem('tag', source, { from: at, to: at + 1 }, { text: message });
    reported.fix = rewrite(`Write ${entity}`, { from: at, to: at + sign.length }, entity);
    problems.push(reported);
  }
  return text;
}

/** End of an unquoted value; braces in it may hold spaces and quotes. */
function unquotedEnd(text: string, from: number, manner: Manner): number {
  let at = from;
  let braced = false;
  while (at < text.length) {
    const code = text.charCodeAt(at);
    if (code === 123 && !manner.literal) {
      const close = braceEnd(text, at);
      braced = true;
      if (close < 0) return text.slice(at).search(/[>\n]/) < 0 ? text.length : at + text.slice(at).search(/[>\n]/);
      at = close + 1;
      continue;
    }
    if (isSpace(code) || code === 62) return at;
    if (code === 47 && text.charCodeAt(at + 1) === 62 && (braced || manner.own)) return at;
    at++;
  }
  return at;
}

/** The `}` of a `{`, quotes skipped; -1 when a line ends or `>` of an unclosed tag is all there is. */
function braceEnd(text: string, from: number): number {
  let quote = 0;
  for (let at = from + 1; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (quote) {
      if (code === 92) at++;
      else if (code === quote) quote = 0;
    } else if (code === 39 || code === 34) quote = code;
    else if (code === 125) return at;
    else if (code === 123 || code === 10) return -1;
  }
  return -1;
}

function isSpace(code: number): boolean {
  return code === 32 || code === 9 || code === 10 || code === 12 || code === 13;
}

function endsAttributeName(code: number): boolean {
  return isSpace(code) || code === 47 || code === 62 || code === 61;
}
