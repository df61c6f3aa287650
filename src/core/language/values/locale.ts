import { roundDigits } from './arithmetic';
import { minorDigits } from './currencies';
import { Day, Money } from './values';

/**
 * How values are put into the words of a locale. Everything comes from Intl (CLDR); formatters are made once, since making
 * one costs more than a thousand uses.
 */
export class LocaleFormat {
  readonly #numbers = new Map<string, Intl.NumberFormat>();
  readonly #dates = new Map<string, Intl.DateTimeFormat>();
  readonly #money = new Map<string, string>();
  #plurals: Intl.PluralRules | null = null;
  #collator: Intl.Collator | null = null;
  readonly locale: string;

  constructor(locale: string) {
    this.locale = supportedLocale(locale);
  }

  /** Money with its currency's own number of decimals (ISO 4217, by Intl): `£12.50`. */
  money(value: Money): string {
    const key = `${value.amount} ${value.currency}`;
    let text = this.#money.get(key);
    if (text === undefined) {
      text = this.#currency(value, {});
      if (this.#money.size > 5000) this.#money.clear();
      this.#money.set(key, text);
    }
    return text;
  }

  /** `plain`: digits only; `short`: without decimals when they are all zero; `code`: with the currency's letters. */
  moneyIn(value: Money, style: string): string {
    if (style === 'plain')
      return (value.amount / 10 ** minorDigits(value.currency)).toFixed(minorDigits(value.currency));
    if (style === 'short' && value.amount % 10 ** minorDigits(value.currency) === 0) {
      return this.#currency(value, { minimumFractionDigits: 0, maximumFractionDigits: 0 });
    }
    if (style === 'code') return this.#currency(value, { currencyDisplay: 'code' });
    return this.money(value);
  }

  #currency(value: Money, options: Intl.NumberFormatOptions): string {
    const decimals = 10 ** minorDigits(value.currency);
    return this.#number({ style: 'currency', currency: value.currency, ...options }).format(value.amount / decimals);
  }

  number(value: number, digits: number | null): string {
    if (digits === null) return this.#number({ maximumFractionDigits: 15 }).format(value);
    const places = Math.min(15, Math.max(0, Math.trunc(digits)));
    return this.#number({ minimumFractionDigits: places, maximumFractionDigits: places }).format(
      roundDigits(value, places),
    );
  }

  percent(value: number, digits: number): string {
    const places = Math.min(15, Math.max(0, Math.trunc(digits)));
    const format = this.#number({ style: 'percent', minimumFractionDigits: places, maximumFractionDigits: places });
    return format.format(roundDigits(value, places + 2));
  }

  date(value: Day, style: string): string {
    const dateStyle = style === 'short' || style === 'long' || style === 'full' ? style : 'medium';
    let format = this.#dates.get(dateStyle);
    if (!format)
      this.#dates.set(dateStyle, (format = new Intl.DateTimeFormat(this.locale, { dateStyle, timeZone: 'UTC' })));
    return format.format(new Date(value.number * 86_400_000));
  }

  plural(count: number): string {
    return (this.#plurals ??= new Intl.PluralRules(this.locale)).select(count);
  }

  /** The locale's order, with numbers in natural order (`Line 9` before `Line 10`). */
  compare(a: string, b: string): number {
    return (this.#collator ??= new Intl.Collator(this.locale, { numeric: true })).compare(a, b);
  }

  #number(options: Intl.NumberFormatOptions): Intl.NumberFormat {
    const key = JSON.stringify(options);
    let format = this.#numbers.get(key);
    if (!format) this.#numbers.set(key, (format = new Intl.NumberFormat(this.locale, options)));
    return format;
  }
}

function supportedLocale(locale: string): string {
  try {
    return Intl.getCanonicalLocales(locale)[0] ?? 'en-GB';
  } catch {
    return 'en-GB';
  }
}
