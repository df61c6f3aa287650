import { describe, expect, it } from 'vitest';
import { applyFix, type SiteFacts } from '../index';
import { strict } from '../testing/theme-of';

const site: SiteFacts = {
  locales: ['en-GB', 'fr-FR'],
  contents: new Set(['care']),
  menus: new Set(['main']),
  named: (object) => new Set(object === 'Type' ? ['shackle', 'rope'] : ['load-rated', 'Load rated', 'new']),
  leads: (path) => path === '/content/care' || path === '/category/rope',
  emptiness: (_, path) => (path.join('.') === 'summary' ? { empty: 3, total: 60, example: 'Deck oil' } : null),
};

const words = { 'words/en.json': '{ "a": { "b": "B", "n": "{count} of {all}" } }', 'words/fr.json': '{}' };
const files = { 'pieces/tab.html': '<takes name="n" type="number">\n<p id="tab-panel">{n}</p>\n' };
/** Problems of a product page, each as “line: what”. */
const problemsOf = (text: string, facts: SiteFacts = site) =>
  strict({ 'product/default.html': text, ...words, ...files }, facts).check('product/default');
const said = (text: string, facts?: SiteFacts) =>
  problemsOf(text, facts).map(({ line, message }) => `${line}: ${message}`);

const again = (what: string) => `${what} is on the page already: an id is there once`;

describe('a mistake in what a page says is told at its line, and no other line is blamed', () => {
  const table: [name: string, text: string, said: string][] = [
    [
      'a picture without alt',
      '<p>1</p>\n<img src="/assets/a.png">\n',
      '2: This picture has no alt: a screen reader reads out its address instead',
    ],
    [
      'one with a worked-out address',
      '<img\n  src="{product.image.url}"\n  do:when="product.image">\n',
      '1: This picture has no alt: a screen reader reads out its address instead',
    ],
    ['a label of nothing', "<p>1</p>\n<label>{t('a.b')}</label>\n<input>\n", '2: This label belongs to no field'],
    [
      'a label for an id that nothing has',
      '<label for="nme">{t(\'a.b\')}</label>\n<input id="name">\n',
      '1: This label is for “nme”, and nothing here has that id',
    ],
    ['an id twice', '<p id="a">1</p>\n<p>2</p>\n<p id="a">3</p>\n', `3: ${again('The id “a”')}`],
    ['an id twice, one within another', '<div id="a">\n<p id="a">3</p></div>\n', `2: ${again('The id “a”')}`],
    [
      'an id twice, once under a condition',
      '<p id="a">1</p>\n<p id="a" do:when="product.brand">3</p>\n',
      `2: ${again('The id “a”')}`,
    ],
    [
      'an id in a loop',
      '<ul>\n<li id="a" do:each="x in product.tags">{x.name}</li></ul>\n',
      '2: In a loop the id “a” is there as often as there are items',
    ],
    [
      'a piece with an id, drawn twice',
      '<draw name="pieces/tab" n="{1}"/>\n<draw name="pieces/tab" n="{2}"/>\n',
      `2: ${again('The id “tab-panel” of pieces/tab')}`,
    ],
    [
      'a piece with an id of the page',
      '<p id="tab-panel">1</p>\n<draw name="pieces/tab" n="{2}"/>\n',
      `2: ${again('The id “tab-panel” of pieces/tab')}`,
    ],
    [
      'a piece with an id, in a loop',
      '<div\n do:each="x in product.tags">{x.name}<draw name="pieces/tab" n="{2}"/></div>\n',
      '1: In a loop the id “tab-panel” of pieces/tab is there as often as there are items',
    ],
    [
      'a text that is written out',
      '<p>1</p>\n<p>\n  Ready to ship\n</p>\n',
      '3: “Ready to ship” is written out: customers of each language read it as it is',
    ],
    [
      'one at the root',
      '<p>1</p>\nReady to ship\n',
      '2: “Ready to ship” is written out: customers of each language read it as it is',
    ],
    [
      'one in an attribute',
      '<p>1</p>\n<input placeholder="Your name">\n',
      '2: “Your name” is written out: customers of each language read it as it is',
    ],
    [
      'a value among words',
      '<p>1</p>\n<p>Sold by {product.name}</p>\n',
      '2: “Sold by” is written out: customers of each language read it as it is',
    ],
    [
      'a written link',
      '<p>1</p>\n<a href="/content/care">{t(\'a.b\')}</a>\n',
      '2: “/content/care” leads to the shop’s first language from the pages of every other',
    ],
    [
      'a type that no product has',
      '<p>1</p>\n<p do:when="product.type == \'shackel\'">2</p>\n',
      '2: This condition never holds: no product of the shop has the type “shackel”; did you mean “shackle”?',
    ],
    [
      'a tag in an address',
      '<a href="{listing_url(tag: \'load-ratd\')}">{1}</a>\n',
      '1: The shop has no tag “load-ratd”; did you mean “load-rated”?',
    ],
    [
      'a brand in an address',
      '<a href="{listing_url(brand: \'nwe\')}">{1}</a>\n',
      '1: The shop has no brand “nwe”; did you mean “new”?',
    ],
    [
      'a crop',
      '<img alt="" src="{product.image | sized(width: 3, height: 3, crop: \'centr\')}" do:when="product.image">\n',
      '1: “crop” of “sized” is one of centre, top, right, bottom, left; did you mean “centre”?',
    ],
    [
      'an empty address in a style',
      '<p>1</p>\n<p style="background: url({product.summary})">2</p>\n',
      '2: product.summary is empty on 3 of 60 products',
    ],
    ['a phrase that is not there', "<p>1</p>\n<p>{t('a.cart')}</p>\n", '2: There is no phrase'],
    ['a phrase whose value nothing gives', "<p>1</p>\n<p>{t('a.n', count: 2)}</p>\n", '2: '],
  ];
  it.each(table)('%s', (_, text, says) => {
    const found = said(text);
    expect(found).toHaveLength(1);
    expect(found[0]).toContain(says);
  });
});

