import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Highlighter, highlights } from './highlight';

const marked = (text: string) => highlights(text).map(({ from, to, kind }) => `${kind} ${text.slice(from, to)}`);

describe('highlights', () => {
  it.each<[text: string, found: string[]]>([
    ['<p class="a">plain</p>', []],
    ['<p>{product.name}</p>', ['value {product.name}']],
    ['<p class="a {b} c{d}">', ['value {b}', 'value {d}']],
    ['<p do:when="a > b" title="{c}">', ['directive do:when', 'expression a > b', 'value {c}']],
    ['<group>x</group>', ['own group', 'own group']],
    ['<draw name="pieces/price"/>', ['own draw']],
    ['<!--: a note :--><!-- of HTML -->', ['comment <!--: a note :-->']],
    ['<p do:as-written>{x}</p>{y}', ['directive do:as-written', 'value {y}']],
    ['<script>{x}</script><title>{y}</title>', ['value {y}']],
    ['', []],
  ])('of %s', (text, found) => {
    expect(marked(text)).toEqual(found);
  });
});

const folder = 'themes/quay-1.0';
const texts = (readdirSync(folder, { recursive: true }) as string[])
  .filter((path) => path.endsWith('.html'))
  .map((path) => readFileSync(`${folder}/${path}`, 'utf8'));

/** What people type, and what breaks. */
const typed = fc.oneof(
  fc.constantFrom('a', ' ', '\n', '<', '>', '/', '{', '}', '"', '=', '-', '!', '&', '<p>', '</p>', '<br>', '{a.b}'),
  fc.constantFrom('<!--:', ':-->', '<!--', '-->', '<script>', '</script>', '<group>', '</group>', '<svg>', '<path/>'),
  fc.constantFrom(
    '<p do:when="a">x</p>',
    ' do:each="a in b"',
    '<draw name="x"/>',
    '<amend>',
    '</div>',
    '<title>',
    '{"a',
  ),
  fc.constantFrom('<p do:as-written>', '<template>', '<li>', '<takes name="a">', '<textarea>{', '<math>', '</'),
);
const edits = fc.array(fc.record({ at: fc.nat(), length: fc.oneof(fc.constant(0), fc.nat(40)), insert: typed }), {
  minLength: 1,
  maxLength: 6,
});

/** Changes a text step by step, and holds what was followed against what a whole reading gives. */
function followed(start: string, steps: { at: number; length: number; insert: string }[]): number {
  const highlighter = new Highlighter(start);
  let text = start;
  let times = 0;
  for (const { at, length, insert } of steps) {
    const from = at % (text.length + 1);
    const to = Math.min(text.length, from + length);
    text = text.slice(0, from) + insert + text.slice(to);
    const stretch = highlighter.change(from, to, insert);
    expect(highlighter.stale).toBe(stretch === null);
    if (stretch) {
      times++;
      expect(stretch.from).toBeLessThanOrEqual(from);
      expect(stretch.to).toBeGreaterThanOrEqual(from + insert.length);
      expect(highlighter.found).toEqual(highlights(text));
    } else highlighter.read(text);
    expect(highlighter.found).toEqual(highlights(text));
  }
  return times;
}

describe('highlights of a text that is typed in', () => {
  it('are those of a whole reading, after any change of the base theme’s templates', () => {
    let times = 0;
    fc.assert(
      fc.property(fc.constantFrom(...texts), edits, (text, steps) => {
        times += followed(text, steps);
      }),
      { numRuns: 1500 },
    );
    expect(times).toBeGreaterThan(500);
  });

  it('are those of a whole reading in short texts where everything is near', () => {
    const short = fc.array(typed, { maxLength: 8 }).map((parts) => parts.join(''));
    fc.assert(
      fc.property(short, edits, (text, steps) => void followed(text, steps)),
      { numRuns: 6000 },
    );
  });

  it('are worked out for the neighbourhood only', () => {
    const text = `<div>${'<p>{a}</p>'.repeat(1000)}</div>`;
    const highlighter = new Highlighter(text);
    const at = 5 + 500 * 10 + 3;
    expect(highlighter.change(at, at, 'x')).toEqual({
      from: at,
      to: at + 4,
      found: [{ from: at + 1, to: at + 4, kind: 'value' }],
    });
    expect(highlighter.found).toHaveLength(1000);
  });

  it('wait until all is read again once a change cannot be followed', () => {
    const highlighter = new Highlighter('<p>a</p>');
    expect(highlighter.change(3, 3, '{')).toBeNull();
    expect(highlighter.change(4, 4, 'b}')).toBeNull();
    expect(highlighter.stale).toBe(true);
    highlighter.read('<p>{b}a</p>');
    expect(highlighter.found).toEqual([{ from: 3, to: 6, kind: 'value' }]);
    expect(highlighter.change(5, 5, 'c')).toMatchObject({ from: 3, to: 8 });
  });
});
