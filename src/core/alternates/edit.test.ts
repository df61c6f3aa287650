import { describe, expect, it } from 'vitest';
import { readAlternates, writeAlternates, type Alternates, type Rule } from './alternates';
import {
  alternatesEdit,
  edited,
  EditRefused,
  followed,
  followedIn,
  registered,
  renamed,
  retired,
  type AlternatesEdit,
} from './edit';
import { entry, is, rule } from './testing/rows';

const tagged = (...value: string[]) => is('tag', ...value);
const typed = (...value: string[]) => is('type', ...value);

const all: Alternates = {
  alternates: [
    entry('rated'),
    entry('book', { piece: 'pieces/tile' }),
    entry('cut'),
    entry('rated', { kind: 'category' }),
  ],
  pins: [
    { kind: 'product', slug: 'bow', alternate: 'rated' },
    { kind: 'category', slug: 'bow', alternate: 'rated' },
    { kind: 'product', piece: 'pieces/tile', slug: 'bow', alternate: 'book' },
    { kind: 'product', slug: 'bow', alternate: 'cut' },
  ],
  rules: [
    rule('a', 'rated', tagged('deck', 'load-rated')),
    rule('t', 'book', typed('book'), { piece: 'pieces/tile' }),
    rule('b', 'cut', { all: [typed('rope'), { any: [tagged('deck'), { not: [tagged('deck')] }] }] }),
    rule('c', 'rated', { all: [] }),
  ],
};
Object.freeze(all.pins);
Object.freeze(all.rules);
Object.freeze(all.alternates);

/** What is there after an edit, in short: pins as kind/piece:slug=alternate, rules by id, alternates by name. */
const short = ({ alternates, pins, rules }: Alternates) => ({
  alternates: alternates.map((one) => `${one.piece ?? one.kind}/${one.name}`).join(' '),
  pins: pins.map((one) => `${one.piece ?? one.kind}:${one.slug}=${one.alternate}`).join(' '),
  rules: rules.map(({ id, alternate }) => `${id}=${alternate}`).join(' '),
});
const was = short(all);

describe('an edit', () => {
  const table: [name: string, edit: AlternatesEdit, now: Partial<typeof was>][] = [
    [
      'pins one, in the place of all its pins of that target',
      { do: 'pin', kind: 'product', slugs: ['bow'], alternate: 'cut' },
      { pins: 'category:bow=rated pieces/tile:bow=book product:bow=cut' },
    ],
    [
      'pins many, each once',
      { do: 'pin', kind: 'category', slugs: ['x', 'y', 'x'], alternate: 'rated' },
      { pins: `${was.pins} category:x=rated category:y=rated` },
    ],
    [
      'pins the subject of a piece, and leaves its page',
      { do: 'pin', kind: 'product', piece: 'pieces/tile', slugs: ['bow'], alternate: 'default' },
      { pins: 'product:bow=rated category:bow=rated product:bow=cut pieces/tile:bow=default' },
    ],
    [
      'removes pins',
      { do: 'pin', kind: 'product', slugs: ['bow', 'none'], alternate: null },
      { pins: 'category:bow=rated pieces/tile:bow=book' },
    ],
    [
      'keeps the one of several pins that is wanted',
      { do: 'keep-pin', kind: 'product', slug: 'bow', alternate: 'cut' },
      { pins: 'category:bow=rated pieces/tile:bow=book product:bow=cut' },
    ],
    [
      'puts a new rule after the others',
      { do: 'put-rule', rule: rule('d', 'cut', typed('cord')), was: null },
      { rules: `${was.rules} d=cut` },
    ],
    [
      'puts a rule in its place',
      { do: 'put-rule', rule: rule('a', 'cut', typed('cord')), was: all.rules[0] as Rule },
      { rules: 'a=cut t=book b=cut c=rated' },
    ],
    ['removes a rule', { do: 'remove-rule', id: 't' }, { rules: 'a=rated b=cut c=rated' }],
    [
      'orders the rules of one target, at the places that they had',
      { do: 'order', kind: 'product', of: 'rules', names: ['c', 'a', 'b'], seen: ['a', 'b', 'c'] },
      { rules: 'c=rated t=book a=rated b=cut' },
    ],
    [
      'orders the alternates of one target',
      { do: 'order', kind: 'product', of: 'alternates', names: ['cut', 'rated'], seen: ['rated', 'cut'] },
      { alternates: 'product/cut pieces/tile/book product/rated category/rated' },
    ],
    [
      'drops a text, and the rule that asks for nothing more',
      { do: 'drop-value', id: 't', fact: 'type', value: 'book' },
      { rules: 'a=rated b=cut c=rated' },
    ],
    ['drops a text that is not asked for: nothing', { do: 'drop-value', id: 'a', fact: 'type', value: 'deck' }, {}],
  ];
  for (const [name, edit, now] of table)
    it(name, () => {
      expect(alternatesEdit.safeParse(edit).success).toBe(true);
      const before = JSON.stringify(all);
      expect(short(edited(all, edit))).toEqual({ ...was, ...now });
      expect(JSON.stringify(all)).toBe(before);
    });

  it('drops a text out of groups in groups, and the groups that it leaves empty', () => {
    const drop = (id: string, value: string, fact = 'tag') =>
      edited(all, { do: 'drop-value', id, fact, value }).rules.find((one) => one.id === id)?.when;
    expect(drop('a', 'deck')).toEqual(tagged('load-rated'));
    expect(drop('b', 'deck')).toEqual({ all: [typed('rope')] });
    expect(drop('b', 'rope', 'type')).toEqual({ all: [{ any: [tagged('deck'), { not: [tagged('deck')] }] }] });
    expect(drop('c', 'deck')).toEqual({ all: [] });
  });

  it('describes an alternate', () => {
    const { alternates } = edited(all, {
      do: 'describe',
      kind: 'product',
      name: 'cut',
      label: 'Cut',
      note: 'n',
      types: ['rope'],
    });
    expect(alternates[2]).toEqual(entry('cut', { label: 'Cut', note: 'n', types: ['rope'] }));
  });

  const refused: [name: string, edit: AlternatesEdit, code: string, says: RegExp][] = [
    [
      'a rule by an id that is taken',
      { do: 'put-rule', rule: rule('a', 'cut', typed('x')), was: null },
      'taken',
      /“a” already/,
    ],
    [
      'a rule that is gone',
      { do: 'put-rule', rule: rule('z', 'cut', typed('x')), was: rule('z', 'cut', typed('y')) },
      'gone',
      /save it as a new rule/,
    ],
    [
      'a rule that was changed meanwhile',
      { do: 'put-rule', rule: rule('a', 'cut', typed('x')), was: rule('a', 'rated', tagged('deck')) },
      'changed',
      /changed from elsewhere/,
    ],
    ['a rule removed twice', { do: 'remove-rule', id: 'z' }, 'gone', /already/],
    [
      'an order that was changed meanwhile',
      { do: 'order', kind: 'product', of: 'rules', names: ['b', 'a', 'c'], seen: ['a', 'c', 'b'] },
      'changed',
      /order was changed/,
    ],
    [
      'an order with others in it',
      { do: 'order', kind: 'product', of: 'rules', names: ['b', 'a', 'a'], seen: ['a', 'b', 'c'] },
      'changed',
      /same entries/,
    ],
    [
      'a description of what is gone',
      { do: 'describe', kind: 'content', name: 'cut', label: 'x', note: '', types: [] },
      'gone',
      /“content\/cut”/,
    ],
    [
      'a label that another has, in other capitals',
      { do: 'describe', kind: 'product', name: 'cut', label: ' RATED ', note: '', types: [] },
      'taken',
      /taken by “product\/rated”/,
    ],
  ];
  for (const [name, edit, code, says] of refused)
    it(`is refused: ${name}`, () => {
      try {
        edited(all, edit);
        expect.unreachable();
      } catch (error) {
        expect(error).toBeInstanceOf(EditRefused);
        expect((error as EditRefused).code).toBe(code);
        expect((error as EditRefused).message).toMatch(says);
      }
    });
});

