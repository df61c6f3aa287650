import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { amendElements, directiveNames, ownElements } from '@/core/language/1-parse/names';
import { filterTable } from '@/core/language/filters/table';
import { functionTable } from '@/core/language/filters/functions';
import { inputTypes } from '@/core/language/2-check/composition';
import { parseTemplate } from '@/core/language';
import { filterSignatures, functionSignatures } from '@/core/language/types/signatures';
import { readShelves } from '@/core/theme/shelves';
import { generatedDocs } from './docs';

const language = readFileSync('docs/language.md', 'utf8');

describe('pages of docs/ that list things', () => {
  for (const [name, text] of Object.entries(generatedDocs()))
    it(`${name} is what the code says (npm run docs writes it)`, () =>
      expect(readFileSync(`docs/${name}`, 'utf8')).toBe(text));
  it('say of each filter and function what it takes', () => {
    expect(Object.keys(filterSignatures).sort()).toEqual([...filterTable.keys()].sort());
    expect(Object.keys(functionSignatures).sort()).toEqual([...functionTable.keys()].sort());
  });
});

describe('docs/language.md', () => {
  it('names every directive, own element, operation of amendments and type of input', () => {
    for (const name of directiveNames) expect(language).toContain(`\`${name}`);
    for (const name of [...ownElements, ...amendElements])
      expect([name, new RegExp(`<${name}[ >]|\`${name}\``).test(language)]).toEqual([name, true]);
    for (const type of inputTypes) expect([type, new RegExp(`\\b${type}\\b`).test(language)]).toEqual([type, true]);
  });
  it('shows only what can be read', () => {
    const blocks = [...language.matchAll(/```html\n([^]*?)```/g)].map(([, text]) => text as string);
    expect(blocks.length).toBeGreaterThan(4);
    for (const text of blocks) expect(parseTemplate('a.html', text).problems.map((one) => one.message)).toEqual([]);
    const shelves = /```json\n([^]*?)```/.exec(language)?.[1] ?? '';
    expect(readShelves(shelves)).toMatchObject({ wrong: [], entries: [{ shelf: 'below-price' }] });
  });
});

describe('links between the pages', () => {
  const pages = [
    'README.md',
    ...readdirSync('docs')
      .filter((name) => name.endsWith('.md'))
      .map((name) => `docs/${name}`),
  ];
  for (const page of pages)
    it(page, () => {
      for (const [, target = ''] of readFileSync(page, 'utf8').matchAll(/\]\((?!https?:|#)([^)#]+)/g))
        expect([target, existsSync(join(dirname(page), target))]).toEqual([target, true]);
    });
});
