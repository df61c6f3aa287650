import type { Source, Span } from './1-parse/source';

export type Severity = 'error' | 'warning' | 'note';

interface Kind {
  severity: Severity;
  /** What is wrong, in a sentence; `about` holds the names that the message needs. */
  message(about: About): string;
  explanation: string;
  howToFix: string;
}

export type About = Record<string, string | number>;

/**
 * Every problem that Last reports about a template, by code. The one place where their words stand.
 * Longer than most files: one table of every message.
 */
export const problemKinds = {
  unclosed: {
    severity: 'error',
    message: (a) => (a.until ? `${a.what} is never closed: ${a.until}` : `${a.what} is never closed`),
    explanation:
      'Every element, tag, quoted value and template comment has an end. Void elements (img, br, …) have none.',
    howToFix: 'Write the end where the content ends.',
  },
  unopened: {
    severity: 'error',
    message: (a) => `${a.what} closes nothing: no such element is open here`,
    explanation: 'An end tag belongs to a start tag of the same name before it.',
    howToFix: 'Remove the end tag, or write the start tag it belongs to.',
  },
  nesting: {
    severity: 'error',
    message: (a) => `${a.end} closes ${a.open}, opened on line ${a.line}: its own end tag is missing`,
    explanation: 'Elements close in the reverse of the order in which they were opened.',
    howToFix: 'Close the inner element first.',
  },
  'self-closing': {
    severity: 'error',
    message: (a) => `<${a.name}/> does not close itself: a browser reads it as an open <${a.name}>`,
    explanation: 'Only void elements, SVG, MathML and the language’s own elements may end in “/>”.',
    howToFix: 'Write the end tag.',
  },
  tag: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A value stands in text or in an attribute’s value; tag and attribute names are written out.',
    howToFix: 'Move the value into an attribute’s value, or use do:attributes.',
  },
  expression: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'What stands between braces, or in a directive, could not be read as an expression.',
    howToFix: 'Finish the expression, or close the brace.',
  },
  directive: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'Attributes that start with “do:” direct their element; only those of the language exist.',
    howToFix: 'Correct the name.',
  },
  renamed: {
    severity: 'note',
    message: (a) => `“${a.name}” is called “${a.now}” now`,
    explanation: 'The old name is read as the new one.',
    howToFix: 'Write the new name.',
  },
  attribute: {
    severity: 'error',
    message: (a) => `The attribute “${a.name}” stands here twice: a browser takes the first only`,
    explanation: 'An element has each attribute once.',
    howToFix: 'Remove one of the two.',
  },
  otherwise: {
    severity: 'error',
    message: (a) => `do:${a.name} needs an element with do:when, do:or-when or do:each right before it`,
    explanation: 'Only white space and comments may stand between an element and its do:or-when or do:otherwise.',
    howToFix: 'Move it after the element with the condition.',
  },
  'script-attribute': {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A value can never become part of a script.',
    howToFix: 'Pass data by a data attribute or by do:json; do:as-written prints a handler with braces as written.',
  },
  'literal-only': {
    severity: 'error',
    message: (a) => `“${a.name}” of <${a.element}> is written out, never a value`,
    explanation: 'These attributes decide what a browser runs, loads or allows.',
    howToFix: 'Write the value out; use conditions for variants.',
  },
  'style-property': {
    severity: 'error',
    message: () => 'A value may stand only after a property’s colon in a style attribute',
    explanation: 'Property names are written out, so that a value cannot change what a style does.',
    howToFix: 'Write the property name, then the value: style="color: {c}".',
  },
  'json-place': {
    severity: 'error',
    message: () => 'do:json belongs on <script type="application/json"> or <script type="application/ld+json">',
    explanation: 'Data for scripts stands in an element of its own that a browser does not run.',
    howToFix: 'Put the directive on such a script element, or use the filter json in a data attribute.',
  },
  filter: {
    severity: 'error',
    message: (a) =>
      `There is no filter “${a.name}”${a.near ? `; did you mean “${a.near}”?` : a.hint ? `: ${a.hint}` : ''}`,
    explanation: 'The filters are listed in the language reference.',
    howToFix: 'Correct the name.',
  },
  function: {
    severity: 'error',
    message: (a) =>
      `There is no function “${a.name}”${a.near ? `; did you mean “${a.near}”?` : a.hint ? `: ${a.hint}` : ''}`,
    explanation: 'The functions are listed in the language reference.',
    howToFix: 'Correct the name.',
  },
  missing: {
    severity: 'error',
    message: (a) => `There is no template “${a.name}” in this theme${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'A draw names a template by its path in the theme, without .html.',
    howToFix: 'Correct the name, or make the template.',
  },
  circle: {
    severity: 'error',
    message: (a) => `These templates draw one another without end: ${a.path}`,
    explanation: 'A template may draw itself only under a condition or in a loop.',
    howToFix: 'Put a condition around one of the draws.',
  },
  depth: {
    severity: 'error',
    message: (a) => `“${a.name}” is ${a.limit} draws deep; it was left out`,
    explanation: 'Pieces may be drawn 32 deep.',
    howToFix: 'Look for a piece that draws itself with the same inputs.',
  },
  budget: {
    severity: 'error',
    message: (a) => `“${a.name}” was ended: ${a.why}`,
    explanation: 'Steps, time and size of a page are bounded, so that no template can go on for ever.',
    howToFix: 'Loop over fewer items, or page the list.',
  },
  fault: {
    severity: 'error',
    message: (a) => `“${a.name}” failed and was left out: ${a.why}`,
    explanation: 'A fault in one piece leaves the page standing.',
    howToFix: 'Report it: this should not happen.',
  },
  gap: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A fill names a gap of the template that is drawn, once, as a direct child of the draw.',
    howToFix: 'Name a gap that is there.',
  },
  takes: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A <takes> declares an input: its name, its type, and what it is when nothing is given.',
    howToFix: 'Correct the declaration.',
  },
  element: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'The language’s own elements have their places and their attributes.',
    howToFix: 'Move or complete the element.',
  },
  phrase: {
    severity: 'warning',
    message: (a) => `There is no phrase “${a.name}” in ${a.locale}${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'A missing phrase prints its key.',
    howToFix: 'Add it to the words file.',
  },
  asset: {
    severity: 'warning',
    message: (a) => `There is no file “${a.name}” in the theme’s assets${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'asset(), and an address in a style sheet, lead to a file below assets/.',
    howToFix: 'Correct the path, or add the file.',
  },
  comment: {
    severity: 'warning',
    message: () => 'A template comment begins inside another: the first “:-->” ends both',
    explanation: 'Template comments do not nest.',
    howToFix: 'Close the first comment before the second begins.',
  },
  'style-value': {
    severity: 'warning',
    message: (a) => `A value was left out of a style attribute: ${a.value}`,
    explanation: 'Only plain values pass: letters, digits, spaces and # % . , ( ) + - / _, and nothing that loads.',
    howToFix: 'Print a plain value, or use a class.',
  },
  blocked: {
    severity: 'warning',
    message: (a) => `An address was blocked: ${a.value}`,
    explanation:
      'Addresses are http, https, mailto, tel or sms; scripts and frames come from this site or a named host.',
    howToFix: 'Correct the value, or name the host in about.json.',
  },
  amend: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation:
      'A file whose only element is <amend> changes the file of that name below it by before, after, prepend, append, replace, remove and move.',
    howToFix: 'Name the operation and its place; write anything else into a file of its own.',
  },
  mark: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation:
      'An amendment names its place by a mark that the file below has, or by a path of its elements. The page is made without a change that has no place.',
    howToFix: 'Name a mark that is there; the Bench shows the marks of a page.',
  },
  'place-moved': {
    severity: 'warning',
    message: (a) =>
      a.was === a.at
        ? `An update changed what stands around “${a.at}”: something else may be meant now`
        : `An update moved what stood at “${a.was}”: it is likely “${a.at}” now, but something else may be meant`,
    explanation:
      'Places by path are found again after an update. Where more than one may be meant, the likeliest is written, and “was” keeps what it was before.',
    howToFix: 'Look at the page: take “was” away if the place is right, or name another.',
  },
  name: {
    severity: 'error',
    message: (a) =>
      `Nothing is called “${a.name}” here${a.near ? `; did you mean “${a.near}”?` : a.hint ? `: ${a.hint}` : ''}`,
    explanation:
      'A page sees its subject, shop, look and visit; a piece sees what it <takes>, and shop, look and visit; loops and do:let add names of their own.',
    howToFix: 'Correct the name, or declare it with <takes> and give it where the piece is drawn.',
  },
  field: {
    severity: 'error',
    message: (a) =>
      `${a.type} has no field “${a.name}”${a.near ? `; did you mean “${a.near}”?` : a.hint ? `: ${a.hint}` : ''}`,
    explanation: 'The fields of every object are listed in the reference of objects.',
    howToFix: 'Correct the name.',
  },
  argument: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'Filters and functions take the arguments that their line in the reference shows.',
    howToFix: 'Write the arguments as shown.',
  },
  kind: {
    severity: 'warning',
    message: (a) => String(a.text),
    explanation: 'An operator or filter that is given the wrong kind of value gives none; nothing fails.',
    howToFix: 'Give it the kind that it works on.',
  },
  list: {
    severity: 'warning',
    message: (a) => `do:each goes through a list; this is ${a.type}, and the element is never printed`,
    explanation: 'Only a list has items to go through.',
    howToFix: 'Name a list, or use do:when for a single value.',
  },
  'prints-nothing': {
    severity: 'warning',
    message: (a) => String(a.text),
    explanation: 'None, and objects as a whole, print nothing.',
    howToFix: 'Print one of its fields.',
  },
  never: {
    severity: 'warning',
    message: (a) => `This condition never holds: ${a.why}`,
    explanation: 'What the checker knows of the values rules it out on every page.',
    howToFix: 'Correct the condition, or remove what it guards.',
  },
  always: {
    severity: 'warning',
    message: (a) => `This condition always holds: ${a.why}`,
    explanation: 'What the checker knows of the values makes it hold on every page.',
    howToFix: 'Correct the condition, or remove it.',
  },
  'bare-number': {
    severity: 'warning',
    message: (a) =>
      `A number is never empty, not even 0: this condition always holds${a.text ? `. Compare it: ${a.text}` : ''}`,
    explanation: 'Conditions ask whether a value is empty, and a number never is.',
    howToFix: 'Compare the number: do:when="product.stock > 0".',
  },
  rearranged: {
    severity: 'warning',
    message: (a) => String(a.text),
    explanation:
      'HTML lets only certain elements stand in others; a browser repairs the rest by moving it, so that the page differs from the template.',
    howToFix: 'Use an element that may stand there.',
  },
  input: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A draw gives a template the inputs that it <takes>, each of the declared type.',
    howToFix: 'Correct the input’s name or its value.',
  },
  'phrase-value': {
    severity: 'warning',
    message: (a) => `The phrase “${a.key}” needs the value “${a.name}”`,
    explanation: 'Names in braces in a phrase are filled in from the arguments of t().',
    howToFix: "Give the value: t('key', name: value).",
  },
  icon: {
    severity: 'warning',
    message: (a) => `There is no icon “${a.name}” in the theme${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'Icons are the SVG files below assets/icons/.',
    howToFix: 'Correct the name, or add the file.',
  },
  'content-page': {
    severity: 'warning',
    message: (a) => `The shop has no content page “${a.name}”${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'content() gives a content page of the catalogue by its slug.',
    howToFix: 'Correct the slug, or write the page.',
  },
  menu: {
    severity: 'warning',
    message: (a) => `The shop has no menu “${a.name}”${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'menu() gives a menu of the catalogue by its slug.',
    howToFix: 'Correct the slug, or make the menu.',
  },
  link: {
    severity: 'warning',
    message: (a) => `“${a.path}” leads to no page of this shop`,
    explanation: 'An address of this site that is written out is looked up among its pages.',
    howToFix: 'Correct the address, or ask for it: product.url, content(…).url, listing_url().',
  },
  fragment: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'fragment() gives the address of a piece, and only of one that <takes> an input with “served”.',
    howToFix: 'Put “served” on the <takes> of what the address gives.',
  },
  ignored: {
    severity: 'warning',
    message: (a) => String(a.text),
    explanation: 'What is written here changes nothing: the language passes over it.',
    howToFix: 'Remove it, or move it to an element that follows it.',
  },
  json: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation:
      'A file of words, settings or placements that is not valid JSON cannot be read: the layers below serve without it.',
    howToFix: 'Correct the file at the line that is named.',
  },
  'json-key': {
    severity: 'warning',
    message: (a) => String(a.text),
    explanation: 'A key that has no meaning in a file of the theme is passed over: what it is to do does not happen.',
    howToFix: 'Correct the key, or remove it.',
  },
  'json-value': {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A value of another type than its key takes, or out of range, cannot be used.',
    howToFix: 'Write a value that the key takes.',
  },
  'unused-input': {
    severity: 'note',
    message: (a) => `The input “${a.name}” is never used`,
    explanation: 'An input that is declared and not used misleads whoever draws the template.',
    howToFix: 'Use it, or remove the declaration.',
  },
  'unused-name': {
    severity: 'note',
    message: (a) => `The name “${a.name}” is never used`,
    explanation: 'do:let gives a value a name; this one is not used.',
    howToFix: 'Use it, or remove it.',
  },
  alternates: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation:
      'alternates.json holds alternates, pins and rules; an entry with a mistake is left out, and the rest serves.',
    howToFix: 'Correct the entry where it stands, or remove it.',
  },
  'unused-piece': {
    severity: 'note',
    message: (a) => `No template draws “${a.name}”`,
    explanation: 'A piece that is neither drawn, placed on a shelf nor served is dead weight.',
    howToFix: 'Draw it, or delete it.',
  },
  'at-final': {
    severity: 'warning',
    message: (a) => `“${a.name}” counts the whole list, but do:when on the same element leaves some items out`,
    explanation: 'A position is that in the list as given, before do:when filters it.',
    howToFix: 'Filter the list itself: do:each="x in list | keep(…)".',
  },
  'empty-field': {
    severity: 'note',
    message: (a) => `${a.path} is empty on ${a.empty} of ${a.total} ${a.noun}, ${a.example} for one`,
    explanation: 'A field is printed without a condition, and some subjects of the catalogue have nothing in it.',
    howToFix: 'Put do:when on the element around it, or give another value: {a or b}.',
  },
  'outside-order-form': {
    severity: 'error',
    message: (a) => `The question “${a.name}” stands outside the product’s order form: its answer would never be sent`,
    explanation: 'The order form is the <form method="post"> of a product’s page; only what stands in it is sent.',
    howToFix: 'Move it into the form.',
  },
  ask: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation: 'A question has a name of its own, a kind, and for choices its options.',
    howToFix: 'Complete the question.',
  },
  shelf: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation:
      'shelves.json says which pieces stand on which shelf, with what inputs, for which template or subject, from when to when. A placement with the id of one in a layer below changes only what it names.',
    howToFix: 'Correct the entry; the rest of the file serves.',
  },
  alt: {
    severity: 'warning',
    message: () => 'This picture has no alt: a screen reader reads out its address instead',
    explanation: 'A picture’s alt says what it shows; one that only decorates has an empty alt.',
    howToFix: 'Say what it shows, alt="{picture.alt}", or write alt="".',
  },
  label: {
    severity: 'warning',
    message: (a) => String(a.text),
    explanation: 'A label names the field that stands in it, or the one whose id its “for” gives.',
    howToFix: 'Put the field into the label, or give its id.',
  },
  'duplicate-id': {
    severity: 'warning',
    message: (a) => String(a.text),
    explanation:
      'An id is there once on a page: links, labels and scripts go to the first that has it. Pieces that are drawn and shelves count.',
    howToFix: 'Make it from something that differs: id="about-{at.index}", id="about-{product.slug}".',
  },
  'written-text': {
    severity: 'note',
    message: (a) => `“${a.text}” is written out: customers of each language read it as it is`,
    explanation:
      'The shop speaks several languages. A phrase has a text in each of them; translate="no" says that a text is the same in all.',
    howToFix: 'Make it a phrase, or write translate="no" on its element.',
  },
  'link-prefix': {
    severity: 'warning',
    message: (a) => `“${a.path}” leads to the shop’s first language from the pages of every other`,
    explanation:
      'Each further language of a shop has its pages below a prefix of its own. Addresses that are printed have it.',
    howToFix: "Print the address: {content('delivery').url}, {category.url}, {listing_url(tag: 'new')}.",
  },
  named: {
    severity: 'warning',
    message: (a) => `The shop has no ${a.kind} “${a.name}”${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'listing_url() gives an address for any name; one that the shop does not have leads to an empty page.',
    howToFix: 'Correct the name.',
  },
  stays: {
    severity: 'note',
    message: (a) => `${a.what} is not shown any more, and the page’s data for search engines still says so`,
    explanation: 'Search engines show what a page says in structured data, and price comparisons read it.',
    howToFix: 'Take the element with “| structured” out too, where customers are not to know it.',
  },
  css: {
    severity: 'error',
    message: (a) => String(a.text),
    explanation:
      'A browser passes over what it cannot read of a style sheet, often all up to the next “}” or to its end.',
    howToFix: 'Finish what was begun.',
  },
  'css-property': {
    severity: 'warning',
    message: (a) => `${a.text}${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'A browser passes over a property, descriptor or rule that CSS does not have.',
    howToFix: 'Correct the name.',
  },
  'css-value': {
    severity: 'warning',
    message: (a) => `${a.text}${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation: 'A browser passes over a declaration whose value does not fit its property.',
    howToFix: 'Write a value that the property takes.',
  },
  'css-name': {
    severity: 'warning',
    message: (a) => `Nothing sets “${a.name}”${a.near ? `; did you mean “${a.near}”?` : ''}`,
    explanation:
      'A custom property is set in a style sheet, a style attribute or a script of the theme. One that nothing sets, and that has no value of its own after a comma, makes its declaration void.',
    howToFix: 'Correct the name, set it, or give a value for when it is not set: var(--gap, 8px).',
  },
  'css-font': {
    severity: 'warning',
    message: (a) =>
      `No font file and no @font-face of this theme is called “${a.name}”${a.near ? `; did you mean “${a.near}”?` : ', and few devices have it'}`,
    explanation: 'A font is a file below assets/fonts/, is made known by @font-face, or is on the customer’s device.',
    howToFix: 'Correct the name, or put the font’s file into assets/fonts/.',
  },
  reserved: {
    severity: 'warning',
    message: (a) => `“${a.name}” is a name of Last’s own: previews put it on every element`,
    explanation: 'Attributes that begin with data-last- tell the Bench where an element came from.',
    howToFix: 'Choose another name.',
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
  /** The layer that the file stands in; '' where there are no layers. */
  layer: string;
  /** The fix, where one is certainly right. */
  fix?: Fix;
}

/** A fix that needs no thought: it replaces stretches of the problem's file, last first. */
export interface Fix {
  title: string;
  edits: { from: number; to: number; text: string }[];
  /** Phrases that it brings: they are written into the shop's files of words, in each of its languages that lacks them. */
  phrases?: { key: string; text: string }[];
}

/** A text with a fix applied. */
export function applyFix(text: string, { edits }: Fix): string {
  // Last first, so that offsets stay true; of several at one place the first given comes to stand first.
  return edits
    .map((edit, at) => ({ ...edit, at }))
    .sort((a, b) => b.from - a.from || b.at - a.at)
    .reduce((all, edit) => all.slice(0, edit.from) + edit.text + all.slice(edit.to), text);
}

/** A fix that replaces one stretch. */
export function rewrite(title: string, { from, to }: Span, text: string): Fix {
  return { title, edits: [{ from, to, text }] };
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
    layer: source.layer,
  };
}
