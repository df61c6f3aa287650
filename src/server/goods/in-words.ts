import { minorDigits } from '@/core/language';
import { pathInWords, valueChanges, type ValueChange } from '@/core/exchange';
import type { RecordChange } from '@/store';

type Fields = Record<string, unknown>;

/** Longest text of a field that is shown, in characters. */
const maxShown = 300;

const prices = new Set(['price', 'wasPrice']);
/** Lists of what is called by its name alone. */
const named = new Set(['tags', 'categories', 'related', 'members']);

const plain = (value: unknown, currency: string): string => {
  if (value === null || value === undefined || value === '') return '';
  if (Array.isArray(value)) return value.map((one) => plain(one, currency)).join(', ');
  if (typeof value === 'object') {
    const one = value as Fields;
    if ('sku' in one && 'price' in one) return `${money(one.price, currency)}, ${plain(one.stock, currency)} in stock`;
    const name = one.name ?? one.path ?? one.label;
    if (typeof name === 'string') return 'value' in one ? `${name}: ${plain(one.value, currency)}` : name;
    return Object.entries(one)
      .flatMap(([key, inner]) => (plain(inner, currency) ? [`${key}: ${plain(inner, currency)}`] : []))
      .join(', ');
  }
  return String(value);
};

function money(value: unknown, currency: string): string {
  const digits = minorDigits(currency);
  return typeof value === 'number' ? (value / 10 ** digits).toFixed(digits) : '';
}

const short = (text: string): string => (text.length > maxShown ? `${text.slice(0, maxShown)}…` : text);

/** What happens to a record, each value as people read it: variants one by one, prices in the currency's units. */
export function fieldsInWords({ kind, slug, what, before, after }: RecordChange, currency: string) {
  const said = ({ path }: ValueChange, value: unknown) =>
    short(prices.has(path.at(-1) ?? '') ? money(value, currency) : plain(value, currency));
  const fields = Object.keys({ ...before, ...after }).flatMap((field) =>
    [
      ...(named.has(field)
        ? [{ path: [field], before: before[field], after: after[field] }]
        : valueChanges([field], before[field], after[field])),
    ].map((change) => ({
      field: pathInWords(change),
      before: said(change, change.before),
      after: said(change, change.after),
    })),
  );
  return {
    kind,
    slug,
    what,
    fields: fields.filter((one) => (one.field !== 'slug' || what === 'changed') && one.before !== one.after),
  };
}
