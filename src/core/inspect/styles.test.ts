import { describe, expect, it } from 'vitest';
import { readRules, selectorsFor, shapingOf, weightOf, withRule, withValue, type Sheet } from './styles';

const base: Sheet = {
  path: 'assets/css/shop.css',
  layer: 'Quay',
  own: false,
  text: `.stock { margin: 0 0 14px; color: #2d6140; }
.buy .stock { color: var(--accent) }
@media (max-width: 640px) {
  .stock { color: red !important; }
}
`,
};
const own: Sheet = { path: 'assets/css/own.css', layer: 'Withy Quay', own: false, text: '/* Yours. */\n' };
const sheets = [base, own];

describe('the rules of a sheet', () => {
  it('are read with their lines, conditions and the places of their values', () => {
    const rules = readRules(sheets);
    expect(
      rules.map(({ selectors, line, conditions }) => [selectors[0], line, conditions.map(({ text }) => text)]),
    ).toEqual([
      ['.stock', 1, []],
      ['.buy .stock', 2, []],
      ['.stock', 4, ['(max-width: 640px)']],
    ]);
    const values = rules.flatMap(({ declarations }) =>
      declarations.map(({ valueFrom, valueTo, important }) => [base.text.slice(valueFrom, valueTo), important]),
    );
    expect(values).toEqual([
      ['0 0 14px', false],
      ['#2d6140', false],
      ['var(--accent)', false],
      ['red', true],
    ]);
  });

  it('of a sheet that cannot be read are none, and the others stand', () => {
    expect(readRules([{ ...own, text: '.a { color: red' }, base])).toHaveLength(3);
  });
});

// https://www.w3.org/TR/selectors-4/#specificity-rules, the examples of section 17.
const weights: [string, [number, number, number]][] = [
  ['*', [0, 0, 0]],
  ['LI', [0, 0, 1]],
  ['UL LI', [0, 0, 2]],
  ['UL OL+LI', [0, 0, 3]],
  ['H1 + *[REL=up]', [0, 1, 1]],
  ['UL OL LI.red', [0, 1, 3]],
  ['LI.red.level', [0, 2, 1]],
  ['#x34y', [1, 0, 0]],
  ['#s12:not(FOO)', [1, 0, 1]],
  ['.foo :is(.bar, #baz)', [1, 1, 0]],
];

describe('weight', () => {
  for (const [selector, weight] of weights)
    it(`of ${selector} is ${weight.join()}`, () => expect(weightOf(selector)).toEqual(weight));

  it('orders what shapes an element, importance first', () => {
    const rules = readRules(sheets);
    const all = [0, 1, 2].map((rule) => ({ rule, selectors: [0], up: 0, holds: true }));
    const winners = (matched: typeof all) =>
      shapingOf(rules, matched).flatMap(({ rule, declarations }) =>
        declarations.filter(({ wins }) => wins).map(({ property }) => `${rule.line} ${property}`),
      );
    expect(winners(all)).toEqual(['4 color', '1 margin']);
    expect(winners([all[0], all[1], { rule: 2, selectors: [0], up: 0, holds: false }] as typeof all)).toEqual([
      '2 color',
      '1 margin',
    ]);
  });

  it('of what is taken from around is less than of any of its own', () => {
    const rules = readRules(sheets);
    const shaping = shapingOf(rules, [
      { rule: 1, selectors: [0], up: 2, holds: true },
      { rule: 0, selectors: [0], up: 0, holds: true },
    ]);
    expect(shaping.map(({ up, declarations }) => [up, declarations.map(({ wins }) => wins)])).toEqual([
      [0, [true, true]],
      [2, [false]],
    ]);
  });
});

describe('another value', () => {
  const rules = readRules(sheets);
  const [stock, , narrow] = rules;

  it('goes into the shop’s own sheet, under the same selector', () => {
    const made = stock && withValue(sheets, rules, stock, 'color', 'var(--accent)');
    expect(made).toMatchObject({ path: own.path, text: '/* Yours. */\n\n.stock {\n  color: var(--accent);\n}\n' });
  });

  it('keeps conditions and importance', () => {
    const made = narrow && withValue(sheets, rules, narrow, 'color', 'blue');
    expect(made?.text).toBe(
      '/* Yours. */\n\n@media (max-width: 640px) {\n  .stock {\n    color: blue !important;\n  }\n}\n',
    );
    const again = readRules([base, { ...own, text: made?.text ?? '' }]);
    expect(again[3]?.declarations[0]).toMatchObject({ value: 'blue', important: true });
  });

  it('changes what is the shop’s in its place, and adds to a rule that is there', () => {
    const mine: Sheet = { ...own, own: true, text: '.stock { color: red }\n' };
    const read = readRules([base, mine]);
    const [, , , rule] = read;
    expect(rule && withValue([base, mine], read, rule, 'color', 'blue')?.text).toBe('.stock { color: blue }\n');
    expect(withRule([base, mine], read, '.stock', [], 'margin', '0')?.text).toBe(
      '.stock { color: red;\n  margin: 0;\n}\n',
    );
    expect(stock && withValue([base, mine], read, stock, 'color', 'green')?.text).toBe('.stock { color: green }\n');
  });

  it('is not given where the page links no sheet of the shop’s', () => {
    expect(stock && withValue([base], rules, stock, 'color', 'red')).toBeNull();
  });
});

describe('a rule for an element', () => {
  it('begins with its classes, or its name', () => {
    expect(selectorsFor('p', ['stock', 'is-low'], ['buy'])).toEqual([
      '.stock',
      '.is-low',
      '.stock.is-low',
      '.buy .stock',
    ]);
    expect(selectorsFor('p', [], [])).toEqual(['p']);
  });
});
