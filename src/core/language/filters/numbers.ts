import { roundDigits } from '../values/arithmetic';
import { Day, isRecord, Money, type Value } from '../values/values';
import type { Filter } from './filter';

const digits = (value: Value): number | null => (typeof value === 'number' ? value : null);

export const numberFilters: Record<string, Filter> = {
  round: {
    signature: 'round, round(d)',
    says: 'half away from zero at d decimals, on the digits as written',
    run: (_, value, d) => (typeof value === 'number' ? roundDigits(value, digits(d) ?? 0) : null),
  },
  number: {
    signature: 'number, number(d)',
    says: 'grouped as the locale writes numbers, with d decimals',
    run: ({ format }, value, d) => (typeof value === 'number' ? format.number(value, digits(d)) : null),
  },
  percent: {
    signature: 'percent, percent(d)',
    says: 'a share of 1 as percent',
    run: ({ format }, value, d) => (typeof value === 'number' ? format.percent(value, digits(d) ?? 0) : null),
  },
  money: {
    signature: "money('plain'|'short'|'code')",
    says: 'Money in another style: digits only, without empty decimals, with the currency’s letters',
    run: ({ format }, value, style) =>
      value instanceof Money ? format.moneyIn(value, typeof style === 'string' ? style : '') : null,
  },
  date: {
    signature: "date('short'|'medium'|'long'|'full')",
    says: 'a Day in words',
    run: ({ format }, value, style) =>
      value instanceof Day ? format.date(value, typeof style === 'string' ? style : 'medium') : null,
  },
  sized: {
    signature: 'sized(width, height, crop)',
    says: 'the address of a picture in that size; drawings (SVG) keep theirs',
    run: ({ services }, value, width, height, crop) => {
      if (!isRecord(value) || typeof value.url !== 'string') return null;
      if (/\.svg(?:\?|$)/.test(value.url)) return value.url;
      const query = Object.entries({ w: width, h: height, crop }).flatMap(([name, part]) =>
        typeof part === 'number' || typeof part === 'string' ? [`${name}=${encodeURIComponent(String(part))}`] : [],
      );
      if (!query.length) return value.url;
      const address = `${value.url}${value.url.includes('?') ? '&' : '?'}${query.join('&')}`;
      return services.sized?.(address) ?? address;
    },
  },
};
