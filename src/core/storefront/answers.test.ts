import { describe, expect, it } from 'vitest';
import type { Question } from '@/core/language';
import { askedAgain, problemOf, readAnswers } from './answers';

const question = (some: Partial<Question>): Question => ({
  name: 'q',
  type: 'text',
  label: 'Q',
  help: null,
  options: [],
  required: false,
  least: null,
  most: null,
  ...some,
});

describe('an answer is held to its question', () => {
  const choice = { type: 'choice', options: ['Cut', 'Whipped'] };
  const table: [what: string, of: Partial<Question>, value: string, problem: string | null][] = [
    ['left open', {}, '', null],
    ['left open though it must not', { required: true }, '', 'required'],
    ['offered', choice, 'Cut', null],
    ['not offered', choice, 'Burnt', 'not-offered'],
    ['offered in a drop-down', { type: 'drop-down', options: ['A'] }, 'A', null],
    ['as long as may be', { most: 3 }, 'abc', null],
    ['a sign too long', { most: 3 }, 'abcd', 'too-long'],
    ['three signs, though six code units', { most: 3 }, '😀😀😀', null],
    ['too short', { least: 4 }, 'abc', 'too-short'],
    ['longer than any text', {}, 'x'.repeat(201), 'too-long'],
    ['long, in a long text', { type: 'long-text' }, 'x'.repeat(2000), null],
    ['not ticked', { type: 'tick' }, '', null],
    ['not ticked though it must be', { type: 'tick', required: true }, '', 'required'],
  ];
  for (const [what, of, value, problem] of table) it(what, () => expect(problemOf(question(of), value)).toBe(problem));
});

describe('what a form sends', () => {
  it('is taken by the questions that were asked, without what was not', () => {
    const sent: Record<string, string> = { end: ' Whipped ', note: 'a\u0000b\nc', gift: 'yes', other: 'x' };
    const asked = [
      question({ name: 'end', type: 'choice', label: 'End', options: ['Whipped'] }),
      question({ name: 'note', label: 'Note' }),
      question({ name: 'gift', type: 'tick', label: 'Present' }),
      question({ name: 'open', label: 'Open' }),
    ];
    const { taken, sound } = readAnswers(asked, (name) => sent[name] ?? null, 'oui');
    expect([sound, taken]).toEqual([
      true,
      [
        { name: 'end', label: 'End', value: 'Whipped' },
        { name: 'note', label: 'Note', value: 'a b c' },
        { name: 'gift', label: 'Present', value: 'oui' },
      ],
    ]);
  });
  it('comes back whole when one answer cannot be taken', () => {
    const asked = [question({ name: 'a', required: true }), question({ name: 'b' })];
    const { given, sound } = readAnswers(asked, (name) => (name === 'b' ? 'kept' : null), '✓');
    expect([sound, given]).toEqual([
      false,
      { a: { value: '', problem: 'required' }, b: { value: 'kept', problem: null } },
    ]);
  });
});

it('a line of a cart tells what is asked again, and what no longer', () => {
  const asked = [question({ name: 'end', type: 'choice', label: 'End', options: ['Whipped'], required: true })];
  const line = (value: string) => [{ name: 'end', label: 'End', value }];
  expect([askedAgain(asked, line('Whipped')), askedAgain(asked, line('Cut')), askedAgain(asked, [])]).toEqual([
    [],
    [{ kind: 'asked-again', label: 'End' }],
    [{ kind: 'asked-again', label: 'End' }],
  ]);
  expect(askedAgain([], line('Cut'))).toEqual([{ kind: 'no-longer-asked', label: 'End' }]);
});