describe('an alternate', () => {
  it('is registered after the others, under a label of its own', () => {
    expect(short(registered(all, entry('new'))).alternates).toBe(`${was.alternates} product/new`);
    expect(() => registered(all, entry('new', { label: 'Cut' }))).toThrow(/taken by “product\/cut”/);
    // The labels of other targets are theirs.
    expect(() => registered(all, entry('cut', { kind: 'category' }))).not.toThrow();
  });

  it('takes its pins and rules along to another name, and those of other targets stay', () => {
    expect(short(renamed(all, { kind: 'product' }, 'rated', 'heavy'))).toEqual({
      alternates: 'product/heavy pieces/tile/book product/cut category/rated',
      pins: 'product:bow=heavy category:bow=rated pieces/tile:bow=book product:bow=cut',
      rules: 'a=heavy t=book b=cut c=heavy',
    });
  });

  it('goes with its pins and rules', () => {
    expect(short(retired(all, { kind: 'product' }, 'rated'))).toEqual({
      alternates: 'pieces/tile/book product/cut category/rated',
      pins: 'category:bow=rated pieces/tile:bow=book product:bow=cut',
      rules: 't=book b=cut',
    });
  });

  const moves: [from: string, to: string, follows: string | null][] = [
    ['product/cut', 'product/metre', 'product/metre'],
    ['pieces/tile/book', 'pieces/tile/volume', 'pieces/tile/volume'],
    ['product/cut', 'category/cut', null],
    ['product/cut', 'product/more/cut', null],
    ['product/cut', 'product/default', null],
    ['pieces/tile/book', 'pieces/book', null],
    ['product/none', 'product/some', null],
    ['pieces/tile', 'pieces/card', 'pieces/card/book'],
    ['pieces/tile', 'pieces/cards/big', 'pieces/cards/big/book'],
    ['pieces/tile', 'layouts/tile', null],
    ['pieces/tile', 'pieces/Tile', null],
  ];
  for (const [from, to, follows] of moves)
    it(`${from} to ${to}: ${follows === null ? 'is none that follows' : 'follows'}`, () => {
      const now = followed(all, from, to);
      expect(now === null).toBe(follows === null);
      if (now) expect(short(now).alternates.split(' ')).toContain(follows);
      const text = followedIn(writeAlternates(all), from, to);
      expect(text && readAlternates(text).alternates).toEqual(now);
    });
});
