import { diffLines } from 'diff';

/** A page as one state makes it and as another does. */
export interface PagePair {
  before: string;
  after: string;
}

/** What differs only because it names the state or the version of a file: no visitor sees it. */
const plain = (html: string, prefix: string): string =>
  html
    .replaceAll(`${prefix}/`, '/')
    .replace(/\?v=[0-9a-z]+/g, '')
    // Lines that a piece without an outcome leaves empty, and indentation.
    .replace(/[ \t]+/g, ' ')
    .replace(/ ?\n\s*/g, '\n');

/** How many lines of a page come out different; 0: it is the same for a visitor, but for what its style sheets changed. */
export function differingLines({ before, after }: PagePair, prefixes: { before: string; after: string }): number {
  const [a, b] = [plain(before, prefixes.before), plain(after, prefixes.after)];
  if (a === b) return 0;
  const changes = diffLines(a, b);
  let lines = 0;
  for (let at = 0; at < changes.length; at++) {
    const one = changes[at];
    if (!one || (!one.added && !one.removed)) continue;
    const next = changes[at + 1];
    // A line that was changed is told as one removed and one added.
    const pair = next && (next.added || next.removed) ? (next.count ?? 0) : 0;
    lines += Math.max(one.count ?? 0, pair);
    if (pair) at++;
  }
  return Math.max(1, lines);
}
