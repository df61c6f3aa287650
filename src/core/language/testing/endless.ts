/**
 * For tests and measurements: templates that once hung the server, ate its memory, or could. Each is a page's template with what
 * else it needs; a page of them ends by its budget, and what stands around the piece that took too long is still there.
 */
export interface Endless {
  name: string;
  /** Files of the theme besides the page's template, by path; of the layer above, too. */
  files?: Record<string, string>;
  above?: Record<string, string>;
  /** The template of a piece, `pieces/endless`, that the page draws. */
  piece: string;
  /** It ends with a result, not by its budget. */
  ends?: boolean;
}

const twice = (name: string, times: number, how = `${name} + ${name}`): string =>
  Array.from({ length: times }, () => `${name} = ${how}`).join('; ');

export const endless: Endless[] = [
  {
    name: 'a category tree that draws itself with the wrong child',
    piece: '<draw name="pieces/tree" list="{[1, 2, 3]}"/>',
    files: {
      'pieces/tree.html':
        '<takes name="list" type="list"><ul do:when="list"><li do:each="one in list">{one}<draw name="pieces/tree" list="{list}"/></li></ul>',
    },
  },
  { name: 'a list doubled, printed', piece: `<p do:let="a = [1, 2]; ${twice('a', 36, '[a, a]')}">{a}</p>` },
  {
    name: 'a list doubled, compared',
    piece: `<p do:let="a = [1]; b = [1]; ${twice('a', 36, '[a, a]')}; ${twice('b', 36, '[b, b]')}">{a == b}</p>`,
  },
  { name: 'a list doubled, as classes', piece: `<p do:let="a = ['x']; ${twice('a', 36, '[a, a]')}" class="{a}">x</p>` },
  {
    name: 'a record doubled, as JSON',
    piece: `<p do:let="a = record(x: 1); ${twice('a', 30, 'record(x: a, y: a)')}">{a | json}</p>`,
  },
  { name: 'a text doubled', piece: `<p do:let="a = 'xxxxxxxx'; ${twice('a', 36)}">{a | count}</p>` },
  { name: 'a list joined with itself', piece: `<p do:let="a = [1]; ${twice('a', 36)}">{a | count}</p>` },
  {
    name: 'a text doubled by what is drawn',
    piece: '<draw name="pieces/double" text="xxxxxxxxxxxxxxxx"/>',
    files: {
      'pieces/double.html':
        '<takes name="text" type="text"><draw name="pieces/double" text="{text}{text}" do:when="text"/>{text}',
    },
  },
  {
    name: 'loops in loops',
    piece:
      '<i do:each="a in range(1, 10000)"><b do:each="b in range(1, 10000)"><u do:each="c in range(1, 10000)">{a}</u></b></i>',
  },
  {
    name: 'a filter in a filter in a filter',
    piece: '<p>{range(1, 10000) | pluck(range(1, 10000) | pluck(range(1, 10000) | sum) | sum) | sum}</p>',
  },
  {
    name: 'comments that never end, made plain',
    piece: `<p do:let="a = '<!--'; ${twice('a', 17)}">{a | plain}</p>`,
    ends: true,
  },
  {
    name: 'tags that never end, made plain',
    piece: `<p do:let="a = '<a \\''; ${twice('a', 17)}">{a | plain}</p>`,
    ends: true,
  },
  {
    name: 'ten thousand records, each once',
    piece: '<p>{range(1, 10000) | pluck(record(a: it)) | unique | count}</p>',
    ends: true,
  },
  {
    name: 'ten thousand lists, each once',
    piece: '<p>{range(1, 10000) | pluck([it, it]) | unique | count}</p>',
  },
  {
    name: 'a long text looked for in a longer one',
    piece: `<p do:let="a = 'a'; ${twice('a', 18)}; b = 'b' + a; c = a + a">{range(1, 10000) | keep(b in c) | count}</p>`,
  },
  {
    name: 'long texts compared again and again',
    piece: `<p do:let="a = 'a'; ${twice('a', 18)}; b = a + 'b'; c = a + 'c'">{range(1, 10000) | keep(b < c) | count}</p>`,
  },
  {
    name: 'long texts in order',
    piece: `<p do:let="a = 'é'; ${twice('a', 17)}">{range(1, 10000) | sort_by(a + it) | count}</p>`,
  },
  {
    name: 'white space asked again and again',
    piece: `<p do:let="a = ' '; ${twice('a', 18)}"><i do:each="n in range(1, 10000)"><b do:when="a">x</b><b do:when="a">x</b><b do:when="a">x</b></i></p>`,
  },
  {
    name: 'white space cut off',
    piece: `<p do:let="a = ' . '; ${twice('a', 17)}; b = 'x' + a + 'x'">{b | shorten(100000) | slug}</p>`,
    ends: true,
  },
  {
    name: 'characters counted',
    piece: `<p do:let="a = 'é👍🏽'; ${twice('a', 16)}">{range(1, 10000) | pluck(a | count) | sum}</p>`,
  },
  {
    name: 'addresses of long values',
    piece: `<p do:let="a = 'é'; ${twice('a', 17)}"><a do:each="n in range(1, 10000)" href="/{a}/{n}">x</a></p>`,
  },
  { name: '1,900 filters in a row', piece: `<p>{'a'${' | upper'.repeat(1900)}}</p>`, ends: true },
  {
    name: 'gaps of gaps',
    piece: `${'<draw name="pieces/ten">'.repeat(10)}x${'</draw>'.repeat(10)}`,
    files: { 'pieces/ten.html': '<gap></gap>'.repeat(10) },
  },
  {
    name: 'kept twice, forty times',
    piece: '<p do:mark="a">x</p>',
    above: { 'pieces/endless.html': `<amend>${'<replace mark="a"><kept><kept></replace>'.repeat(40)}</amend>` },
    ends: true,
  },
  {
    name: 'marks in appended marks',
    piece: '<p do:mark="a">x</p>',
    above: { 'pieces/endless.html': `<amend>${'<append mark="a"><b do:mark="a">x</b></append>'.repeat(60)}</amend>` },
    ends: true,
  },
  {
    name: 'wrapped a thousand times',
    piece: '<p do:mark="a">x</p>',
    above: { 'pieces/endless.html': `<amend>${'<replace mark="a"><div><kept></div></replace>'.repeat(1500)}</amend>` },
    ends: true,
  },
  { name: 'a hundred thousand elements', piece: '<b>x</b>'.repeat(100_000), ends: true },
  { name: 'mistakes without end', piece: '<p do:x="{" class="{a" {b}>{{ c }</i>'.repeat(3000), ends: true },
  {
    name: 'pieces in pieces, each twice',
    piece: '<draw name="pieces/e1"/>',
    files: Object.fromEntries(
      Array.from({ length: 28 }, (_, at): [string, string] => [
        `pieces/e${at + 1}.html`,
        at === 27 ? 'x' : `<draw name="pieces/e${at + 2}"/><draw name="pieces/e${at + 2}"/>`,
      ]),
    ),
  },
];
