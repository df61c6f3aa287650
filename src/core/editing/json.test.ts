import { describe, expect, it } from 'vitest';
import { Theme } from '@/core/theme';
import { completeJson, hoverJson } from './json';

const theme = new Theme([
  {
    ...{ kind: 'base', name: 'Base', version: '1' },
    files: new Map(
      Object.entries({
        'home/default.html': '<shelf name="home"></shelf>',
        'pieces/notice.html': '<p>x</p>',
        'product/default.html': '<p>x</p>',
      }).map(([path, text]) => [path, { hash: text, text }]),
    ),
  },
]);

/** What is suggested at the bar, and what the text is when the one that is asked for is taken. */
function at(file: string, marked: string, take?: string): { labels: string[]; text: string | null } {
  const offset = marked.indexOf('|');
  const text = marked.replace('|', '');
  const found = completeJson(theme, file, text, offset);
  const one = found?.options.find(({ label }) => label === take);
  return {
    labels: found?.options.map(({ label }) => label) ?? [],
    text: one && found ? text.slice(0, found.from) + one.writes.replace('|', '') + text.slice(offset) : null,
  };
}

describe('what can be written in a file of data', () => {
  it('the keys that are not there yet', () => {
    expect(at('look.json', '{ | }').labels).toEqual(['settings', 'listings']);
    expect(at('look.json', '{ "settings": [], "|" }').labels).toEqual(['listings']);
    expect(at('look.json', '{ "listings": { "tag": { "view": "grid", "|" } } }').labels).toEqual([
      'page_size',
      'columns',
      'sort',
      'split_by',
      'pictures',
      'values',
      'values_of',
    ]);
  });
  it('the values that a key takes', () => {
    expect(at('look.json', '{ "listings": { "tag": { "view": "|" } } }').labels).toEqual(['grid', 'list']);
    expect(at('shelves.json', '{ "placements": [{ "hidden": | }] }').labels).toEqual(['true', 'false']);
    expect(at('alternates.json', '{ "pins": [{ "kind": "|" }] }').labels).toContain('product');
  });
  it('the names that the theme has', () => {
    expect(at('shelves.json', '{ "placements": [{ "piece": "|" }] }').labels).toEqual(['pieces/notice']);
    expect(at('shelves.json', '{ "placements": [{ "shelf": "|" }] }').labels).toEqual(['home']);
    expect(at('shelves.json', '{ "placements": [{ "template": "|" }] }').labels).toContain('product/default');
  });
  const table: [name: string, file: string, marked: string, take: string, text: string][] = [
    ['a key with its quotes and colon', 'look.json', '{ | }', 'settings', '{ "settings":  }'],
    ['a key in quotes that are there', 'look.json', '{ "se|" }', 'settings', '{ "settings" }'],
    ['a key that has a value', 'look.json', '{ "se|": [] }', 'settings', '{ "settings": [] }'],
    [
      'a value in quotes that are there',
      'look.json',
      '{"listings":{"tag":{"view":"g|"}}}',
      'grid',
      '{"listings":{"tag":{"view":"grid"}}}',
    ],
    [
      'a value without quotes',
      'look.json',
      '{"listings":{"tag":{"view":|}}}',
      'grid',
      '{"listings":{"tag":{"view":"grid"}}}',
    ],
  ];
  for (const [name, file, marked, take, text] of table) it(name, () => expect(at(file, marked, take).text).toBe(text));
  it('nothing where nothing is known', () => expect(completeJson(theme, 'words/en.json', '{ "" }', 3)).toBeNull());
});

describe('what is known of a key', () => {
  it.each([
    [
      'look.json',
      '{ "listings": { "tag": { "page_|size": 3 } } }',
      'page_size',
      'Takes a whole number, at least 1, at most 200.',
    ],
    ['look.json', '{ "set|tings": [] }', 'settings', 'Takes a list.'],
    ['about.json', '{ "ki|nd": "base" }', 'kind', 'Takes one of “base”, “add-on”, “shop”.'],
  ])('%s %s', (file, marked, title, says) => {
    expect(hoverJson(file, marked.replace('|', ''), marked.indexOf('|'))).toMatchObject({ title, says });
  });
});
