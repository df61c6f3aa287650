import { describe, expect, it } from 'vitest';
import { lostIn, safeMarkup, tidyMarkup } from './markup';

describe('markup that a browser may read', () => {
  const cases: [markup: string, comes: string][] = [
    ['plain & simple', 'plain & simple'],
    ['<p onclick="x()" id="a">A</p>', '<p id="a">A</p>'],
    ['<p>A<script>x()</script><b>B</b></p>', '<p>A<b>B</b></p>'],
    ['<img src="/a.png" OnError=x()>', '<img src="/a.png">'],
    ['<svg/onload=x()>', '<svg></svg>'],
    ['<a href="/x" style="color:red">x</a><iframe src="/y"></iframe>', '<a href="/x">x</a>'],
    ['<p>open', '<p>open</p>'],
  ];
  it.each(cases)('%s', (markup, comes) => expect(safeMarkup(markup)).toBe(comes));
});

describe('what the editor would lose', () => {
  const cases: [before: string, after: string, lost: string[]][] = [
    ['<p>A <b>B</b></p>', '<p>A <strong>B</strong></p>', []],
    ['A', '<p>A</p>', []],
    ['<ul>\n<li>A</li>\n</ul>', '<ul><li><p>A</p></li></ul>', []],
    [
      '<table><tr><td>1</td></tr></table>',
      '<table><colgroup></colgroup><tbody><tr><td>1</td></tr></tbody></table>',
      [],
    ],
    ['<figure><img src="/a.png"></figure>', '<img src="/a.png">', ['<figure>']],
    ['<h2 id="cost">Cost</h2>', '<h2>Cost</h2>', ['id of <h2>']],
    ['<p lang="fr">A</p>', '<p>A</p>', ['<p>', 'lang of <p>']],
    ['<p>A</p><dl><dt>B</dt></dl>', '<p>A</p>', ['<dl>', '<dt>', 'text']],
  ];
  it.each(cases)('%s', (before, after, lost) => expect(lostIn(before, after)).toEqual(lost));
});

describe('markup as pages have it', () => {
  const cases: [markup: string, comes: string][] = [
    ['<p></p>', ''],
    ['<p><br></p>', ''],
    ['<p>A</p>', '<p>A</p>'],
    [
      '<ul><li><p>A</p></li><li><p>B</p><ul><li><p>C</p></li></ul></li></ul>',
      '<ul><li>A</li><li>B<ul><li>C</li></ul></li></ul>',
    ],
    ['<ul><li><p>A</p><p>B</p></li></ul>', '<ul><li><p>A</p><p>B</p></li></ul>'],
    [
      '<table style="min-width: 50px"><colgroup><col></colgroup><tbody><tr><th colspan="1" rowspan="1"><p>A</p></th><td colspan="2"><p><em>B</em></p></td></tr></tbody></table>',
      '<table><tbody><tr><th>A</th><td colspan="2"><em>B</em></td></tr></tbody></table>',
    ],
    ['<p></p><img src="/a.png">', '<p></p><img src="/a.png">'],
  ];
  it.each(cases)('%s', (markup, comes) => expect(tidyMarkup(markup)).toBe(comes));
});
