import { describe, expect, it } from 'vitest';
import currencyCodes from 'currency-codes';
import { decimalMarkOf, readDay, readFlag, readList, readNumber, readPrice, type DecimalMark } from './values';

describe('numbers as people write them', () => {
  const table: [text: string, mark: DecimalMark, number: number | null][] = [
    ['12', '.', 12],
    ['12.5', '.', 12.5],
    ['12,5', ',', 12.5],
    ['1,234.5', '.', 1234.5],
    ['1.234,5', ',', 1234.5],
    ['1 234,5', ',', 1234.5],
    ['1\u202f234,5', ',', 1234.5],
    ['1’234.50', '.', 1234.5],
    ['-3', '.', -3],
    ['+3', '.', 3],
    ['12,5', '.', null],
    ['1,23,456', '.', null],
    ['1.2.3', '.', null],
    ['1e9', '.', null],
    ['twelve', '.', null],
    ['', '.', null],
    ['12.', '.', null],
    ['0x10', '.', null],
  ];
  it.each(table)('%s with %s', (text, mark, number) => expect(readNumber(text, mark)).toBe(number));
});

describe('the decimal mark of a column', () => {
  const table: [values: string[], usual: DecimalMark, mark: DecimalMark][] = [
    [['12,50', '8'], '.', ','],
    [['12.50', '8'], ',', '.'],
    [['1.234', '2.500'], ',', ','],
    [['1.234', '2.500'], '.', '.'],
    [['1.234', '12,5'], '.', ','],
    [['1.234.567'], '.', ','],
    [['1,234.50'], ',', '.'],
    [['€ 12,50', '12,50 €'], '.', ','],
    [[], ',', ','],
  ];
  it.each(table)('%j, usually %s', (values, usual, mark) => expect(decimalMarkOf(values, usual)).toBe(mark));
});

describe('prices', () => {
  const good: [text: string, currency: string, mark: DecimalMark, minor: number][] = [
    ['12,50', 'EUR', ',', 1250],
    ['€ 12,50', 'EUR', ',', 1250],
    ['12.50 EUR', 'EUR', '.', 1250],
    ['£1,234.5', 'GBP', '.', 123_450],
    ['1.200', 'JPY', ',', 1200],
    ['1200', 'JPY', '.', 1200],
    ['¥1200', 'JPY', '.', 1200],
    ['1.234', 'KWD', '.', 1234],
    ['12,-', 'EUR', ',', 1200],
    ['0', 'EUR', '.', 0],
    ['0.285', 'KWD', '.', 285],
    ['12.500', 'EUR', '.', 1250],
    ['100000000', 'EUR', '.', 10_000_000_000],
  ];
  it.each(good)('%s in %s with %s', (text, currency, mark, minor) =>
    expect(readPrice(text, currency, mark)).toEqual({ minor }),
  );
  const bad: [text: string, currency: string, mark: DecimalMark, wrong: string][] = [
    ['-1', 'EUR', '.', '“-1” is below nothing: a price is 0 or more'],
    ['1e9', 'EUR', '.', '“1e9” is not a price'],
    ['1000000000', 'EUR', '.', '“1000000000” is too high for a price: at most 100,000,000'],
    ['abc', 'EUR', '.', '“abc” is not a price'],
    ['12,50', 'EUR', '.', '“12,50” has its decimals after “,”; the file’s prices have them after “.”'],
    ['12.505', 'EUR', '.', '“12.505” has 3 decimals; EUR has 2'],
    ['12.5', 'JPY', '.', '“12.5” has 1 decimals; JPY has none'],
    ['12 USD', 'EUR', '.', '“12 USD” is in USD; the shop’s currency is EUR'],
  ];
  it.each(bad)('%s in %s with %s', (text, currency, mark, wrong) =>
    expect(readPrice(text, currency, mark)).toEqual({ wrong }),
  );
  // Source: ISO 4217's minor units, as the package currency-codes lists them; those that CLDR counts otherwise in use are left out.
  it('have as many decimals as ISO 4217 says', () => {
    const otherwise = new Set(
      'AFN ALL COP IQD IRR IDR KPW LAK LBP MGA MMK MRU PKR RSD SLE SOS SYP TRY UYW YER HUF TWD CLF UYI ISK VES'.split(
        ' ',
      ),
    );
    for (const { code, digits } of currencyCodes.data) {
      if (otherwise.has(code) || /^X|^(?:CHE|CHW|COU|MXV|USN|BOV|VED|ZWG|ZWL|SLL|CUC|HRK)$/.test(code)) continue;
      expect([code, readPrice('7', code, '.')]).toEqual([code, { minor: 7 * 10 ** digits }]);
    }
  });
});

describe('yes and no, lists, days', () => {
  it.each([
    ['Yes', true],
    ['ja', true],
    ['OUI', true],
    ['1', true],
    ['x', true],
    ['no', false],
    ['Nein', false],
    ['false', false],
    ['0', false],
    ['perhaps', null],
    ['', null],
  ])('%s', (text, flag) => expect(readFlag(text)).toBe(flag));
  it.each([
    ['a|b, c', ['a', 'b, c']],
    ['a; b', ['a', 'b']],
    ['a, b,,a', ['a', 'b']],
    ['a\nb', ['a', 'b']],
    ['a,b|', ['a,b']],
    ['one', ['one']],
    [' ', []],
  ])('the list %j', (text, list) => expect(readList(text)).toEqual(list));
  it.each([
    ['2026-12-31', '2026-12-31'],
    ['2026-1-5', '2026-01-05'],
    ['2026-12-31T10:00:00Z', '2026-12-31'],
    ['31.12.2026', '2026-12-31'],
    ['5/1/2026', '2026-01-05'],
    ['2026-02-30', null],
    ['31.13.2026', null],
    ['soon', null],
  ])('the day %s', (text, day) => expect(readDay(text)).toBe(day));
});
