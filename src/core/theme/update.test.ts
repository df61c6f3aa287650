import { describe, expect, it } from 'vitest';
import type { Layer } from './theme';
import { standingOf } from './drift';
import { planUpdate, type OwnFile, type Touched } from './update';

const file = (text: string) => ({ hash: `#${text}`, text });
const layer = (version: string, files: Record<string, string>): Layer => ({
  kind: 'base',
  name: 'Base',
  version,
  files: new Map(Object.entries(files).map(([path, text]) => [path, file(text)])),
});
const own = (path: string, text: string, origin: string | null): Map<string, OwnFile> =>
  new Map([[path, { ...file(text), origin: origin === null ? null : file(origin) }]]);

describe('an update below the shop’s own files', () => {
  const five = 'a\nb\nc\nd\ne\n';
  const amend = (mark: string) => `<amend>\n  <after mark="${mark}"><i>x</i></after>\n</amend>\n`;
  const marked = (mark: string) => `<p do:mark="${mark}">x</p>\n`;
  const table: [
    name: string,
    was: string | null,
    is: string | null,
    mine: string,
    origin: string | null,
    outcome: Touched['outcome'] | null,
    text?: string,
  ][] = [
    ['untouched', five, five, 'a\nB\nc\nd\ne\n', five, null],
    ['both, in different places', five, 'a\nb\nc\nd\nE\n', 'A\nb\nc\nd\ne\n', five, 'merged', 'A\nb\nc\nd\nE\n'],
    ['both, in the same place', five, 'a\nb\nX\nd\ne\n', 'a\nb\nY\nd\ne\n', five, 'conflict'],
    ['the same on both sides', five, 'a\nb\nX\nd\ne\n', 'a\nb\nX\nd\ne\n', five, 'needless'],
    ['a copy that was never changed', five, 'a\nb\nX\nd\ne\n', five, five, 'needless'],
    ['gone below', five, null, 'a\nb\nY\nd\ne\n', five, 'alone'],
    ['new below', null, five, 'mine\n', null, 'covers'],
    [
      'from an older one than that before',
      'a\nb\nc\nd\nE\n',
      'a\nb\nc\nD\nE\n',
      'A\nb\nc\nd\ne\n',
      five,
      'merged',
      'A\nb\nc\nD\nE\n',
    ],
    ['an amendment that still fits', marked('one'), `<b>new</b>${marked('one')}`, amend('one'), marked('one'), 'fits'],
    ['an amendment whose mark is gone', marked('one'), marked('once'), amend('one'), marked('one'), 'lost'],
    ['an amendment of what is gone', marked('one'), null, amend('one'), marked('one'), 'lost'],
  ];
  for (const [name, was, is, mine, origin, outcome, text] of table)
    it(name, () => {
      const path = 'pieces/x.html';
      const before = layer('1', was === null ? {} : { [path]: was });
      const after = layer('2', is === null ? {} : { [path]: is });
      const { touched } = planUpdate([before], [after], own(path, mine, origin));
      expect(touched[0]?.outcome ?? null).toBe(outcome);
      if (text !== undefined) expect(touched[0]?.text).toBe(text);
    });
  it('names the nearest mark for one that is gone, as a fix to apply', () => {
    const path = 'pieces/x.html';
    const [before, after] = [
      layer('1', { [path]: marked('stock-line') }),
      layer('2', { [path]: marked('stock-lines') }),
    ];
    const [one] = planUpdate([before], [after], own(path, amend('stock-line'), marked('stock-line'))).touched;
    expect(one?.lost?.[0]).toMatchObject({ code: 'mark', fix: { edits: [{ text: 'stock-lines' }] } });
    expect(one?.says).toBe('1 of its places is gone');
  });
  it('or what now stands in its place, whatever it is called', () => {
    const path = 'pieces/x.html';
    const wrap = (inner: string) => `<div>\n  <h2>x</h2>\n  ${inner}</div>\n`;
    const lostOf = (now: string) => {
      const [before, after] = [layer('1', { [path]: wrap(marked('maker')) }), layer('2', { [path]: wrap(now) })];
      return planUpdate([before], [after], own(path, amend('maker'), wrap(marked('maker')))).touched[0]?.lost?.[0];
    };
    const text = amend('maker');
    const found = lostOf(marked('brand-line'));
    const [edit] = found?.fix?.edits ?? [];
    expect(found?.message).toContain('“brand-line”');
    expect(text.slice(0, edit?.from) + edit?.text + text.slice(edit?.to)).toBe(amend('brand-line'));
    expect(lostOf('<p>x</p>')?.message).toContain('is now <p> at “div > p”');
  });
  describe('places by path', () => {
    const path = 'pieces/x.html';
    const planOf = (was: string, is: string, mine: string, more: Record<string, string> = {}) => {
      const files = new Map([
        ...own(path, mine, was),
        ...Object.entries(more).flatMap(([p, t]) => [...own(p, t, null)]),
      ]);
      return planUpdate([layer('1', { [path]: was })], [layer('2', { [path]: is })], files).touched;
    };
    const price = '<span class="price">{product.price}</span>';
    const after = (at: string, more = '') => `<amend>\n  <after at="${at}"${more}><i>x</i></after>\n</amend>\n`;
    it('are corrected where the element moved', () => {
      const [one] = planOf(`<p>${price}</p>\n`, `<p><span>New</span>${price}</p>\n`, after('p > span'));
      expect(one).toMatchObject({
        outcome: 'moved',
        says: 'what it amends was changed; 1 place found again elsewhere',
        text: after('p > span:2'),
        places: [{ line: 2, was: 'p > span', is: 'p > span:2', certain: true, other: null }],
      });
    });
    it('keep what they were where another may be meant', () => {
      const [one] = planOf(`<p>${price}</p>\n`, `<p>${price}${price}</p>\n`, after('p > span'));
      expect(one).toMatchObject({ outcome: 'unsure', text: after('p > span:2', ' was="p > span"') });
      expect(one?.places).toMatchObject([{ is: 'p > span:2', certain: false, other: 'p > span:1' }]);
    });
    it('have none where the element is gone', () => {
      const [one] = planOf(`<p>${price}<b>y</b></p>\n`, `<p><b>y</b></p>\n`, after('p > span'));
      expect(one).toMatchObject({ outcome: 'lost', lost: [], text: after('', ' was="p > span"') });
      expect(one?.says).toBe('1 of its places is gone');
    });
    it('keep what they were before the first update that was not looked at', () => {
      const [one] = planOf(
        `<p>${price}</p>\n`,
        `<p><b></b></p><div>${price}${price}</div>\n`,
        after('p > span', ' was="a"'),
      );
      expect(one?.text).toContain('was="a"');
      expect(one?.text?.match(/was=/g)).toHaveLength(1);
    });
    it('of alternates that amend another template follow it, through the shop’s own file too', () => {
      const quiet = 'pieces/x-quiet.html';
      const mine = `<amend of="pieces/x">\n  <remove at="p > span">\n</amend>\n`;
      const touched = planOf(`<p>${price}</p>\n`, `<p><b class="y">${price}</b></p>\n`, after('p > span'), {
        [quiet]: mine,
      });
      expect(touched.map(({ path, outcome }) => [path, outcome])).toEqual([
        [quiet, 'moved'],
        [path, 'moved'],
      ]);
      expect(touched[0]?.text).toBe(mine.replace('p > span', 'p > b > span'));
      const override = `<p>${price}</p>\n<i>a</i>\n<i>b</i>\n<i>c</i>\n<em>own</em>\n`;
      const base = override.replace('<em>own</em>\n', '');
      const now = base.replace('<p>', '<p><span>New</span>');
      const through = planUpdate(
        [layer('1', { [path]: base })],
        [layer('2', { [path]: now })],
        new Map([...own(path, override, base), ...own(quiet, mine, null)]),
      ).touched;
      expect(through).toMatchObject([
        { path: quiet, outcome: 'moved', text: mine.replace('p > span', 'p > span:2') },
        { path, outcome: 'merged' },
      ]);
    });
  });
  describe('what files of the shop name', () => {
    const shop = {
      'words/en.json': '{"a":{"b":"B","c":"C"}}',
      'pieces/tile.html': '<takes name="wide" type="yes-no"><p>t</p>',
    };
    const page = 'content/default.html';
    const known = { locale: 'en', surroundings: { definitions: () => [], site: null } };
    const table: [name: string, was: Record<string, string>, is: Record<string, string>, mine: string, says: RegExp][] =
      [
        [
          'a piece',
          { 'pieces/tile.html': '<p>t</p>' },
          { 'pieces/tiles.html': '<p>t</p>' },
          '<draw name="pieces/tile"/>',
          /pieces\/tiles/,
        ],
        [
          'an input',
          { 'pieces/tile.html': '<takes name="wide" type="yes-no"><p>{wide}</p>' },
          { 'pieces/tile.html': '<takes name="wider" type="yes-no"><p>{wider}</p>' },
          '<draw name="pieces/tile" wide="{true}"/>',
          /wider/,
        ],
        [
          'a gap',
          { 'layouts/shop.html': '<main><gap name="side"></gap></main>' },
          { 'layouts/shop.html': '<main><gap name="sides"></gap></main>' },
          '<draw name="layouts/shop"><fill gap="side">x</fill></draw>',
          /sides/,
        ],
        [
          'a phrase',
          { 'words/en.json': '{"a":{"splice":"B"}}' },
          { 'words/en.json': '{"a":{"splices":"B"}}' },
          "<p>{t('a.splice')}</p>",
          /a\.splices/,
        ],
        [
          'a setting',
          { 'look.json': '{"settings":[{"name":"wide_page","type":"yes-no","value":true}]}' },
          { 'look.json': '{"settings":[{"name":"wide_pages","type":"yes-no","value":true}]}' },
          '<p do:when="look.wide_page">x</p>',
          /wide_pages/,
        ],
      ];
    for (const [name, was, is, mine, says] of table)
      it(`${name} that the update renames is told with the nearest one`, () => {
        const plan = planUpdate([layer('1', was)], [layer('2', is)], own(page, mine, null), known);
        expect(plan.touched).toMatchObject([{ path: page, outcome: 'breaks' }]);
        expect(plan.touched[0]?.breaks).toHaveLength(1);
        expect(plan.touched[0]?.breaks?.[0]?.message).toMatch(says);
      });
    it('is no matter where it was wrong before, or is wrong in the update by itself', () => {
      const plan = planUpdate(
        [layer('1', { 'pieces/tile.html': '<p>{gone.x | nofilter}</p>' })],
        [layer('2', { 'pieces/tile.html': '<p>{gone.x | nofilters}</p>' })],
        own(page, '<draw name="pieces/none"/>', null),
      );
      expect(plan.touched).toEqual([]);
    });
    it('what the update gives a piece that the shop has for itself, and it does not take', () => {
      const [before, after] = [
        layer('1', { ...shop, [page]: '<draw name="pieces/tile" wide="{true}"/>' }),
        layer('2', {
          ...shop,
          [page]: '<draw name="pieces/tile" wide="{true}" dark="{true}"/>',
          'pieces/tile.html': '<takes name="dark" type="yes-no">',
        }),
      ];
      const mine = '<takes name="wide" type="yes-no"><p>mine</p>\n<p>more</p>\n';
      const { touched } = planUpdate([before], [after], own('pieces/tile.html', mine, shop['pieces/tile.html']), known);
      const found = touched.find(({ path }) => path === page);
      expect(found).toMatchObject({ outcome: 'breaks' });
      expect(found?.breaks?.[0]?.message).toContain('dark');
    });
  });
  it('leaves words and the look alone: layers add to them', () => {
    const [before, after] = [layer('1', { 'words/en.json': '{}' }), layer('2', { 'words/en.json': '{"a":"b"}' })];
    const plan = planUpdate([before], [after], own('words/en.json', '{"c":"d"}', '{}'));
    expect(plan).toEqual({ files: [{ path: 'words/en.json', change: 'changed' }], touched: [] });
  });
});

describe('how a file stands to what is below', () => {
  const table: [string, string, string | null, string | null, string][] = [
    ['pieces/a.html', 'x', null, null, 'new'],
    ['words/en.json', '{}', '{}', '{"a":1}', 'adds'],
    ['pieces/a.html', '<amend></amend>', 'x', 'y', 'amends'],
    ['pieces/a.html', 'x', 'x', 'x', 'same'],
    ['pieces/a.html', 'y', 'x', 'x', 'override'],
    ['pieces/a.html', 'y', 'x', 'z', 'drifted'],
    ['pieces/a.html', 'y', null, 'z', 'override'],
  ];
  for (const [path, text, origin, below, standing] of table)
    it(`${standing} (${path}, from ${origin}, over ${below})`, () => {
      const made = { ...file(text), origin: origin === null ? null : file(origin) };
      expect(standingOf(path, made, below === null ? null : file(below))).toBe(standing);
    });
});
