import { describe, expect, it } from 'vitest';
import { demoPictures } from '../../../demo/catalogue';
import { BrokenDrawing, cleanSvg } from './clean-svg';

const svg = (inner: string, attributes = 'viewBox="0 0 20 10"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inner}</svg>`;
const cleaned = async (inner: string) => (await cleanSvg(svg(inner))).text.replace(/^<svg[^>]*>|<\/svg>$/g, '');

describe('what runs, loads or leads elsewhere is taken out of a drawing', () => {
  const table: [what: string, inner: string, left: string][] = [
    ['a script', '<script>alert(1)</script><path d="M0 0"/>', '<path d="M0 0"></path>'],
    ['a handler', '<path d="M0 0" onclick="alert(1)" onLoad="x()"/>', '<path d="M0 0"></path>'],
    ['foreign markup', '<foreignObject><b xmlns="http://www.w3.org/1999/xhtml">x</b></foreignObject>', ''],
    ['a link, but not its text', '<a href="javascript:x()"><text>A &amp; B</text></a>', '<text>A &amp; B</text>'],
    ['another site’s picture', '<image href="https://x.invalid/a.png"/>', '<image></image>'],
    ['another file’s part', '<use xlink:href="other.svg#a"/>', '<use></use>'],
    ['a paint from elsewhere', '<path fill="url(https://x.invalid/#a)" d="M0 0"/>', '<path d="M0 0"></path>'],
    ['the same behind an escape', '<path style="fill:u\\72l(https://x.invalid/)" d="M0 0"/>', '<path d="M0 0"></path>'],
    ['a style sheet that loads', '<style>@import "https://x.invalid/a.css";</style><g/>', '<g></g>'],
    [
      'an address set by an animation',
      '<image><animate attributeName="href" to="javascript:x()"/></image>',
      '<image></image>',
    ],
    ['another namespace', '<g xmlns="http://www.w3.org/1999/xhtml"><title>x</title></g>', '<g><title>x</title></g>'],
    ['a page that a use would hold', '<use href="data:image/svg+xml;base64,AA"/>', '<use></use>'],
  ];
  it.each(table)('%s', async (_, inner, left) => expect(await cleaned(inner)).toBe(left));
  it('rules of style sheets go to what they draw', async () => {
    expect(await cleaned('<style>.a{fill:red}.gone{fill:blue}</style><path class="a" d="M0 0"/>')).toBe(
      '<path d="M0 0" style="fill:red"></path>',
    );
  });
});

it('what is clean stays to the letter, and what was cleaned is clean', async () => {
  const harmless = svg('<defs><linearGradient id="g"/></defs><path fill="url(#g)" d="M0 0h9"/><use href="#a"/>');
  expect((await cleanSvg(harmless)).text).toBe(harmless);
  const once = (await cleanSvg(svg('<script>1</script><text>A &lt; B</text>'))).text;
  expect((await cleanSvg(once)).text).toBe(once);
  for (const { bytes } of (await demoPictures()).filter(({ type }) => type === 'image/svg+xml'))
    expect((await cleanSvg(bytes.toString())).text).toBe(bytes.toString());
});

it.each<[string, string]>([
  [svg('<path>'), 'it is not well-formed SVG'],
  ['<html xmlns="http://www.w3.org/1999/xhtml"/>', 'its root is no <svg>'],
  [
    '<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg">&b;</svg>',
    'declares entities',
  ],
])('%s is refused', async (text, why) => {
  const failed = await cleanSvg(text).catch((error: unknown) => error as Error);
  expect([failed instanceof BrokenDrawing, (failed as Error).message.includes(why)]).toEqual([true, true]);
});

it.each<[attributes: string, width: number | null, height: number | null]>([
  ['viewBox="0 0 20 10"', 20, 10],
  ['width="40" viewBox="0,0,20,10"', 40, 20],
  ['height="40" viewBox="0 0 20 10"', 80, 40],
  ['width="1in" height="2.54cm"', 96, 96],
  ['width="100%" height="100%" viewBox="0 0 30 40"', 30, 40],
  ['', null, null],
])('the size that %s says', async (attributes, width, height) => {
  expect(await cleanSvg(svg('', attributes))).toMatchObject({ width, height });
});
