import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayAfter, inSeason, seasonOn, turnsOf, type Season } from './season';

const winter = { from: '2026-12-01', to: '2027-01-06', yearly: true };
const may = { from: '2026-05-01', to: '2026-05-31', yearly: true };
const once = { from: '2026-05-01', to: '2026-05-31' };

describe('a season', () => {
  it.each<[Season, string, 'in' | 'before' | 'after']>([
    [once, '2026-04-30', 'before'],
    [once, '2026-05-01', 'in'],
    [once, '2026-05-31', 'in'],
    [once, '2026-06-01', 'after'],
    [once, '2027-05-10', 'after'],
    [may, '2026-04-30', 'before'],
    [may, '2026-05-31', 'in'],
    [may, '2026-06-01', 'before'],
    [may, '2031-05-10', 'in'],
    // Not in the years before its first.
    [may, '2025-05-10', 'before'],
    [winter, '2026-12-01', 'in'],
    [winter, '2027-01-06', 'in'],
    [winter, '2027-01-07', 'before'],
    [winter, '2030-12-31', 'in'],
    [winter, '2031-01-06', 'in'],
    // January of its first year is before its first day.
    [winter, '2026-01-03', 'before'],
    [{ from: null, to: '2026-05-31' }, '2020-01-01', 'in'],
    [{ from: '2026-05-01', to: null }, '2030-01-01', 'in'],
    [{ from: null, to: null }, '2030-01-01', 'in'],
    [{ from: '2026-01-01', to: '2027-06-01', yearly: true }, '2029-09-09', 'in'],
  ])('%j on %s: %s', (season, day, state) => expect(seasonOn(season, day)).toBe(state));

  it('tells the days on which it turns', () => {
    expect(turnsOf(winter, '2026-11-30', '2028-02-01')).toEqual([
      '2026-12-01',
      '2027-01-07',
      '2027-12-01',
      '2028-01-07',
    ]);
    expect(turnsOf(once, '2026-05-01', '2027-12-01')).toEqual(['2026-06-01']);
    const leap = { from: '2024-02-29', to: '2024-03-02', yearly: true };
    expect(turnsOf(leap, '2025-01-01', '2025-12-31')).toEqual(['2025-03-01', '2025-03-03']);
  });

  it('turns on those days, and on no other', () => {
    const day = fc.integer({ min: 0, max: 1200 }).map((more) => dayAfter('2026-01-01', more));
    fc.assert(
      fc.property(day, fc.integer({ min: 0, max: 300 }), fc.boolean(), day, (from, length, yearly, today) => {
        const season = { from, to: dayAfter(from, length), yearly };
        const last = dayAfter(today, 800);
        const seen: string[] = [];
        for (let one = today; one < last; one = dayAfter(one, 1))
          if (inSeason(season, one) !== inSeason(season, dayAfter(one, 1))) seen.push(dayAfter(one, 1));
        expect(turnsOf(season, today, last)).toEqual(seen);
      }),
      { numRuns: 200, seed: 1 },
    );
  });
});
