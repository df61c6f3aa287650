/** JavaScript's own search is quick for short patterns; for longer ones it can take the product of both lengths. */
const longPattern = 200;

/** Where a text holds another, from an offset on; -1 when it does not. Time grows with the sum of both lengths only. */
export function indexIn(text: string, pattern: string, from = 0): number {
  if (pattern.length <= longPattern) return text.indexOf(pattern, from);
  if (pattern.length > text.length - from) return -1;
  return search(text, pattern, borders(pattern), from);
}

/** The stretches of a text between each place where it holds a pattern, which is not empty. */
export function cutAt(text: string, pattern: string): string[] {
  if (pattern.length <= longPattern) return text.split(pattern);
  const lengths = borders(pattern);
  const parts: string[] = [];
  let at = 0;
  for (;;) {
    const found = search(text, pattern, lengths, at);
    parts.push(text.slice(at, found < 0 ? text.length : found));
    if (found < 0) return parts;
    at = found + pattern.length;
  }
}

/** Of each beginning of a pattern: the length of its longest border, a proper beginning that is its end too (Knuth, Morris, Pratt 1977). */
function borders(pattern: string): Int32Array {
  const lengths = new Int32Array(pattern.length);
  let held = 0;
  for (let at = 1; at < pattern.length; at++) {
    const code = pattern.charCodeAt(at);
    while (held > 0 && pattern.charCodeAt(held) !== code) held = lengths[held - 1] as number;
    if (pattern.charCodeAt(held) === code) held++;
    lengths[at] = held;
  }
  return lengths;
}

function search(text: string, pattern: string, lengths: Int32Array, from: number): number {
  let held = 0;
  for (let at = from; at < text.length; at++) {
    const code = text.charCodeAt(at);
    while (held > 0 && pattern.charCodeAt(held) !== code) held = lengths[held - 1] as number;
    if (pattern.charCodeAt(held) === code) held++;
    if (held === pattern.length) return at - held + 1;
  }
  return -1;
}
