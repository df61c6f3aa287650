import { describe, expect, it } from 'vitest';
import { applyFix, record, type SiteFacts } from '../index';
import { pageOf, strict, themeOf } from '../testing/theme-of';

const page = 'product/default';
const problemsOf = (text: string, site: SiteFacts | null = null) =>
  strict({ [`${page}.html`]: text, 'pieces/a.html': '<takes name="text" type="text">{text}' }, site).check(page);

describe('what other languages write is named as such, with what to write here', () => {
  const table: [written: string, message: string, fixed: string | null][] = [
    [
      '<p do:when="product.tags && product.brand">a</p>',
      '“&&” is not of this language: write “and” here',
      '<p do:when="product.tags and product.brand">a</p>',
    ],
    [
      '{product.summary || product.name}',
      '“||” is not of this language: write “or” here',
      '{product.summary or product.name}',
    ],
    [
      '{product.summary ?? product.name}',
      '“??” is not of this language: write “or” here',
      '{product.summary or product.name}',
    ],
    [
      '<p do:when="!product.tags">a</p>',
      '“!” is not of this language: write “not”',
      '<p do:when="not product.tags">a</p>',
    ],
    [
      '<p do:when="product.type === \'rope\'">a</p>',
      '“===” is not of this language: write “==” here',
      '<p do:when="product.type == \'rope\'">a</p>',
    ],
    [
      '<p do:when="product.type !== \'rope\'">a</p>',
      '“!==” is not of this language: write “!=” here',
      '<p do:when="product.type != \'rope\'">a</p>',
    ],
    [
      '<p do:when="product.type <> \'rope\'">a</p>',
      '“<>” is not of this language: write “!=” here',
      '<p do:when="product.type != \'rope\'">a</p>',
    ],
    [
      '<p do:when="product.type = \'rope\'">a</p>',
      '“=” is not of this language: write “==” to compare',
      '<p do:when="product.type == \'rope\'">a</p>',
    ],
    [
      '{product.brand?.name}',
      '“?.” is not of this language: write “.” a path through none is none',
      '{product.brand.name}',
    ],
    [
      '<p do:when="product.price == null">a</p>',
      'Nothing is called “null” here: what is not there is “none”',
      '<p do:when="product.price == none">a</p>',
    ],
    ['{{ product.name }}', 'A value stands in one pair of braces', '{product.name}'],
    [
      '{% if product.tags %}',
      '“{%” and “{#” are not of this language: conditions and loops are do:when and do:each, comments <!--: … :-->',
      null,
    ],
    [
      '<p do:when="{product.tags}">a</p>',
      'A directive takes its expression without braces',
      '<p do:when="product.tags">a</p>',
    ],
    [
      '<p do:if="product.tags">a</p>',
      '“do:if” is not of this language: write “do:when”',
      '<p do:when="product.tags">a</p>',
    ],
    [
      '<p do:when="product.tags">a</p><p do:else>b</p>',
      '“do:else” is not of this language: write “do:otherwise”',
      '<p do:when="product.tags">a</p><p do:otherwise>b</p>',
    ],
    [
      '<p do:for="tag in product.tags">{tag.name}</p>',
      '“do:for” is not of this language: write “do:each”',
      '<p do:each="tag in product.tags">{tag.name}</p>',
    ],
    [
      '{upper(product.name)}',
      'There is no function “upper”: it is a filter: product.name | upper',
      '{(product.name | upper)}',
    ],
    [
      '{shorten(product.name, 20)}',
      'There is no function “shorten”: it is a filter: product.name | shorten(20)',
      '{(product.name | shorten(20))}',
    ],
    ['{product.name.upper()}', 'A field is not called: a filter would be written {product.name | upper}', null],
    ["{'hello' | t}", 'There is no filter “t”: it is a function, t(key, name: value…)', null],
    [
      "{t('hello', name = product.name)}",
      'An argument’s name stands before a colon: name: …',
      "{t('hello', name : product.name)}",
    ],
    ['<p do:literal>{a}</p>', '“do:literal” is called “do:as-written” now', '<p do:as-written>{a}</p>'],
  ];
  for (const [written, message, fixed] of table)
    it(written, () => {
      const [first] = problemsOf(written);
      expect(first?.message).toBe(message);
      expect(first?.fix ? applyFix(written, first.fix) : null).toBe(fixed);
    });
  it('a fix leaves nothing of the mistake', () => {
    for (const [, , fixed] of table)
      if (fixed !== null && !fixed.includes("t('hello'"))
        expect([fixed, problemsOf(fixed).filter(({ severity }) => severity === 'error')]).toEqual([fixed, []]);
  });
});

