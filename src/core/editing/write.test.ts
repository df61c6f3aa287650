import { describe, expect, it } from 'vitest';
import { writeAt } from './write';

const lead = { path: 'product.fields.lead_time', writes: '{product.fields.lead_time}', unit: 'days' };
const picture = { path: 'product.image', writes: '<img src="{product.image | sized(320)}" alt="">', unit: '' };
const tags = { path: 'product.tags', writes: '<ul do:when="product.tags"></ul>', unit: '' };

/** `|` is the caret, before and after. */
const table: [string, string, typeof lead, boolean, string][] = [
  ['in text, with its unit', '<p>a |</p>', lead, false, '<p>a {product.fields.lead_time} days|</p>'],
  [
    'an empty element gets the condition',
    '<p>|</p>',
    lead,
    true,
    '<p do:when="product.fields.lead_time">{product.fields.lead_time} days|</p>',
  ],
  [
    'a group around it in a text',
    '<p>a | b</p>',
    lead,
    true,
    '<p>a <group do:when="product.fields.lead_time">{product.fields.lead_time} days</group>| b</p>',
  ],
  ['in an attribute', '<p title="|">x</p>', lead, true, '<p title="{product.fields.lead_time}|">x</p>'],
  ['in an expression, bare', '<p>{|}</p>', lead, true, '<p>{product.fields.lead_time|}</p>'],
  [
    'a picture brings its own condition',
    '<p>|</p>',
    picture,
    true,
    '<p><img do:when="product.image" src="{product.image | sized(320)}" alt="">|</p>',
  ],
  ['a list has one already', '|', tags, true, '<ul do:when="product.tags"></ul>|'],
];

describe('writing a value at the caret', () => {
  for (const [name, given, value, condition, wanted] of table) {
    it(name, () => {
      const offset = given.indexOf('|');
      const text = given.replace('|', '');
      const { edits, caret } = writeAt(text, offset, value, condition);
      let made = text;
      for (const { from, to, text: put } of [...edits].reverse()) made = made.slice(0, from) + put + made.slice(to);
      expect(`${made.slice(0, caret)}|${made.slice(caret)}`).toBe(wanted);
    });
  }
});
