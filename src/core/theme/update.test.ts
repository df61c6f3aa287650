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