describe('what is right is left alone', () => {
  it.each([
    '<img src="/assets/a.png" alt="">',
    '<img src="/assets/a.png" do:attributes="record(alt: product.name)">',
    '<label>{t(\'a.b\')} <input></label><label for="x">{t(\'a.b\')}</label><input id="x"><label for="y">{t(\'a.b\')}</label><input id="{product.slug}">',
    '<label>{t(\'a.b\')} <draw name="pieces/tab" n="{1}"/></label>',
    '<p id="a" do:when="product.brand">1</p><p id="a" do:otherwise>2</p>',
    '<p id="a" do:when="product.brand">1</p><p id="a" do:when="not product.brand">2</p>',
    '<ul><li do:each="x, at in product.tags"><b id="a" do:when="at.first">{x.name}</b></li></ul>',
    '<ul><li do:each="x in product.tags" id="tag-{x.slug}">{x.name}</li></ul>',
    '<p translate="no">Withy Quay</p><p lang="fr">Bonjour</p><p>× / 12 &middot; a</p><code>do:each</code><script>const words = "some";</script>',
    "<a href=\"{content('care').url}\">{t('a.b')}</a>",
    '<p do:when="product.type == \'rope\'">1</p>',
    "<a href=\"{listing_url(tag: 'load-rated')}\">{t('a.b')}</a><a href=\"{listing_url(tag: product.slug)}\">{t('a.b')}</a>",
    '<p style="background: url({product.summary})" do:when="product.summary">1</p>',
  ])('%s', (text) => expect(said(text)).toEqual([]));
  it('a shop of one language writes its texts and links as it likes', () => {
    expect(said('<p>Ready to ship</p><a href="/content/care">Care</a>', { ...site, locales: ['en-GB'] })).toEqual([]);
  });
});

it('the key of a phrase is made of plain letters', () => {
  const [found] = problemsOf('<p>Prêt à expédier</p>');
  expect(found?.fix?.phrases).toEqual([{ key: 'product_default.pret_a_expedier', text: 'Prêt à expédier' }]);
});

it('a text is made a phrase, with a key that is free', () => {
  const [found] = problemsOf('<p>Ready &amp; waiting to ship</p>');
  const fix = found?.fix;
  expect(fix && applyFix('<p>Ready &amp; waiting to ship</p>', fix)).toBe(
    "<p>{t('product_default.ready_waiting_to_ship')}</p>",
  );
  expect(fix?.phrases).toEqual([{ key: 'product_default.ready_waiting_to_ship', text: 'Ready & waiting to ship' }]);
});
