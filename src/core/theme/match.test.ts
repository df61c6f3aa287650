import { describe, expect, it } from 'vitest';
import { parseTemplate } from '@/core/language';
import { elementAt, pathTo } from './amendment';
import { TreeMatch } from './match';

/** Where a path leads after a change: the new path; with “?” where something else may be meant; null: nothing is like it. */
function follow(old: string, now: string, path: string): string | null {
  const [was, is] = [parseTemplate('x.html', old).children, parseTemplate('x.html', now).children];
  const { element } = elementAt(was, path);
  if (!element) throw new Error(`There is no ${path}`);
  const found = new TreeMatch(was, is).find(element);
  return found.element && `${pathTo(is, found.element)}${found.certain ? '' : '?'}`;
}

describe('an element of an older file in a newer one', () => {
  const price = '<span class="price">{product.price}</span>';
  const stock = '<span class="stock">{product.stock}</span>';
  const table: [name: string, old: string, now: string, path: string, is: string | null][] = [
    ['where it was', `<p>${price}</p>`, `<p>${price}</p>`, 'p > span', 'p > span'],
    ['with a new one before it', `<p>${price}</p>`, `<p><span>New</span>${price}</p>`, 'p > span', 'p > span:2'],
    ['after two changed places', `<p>${price}${stock}</p>`, `<p>${stock}${price}</p>`, 'p > span:1', 'p > span:2'],
    [
      'in a wrapper',
      `<p>${price}${stock}</p>`,
      `<p><b class="x">${price}</b>${stock}</p>`,
      'p > span:1',
      'p > b > span',
    ],
    ['moved into another part', `<p>${price}</p><div></div>`, `<p></p><div>${price}</div>`, 'p > span', 'div > span'],
    [
      'of another name',
      `<p>${price}${stock}</p>`,
      `<p>${price.replaceAll('span', 'b')}${stock}</p>`,
      'p > span:1',
      'p > b',
    ],
    [
      'with another class and the same text',
      '<p class="lead wide">{x.name}</p>',
      '<p class="lead thin">{x.name}</p>',
      'p',
      'p',
    ],
    ['with more in it', `<p>${price}</p>`, `<p>${price.replace('{', '<i>Now</i> {')}</p>`, 'p > span', 'p > span'],
    ['by its mark', '<p do:mark="a">one</p>', '<p>New</p><div do:mark="a">two</div>', 'p', 'div'],
    ['by its id', '<p id="a">one two</p>', '<p>new</p><p id="a">one two three</p>', 'p', 'p:2'],
    ['whatever is around it', `<ul><li>${price}</li></ul>`, `<ol><li>${price}</li></ol>`, 'ul > li', 'ol > li'],
    ['gone', `<p>${price}${stock}</p>`, `<p>${stock}</p>`, 'p > span:1', null],
    ['gone, with another in its place', `<p>${price}</p>`, '<p><span>{shop.name}</span></p>', 'p > span', null],
    ['one of two that are the same now', `<p>${price}</p>`, `<p>${price}${price}</p>`, 'p > span', 'p > span:2?'],
    ['one of two that were the same', `<p>${price}${price}</p>`, `<p>${price}</p>`, 'p > span:2', 'p > span?'],
    [
      'one of two that say the same, in parts that do not',
      `<p class="a">a<br></p><p class="b">b<br></p>`,
      `<div><p class="a">a<br></p></div><p class="b">b<br></p>`,
      'p:2 > br',
      'p > br',
    ],
    [
      'a draw by what it draws',
      '<draw name="pieces/a" v="{v}"/><draw name="pieces/b" v="{v}"/>',
      '<draw name="pieces/b" v="{v}"/><draw name="pieces/c" v="{v}"/>',
      'draw:1',
      null,
    ],
    [
      'what was copied, when the copy is as it was and it is not',
      '<p class="x" title="t">{a.name}</p>',
      '<p class="x" title="t">{a.name}</p><p class="y" title="t">{a.name}</p>',
      'p',
      'p:1?',
    ],
  ];
  for (const [name, old, now, path, is] of table) it(name, () => expect(follow(old, now, path)).toBe(is));
});
