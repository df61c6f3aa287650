import { describe, expect, it } from 'vitest';
import { readAlternates, saidWrong, writeAlternates, type Alternates } from './alternates';

const all: Alternates = {
  alternates: [
    { kind: 'product', name: 'load-rated', label: 'Load-rated “heavy” ⚓ عربي', note: '', types: [] },
    { kind: 'product', piece: 'pieces/tile', name: 'book', label: 'Book', note: 'no price', types: ['book'] },
  ],
  pins: [{ kind: 'product', slug: 'shackle', alternate: 'load-rated' }],
  rules: [
    {
      id: 'heavy',
      kind: 'product',
      alternate: 'load-rated',
      when: {
        all: [
          { fact: 'tag', test: 'is', value: ['load-rated'] },
          { not: [{ fact: 'stock', test: 'at-most', value: 0 }] },
        ],
      },
      from: '2026-12-01',
      to: null,
      note: '',
    },
  ],
};

describe('alternates.json', () => {
  it('comes back as it was written', () => {
    const { alternates, wrong } = readAlternates(writeAlternates(all));
    expect({ alternates, wrong }).toEqual({ alternates: all, wrong: [] });
  });
  it('is empty where there is none', () => expect(readAlternates(null).alternates.pins).toEqual([]));

  const rule = (more: string) => `{"rules": [\n{"kind": "product", "alternate": "a", ${more}}\n]}`;
  const table: [name: string, text: string, wrong: string, kept: number][] = [
    ['no JSON', '{', '1 alternates.json is not valid JSON: a closing brace } is missing at its end', 0],
    ['a comment', '{\n// mine\n}', '2 alternates.json is not valid JSON: JSON has no comments', 0],
    ['a list alone', '[]', '1 alternates.json holds no object', 0],
    ['pins that are not a list', '{"pins": 3}', '1 pins is not a list', 0],
    ['a list that nobody knows', '{\n"pinned": []}', '2 pinned has no meaning here', 0],
    [
      'a pin without a kind',
      '{"pins": [{"kind": "product", "slug": "a", "alternate": "b"},\n{"kind": "boat"}]}',
      '2 pins[1].kind ',
      1,
    ],
    [
      'a rule with a test that there is not',
      rule('"when": {"fact": "tag",\n"test": "like", "value": ["x"]}'),
      '3 rules[0].when.test:',
      0,
    ],
    [
      'a mistake deep in groups',
      rule('"when": {"all": [\n{"any": [{"fact": "price", "test": "at-least",\n"value": "ten"}]}]}'),
      '4 rules[0].when.all[0].any[0].value:',
      0,
    ],
    [
      'a rule that ends before it begins',
      rule('"when": {"all": []}, "from": "2026-12-02",\n"to": "2026-12-01"'),
      '3 rules[0].to is before',
      0,
    ],
    ['a day that there is not', rule('"when": {"all": []},\n"from": "2026-02-30"'), '3 rules[0].from must be a day', 0],
    [
      'one registered twice',
      '{"alternates": [{"kind": "product", "name": "a", "label": "A"},\n{"kind": "product", "name": "a", "label": "B"}]}',
      '2 alternates[1].name: “product/a” is registered twice',
      1,
    ],
    [
      'default as an alternate',
      '{"alternates": [{"kind": "product", "name": "default", "label": "A"}]}',
      '1 alternates[0].name: “default”',
      0,
    ],
  ];
  for (const [name, text, wrong, kept] of table) {
    it(`says what is wrong by path and line, and the rest serves: ${name}`, () => {
      const read = readAlternates(text);
      const [first] = read.wrong;
      expect(
        `${first?.line} ${first && saidWrong(first)}`.startsWith(wrong),
        `${first?.line} ${first && saidWrong(first)}`,
      ).toBe(true);
      const { alternates, pins, rules } = read.alternates;
      expect(alternates.length + pins.length + rules.length).toBe(kept);
    });
  }
  it('keeps what it cannot read when it is written again', () => {
    const read = readAlternates('{"pins": [{"kind": "boat"}], "rules": [{"odd": true}]}');
    const again = JSON.parse(writeAlternates(read.alternates, read.left)) as Record<string, unknown>;
    expect(again).toEqual({ alternates: [], pins: [{ kind: 'boat' }], rules: [{ odd: true }] });
  });
  it('names rules that have no name of their own', () => {
    const one = '{"kind": "product", "alternate": "a", "when": {"all": []}}';
    const read = readAlternates(`{"rules": [${one}, ${one}]}`);
    expect(read.alternates.rules.map(({ id }) => id)).toEqual(['a', 'a-2']);
  });
});