describe('facts and fixes that were wrong', () => {
  const site = (empty: (path: string) => number): SiteFacts => ({
    locales: [],
    contents: new Set(),
    menus: new Set(['main']),
    named: () => null,
    leads: () => true,
    emptiness: (_, path) => ({ empty: empty(path.join('.')), total: 61, example: 'Deck oil' }),
  });
  const told = (text: string, empty: (path: string) => number = () => 61) =>
    problemsOf(text, site(empty)).map(({ code, message }) => `${code}: ${message}`);
  it('a field of one item of a list is not counted as the list’s', () =>
    expect(told('{(product.variants | first).price}')).toEqual([]));
  it('a field that is printed is', () =>
    expect(told('{product.was_price}')).toEqual([
      'empty-field: product.was_price is empty on 61 of 61 products, Deck oil for one',
    ]));
  it('a field that another implies is guarded by it', () =>
    expect(told('<s do:when="product.on_sale">{product.was_price}</s>')).toEqual([]));
  it('a name of two letters is not taken for another', () => {
    const [first] = problemsOf('<p do:each="t in product.tags">{at.number} {t.name}</p>');
    expect([first?.message, first?.fix]).toEqual([
      'Nothing is called “at” here: a position is named where the loop is: do:each="x, at in list"',
      undefined,
    ]);
  });
  it('a field is advised that the items have', () =>
    expect(told("{menu('main')}")).toEqual([
      "prints-nothing: menu('main') is a list of MenuItem, and prints nothing: go through it with do:each, or print a field of each, {menu('main') | pluck(it.label)}",
    ]));
  it('a mistake in a file that several amend is told once', () => {
    const theme = strict([
      {
        'product/default.html': '<p do:mark="a">{product.nam}</p>',
        'product/x.html': '<amend of="product/default"><after mark="a">x</after></amend>',
      },
      { 'product/y.html': '<amend of="product/default"><after mark="a">y</after></amend>' },
    ]);
    expect(
      theme
        .checkAll()
        .filter(({ severity }) => severity === 'error')
        .map(({ file, code }) => `${file} ${code}`),
    ).toEqual(['product/default.html field']);
  });
  it('a placement on a shelf that an upper layer took out of its file is not a mistake', () => {
    const shelves = '{"placements": [{"shelf": "s", "piece": "pieces/a"}]}';
    const base = { 'product/default.html': '<shelf name="s"></shelf>', 'pieces/a.html': 'a', 'shelves.json': shelves };
    expect(strict([base, { 'product/default.html': '<p>mine</p>' }]).checkAll()).toEqual([]);
    const never = strict([{ ...base, 'product/default.html': '<p>mine</p>' }]);
    expect(never.checkAll().map(({ code, message }) => `${code}: ${message}`)).toEqual([
      'shelf: No template has a shelf “s”',
    ]);
  });
});

