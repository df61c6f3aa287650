import { describe, expect, it } from 'vitest';
import { applyFix, parseTemplate } from '@/core/language';
import { pageOf, themeOf } from '../language/testing/theme-of';
import { eachElement } from '../language/2-check/walk';
import { elementAt, pathTo } from './amendment';

const shown = (base: string, ...amendments: string[]) => {
  const theme = themeOf([base, ...amendments].map((text) => ({ 'product/default.html': text })));
  const { html, problems } = pageOf(theme, { yes: true, l: [1, 2] });
  return { html, problems: theme.check('product/default').concat(problems) };
};

describe('amending by mark (the agreed cases hold the rest)', () => {
  const table: [name: string, base: string, amendment: string, html: string][] = [
    [
      'with a condition of its own',
      '<p do:mark="a">0</p>',
      '<after mark="a"><i do:when="no">x</i><b do:otherwise>y</b></after>',
      '<p>0</p><b>y</b>',
    ],
    [
      'in each turn of a loop, a chain from its start',
      '<p do:each="x in l" do:mark="a">{x}</p>',
      '<append mark="a"><i do:when="x == 1">one</i><b do:otherwise>more</b></append>',
      '<p>1<i>one</i></p><p>2<b>more</b></p>',
    ],
    [
      'in two places, each with its own chain',
      '<p do:mark="a">1</p><p do:mark="a">2</p>',
      '<append mark="a"><i do:when="yes">x</i><b do:otherwise>y</b></append>',
      '<p>1<i>x</i></p><p>2<i>x</i></p>',
    ],
    [
      'an element of the language',
      '<draw name="pieces/none" do:when="no" do:mark="a"/><p do:otherwise>o</p>',
      '<before mark="a"><i>b</i></before>',
      '<i>b</i><p>o</p>',
    ],
    [
      'what an earlier operation put in',
      '<p do:mark="a">0</p>',
      '<after mark="a"><u do:mark="b">1</u></after><append mark="b">2</append>',
      '<p>0</p><u>12</u>',
    ],
    [
      'a mark that is replaced, twice',
      '<p do:mark="a">0</p>',
      '<replace mark="a"><i><kept></i></replace><replace mark="a"><b><kept></b></replace>',
      '<i><b><p>0</p></b></i>',
    ],
    [
      'moves of several places, in order',
      '<i do:mark="a">1</i><i do:mark="a">2</i><p do:mark="z">z</p>',
      '<move mark="a" after="z">',
      '<p>z</p><i>1</i><i>2</i>',
    ],
    ['a move before', '<p do:mark="z">z</p><i do:mark="a">1</i>', '<move mark="a" before="z">', '<i>1</i><p>z</p>'],
  ];
  for (const [name, base, amendment, html] of table)
    it(name, () => expect(shown(base, `<amend>${amendment}</amend>`).html).toBe(html));
});

describe('amending by place', () => {
  const base = '<main><section>1</section><section><p>2</p><p>3</p></section></main>';
  const table: [path: string, html: string][] = [
    ['main > section:2 > p:1', '<main><section>1</section><section><p>2+</p><p>3</p></section></main>'],
    ['main>section', '<main><section>1+</section><section><p>2</p><p>3</p></section></main>'],
  ];
  for (const [path, html] of table)
    it(path, () => expect(shown(base, `<amend><append at="${path}">+</append></amend>`).html).toBe(html));
  it('means the place in the base as it is written, whatever lower layers put before it', () => {
    const { html } = shown(
      base,
      '<amend><prepend at="main"><section>0</section></prepend></amend>',
      '<amend><append at="main > section:2">+</append></amend>',
    );
    expect(html).toBe('<main><section>0</section><section>1</section><section><p>2</p><p>3</p>+</section></main>');
  });
  it('finds every element by the path that it writes', () => {
    const { children } = parseTemplate(
      'a.html',
      '<draw name="x"><fill gap="g"><b>1</b></fill><p>a</p><p>b<i>c</i></p></draw>',
    );
    let count = 0;
    eachElement(children, (element) => {
      const path = pathTo(children, element);
      expect([path, elementAt(children, path ?? '').element === element]).toEqual([path, true]);
      count++;
    });
    expect(count).toBe(6);
  });
});

