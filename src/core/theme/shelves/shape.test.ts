import { expect, it } from 'vitest';
import { parseTemplate } from '@/core/language';
import { shapeOf } from './shape';

it.each<[string, number | null]>([
  ['<draw name="pieces/picture" picture="{p}" width="{1080}" height="{360}"/>', 3],
  ['<draw name="pieces/picture" picture="{p}" width="520" height="390"/>', 520 / 390],
  ['<div><draw name="pieces/picture" picture="{p}" width="{w}" height="{360}"/></div>', null],
  ['<draw name="pieces/picture" picture="{p.image}" width="{10}" height="{10}"/>', null],
  ['<draw name="pieces/picture" picture="{other}" width="{10}" height="{10}"/>', null],
  ['<img src="{p | sized(400, 200, \'centre\')}" alt="">', 2],
  // Without a crop nothing is cut off.
  ['<img src="{p | sized(400, 200)}" alt="">', null],
  ['<img src="{p | sized(400, 200, \'top\')}" srcset="{p | sized(800, 400, \'top\')} 2x" alt="">', 2],
  ['<img src="{p | sized(400, 200, \'top\')}" alt=""><img src="{p | sized(100, 100, \'top\')}" alt="">', null],
  ['<img src="{p.url}" alt="">', null],
])('%s', (text, shape) => {
  const template = parseTemplate('pieces/a.html', `<takes name="p" type="picture">${text}`, 'base');
  expect(shapeOf(template, 'p')).toBe(shape);
});
