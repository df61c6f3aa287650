import { Bits } from '@/core/catalogue/listings/bits';
import type { FieldDefinition, FieldSubject } from '../../catalogue/rows';
import type { Alternates, Rule } from '../alternates';
import type { Condition, Leaf } from '../condition';
import { factSpecs, factKey, type Facts, type FactValue } from '@/core/catalogue/facts';
import { FactTable, type Column } from '../table';

/** For tests only: a subject as it is written down, its facts by their keys (`tag`, `field load`). */
export interface Row {
  slug: string;
  [fact: string]: FactValue | undefined;
}

/** The usual settings of a custom field: no help, no choices, one value. */
export const plainField = { help: '', choices: [], several: false };

/** Custom fields of products that the rows may have, one of each type that rules ask in another way. */
export const fields: FieldDefinition[] = [
  { key: 'load', name: 'Breaking load', type: 'number', unit: 'kN', ...plainField },
  { key: 'spliced', name: 'Spliced', type: 'flag', unit: '', ...plainField },
];
export const definitions = (kind: FieldSubject): FieldDefinition[] => (kind === 'product' ? fields : []);

export const factsOf =
  (row: Row): Facts =>
  (asked) =>
    row[factKey(asked)] ?? null;

/** Rows as a table of columns, each of the kind that its fact is stored in. */
export function tableOf(rows: readonly Row[]): FactTable {
  return new FactTable(
    rows.map(({ slug }) => slug),
    (asked): Column | null => {
      const key = factKey(asked);
      const spec = factSpecs.product.find(({ fact }) => fact === asked.fact);
      const type = spec?.type ?? { load: 'number', spliced: 'flag' }[asked.name ?? ''] ?? null;
      const values = rows.map((row) => row[key] ?? null);
      if (type === null) return null;
      if (type === 'number' || type === 'money')
        return { type: 'numbers', values: Float64Array.from(values, (one) => (typeof one === 'number' ? one : NaN)) };
      if (type === 'flag') {
        const set = new Bits(rows.length);
        for (const [at, one] of values.entries()) if (one === true) set.add(at);
        return { type: 'flags', set };
      }
      if (type === 'set') {
        const pairs = values.flatMap((one, at) => ((one ?? []) as string[]).map((text) => [at, text] as const));
        const texts = [...new Set(pairs.map(([, text]) => text))];
        return {
          type: 'sets',
          places: Int32Array.from(pairs, ([at]) => at),
          codes: Int32Array.from(pairs, ([, text]) => texts.indexOf(text)),
          values: texts.map((text) => [text]),
        };
      }
      const texts = [...new Set(values.filter((one) => typeof one === 'string'))];
      return {
        type: 'texts',
        codes: Int32Array.from(values, (one) => (typeof one === 'string' ? texts.indexOf(one) : -1)),
        values: texts,
      };
    },
  );
}

export const is = (fact: string, ...value: string[]): Leaf => ({ fact, test: 'is', value });

export const rule = (id: string, alternate: string, when: Condition, more: Partial<Rule> = {}): Rule => ({
  id,
  kind: 'product',
  alternate,
  when,
  from: null,
  to: null,
  note: '',
  ...more,
});

export const entry = (
  name: string,
  more: Partial<Alternates['alternates'][number]> = {},
): Alternates['alternates'][number] => ({ kind: 'product', name, label: name, note: '', types: [], ...more });
