import type { Source, Span } from './1-parse/source';

export type Severity = 'error' | 'warning' | 'note';

interface Kind {
  severity: Severity;
  /** What is wrong, in a sentence; `about` holds the names that the message needs. */
  message(about: About): string;
  explanation: string;
  mend: string;
}

export type About = Record<string, string | number>;

/** Every problem that Last reports about a template, by code. The one place where their words stand. */
export const problemKinds = {
  unclosed: {
    severity: 'error',
    message: (a) => (a.until ? `${a.what} is never closed: ${a.until}` : `${a.what} is never closed`),
    explanation:
      'Every element, tag, quoted value and template comment has an end. Void elements (img, br, …) have none.',
    mend: 'Write the end where the content ends.',
  },
  unopened: {
    severity: 'error',
    message: (a) => `${a.what} closes nothing: no such element is open here`,
    explanation: 'An end tag belongs to a start tag of the same name before it.',
    mend: 'Take the end tag out, or write the start tag it belongs to.',
  },
  nesting: {
    severity: 'error',
    message: (a) => `${a.end} comes while ${a.open}, opened on line ${a.line}, is still open`,
    explanation: 'Elements close in the reverse of the order in which they were opened.',
    mend: 'Close the inner element first.',
  },
  'self-closing': {
    severity: 'error',
    message: (a) => `<${a.name}/> does not close itself: a browser reads it as an open <${a.name}>`,
    explanation: 'Only void elements, SVG, MathML and the language’s own elements may end in “/>”.',
    mend: 'Write the end tag.',
  },
  tag: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A value stands in text or in an attribute’s value; tag and attribute names are written out.',
    mend: 'Move the value into an attribute’s value, or use do:attributes.',
  },
  expression: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'What stands between braces, or in a directive, could not be read as an expression.',
    mend: 'Finish the expression, or close the brace.',
  },
  directive: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'Attributes that start with “do:” direct their element; only those of the language exist.',
    mend: 'Correct the name.',
  },
  otherwise: {
    severity: 'error',
    message: (a) => `do:${a.name} needs an element with do:when, do:or-when or do:each right before it`,
    explanation: 'Only white space and comments may stand between an element and its do:or-when or do:otherwise.',
    mend: 'Move it behind the element with the condition.',
  },
  'script-attribute': {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A value can never become part of a script.',
    mend: 'Pass data by a data attribute or by do:json; do:literal prints a handler with braces as written.',
  },
  'literal-only': {
    severity: 'error',
    message: (a) => `“${a.name}” of <${a.element}> is written out, never a value`,
    explanation: 'These attributes decide what a browser runs, loads or allows.',
    mend: 'Write the value out; use conditions for variants.',
  },
  'style-property': {
    severity: 'error',
    message: () => 'A value may stand only after a property’s colon in a style attribute',
    explanation: 'Property names are written out, so that a value cannot change what a style does.',
    mend: 'Write the property name, then the value: style="color: {c}".',
  },
  'json-place': {
    severity: 'error',
    message: () => 'do:json belongs on <script type="application/json"> or <script type="application/ld+json">',
    explanation: 'Data for scripts stands in an element of its own that a browser does not run.',
    mend: 'Put the directive on such a script element, or use the filter json in a data attribute.',
  },
  filter: {
    severity: 'error',
    message: (a) => `There is no filter “${a.name}”${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'The filters are listed in the language reference.',
    mend: 'Correct the name.',
  },
  function: {
    severity: 'error',
    message: (a) => `There is no function “${a.name}”${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'The functions are listed in the language reference.',
    mend: 'Correct the name.',
  },
  missing: {
    severity: 'error',
    message: (a) => `There is no template “${a.name}” in this theme${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'A draw names a template by its path in the theme, without .html.',
    mend: 'Correct the name, or make the template.',
  },
  circle: {
    severity: 'error',
    message: (a) => `These templates draw one another without end: ${a.path}`,
    explanation: 'A template may draw itself only under a condition or in a loop.',
    mend: 'Put a condition around one of the draws.',
  },
  depth: {
    severity: 'error',
    message: (a) => `“${a.name}” is ${a.limit} draws deep; it was left out`,
    explanation: 'Pieces may be drawn 32 deep.',
    mend: 'Look for a piece that draws itself with the same inputs.',
  },
  budget: {
    severity: 'error',
    message: (a) => `“${a.name}” was ended: ${a.why}`,
    explanation: 'Steps, time and size of a page are bounded, so that no template can go on for ever.',
    mend: 'Loop over fewer items, or page the list.',
  },
  fault: {
    severity: 'error',
    message: (a) => `“${a.name}” failed and was left out: ${a.why}`,
    explanation: 'A fault in one piece leaves the page standing.',
    mend: 'Report it: this should not happen.',
  },
  gap: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A fill names a gap of the template that is drawn, once, as a direct child of the draw.',
    mend: 'Name a gap that is there.',
  },
  takes: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A <takes> declares an input: its name, its type, and what it is when nothing is given.',
    mend: 'Correct the declaration.',
  },
  element: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'The language’s own elements have their places and their attributes.',
    mend: 'Move or complete the element.',
  },
  phrase: {
    severity: 'warning',
    message: (a) => `There is no phrase “${a.name}” in ${a.locale}`,
    explanation: 'A missing phrase prints its key.',
    mend: 'Add it to the words file.',
  },
  asset: {
    severity: 'warning',
    message: (a) => `There is no file “${a.name}” in the theme’s assets`,
    explanation: 'asset() gives the address of a file below assets/.',
    mend: 'Correct the path, or add the file.',
  },
  comment: {
    severity: 'warning',
    message: () => 'A template comment begins inside another: the first “:-->” ends both',
    explanation: 'Template comments do not nest.',
    mend: 'Close the first comment before the second begins.',
  },
  'style-value': {
    severity: 'warning',
    message: (a) => `A value was left out of a style attribute: ${a.value}`,
    explanation: 'Only plain values pass: letters, digits, spaces and # % . , ( ) + - / _, and nothing that loads.',
    mend: 'Print a plain value, or use a class.',
  },
  blocked: {
    severity: 'warning',
    message: (a) => `An address was blocked: ${a.value}`,
    explanation:
      'Addresses are http, https, mailto, tel or sms; scripts and frames come from this site or a named host.',
    mend: 'Correct the value, or name the host in about.json.',
  },
} satisfies Record<string, Kind>;

export type ProblemCode = keyof typeof problemKinds;

/** One thing that is wrong, where, and in words that say what to do. Offsets in UTF-16 units; line and column from 1. */
export interface Problem {
  code: ProblemCode;
  severity: Severity;
  file: string;
  from: number;
  to: number;
  line: number;
  column: number;
  length: number;
  message: string;
}

export function problem(code: ProblemCode, source: Source, span: Span, about: About = {}): Problem {
  const kind: Kind = problemKinds[code];
  const { line, column } = source.place(span.from);
  return {
    code,
    severity: kind.severity,
    file: source.file,
    from: span.from,
    to: span.to,
    line,
    column,
    length: Math.max(0, span.to - span.from),
    message: kind.message(about),
  };
}

/** The known name that is nearest to a wrong one, or '' when none is near (edit distance over a third of its length). */
export function nearest(name: string, known: Iterable<string>): string {
  let best = '';
  let least = Math.max(1, Math.floor(name.length / 3)) + 1;
  for (const candidate of known) {
    if (Math.abs(candidate.length - name.length) >= least) continue;
    const distance = editDistance(name, candidate);
    if (distance < least) [best, least] = [candidate, distance];
  }
  return best;
}

/** Damerau's distance over adjacent swaps (optimal string alignment), two rows kept. */
function editDistance(a: string, b: string): number {
  let before: number[] = [];
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1;
      let d = Math.min((row[j] as number) + 1, (next[j - 1] as number) + 1, (row[j - 1] as number) + cost);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        d = Math.min(d, (before[j - 2] as number) + 1);
      next.push(d);
    }
    before = row;
    row = next;
  }
  return row[b.length] as number;
}
