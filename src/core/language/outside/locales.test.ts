import currencies from 'currency-codes/data';
import { decodeHTML } from 'entities';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Day, Money } from '../index';
import { minorDigits } from '../values/currencies';
import { printed } from '../testing/theme-of';

const locales = ['en-GB', 'fr-FR', 'de-DE', 'pl-PL', 'ar-EG', 'ja-JP', 'hi-IN', 'cy-GB'];
const shown = (text: string, v: never | number | Money | Day, locale: string) =>
  decodeHTML(printed(text, { v }, { locale }));

describe('minor units of currencies, against the ISO 4217 table of the package currency-codes', () => {
  // Funds, metals and testing codes have no minor unit, and Intl gives its default; those are not shop's currency. Intl (CLDR)
  // differs from ISO 4217 where coins went out of use: its figures are what customers see, and are listed here.
  const differing = new Set(
    currencies.filter(({ code, digits }) => !/^X/.test(code) && minorDigits(code) !== digits).map(({ code }) => code),
  );
  it('agree but for those where CLDR follows what is in use', () => {
    expect(differing.size).toBeLessThan(40);
    for (const code of ['GBP', 'EUR', 'USD', 'CHF', 'JPY', 'KWD', 'BHD', 'TND', 'SEK', 'PLN', 'CLP', 'KRW', 'VND'])
      expect([code, differing.has(code)]).toEqual([code, false]);
  });
  it('a price of whole minor units is the decimal number that the table says', () => {
    for (const { code, digits } of currencies) {
      if (differing.has(code) || /^X/.test(code)) continue;
      const expected = digits ? `${'123456'.slice(0, -digits)}.${'123456'.slice(-digits)}` : '123456';
      expect([code, shown("{v | money('plain')}", new Money(123456, code), 'en-GB')]).toEqual([code, expected]);
    }
  });
});

describe('numbers, money and days, against Intl’s CLDR', () => {
  for (const locale of locales) {
    it(locale, () => {
      fc.assert(
        fc.property(
          fc.integer({ min: -1_000_000, max: 100_000_000 }),
          fc.integer({ min: -20_000, max: 40_000 }),
          (n, days) => {
            const money = new Intl.NumberFormat(locale, { style: 'currency', currency: 'EUR' });
            expect(shown('{v}', new Money(n, 'EUR'), locale)).toBe(money.format(n / 100));
            expect(shown('{v | number}', n, locale)).toBe(new Intl.NumberFormat(locale).format(n));
            expect(shown('{v | number(2)}', n / 100, locale)).toBe(
              new Intl.NumberFormat(locale, { minimumFractionDigits: 2, maximumFractionDigits: 2 }).format(n / 100),
            );
            for (const dateStyle of ['short', 'medium', 'long', 'full'] as const) {
              const format = new Intl.DateTimeFormat(locale, { dateStyle, timeZone: 'UTC' });
              expect(shown(`{v | date('${dateStyle}')}`, new Day(days), locale)).toBe(format.format(days * 86_400_000));
            }
          },
        ),
        { numRuns: 40 },
      );
    });
  }
});

describe('plurals, against Intl’s CLDR', () => {
  for (const locale of locales) {
    it(locale, () => {
      const rules = new Intl.PluralRules(locale);
      const forms = Object.fromEntries(['zero', 'one', 'two', 'few', 'many', 'other'].map((form) => [form, form]));
      for (let n = 0; n < 125; n++) {
        const text = printed("{t('k', count: n)}", { n }, { locale, services: { phrase: () => forms } });
        expect([n, text]).toEqual([n, rules.select(n)]);
      }
    });
  }
});
