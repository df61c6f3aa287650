import { describe, expect, it } from 'vitest';
import { endless } from './testing/endless';
import { pageOf, themeOf } from './testing/theme-of';
import { withoutMarks } from './index';

/** Long enough that only what never ends runs into it: how long each takes is measured by `npm run bench -- budget.live`. */
const patience = 15_000;
const now = () => performance.now();

describe('a template that takes too much is ended, and the page around it stands', () => {
  for (const { name, piece, files = {}, above = {}, ends = false } of endless) {
    const made = () =>
      themeOf([
        {
          'product/default.html': '<p>before</p><draw name="pieces/endless"/><p>after</p>',
          'pieces/endless.html': piece,
          ...files,
        },
        above,
      ]);
    it(
      name,
      () => {
        const theme = made();
        const checked = theme.checkAll();
        for (const traced of [false, true]) {
          const { html, problems } = pageOf(theme, {}, { time: { most: traced ? 700 : 400, now }, traced });
          const bare = traced ? withoutMarks(html) : html;
          expect([bare.slice(0, 13), bare.slice(-12)]).toEqual(['<p>before</p>', '<p>after</p>']);
          expect(problems.every(({ file, line }) => file !== '' && line > 0)).toBe(true);
          const told = [...checked, ...problems].map(({ code }) => code);
          if (!ends) expect(told).toContain('budget');
        }
      },
      patience,
    );
  }
  it('by steps alone, where no clock is given', () => {
    const theme = themeOf({
      'product/default.html': 'a<draw name="pieces/endless"/>b',
      'pieces/endless.html': endless[8]?.piece ?? '',
    });
    const { html, problems, timedOut } = pageOf(theme);
    expect([html, problems.map(({ code }) => code), timedOut]).toEqual(['ab', ['budget'], false]);
  });
  it('and one that the clock ended is told from the others', () => {
    const theme = themeOf({ 'product/default.html': '<i do:each="a in range(1, 10000)">{a}</i>' });
    let clock = 0;
    expect(pageOf(theme, {}, { time: { most: 10, now: () => (clock += 5) } }).timedOut).toBe(true);
    expect(pageOf(theme, {}, { time: { most: 10, now: () => 0 } }).timedOut).toBe(false);
  });
});