describe('a JSON file that cannot be read says what is wrong with it', () => {
  const table: [text: string, says: string][] = [
    ['{"placements": [{"shelf": "s"}', 'shelves.json is not valid JSON: a closing bracket ] is missing at its end'],
    ['{"placements": [}', 'shelves.json is not valid JSON: a value is missing before “}”'],
    ['{"placements" []}', 'shelves.json is not valid JSON: a colon is missing before “[”'],
    [
      "{'placements': []}",
      "shelves.json is not valid JSON: “'placements'” is not a value: texts stand in double quotes; else there are numbers, true, false and null",
    ],
  ];
  for (const [text, says] of table)
    it(text, () => expect(strict({ 'shelves.json': text }).checkAll()[0]?.message).toBe(says));
  it('words, about and look too, in any layer', () => {
    const theme = strict([{ 'words/en.json': '{"a": "b",}', 'about.json': '{' }, { 'look.json': '' }]);
    expect(theme.checkAll().map(({ file, message }) => [file, message])).toEqual([
      ['about.json', 'about.json is not valid JSON: a closing brace } is missing at its end'],
      ['look.json', 'look.json is not valid JSON: it is empty'],
      ['words/en.json', 'words/en.json is not valid JSON: a comma too many stands before “}”'],
    ]);
  });
  it('a byte order mark is not a mistake', () =>
    expect(themeOf({ 'words/en.json': '\ufeff{"a": "b"}' }).phrase('a')).toBe('b'));
});

describe('what would be passed over is told', () => {
  const table: [text: string, says: string][] = [
    ['<group class="a">x</group>', '<group> takes no “class”, and passes over it'],
    ['<gap nam="a"></gap>', '<gap> takes no “nam”, and passes over it; did you mean “name”?'],
    ['<draw name="pieces/a" data-x="1"/>', '“data-x” cannot name an input: letters, digits and _; it is passed over'],
    ['<group do:wrap-when="product.tags">x</group>', '“do:wrap-when” has no effect on <group>'],
    ['<takes name="a" do:when="product.tags">', '“do:when” has no effect on <takes>'],
    [
      '<script type="application/json" do:json="product">x</script>',
      'What stands in <script> is never printed: do:json fills it',
    ],
  ];
  for (const [text, says] of table)
    it(text, () => expect(problemsOf(text).find(({ code }) => code === 'ignored')?.message).toBe(says));
});

describe('a link of a chain', () => {
  const base = {
    'product/default.html': '<i do:when="a" do:mark="m">A</i><i do:or-when="b">B</i><i do:otherwise>C</i>',
  };
  const shown = (amend: string, a: boolean, b: boolean) =>
    pageOf(themeOf([base, { 'product/default.html': `<amend>${amend}</amend>` }]), { a, b, r: record({}) }).html;
  const table: [amend: string, outcomes: string[]][] = [
    ['<remove mark="m">', ['', '', 'B', 'C'].map((one) => (one ? `<i>${one}</i>` : ''))],
    ['<replace mark="m"><b>N</b></replace>', ['<b>N</b>', '<b>N</b>', '<i>B</i>', '<i>C</i>']],
    ['<replace mark="m"><b><kept></b></replace>', ['<b><i>A</i></b>', '<b><i>A</i></b>', '<i>B</i>', '<i>C</i>']],
    ['<remove mark="m" do:when="b">', ['', '<i>A</i>', '<i>B</i>', '<i>C</i>']],
    ['<adjust mark="m" class="x">', ['<i class="x">A</i>', '<i class="x">A</i>', '<i>B</i>', '<i>C</i>']],
  ];
  for (const [amend, outcomes] of table)
    it(`keeps its condition: ${amend}`, () =>
      expect([
        shown(amend, true, true),
        shown(amend, true, false),
        shown(amend, false, true),
        shown(amend, false, false),
      ]).toEqual(outcomes));
  it('is printed in one of two places by a move under a condition', () => {
    const two = { 'product/default.html': '<p do:mark="p">P</p><div do:mark="d">D</div>' };
    const moved = (c: boolean) =>
      pageOf(themeOf([two, { 'product/default.html': '<amend><move mark="p" after="d" do:when="c"></amend>' }]), { c })
        .html;
    expect([moved(true), moved(false)]).toEqual(['<div>D</div><p>P</p>', '<p>P</p><div>D</div>']);
  });
});
