import { describe, expect, it } from 'vitest';
import { Redirects, redirectsRenamed, type Redirect } from './renames';

const rows = (...pairs: [string, string][]): Redirect[] => pairs.map(([path, target]) => ({ path, target }));

describe('where an address leads', () => {
  const redirects = new Redirects(
    rows(
      ['/product/a', '/product/b'],
      ['/product/b', '/product/c'],
      ['/old', 'https://elsewhere.example/'],
      ['/listing/tag/offer', '/listing/tag/on-offer'],
      ['/category/x', '/content/x'],
      ['/ring/1', '/ring/2'],
      ['/ring/2', '/ring/1'],
    ),
  );
  const targets: [path: string, target: string | null][] = [
    ['/product/a', '/product/c'],
    ['/product/c', null],
    ['/old', 'https://elsewhere.example/'],
    ['/ring/1', null],
  ];
  it.each(targets)('%s: %s', (path, target) => expect(redirects.targetOf(path)).toBe(target));
  it('tells what something is called now', () => {
    expect(redirects.slugOf('product', 'a')).toBe('c');
    expect(redirects.slugOf('tag', 'offer')).toBe('on-offer');
    expect(redirects.slugOf('brand', 'offer')).toBeNull();
    expect(redirects.earlier('product', 'c')).toEqual(['a', 'b']);
    expect(redirects.earlier('category', 'c')).toEqual([]);
    expect(redirects.slugOf('category', 'x')).toBeNull();
    expect(new Redirects([]).slugOf('product', 'a')).toBeNull();
  });
});

describe('redirects after a new slug', () => {
  const cases: [name: string, before: Redirect[], from: string, to: string, after: Redirect[]][] = [
    ['lead from the earlier one', [], '/a', '/b', rows(['/a', '/b'])],
    ['lead on, without a second step', rows(['/a', '/b']), '/b', '/c', rows(['/a', '/c'], ['/b', '/c'])],
    ['are turned round on the way back', rows(['/a', '/b']), '/b', '/a', rows(['/b', '/a'])],
    ['leave others alone', rows(['/x', '/y'], ['/b', '/x']), '/a', '/b', rows(['/x', '/y'], ['/a', '/b'])],
  ];
  it.each(cases)('%s', (_, before, from, to, after) => expect(redirectsRenamed(before, from, to)).toEqual(after));
});
