import { decodeHTML } from 'entities';
import fc from 'fast-check';
import lodash from 'lodash';
import { describe, expect, it } from 'vitest';
import { record, type Value } from '../index';
import { printed } from '../testing/theme-of';

interface Row {
  n: number;
  s: string;
  f: boolean;
}

/** The value of an expression over `l`, by way of JSON. */
function valueOf(expression: string, l: Row[]): unknown {
  const data: Record<string, Value> = { l: l.map((row) => record({ ...row })) };
  return JSON.parse(decodeHTML(printed(`{${expression} | json}`, data)));
}

const rows = fc.array(
  fc.record({ n: fc.integer({ min: -9, max: 9 }), s: fc.constantFrom('a', 'b', 'c', 'd1', 'd2'), f: fc.boolean() }),
  { maxLength: 12 },
);

describe('list filters, against lodash', () => {
  const table: [expression: string, by: (l: Row[]) => unknown][] = [
    ['l | first', (l) => lodash.head(l) ?? null],
    ['l | first(3)', (l) => lodash.take(l, 3)],
    ['l | final', (l) => lodash.last(l) ?? null],
    ['l | final(3)', (l) => lodash.takeRight(l, 3)],
    ['l | skip(2)', (l) => lodash.drop(l, 2)],
    ['l | reverse', (l) => lodash.reverse([...l])],
    ['l | rows(3)', (l) => lodash.chunk(l, 3)],
    ['l | count', (l) => lodash.size(l)],
    ['l | keep(it.f)', (l) => lodash.filter(l, 'f')],
    ['l | keep(it.n > 0)', (l) => lodash.filter(l, (row) => row.n > 0)],
    ['l | drop(it.f)', (l) => lodash.reject(l, 'f')],
    ['l | pluck(it.s)', (l) => lodash.map(l, 's')],
    ['l | pluck(it.n * 2)', (l) => lodash.map(l, (row) => row.n * 2 || 0)],
    ['l | unique(it.s)', (l) => lodash.uniqBy(l, 's')],
    ['l | pluck(it.n) | unique', (l) => lodash.uniq(l.map((row) => row.n))],
    ['l | sort_by(it.n)', (l) => lodash.sortBy(l, 'n')],
    ["l | sort_by(it.n, 'down')", (l) => lodash.orderBy(l, 'n', 'desc')],
    ['l | sort_by(it.s)', (l) => lodash.sortBy(l, 's')],
    ['l | group_by(it.s)', (l) => Object.entries(lodash.groupBy(l, 's')).map(([key, items]) => ({ key, items }))],
    ['l | sum(it.n)', (l) => lodash.sumBy(l, 'n')],
    ['l | min(it.n)', (l) => lodash.min(l.map((row) => row.n)) ?? null],
    ['l | max(it.n)', (l) => lodash.max(l.map((row) => row.n)) ?? null],
    ["l | pluck(it.s) | join('+')", (l) => lodash.join(lodash.map(l, 's'), '+')],
    ['l | first | entries', (l) => (l[0] ? lodash.toPairs(l[0]).map(([key, value]) => ({ key, value })) : [])],
  ];
  for (const [expression, by] of table) {
    it(expression, () => {
      fc.assert(
        fc.property(rows, (l) => {
          expect(valueOf(expression, l)).toEqual(JSON.parse(JSON.stringify(by(l))));
        }),
        { numRuns: 200 },
      );
    });
  }
});