describe('a place that is not there is reported at its line, and the rest of the page stands', () => {
  const table: [name: string, amendment: string, code: string, text: string, fix: string | null][] = [
    ['a mark, with the nearest', '<append mark="prise">x</append>', 'mark', 'did you mean “price”', 'price'],
    ['a mark that is like no other', '<append mark="zzzzzz">x</append>', 'mark', 'There is no mark “zzzzzz”', null],
    ['where a move goes', '<move mark="price" after="ende">', 'mark', 'There is no mark “ende”', 'end'],
    ['a path', '<append at="p:7">x</append>', 'mark', 'at its top stands one <p>', null],
    ['a path that is none', '<append at="p > > b">x</append>', 'mark', 'is not a step of a path', null],
    ['the inside of what has none', '<append mark="end">x</append>', 'mark', '<hr> has no inside', null],
    ['a move into itself', '<move mark="price" into="price">', 'mark', 'into itself', null],
    ['a move without a where to', '<move mark="price">', 'amend', 'needs where to', null],
    ['an operation without a place', '<append>x</append>', 'amend', 'needs a place', null],
    ['anything else', '<p>x</p>', 'amend', 'this is none of them', null],
  ];
  for (const [name, amendment, code, text, fix] of table) {
    it(name, () => {
      const { html, problems } = shown(
        '<p do:mark="price">9</p><hr do:mark="end">',
        `<amend>\n  ${amendment}\n</amend>`,
      );
      expect(html).toBe('<p>9</p><hr>');
      const [first] = problems;
      expect([first?.code, first?.line, first?.layer]).toEqual([code, 2, 'shop']);
      expect(first?.message).toContain(text);
      expect(first?.fix?.edits[0]?.text ?? null).toBe(fix);
    });
  }
  it('an <amend> with anything beside it changes nothing, and is reported', () => {
    const { problems } = shown('<p do:mark="a">0</p>', '<amend><remove mark="a"></amend><p>x</p>');
    expect(problems.map((one) => one.code)).toEqual(['amend']);
  });
});

describe('nodes keep where they come from', () => {
  it('a problem in what an amendment puts in names its layer and line', () => {
    const { problems } = shown(
      '<p do:mark="a">0</p>\n<p>1</p>',
      '<amend>\n<after mark="a">{x | shorten}</after>\n</amend>',
    );
    expect(problems.map(({ code, line, layer }) => [code, line, layer])).toEqual([['argument', 2, 'shop']]);
  });
});

describe('places that an update moved', () => {
  const base = '<p>0</p><p>1</p>';
  it('stand where they are written, and are reported until someone has looked', () => {
    const text = '<amend>\n  <after at="p:2" was="p"><b>x</b></after>\n</amend>';
    const { html, problems } = shown(base, text);
    expect(html).toBe('<p>0</p><p>1</p><b>x</b>');
    const [first] = problems;
    expect(problems.map(({ code, line, severity }) => [code, line, severity])).toEqual([['place-moved', 2, 'warning']]);
    expect(first?.message).toContain('“p”: it is likely “p:2” now');
    expect(first?.fix && applyFix(text, first.fix)).toBe(text.replace(' was="p"', ''));
  });
  it('have no place where what they named is gone', () => {
    const { html, problems } = shown(base, '<amend>\n  <after at="" was="p:3"><b>x</b></after>\n</amend>');
    expect(html).toBe(base);
    expect(problems.map(({ code, message }) => [code, message])).toEqual([
      ['mark', 'What stood at “p:3” is gone since an update: name another place'],
    ]);
  });
  it('do not give the element an attribute', () => {
    const { html } = shown(base, '<amend><adjust at="p:2" was="p" class="x"></amend>');
    expect(html).toBe('<p>0</p><p class="x">1</p>');
  });
});

describe('what an alternate takes off the page, and its data for search engines goes on saying', () => {
  const files = {
    'product/default.html':
      '<script type="application/ld+json" do:json="product | structured" do:mark="data"></script><div do:mark="price"><draw name="pieces/price" product="{product}"/></div><ul><li do:each="one in product.related"><draw name="pieces/price" product="{one}"/></li></ul>',
    'pieces/price.html': '<takes name="product" type="Product" required><b do:let="price = product.price">{price}</b>',
  };
  const notes = (text: string) =>
    themeOf({ ...files, 'product/quiet.html': text })
      .check('product/quiet')
      .filter(({ code }) => code === 'stays')
      .map(({ line, message }) => `${line}: ${message}`);
  it.each([
    [
      '<amend of="product/default">\n<remove mark="price">\n</amend>',
      ['2: The price is not shown any more, and the page’s data for search engines still says so'],
    ],
    ['<amend of="product/default">\n<remove mark="price">\n<remove mark="data">\n</amend>', []],
    ['<amend of="product/default">\n<replace mark="price"><i>{product.price}</i></replace>\n</amend>', []],
    ['<amend of="product/default">\n<after mark="price"><i>{product.sku}</i></after>\n</amend>', []],
  ])('%s', (text, said) => expect(notes(text)).toEqual(said));
});
