import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { strict } from '../testing/theme-of';

/** Lines that are right: of each directive, filter, function, operator, place and element of the language, and of HTML itself. */
const lines = readFileSync(fileURLToPath(new URL('../testing/right-lines.txt', import.meta.url)), 'utf8')
  .split('\n')
  .filter(Boolean);

/** What they draw, say and link. */
const around = {
  'pieces/a.html': '<takes name="text" type="text" default="a">{text}',
  'pieces/b.html':
    '<takes name="product" type="Product" required><takes name="big" type="boolean" default="false"><takes name="columns" type="number" default="4"><takes name="tone" type="choice" options="warm, cold" default="warm"><p do:when="big" class="{tone}">{product.name} {columns}</p>',
  'pieces/c.html': '<gap name="head">d</gap><gap></gap>',
  ...Object.fromEntries(
    ['text', 'choice', 'drop-down', 'long-text', 'tick'].map((kind) => [
      `pieces/ask/${kind}.html`,
      '<takes name="question" type="Question"><p>{question.label}</p>',
    ]),
  ),
  'words/en.json':
    '{"hello": "Hello", "items": {"one": "{count} item", "other": "{count} items"}, "for": "For {name}"}',
  'assets/css/a.css': '',
  'assets/icons/cart.svg': '<svg></svg>',
  'look.json': '{"settings": [{"name": "note", "type": "text", "label": "Note", "value": "x"}]}',
};

describe(`${lines.length} right lines meet no problem`, () => {
  it('there are more than 400 of them', () => expect(new Set(lines).size).toBeGreaterThanOrEqual(410));
  it.each(lines)('%s', (line) => {
    const theme = strict({ ...around, 'product/default.html': line });
    expect(theme.check('product/default').map(({ code, message }) => `${code}: ${message}`)).toEqual([]);
  });
});
