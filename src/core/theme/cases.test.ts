import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { judge, runCase, type Case } from './cases';

const read = (file: string) => (JSON.parse(readFileSync(file, 'utf8')) as { cases: Case[] }).cases;

/** The agreed cases. */
const files = [
  'decisions',
  'reported',
  'budgets',
  'layers',
  'printing',
  'places',
  'directives',
  'expressions',
  'words',
  'composition',
  'lines',
  'nesting',
  'filters',
];

for (const file of files) {
  describe(`cases/${file}.json`, () => {
    for (const one of read(`cases/${file}.json`)) it(one.name, () => expect(judge(one, runCase(one))).toBeNull());
  });
}

describe('the copy in cases/', () => {
  const agreed = '../shared/cases';
  it.skipIf(!existsSync(agreed))('is the agreed text, where that stands beside the project', () => {
    for (const file of readdirSync(agreed))
      expect(readFileSync(`cases/${file}`, 'utf8')).toBe(readFileSync(`${agreed}/${file}`, 'utf8'));
  });
});

describe('judging a case', () => {
  const one: Case = {
    name: '',
    files: { 'product/default.html': '<p>{n}</p>' },
    page: 'product/default',
    data: { n: 1 },
    expect: { html: '<p>2</p>' },
  };
  it('fails one whose bytes differ', () => expect(judge(one, runCase(one))).toContain('<p>1</p>'));
  it('fails one whose error does not come', () => {
    expect(judge({ ...one, expect: { error: 'tag' } }, runCase(one))).toContain('none');
  });
});
