import { expect, test } from '@playwright/test';
import { wrongDeclaration } from '../src/core/theme/css/values';

// What a real Chromium takes, held against what Last says: of what a property takes the browser is the judge.

/** Names that are no properties but belong to at-rules: they stand among a style's keys all the same. */
const descriptors =
  /^(?:additive-symbols|ascent-override|base-palette|descent-override|fallback|font-display|inherits|initial-value|line-gap-override|navigation|negative|override-colors|pad|page-margin-safety|page-orientation|prefix|range|result|size|size-adjust|src|suffix|symbols|syntax|system|types|unicode-range)$/;

test('a browser’s properties are known, and the values that it computes are taken', async ({ page }) => {
  await page.setContent('<p>a</p>');
  const { computed, names } = await page.evaluate(() => {
    const hyphens = (key: string) =>
      key.replace(/[A-Z]/g, (sign) => `-${sign.toLowerCase()}`).replace(/^(?=webkit-)/, '-');
    const style = getComputedStyle(document.querySelector('p') as Element);
    const given = document.body.style as unknown as Record<string, unknown>;
    const names: string[] = [];
    for (const key in given)
      if (typeof given[key] === 'string' && key !== 'cssText') names.push(key === 'cssFloat' ? 'float' : hyphens(key));
    return { names, computed: Array.from(style, (name) => [name, style.getPropertyValue(name)] as [string, string]) };
  });
  const unknown = names.filter((name) => !descriptors.test(name) && wrongDeclaration(name, 'inherit'));
  const untaken = computed.flatMap(([name, value]) => (value && wrongDeclaration(name, value)?.says) || []);
  // A browser that is newer than the grammars knows some more: of hundreds, few.
  expect(names.length).toBeGreaterThan(500);
  expect(unknown.length, unknown.join(', ')).toBeLessThan(names.length / 100);
  expect(computed.length).toBeGreaterThan(300);
  expect(untaken.length, untaken.join(', ')).toBeLessThan(computed.length / 100);
});

test('a browser takes what is let pass, and passes over what is reported', async ({ page }) => {
  const table: [property: string, value: string][] = [
    ...[
      'red',
      '#123',
      '#12345',
      '#12345678',
      'gren',
      'rgb(1 2 3 / .5)',
      'rgb(1, 2)',
      'oklch(50% .1 20)',
      'currentcolor',
      '3px',
    ].map((one): [string, string] => ['color', one]),
    ...[
      '0',
      '1',
      '12px',
      '12',
      '1 em',
      '-3px',
      '10%',
      'calc(1px + 2%)',
      'calc(1px+2%)',
      'auto',
      '1px 2px',
      '10pxx',
      'min(1px, 3vw)',
    ].map((one): [string, string] => ['width', one]),
    ...['0', '1px 2px 3px 4px', '1px 2px 3px 4px 5px', 'auto', '-1px', '1px, 2px'].map((one): [string, string] => [
      'margin',
      one,
    ]),
    ...['flex', 'flx', 'inline-grid', 'none', 'block flow', 'blocks', 'contents'].map((one): [string, string] => [
      'display',
      one,
    ]),
    ...['1px solid red', 'solid', 'sold', '1px 2px red', 'none', '0'].map((one): [string, string] => ['border', one]),
    ...['1fr 2fr', 'repeat(3, 1fr)', 'repeat(auto-fit, minmax(10em, 1fr))', 'repeat(1fr)', '[a] 1fr [b]', 'none'].map(
      (one): [string, string] => ['grid-template-columns', one],
    ),
    ...['bold', '650', '1200', 'boldest'].map((one): [string, string] => ['font-weight', one]),
    ...['16px/1.5 serif', '16px', 'bold 1rem "A B", serif', 'italic'].map((one): [string, string] => ['font', one]),
    ...['opacity .2s', 'all 1s ease-in, top 2s', '1s 2s 3s', 'opacity 2'].map((one): [string, string] => [
      'transition',
      one,
    ]),
    ...['rotate(3deg)', 'rotat(3deg)', 'rotate(3)', 'translate(1px, 2%) scale(1.2)', 'none'].map(
      (one): [string, string] => ['transform', one],
    ),
    ...['1', '.5', '50%', 'half', '1 2'].map((one): [string, string] => ['opacity', one]),
    ...[
      'url(a.png) center / cover no-repeat',
      'linear-gradient(red, blue)',
      'linear-gradient(red blue)',
      'red',
      'none, red',
    ].map((one): [string, string] => ['background', one]),
    ...['0 1px 2px rgb(0 0 0 / .2)', 'inset 0 0 3px', '1px', 'none'].map((one): [string, string] => [
      'box-shadow',
      one,
    ]),
    ...['16 / 9', '1', 'auto', '16:9'].map((one): [string, string] => ['aspect-ratio', one]),
    ...['center', 'space-between', 'middle', 'safe center'].map((one): [string, string] => ['justify-content', one]),
    ...['3', 'auto', '1.5', 'high'].map((one): [string, string] => ['z-index', one]),
    ...['pointer', 'url(a.cur), auto'].map((one): [string, string] => ['cursor', one]),
    ...['balance', 'wrap', 'pretty', 'no'].map((one): [string, string] => ['text-wrap', one]),
    ...['inset(50%)', 'circle(40% at center)', 'rect(0 0 0 0)', 'square(3px)'].map((one): [string, string] => [
      'clip-path',
      one,
    ]),
    ...['"a"', 'none', 'counter(x)', 'a'].map((one): [string, string] => ['content', one]),
    ...['colr', 'dislay', 'padding-top', 'gap', 'row-gap', 'boarder', 'inset-inline'].map((one): [string, string] => [
      one,
      'inherit',
    ]),
  ];
  const supported = await page.evaluate((pairs) => pairs.map(([name, value]) => CSS.supports(name, value)), table);
  const judged = table.map(([name, value], at) => `${name}: ${value} ${supported[at] ? 'is taken' : 'is passed over'}`);
  const said = table.map(
    ([name, value]) => `${name}: ${value} ${wrongDeclaration(name, value) ? 'is passed over' : 'is taken'}`,
  );
  expect(said).toEqual(judged);
});
