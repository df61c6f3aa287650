/** What directives and the language's own elements do, each in a sentence: for suggestions and hovers. */
export const directiveSays: Record<string, string> = {
  'do:when': 'the element is there only when this is not empty',
  'do:or-when': 'when the sibling before rendered nothing: there when this is not empty',
  'do:otherwise': 'there when nothing before it in its chain was rendered',
  'do:each': 'once for each item: x in list, or x, at in list',
  'do:let': 'names for this element and what is inside it: a = …; b = …',
  'do:wrap-when': 'its own tags are there only when this is not empty, its contents always',
  'do:attributes': 'a record’s entries as attributes',
  'do:json': 'the value as JSON, in a script of type application/json or application/ld+json',
  'do:once': 'printed only the first time in a page',
  'do:as-written': 'it and all inside it as written',
  'do:mark': 'a name by which amendments find it; never printed',
};

/** Directives that stand by themselves, without a value. */
export const bareDirectives = new Set(['do:otherwise', 'do:once', 'do:as-written']);

export const elementSays: Record<string, string> = {
  draw: 'renders another template with these inputs',
  gap: 'where what a draw holds is put',
  fill: 'contents for a named gap of the template that is drawn',
  shelf: 'a place that staff arrange without code',
  takes: 'declares an input of this template',
  placeable: 'offers this piece to those who arrange pages',
  ask: 'puts a question to the customer into the order form',
  group: 'takes directives and prints only its contents',
  amend: 'changes the file below instead of replacing it',
  before: 'puts its contents before a place',
  after: 'puts its contents after a place',
  prepend: 'puts its contents first inside a place',
  append: 'puts its contents last inside a place',
  replace: 'puts its contents in place of what is there',
  remove: 'removes a place',
  move: 'moves a place before, after or into another',
  adjust: 'gives a place attributes: a class is added, others stand in place of its own',
  kept: 'inside replace: what was there',
};

/** Types that `<takes>` can declare, besides those of the catalogue. */
export const inputTypes = [
  'text',
  'html',
  'number',
  'boolean',
  'choice',
  'colour',
  'link',
  'picture',
  'product',
  'category',
  'content',
  'list',
];
