import { describe, expect, it } from 'vitest';
import type { LayersAnswer, Standing } from '@/contract/layers';
import { filterOf, firstSight, inFolders, splitPath, type Filter } from './firstSight';

const row = (path: string, standing: Standing | null = null) =>
  ({ path, standing, hashes: ['h'], amends: [false] }) as unknown as LayersAnswer['rows'][number];
const table = (...rows: LayersAnswer['rows']) => ({ layers: [], rows }) as unknown as LayersAnswer;
const paths = (rows: LayersAnswer['rows']) => rows.map(({ path }) => path);

describe('files by folder', () => {
  it('begin with those of the whole theme, and keep their order in each folder', () => {
    const rows = [row('pieces/b.html'), row('assets/css/a.css'), row('look.json'), row('pieces/a.html')];
    expect(paths(inFolders(rows))).toEqual(['look.json', 'assets/css/a.css', 'pieces/b.html', 'pieces/a.html']);
  });
  it.each([
    ['look.json', ['', 'look.json']],
    ['pieces/a.html', ['pieces', 'a.html']],
    ['assets/css/a.css', ['assets', 'css/a.css']],
  ])('%s', (path, parts) => expect(splitPath(path)).toEqual(parts));
});

it.each([
  ['own', 'own'],
  ['nonsense', 'all'],
  ['toString', 'all'],
  [null, 'all'],
])('the filter %s of an address lists %s', (name, filter) => expect(filterOf(name)).toBe(filter));

describe('what of a theme is seen first', () => {
  const many = Array.from({ length: 100 }, (_, at) => row(`pieces/p${String(at).padStart(3, '0')}.html`));
  const all = table(...many, row('look.json', 'override'), row('words/en-GB.json', 'drifted'));

  it('is as many rows as fit on a screen, with the counts of all', () => {
    const { table: seen, own, drifted } = firstSight(all, 'all', null);
    expect(seen.rows).toHaveLength(45);
    expect(seen.rows[0]?.path).toBe('look.json');
    expect({ own, drifted }).toEqual({ own: 2, drifted: 1 });
  });
  it.each<[filter: Filter, chosen: string | null, paths: string[]]>([
    ['own', null, ['look.json', 'words/en-GB.json']],
    ['drifted', null, ['words/en-GB.json']],
    ['problems', null, []],
    // The chosen file is shown beside the list, whether the list has it or not.
    ['drifted', 'pieces/p007.html', ['words/en-GB.json', 'pieces/p007.html']],
    ['own', 'look.json', ['look.json', 'words/en-GB.json']],
    ['problems', 'nowhere.html', []],
  ])('of those that are %s, with %s chosen', (filter, chosen, expected) => {
    expect(paths(firstSight(all, filter, chosen).table.rows)).toEqual(expected);
  });
  it('has the chosen file in its place among all', () => {
    const { rows } = firstSight(all, 'all', 'pieces/p099.html').table;
    expect(rows).toHaveLength(46);
    expect(rows.at(-1)?.path).toBe('pieces/p099.html');
  });
});
