/** What other languages write, and what is written here: so that a mistake of habit is named as what it is. */

export interface Elsewhere {
  says: string;
  /** What to write instead of what was found; null where it depends. */
  instead: string | null;
  /** How many signs were found. */
  length: number;
}

const operators: [pattern: RegExp, instead: string][] = [
  [/^(?:&&|&amp;&amp;)/, 'and'],
  [/^\|\|/, 'or'],
  [/^\?\?/, 'or'],
  [/^===/, '=='],
  [/^!==/, '!='],
  [/^<>/, '!='],
  [/^=(?!=)/, '=='],
  [/^\?\./, '.'],
];

/** An operator of another language at the start of a text; null where there is none. */
export function operatorElsewhere(text: string): Elsewhere | null {
  for (const [pattern, instead] of operators) {
    const found = pattern.exec(text)?.[0];
    if (found === undefined) continue;
    const why = instead === '.' ? 'a path through none is none' : found === '=' ? 'to compare' : 'here';
    return { says: `“${found}” is not of this language: write “${instead}” ${why}`, instead, length: found.length };
  }
  return null;
}

/** Directives of other languages by what follows `do:`, each with the one that is meant. */
const directives: Record<string, string> = {
  if: 'do:when',
  show: 'do:when',
  else: 'do:otherwise',
  elseif: 'do:or-when',
  'else-if': 'do:or-when',
  elif: 'do:or-when',
  for: 'do:each',
  foreach: 'do:each',
  'for-each': 'do:each',
  repeat: 'do:each',
  loop: 'do:each',
  with: 'do:let',
  set: 'do:let',
  var: 'do:let',
  attr: 'do:attributes',
  attrs: 'do:attributes',
  bind: 'do:attributes',
  raw: 'do:as-written',
  verbatim: 'do:as-written',
};

/** The directive that is meant by one of another language; null for any other name. */
export const directiveElsewhere = (name: string): string | null => directives[name.replace(/^do:/, '')] ?? null;

/** Names of other languages for none. */
export const noneElsewhere: ReadonlySet<string> = new Set(['null', 'nil', 'undefined', 'None', 'NULL']);
