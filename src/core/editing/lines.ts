import type { ElementNode } from '@/core/language';

/** The whole lines of an element that has them to itself; null for one within a line. `last`: the text ends without a line break. */
export function lineOf(
  text: string,
  from: number,
  to: number,
): { from: number; to: number; indent: string; last: boolean } | null {
  const start = text.lastIndexOf('\n', from - 1) + 1;
  const indent = text.slice(start, from);
  if (/\S/.test(indent)) return null;
  const end = text.indexOf('\n', to);
  if (/\S/.test(text.slice(to, end < 0 ? text.length : end))) return null;
  return { from: start, to: end < 0 ? text.length : end + 1, indent, last: end < 0 };
}

/** Lines with this indentation before each, in place of what is common to them. */
export function indented(text: string, indent: string): string {
  const lines = text.replace(/^\n+|\s+$/g, '').split('\n');
  const common = Math.min(
    ...lines.filter((one) => /\S/.test(one)).map((one) => one.length - one.trimStart().length),
    99,
  );
  return lines.map((one) => (/\S/.test(one) ? indent + one.slice(Math.min(common, one.length)) : '')).join('\n');
}

/** Where the caret goes in what was put in: between the tags of its first element, else after it. */
export function caretIn(given: string): number {
  const empty = />(?=<\/)/.exec(given);
  return empty ? empty.index + 1 : given.length - (given.endsWith('\n') ? 1 : 0);
}

// As an amendment of a file below.

/** Where an offset of a text is once a stretch before it was taken out. */
export function shiftedBy(before: string, after: string, offset: number): number {
  let same = 0;
  while (same < after.length && before[same] === after[same]) same++;
  return offset <= same ? offset : offset - (before.length - after.length);
}

/** An element's text, its further lines moved left by what they are indented with. */
export function outdented(text: string, { from, to }: ElementNode): string {
  const start = text.lastIndexOf('\n', from - 1) + 1;
  const indent = /^\s*/.exec(text.slice(start, from))?.[0] ?? '';
  return text
    .slice(from, to)
    .split('\n')
    .map((line, at) => (at && line.startsWith(indent) ? line.slice(indent.length) : line))
    .join('\n');
}
