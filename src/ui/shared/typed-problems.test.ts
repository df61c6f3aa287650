import { describe, expect, it } from 'vitest';
import type { ProblemItem } from '@/contract/shared';
import { problemsNow } from './typed-problems';

const one = (file: string, severity: ProblemItem['severity'] = 'error'): ProblemItem => ({
  ...{ code: 'name', severity, file, layer: 'shop', from: 0, to: 1, line: 1, column: 1, length: 1 },
  message: `wrong in ${file}`,
});

describe('the problems of a draft', () => {
  const saved = { problems: [one('a.html'), one('b.html', 'note'), one('b.html', 'warning')], count: 2 };
  const table: [name: string, ...Parameters<typeof problemsNow>, count: number, first: string | null][] = [
    ['are none before they are known', undefined, null, 0, null],
    ['are those that are saved, notes aside', saved, null, 2, 'a.html'],
    [
      'are those that are typed where something is',
      saved,
      { paths: ['c.html'], problems: [one('c.html')] },
      3,
      'c.html',
    ],
    [
      'are gone from a file that was put right, before it is saved',
      saved,
      { paths: ['a.html'], problems: [] },
      1,
      'b.html',
    ],
    ['of a file are counted once', saved, { paths: ['a.html'], problems: [one('a.html')] }, 2, 'a.html'],
    [
      'beyond those that are listed count too',
      { ...saved, count: 4000 },
      { paths: ['a.html'], problems: [] },
      3999,
      'b.html',
    ],
  ];
  for (const [name, given, typed, count, first] of table)
    it(name, () => {
      const now = problemsNow(given, typed);
      expect([now.count, now.first?.file ?? null]).toEqual([count, first]);
    });
});
