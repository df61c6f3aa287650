import { describe, expect, it } from 'vitest';
import { candidatesOf, firstEscape, hostileValues } from '../testing/differential';
import { hostileTheme, neededWays, ways } from '../testing/hostile';

describe('what a browser makes of a page is decided by its template, whatever the value (parse5, and Node’s URL for addresses)', () => {
  it(`of 5,000 pairs of a generated theme and one of ${hostileValues.length} values none changes more than it may`, () => {
    const seed = Number(process.env.LAST_SEED ?? 20_261_127);
    expect(firstEscape(5000, seed)).toBeNull();
  });

  it('each element of the language, operation of amendments and directive has a generator', () => {
    expect(Object.keys(ways).sort()).toEqual([...neededWays].sort());
  });

  it('the themes hold each of them, not only in the table', () => {
    const seen = new Set<string>();
    for (let seed = 0; seed < 4000; seed++) {
      let state = seed * 2_654_435_761;
      const tape = Array.from({ length: 80 }, () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) >> 8);
      const written = JSON.stringify(hostileTheme(tape).layers);
      for (const name of neededWays)
        if (name.startsWith('do:') ? written.includes(` ${name}`) : written.includes(`<${name}`)) seen.add(name);
    }
    expect([...seen].sort()).toEqual([...neededWays].sort());
  });
});

describe('candidates of a srcset, as the HTML standard cuts them (4.8.4.2.2; from memory)', () => {
  const table: [srcset: string, urls: string[]][] = [
    ['a.png 1x, b.png 2x', ['a.png', 'b.png']],
    ['a.png,b.png 2x', ['a.png,b.png']],
    ['a.png, b.png', ['a.png', 'b.png']],
    [' , a.png 1x', ['a.png']],
    ['data:,x 1x', ['data:,x']],
    ['a.png calc(1, 2), b.png', ['a.png', 'b.png']],
  ];
  for (const [srcset, urls] of table) it(srcset, () => expect(candidatesOf(srcset)).toEqual(urls));
});
