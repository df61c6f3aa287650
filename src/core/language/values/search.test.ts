import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { markupParts } from './markup';
import { cutAt, indexIn } from './search';

/** Texts of few letters, so that patterns overlap with themselves; some longer than what JavaScript's own search is used for. */
const repeating = fc
  .tuple(fc.stringMatching(/^[ab]{1,6}$/), fc.integer({ min: 1, max: 120 }), fc.stringMatching(/^[abc]{0,3}$/))
  .map(([part, times, end]) => part.repeat(times) + end);

describe('searching, against JavaScript’s own', () => {
  it('finds the first place from an offset on', () => {
    fc.assert(
      fc.property(repeating, repeating, fc.nat(400), (text, pattern, from) => {
        const start = Math.min(from, text.length);
        expect(indexIn(text, pattern, start)).toBe(text.indexOf(pattern, start));
      }),
      { numRuns: 2000 },
    );
  });
  it('cuts at every place', () => {
    fc.assert(
      fc.property(repeating, repeating, (text, pattern) => {
        expect(cutAt(text, pattern)).toEqual(text.split(pattern));
      }),
      { numRuns: 2000 },
    );
  });
});

describe('tags and texts of markup', () => {
  const table: [markup: string, parts: string[]][] = [
    ['<p>a</p>', ['<p>', 'a', '</p>']],
    ['a <b title="x > y">c', ['a ', '<b title="x > y">', 'c']],
    ['1 < 2', ['1 < 2']],
    ['1 <b and <i>x</i>', ['1 <b and ', '<i>', 'x', '</i>']],
    ['a<!-- b -->c', ['a', 'c']],
    ['a<!-- b', ['a<!-- b']],
    ['<script>a < b</script>c', ['<script>', 'c']],
    ['<style>p{}</style >c', ['<style>', 'c']],
    ['<script>a', ['<script>', 'a']],
    ['<b title="x', ['<b title="x']],
    ['', []],
  ];
  for (const [markup, parts] of table)
    it(JSON.stringify(markup), () =>
      expect(Array.from(markupParts(markup), ({ tag, text }) => tag || text)).toEqual(parts),
    );
  it('hold every sign of what is neither comment nor script', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[ab<>"'/ =-]*$/), (markup) => {
        const joined = Array.from(markupParts(markup), ({ tag, text }) => tag || text).join('');
        if (!markup.includes('<!--')) expect(joined).toBe(markup);
      }),
      { numRuns: 1000 },
    );
  });
});
