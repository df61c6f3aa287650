import { describe, expect, it } from 'vitest';
import { folderAround, mayBePicture, picturePath, picturesIn } from './picture-path';

describe('the path of a picture', () => {
  it.each<[given: string, path: string | null]>([
    ['a.png', 'a.png'],
    [' ./sub\\b.png', 'sub/b.png'],
    ['/sub//c.png', 'sub/c.png'],
    ['Ame\u0301lie.png', 'Am\u00e9lie.png'],
    ['../out.png', null],
    ['sub/../../out.png', null],
    ['https://x.invalid/a.png', null],
    ['a\0.png', null],
    ['', null],
    ['./', null],
    ['a'.repeat(201), null],
  ])('of %j is %j', (given, path) => expect(picturePath(given)).toBe(path));
});

it('pictures that a text shows are found, each time', () => {
  const text = '<img src="/media/a%20b.png?v=1"><a href=\'/media/c.png#x\'>/media/c.png</a><img src="/media/100%.png">';
  expect(picturesIn(text)).toEqual(['a b.png', 'c.png', 'c.png', '100%.png']);
});

it('of a folder only pictures are looked at', () => {
  const paths = ['a.PNG', 'sub/b.jpeg', '.c.png', '__MACOSX/a.png', 'x/.git/a.png', 'notes.txt', 'f.mp4', 'png'];
  expect(paths.filter(mayBePicture)).toEqual(['a.PNG', 'sub/b.jpeg', 'f.mp4']);
});

it.each<[paths: string[], around: string]>([
  [['p/a.png', 'p/sub/b.png'], 'p/'],
  [['p/a.png', 'q/b.png'], ''],
  [['a.png', 'p/b.png'], ''],
  [[], ''],
])('the folder around %j is %j', (paths, around) => expect(folderAround(paths)).toBe(around));
