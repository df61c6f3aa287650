import { describe, expect, it } from 'vitest';
import { differingLines } from './pages';

describe('how many lines of a page come out different', () => {
  const prefixes = { before: '/live', after: '/draft/d' };
  const table: [string, string, string, number][] = [
    ['none', '<a href="/live/x">x</a>\n', '<a href="/draft/d/x">x</a>\n', 0],
    [
      'none, but another version of a style sheet',
      '<link href="/live/a.css?v=0a1">\n',
      '<link href="/draft/d/a.css?v=9f">\n',
      0,
    ],
    ['none, but empty lines and indentation', 'a\n  b\n', 'a\n\n      b\n', 0],
    ['one changed', 'a\nb\nc\n', 'a\nB\nc\n', 1],
    ['two added', 'a\nc\n', 'a\nb\nb\nc\n', 2],
    ['one taken away', 'a\nb\nc\n', 'a\nc\n', 1],
    ['one changed, one added', 'a\nb\nc\n', 'A\nb\nc\nd\n', 2],
    ['three in the place of one', 'a\nb\nc\n', 'a\nx\ny\nz\nc\n', 3],
  ];
  for (const [name, before, after, lines] of table)
    it(name, () => expect(differingLines({ before, after }, prefixes)).toBe(lines));
});
