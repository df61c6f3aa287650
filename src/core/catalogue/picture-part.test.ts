import { describe, expect, it } from 'vitest';
import { readPart, readPicture, writePicture } from './picture-part';

describe('part of a picture', () => {
  // The forms of Media Fragments URI 1.0, 4.2.2; percentages with decimals are ours.
  it.each([
    ['a/b.jpg', 'a/b.jpg', null],
    ['a/b.jpg#xywh=percent:25,25,50,50', 'a/b.jpg', [25, 25, 50, 50]],
    ['a/b.jpg#xywh=percent:0,0.5,33.33,99.5', 'a/b.jpg', [0, 0.5, 33.33, 99.5]],
    ['a b#1.jpg', 'a b#1.jpg', null],
    ['a.jpg#xywh=percent:60,0,50,50', 'a.jpg', null],
    ['a.jpg#xywh=percent:0,0,0,50', 'a.jpg', null],
    ['a.jpg#xywh=percent:0,0,50', 'a.jpg', null],
    ['a.jpg#xywh=percent:-1,0,50,50', 'a.jpg', null],
    ['a.jpg#xywh=percent:1e1,0,50,50', 'a.jpg', null],
    ['a.jpg#xywh=percent:,,,', 'a.jpg', null],
  ])('%s is %s, %j', (text, path, part) => expect(readPicture(text)).toEqual({ path, part }));

  it.each([
    [[25, 25, 50, 50], 'a.jpg#xywh=percent:25,25,50,50'],
    [[0, 12.3456, 100, 33.3333], 'a.jpg#xywh=percent:0,12.35,100,33.33'],
    [[0, 0, 100, 100], 'a.jpg'],
    [null, 'a.jpg'],
  ] as const)('%j is written %s, and read again', (part, text) => {
    expect(writePicture('a.jpg', part)).toBe(text);
    expect(readPicture(text).path).toBe('a.jpg');
  });

  it('is not read from words', () => expect(readPart('all')).toBeNull());
});
