import { describe, expect, it } from 'vitest';
import type { WholeProduct } from './merge-product';
import { mediaMoved, mediaOfValue, mediaShows, withMedia } from './value-media';

type Media = WholeProduct['media'];
const picture = (path: string, ...shows: [string, string][]): Media[number] => ({
  ...{ kind: 'image', path, alt: '', width: null, height: null, poster: '', shows, texts: {} },
});
const red: [string, string] = ['colour', 'red'];
const blue: [string, string] = ['colour', 'blue'];
const list = [picture('a', red), picture('b'), picture('c', red, ['size', 's']), picture('d', blue)];
const said = (media: Media) =>
  media.map(({ path, shows }) => `${path}${shows.map(([, value]) => ` ${value}`).join('')}`);

describe('pictures by the option value that they show', () => {
  it('are those of a value, or of none', () => {
    expect(mediaOfValue(list, 'colour', 'red')).toEqual([0, 2]);
    expect(mediaOfValue(list, 'colour', null)).toEqual([1]);
    expect(mediaOfValue(list, 'size', null)).toEqual([0, 1, 3]);
  });
  it('are added after those that show the same; one that is there already shows it too', () => {
    const added = [
      { kind: 'image' as const, path: 'e' },
      { kind: 'image' as const, path: 'd' },
    ];
    expect(said(withMedia(list, added, red))).toEqual(['a red', 'b', 'c red s', 'e red', 'd blue red']);
    expect(said(withMedia(list, added, null))).toEqual(['a red', 'b', 'c red s', 'd blue', 'e']);
    expect(withMedia(list, [{ kind: 'image', path: 'a' }], red)).toEqual(list);
  });
  it('can be given to another value, or to all', () => {
    expect(said(mediaShows(list, 2, 'colour', 'blue'))).toEqual(['a red', 'b', 'c s blue', 'd blue']);
    expect(said(mediaShows(list, 0, 'colour', null))).toEqual(['a', 'b', 'c red s', 'd blue']);
  });
  it('change places with those that show the same', () => {
    expect(said(mediaMoved(list, 2, 'colour', 'red', -1))).toEqual(['c red s', 'b', 'a red', 'd blue']);
    expect(mediaMoved(list, 0, 'colour', 'red', -1)).toBe(list);
    expect(mediaMoved(list, 3, 'colour', 'blue', 1)).toBe(list);
  });
});
