import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sameValue } from './differences';
import { mergeFields, valueChanges } from './merge-record';

type Case = [name: string, before: object, after: object, now: object, comes: object, overlaps?: string[]];

const rope = (sku: string, price: number) => ({ sku, price, stock: 1 });
const cases: Case[] = [
  ['takes what is free', { name: 'A' }, { name: 'B' }, { name: 'A' }, { name: 'B' }],
  ['leaves what it does not change', { name: 'A' }, { name: 'A' }, { name: 'C' }, { name: 'C' }],
  ['says what both changed, and leaves it', { name: 'A' }, { name: 'B' }, { name: 'C' }, { name: 'C' }, ['name']],
  ['does not mind that both changed it to the same', { name: 'A' }, { name: 'B' }, { name: 'B' }, { name: 'B' }],
  [
    'custom fields one by one',
    { fields: { lead: '1', load: '2' } },
    { fields: { lead: '3', load: '2' } },
    { fields: { lead: '1', load: '9', finish: 'matt' } },
    { fields: { lead: '3', load: '9', finish: 'matt' } },
  ],
  [
    'takes a custom field away',
    { fields: { lead: '1' } },
    { fields: {} },
    { fields: { lead: '1', load: '2' } },
    { fields: { load: '2' } },
  ],
  [
    'a custom field that is gone is not brought back by who changes it',
    { fields: { lead: '1' } },
    { fields: { lead: '2' } },
    { fields: {} },
    { fields: {} },
    ['fields lead'],
  ],
  [
    'texts by language',
    { texts: {} },
    { texts: { fr: { name: 'Corde' } } },
    { texts: { de: { name: 'Seil' } } },
    { texts: { de: { name: 'Seil' }, fr: { name: 'Corde' } } },
  ],
  [
    'texts of a language that has none',
    { texts: { fr: {} } },
    { texts: { fr: { name: 'Corde' } } },
    { texts: {} },
    { texts: { fr: { name: 'Corde' } } },
  ],
  [
    'the last text of a language goes, and the language with it',
    { texts: { fr: { name: 'Corde' } } },
    { texts: { fr: {} } },
    { texts: { fr: { name: 'Corde' } } },
    { texts: {} },
  ],
  ['tags one by one', { tags: ['a', 'b'] }, { tags: ['a', 'b', 'c'] }, { tags: ['b', 'd'] }, { tags: ['b', 'c', 'd'] }],
  ['takes a tag away', { tags: ['a', 'b'] }, { tags: ['a'] }, { tags: ['x', 'a', 'b'] }, { tags: ['x', 'a'] }],
  [
    'moves',
    { tags: ['a', 'b', 'c'] },
    { tags: ['c', 'a', 'b'] },
    { tags: ['a', 'b', 'c', 'd'] },
    { tags: ['c', 'd', 'a', 'b'] },
  ],
  [
    'variants by article number, and their figures one by one',
    { variants: [rope('1', 100), rope('2', 200)] },
    { variants: [rope('1', 150), rope('2', 200)] },
    { variants: [{ ...rope('1', 100), stock: 7 }, rope('2', 250), rope('3', 300)] },
    { variants: [{ sku: '1', price: 150, stock: 7 }, rope('2', 250), rope('3', 300)] },
  ],
  [
    'a variant that another changed is not removed',
    { variants: [rope('1', 100), rope('2', 200)] },
    { variants: [rope('2', 200)] },
    { variants: [rope('1', 101), rope('2', 200)] },
    { variants: [rope('1', 101), rope('2', 200)] },
    ['variants 1'],
  ],
  [
    'a list that names one twice is one value',
    { media: [{ path: 'a' }, { path: 'a' }] },
    { media: [{ path: 'b' }] },
    { media: [{ path: 'a' }] },
    { media: [{ path: 'a' }] },
    ['media'],
  ],
];

describe('a change of a record that others changed too', () => {
  it.each(cases)('%s', (_, before, after, now, comes, overlaps = []) => {
    const { fields, overlaps: found } = mergeFields({ ...before }, { ...after }, { ...now });
    expect(fields).toEqual(comes);
    expect(found.map(({ path }) => path.join(' '))).toEqual(overlaps);
  });

  it('replaces what another wrote when it is forced', () => {
    expect(mergeFields({ name: 'A' }, { name: 'B' }, { name: 'C' }, true).fields).toEqual({ name: 'B' });
  });

  const text = fc.constantFrom('', 'a', 'b', 'c');
  const record = fc.record({
    name: text,
    fields: fc.dictionary(fc.constantFrom('x', 'y', 'z'), text),
    tags: fc.uniqueArray(fc.constantFrom('t', 'u', 'v', 'w')),
    variants: fc.uniqueArray(fc.record({ sku: fc.constantFrom('1', '2', '3'), price: fc.nat(2) }), {
      selector: ({ sku }) => sku,
    }),
  });

  it('alone comes to what it says, and back again to what was', () => {
    fc.assert(
      fc.property(record, record, (before, after) => {
        expect(mergeFields(before, after, before)).toEqual({ fields: after, overlaps: [] });
        expect(mergeFields(after, before, after)).toEqual({ fields: before, overlaps: [] });
      }),
    );
  });

  it('takes only what nobody else changed: every value is the one’s, the other’s, or said to overlap', () => {
    fc.assert(
      fc.property(record, record, record, (before, mine, theirs) => {
        const { fields, overlaps } = mergeFields(before, mine, theirs);
        const said = new Set(overlaps.map(({ path }) => path.join(' ')));
        for (const key of ['x', 'y', 'z']) {
          const [was, my, their, is] = [before, mine, theirs, fields as typeof before].map((one) => one.fields[key]);
          const expected = my === was ? their : their === was || their === my ? my : null;
          if (expected === null) expect([said.has(`fields ${key}`), is]).toEqual([true, their]);
          else expect([said.has(`fields ${key}`), is]).toEqual([false, expected]);
        }
        for (const tag of ['t', 'u', 'v', 'w'] as const) {
          const [was, my, their, is] = [before, mine, theirs, fields as typeof before].map((one) =>
            one.tags.includes(tag),
          );
          expect(is).toBe(my === was ? their : my);
        }
      }),
    );
  });

  it('differs where its parts differ', () => {
    fc.assert(
      fc.property(record, record, (before, after) => {
        const changes = [...valueChanges([], before, after)];
        expect(changes.length > 0).toBe(!sameValue(before, after));
        for (const change of changes) expect(sameValue(change.before, change.after)).toBe(false);
      }),
    );
  });
});
