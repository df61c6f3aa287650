import { decodeHTML } from 'entities';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { joinedAddress, wholeAddress } from './address';
import { Decimal } from 'decimal.js';
import { add, divide, multiply, remainder, roundAway, roundDigits, subtract } from './arithmetic';
import { order } from './compare';
import { unmetered } from './meter';
import { escapeText } from './escape';
import { LocaleFormat } from './locale';
import { minorDigits } from './currencies';
import { plainText } from './plain';
import { Day, isEmpty, Money, type Value, Html } from './values';

const none = { blocked() {}, refusedStyle() {} };
const printer = { ...unmetered, print: String };

describe('escaping, against the entities of the HTML standard (package entities)', () => {
  it('is undone by a browser’s decoding', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        expect(decodeHTML(escapeText(text))).toBe(text.toWellFormed());
      }),
    );
  });
});

describe('addresses, against Node’s URL (the URL standard)', () => {
  const base = 'https://shop.example';
  it('a value in a path is one that URL reads back', () => {
    fc.assert(
      fc.property(
        fc.string({ minLength: 1 }).filter((text) => !/^\/*$|^[/.\\]|(?:^|\/)\.{1,2}(?:\/|$)/.test(text)),
        (text) => {
          const path = joinedAddress([{ written: '/tag/' }, { value: text }], null, none);
          expect(decodeURIComponent(new URL(decodeHTML(path), base).pathname)).toBe(`/tag/${text.toWellFormed()}`);
        },
      ),
    );
  });
  it('a value in a query is one parameter', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const address = joinedAddress([{ written: '/find?q=' }, { value: text }, { written: '&amp;n=1' }], null, none);
        const { searchParams } = new URL(decodeHTML(address), base);
        expect([...searchParams.keys()]).toEqual(['q', 'n']);
        expect(searchParams.get('q')).toBe(text.toWellFormed());
      }),
    );
  });
  it('a whole address never has a scheme that is not allowed', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.webUrl(),
          fc.constantFrom(
            'javascript:x',
            'java\tscript:x',
            '\u0001javascript:x',
            'data:x',
            'vbscript:x',
            'blob:x',
            'file:///x',
            'JAVASCRIPT:x',
          ),
        ),
        (text) => {
          const address = decodeHTML(wholeAddress(text, null, none));
          let protocol = 'https:';
          try {
            ({ protocol } = new URL(address, base));
          } catch {
            return;
          }
          expect(['https:', 'http:', 'mailto:', 'tel:', 'sms:', 'about:']).toContain(protocol);
        },
      ),
      { numRuns: 1000 },
    );
  });
  it('what is loaded stays on the site, whatever the value', () => {
    const loads = { hosts: new Set<string>(['player.example']) };
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.webUrl(),
          fc.constantFrom(
            '//evil.example',
            '/\\evil.example',
            '\\\\evil.example',
            '/\t/evil.example',
            'https:evil.example',
          ),
        ),
        (text) => {
          const address = decodeHTML(wholeAddress(text, loads, none));
          let url: URL;
          try {
            url = new URL(address, base);
          } catch {
            return;
          }
          expect(['shop.example', 'player.example', '']).toContain(url.host);
        },
      ),
      { numRuns: 1000 },
    );
  });
});

describe('rounding half away from zero', () => {
  const table: [value: number, digits: number, expected: number][] = [
    [2.5, 0, 3],
    [-2.5, 0, -3],
    [1.005, 2, 1.01],
    [2.55, 1, 2.6],
    [0.285, 2, 0.29],
    [1.45, 1, 1.5],
    [-0.5, 0, -1],
    [0.4, 0, 0],
    [123.456, 5, 123.456],
    [9.995, 2, 10],
    [1e21, 2, 1e21],
  ];
  for (const [value, digits, expected] of table)
    it(`${value} at ${digits}`, () => expect(roundDigits(value, digits)).toBe(expected));
  it('of minor units, where floating point’s noise below a half is a half', () => {
    expect([12.5, 17.5, -12.5, 1.005 * 100, 100.49].map(roundAway)).toEqual([13, 18, -13, 101, 100]);
  });
});

describe('what is empty', () => {
  const table: [name: string, value: Value, empty: boolean][] = [
    ['none', null, true],
    ['false', false, true],
    ['zero', 0, false],
    ['a space', ' ', true],
    ['a non-breaking space', '\u00a0', true],
    ['text', 'a', false],
    ['an empty list', [], true],
    ['a list of none', [null], false],
    ['markup without text', new Html('<p><br></p>'), true],
    ['a comment', new Html('<!-- a -->'), true],
    ['a picture', new Html('<img src="a">'), false],
    ['money', new Money(0, 'GBP'), false],
  ];
  for (const [name, value, empty] of table) it(name, () => expect(isEmpty(value)).toBe(empty));
});

describe('locales, against Intl’s CLDR', () => {
  it('minor units of currencies (ISO 4217 as from memory: JPY 0, GBP 2, KWD 3, CLF 4)', () => {
    expect(['JPY', 'GBP', 'KWD', 'CLF', 'no'].map(minorDigits)).toEqual([0, 2, 3, 4, 2]);
  });
  it('money of many currencies', () => {
    for (const currency of ['GBP', 'EUR', 'JPY', 'KWD', 'CHF'])
      for (const locale of ['en-GB', 'fr', 'de-DE', 'pl-PL']) {
        const expected = new Intl.NumberFormat(locale, { style: 'currency', currency }).format(
          123456 / 10 ** minorDigits(currency),
        );
        expect(new LocaleFormat(locale).money(new Money(123456, currency))).toBe(expected);
      }
  });
  it('an unknown locale falls back', () => expect(new LocaleFormat('no such').locale).toBe('en-GB'));
});

describe('order', () => {
  it('of texts is by code point, beyond UTF-16’s surrogates too', () => expect(order('\uffee', '😀')).toBeLessThan(0));
  it('of unlike kinds is none', () =>
    expect([order(1, '1'), order(new Money(1, 'GBP'), new Money(1, 'EUR')), order(null, null)]).toEqual([
      null,
      null,
      null,
    ]));
  it('of days', () => expect(order(Day.read('2026-01-31') as Value, Day.read('2026-02-01') as Value)).toBeLessThan(0));
});

describe('days', () => {
  const table: [text: string, iso: string | null][] = [
    ['2026-02-28', '2026-02-28'],
    ['2026-02-30', null],
    ['2024-02-29', '2024-02-29'],
    ['soon', null],
    ['2026-2-1', null],
  ];
  for (const [text, iso] of table) it(text, () => expect(Day.read(text)?.iso ?? null).toBe(iso));
});

describe('plain text of markup', () => {
  const table: [markup: string, text: string][] = [
    ['<p>a</p><p>b</p>', 'a b'],
    ['a<b>c</b>d', 'acd'],
    ['<b title="a > b">c</b>', 'c'],
    ['a &lt;b&gt; &copy;', 'a <b> ©'],
    ['<script>x</script>y', 'y'],
    ['1 < 2', '1 < 2'],
    ['a<br>b', 'a b'],
  ];
  for (const [markup, text] of table) it(markup, () => expect(plainText(markup)).toBe(text));
});

describe('decimal arithmetic to 15 significant digits, against decimal.js', () => {
  const decimals = fc.integer({ min: -1_000_000, max: 1_000_000 }).map((n) => n / 1000);
  for (const [sign, ours, theirs] of [
    ['+', (a: number, b: number) => add(a, b, printer), (a: Decimal, b: Decimal) => a.plus(b)],
    ['-', subtract, (a: Decimal, b: Decimal) => a.minus(b)],
    ['*', multiply, (a: Decimal, b: Decimal) => a.times(b)],
    ['/', divide, (a: Decimal, b: Decimal) => a.div(b)],
    ['%', remainder, (a: Decimal, b: Decimal) => a.mod(b)],
  ] as const)
    it(sign, () => {
      fc.assert(
        fc.property(decimals, decimals, (a, b) => {
          if ((sign === '/' || sign === '%') && b === 0) return;
          const exact = theirs(new Decimal(String(a)), new Decimal(String(b))).toSignificantDigits(15);
          // A quotient half-way between two of 15 digits is one or the other, as doubles have it.
          const found = ours(a, b) as number;
          if (sign === '/') expect(Math.abs(found - exact.toNumber())).toBeLessThanOrEqual(Math.abs(found) * 1e-14);
          else expect(found).toBe(exact.toNumber() || 0);
        }),
        { numRuns: 1000 },
      );
    });
});

describe('the parts of a Day, against Date in UTC', () => {
  it('of any day', () => {
    fc.assert(
      fc.property(fc.integer({ min: -200_000, max: 200_000 }), (number) => {
        const date = new Date(number * 86_400_000);
        const { year, month, day, weekday } = new Day(number).parts;
        expect([year, month, day, (weekday as number) % 7]).toEqual([
          date.getUTCFullYear(),
          date.getUTCMonth() + 1,
          date.getUTCDate(),
          date.getUTCDay(),
        ]);
      }),
    );
  });
});
