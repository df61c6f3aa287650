import { describe, expect, it } from 'vitest';
import { chooseTemplate, readAlternates, writeAlternates, type Alternates } from './alternates';

const alternates: Alternates = {
  alternates: [{ kind: 'product', name: 'load-rated', label: 'Load-rated', note: '', types: [] }],
  pins: [
    { kind: 'product', slug: 'shackle', alternate: 'load-rated' },
    { kind: 'product', slug: 'lamp', alternate: 'gone' },
  ],
};
const exists = (name: string) =>
  ['product/default', 'product/load-rated', 'product/other', 'category/default'].includes(name);

describe('which template serves', () => {
  const table: [name: string, kind: string, slug: string, tried: string | null, expected: string][] = [
    ['nothing assigned', 'product', 'rope', null, 'product/default default'],
    ['a pin', 'product', 'shackle', null, 'product/load-rated pin'],
    ['a pin of another kind', 'category', 'shackle', null, 'category/default default'],
    ['a pin whose file is gone', 'product', 'lamp', null, 'product/default default'],
    ['one that is tried goes before a pin', 'product', 'shackle', 'other', 'product/other tried'],
    ['one that is tried and not there', 'product', 'shackle', 'nothing', 'product/load-rated pin'],
  ];
  for (const [name, kind, slug, tried, expected] of table) {
    it(name, () => {
      const { template, because } = chooseTemplate(alternates, { kind, slug }, exists, tried);
      expect(`${template} ${because}`).toBe(expected);
    });
  }
  it('says which file is missing', () => {
    expect(chooseTemplate(alternates, { kind: 'product', slug: 'lamp' }, exists).broken).toBe('product/gone');
  });
});

describe('alternates.json', () => {
  it('comes back as it was written', () =>
    expect(readAlternates(writeAlternates(alternates))).toEqual({ alternates, wrong: [] }));
  it('is empty where there is none', () => expect(readAlternates(null).alternates.pins).toEqual([]));
  const table: [text: string, wrong: RegExp, kept: number][] = [
    ['{', /is no JSON/, 0],
    ['{"pins": 3}', /“pins” is no list/, 0],
    ['{"pins": [{"kind": "product", "slug": "a", "alternate": "b"}, {"kind": "boat"}]}', /^pins\[1\]\.kind/, 1],
  ];
  for (const [text, wrong, kept] of table) {
    it(`says what is wrong, and the rest serves: ${text.slice(0, 24)}`, () => {
      const read = readAlternates(text);
      expect(read.wrong[0]).toMatch(wrong);
      expect(read.alternates.pins).toHaveLength(kept);
    });
  }
});
