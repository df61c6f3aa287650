import { amendElements, directiveNames, ownElements } from '../1-parse/names';
import type { AttributePlace } from '../2-check/places';

/**
 * For tests: hostile themes made from a tape of numbers. Each puts a value `{v}` somewhere, by one of the ways in which a value
 * comes to a place, among texts that try to begin what the value could complete. Most of them are full of mistakes, as drafts are.
 * Longer than most files: one table, with a way for each element of the language.
 */
export interface HostileTheme {
  layers: Record<string, string>[];
  /** The template that is rendered: a page, or a piece by its own address. */
  page: string;
  /** Pieces that stand on shelves, by the shelf: each is given the value. */
  placed: Record<string, string>;
}

/** Numbers that decide what is made; a shorter tape makes less. */
class Tape {
  #at = 0;
  constructor(readonly numbers: readonly number[]) {}

  pick(count: number): number {
    return (this.numbers[this.#at++] ?? 0) % count;
  }

  one<T>(list: readonly T[]): T {
    return list[this.pick(list.length)] as T;
  }

  get spent(): boolean {
    return this.#at >= this.numbers.length;
  }
}

/** Texts between tags, and what a value after them could complete. */
const texts =
  'a | ab |1 < 2 |<|a <|</|</p|</tit|</scr|</textar|&|AT&|&#|&#x|&#x3|&am|&lt|&colon|&lt;|<!|<!--|<!-- c -->|<!--x|<?|<a|<img title="|<p title=x |<b|</b|\'|"|>|=| x=|<![CDATA[|]]>|-->|--|\n|{|}|{\'|<!--: n :-->|\n<!--: n :-->\n'.split(
    '|',
  );
/** Parts of an attribute's value. */
const parts =
  '|a|/|//|/\\|https:|https://cdn.example/|http:|javascript|javascript:|java|data:|data:image/png;base64,|&|&#|&#x|&colon|&amp;|?a=|&b=|#| |, | 1x| 2x, |color: |background: |url(|url("/|u|rl(|(|)|rgb(|;|/*|*/|\\75rl|<|</no|</tit|mailto:'.split(
    '|',
  );

/** Whole values of attributes that once let one of theirs escape. */
const recipes =
  '{v}|/{v}|javascript&#{v}|javascript&#x{v}|javascript&{v}|/{none}/{v}|{none}/{v}|/{v}/{v}|https:{v}|{v}https:|color: {v}({v})|background: {v}{v}|background: u{v}|background: url({v})|&#{v}|</tit{v}|</nos{v}|</texta{v}|data:image/png;base64,{v} 1x|a, {v} 2x|{v} 1x, {v}'.split(
    '|',
  );
/** What a file may end in, for what comes next on the page. */
const tails =
  '||||a <|&|&#|&lt|<p title=x |<b |<p title="|<b <|<!--|<!--<script>|<!|<!-|<?|<!x|</|</p|<script>|<script><!--<script>|<title>|<textarea>|<style>|<iframe>|<script/>|<textarea/>|<svg><script/>'.split(
    '|',
  );
/** What is printed as written. */
const written =
  'a|a <|&#|<i>a</i>|{x}|<p title="|<b|<script>|<script/>|<!--|<textarea>|<title/>|</|</p|<svg><path/></svg>'.split(
    '|',
  );

/** An attribute of each kind of place, with the element it stands on. */
const attributes: Record<AttributePlace, [element: string, attribute: string][]> = {
  plain: [
    ['p', 'title'],
    ['input', 'value'],
    ['g', 'id'],
  ],
  words: [['p', 'data-x']],
  boolean: [
    ['input', 'checked'],
    ['p', 'hidden'],
  ],
  alt: [['img', 'alt']],
  class: [['p', 'class']],
  address: [
    ['a', 'href'],
    ['form', 'action'],
    ['img', 'src'],
    ['video', 'poster'],
  ],
  loading: [
    ['script', 'src'],
    ['link', 'href'],
    ['iframe', 'src'],
    ['object', 'data'],
    ['base', 'href'],
  ],
  candidates: [['img', 'srcset']],
  style: [['p', 'style']],
  script: [
    ['p', 'onclick'],
    ['iframe', 'srcdoc'],
  ],
  fixed: [
    ['iframe', 'sandbox'],
    ['link', 'rel'],
    ['script', 'type'],
    ['animate', 'values'],
  ],
};

const flow = ['p', 'b', 'div', 'span', 'td', 'table', 'ul', 'li', 'a'];
const textual = ['title', 'textarea', 'option', 'noscript', 'iframe', 'xmp', 'noembed', 'noframes', 'select'];
const foreign = ['svg', 'math', 'g', 'foreignObject', 'desc', 'mi'];
const voids = new Set(['img', 'input', 'link', 'base', 'br']);
/** What an amendment's place may be, besides an element like any other. */
const targets = ['u', 'p', 'script', 'style', 'title', 'textarea', 'noscript', 'svg'];

class Maker {
  readonly base: Record<string, string> = {};
  /** What the layer above says of each file. */
  readonly amended: Record<string, string> = {};
  readonly placed: Record<string, string> = {};
  #count = 0;
  #file = '';
  #depth = 0;

  constructor(readonly tape: Tape) {}

  file(path: string, write: () => string): void {
    const outer = this.#file;
    this.#file = path;
    this.base[path] = write();
    this.#file = outer;
  }

  /** The file that is being written. */
  get writing(): string {
    return this.#file;
  }

  number(): number {
    return ++this.#count;
  }

  content(): string {
    const { tape } = this;
    this.#depth++;
    let out = '';
    for (let turns = 1 + tape.pick(4); turns > 0; turns--) {
      const kind = tape.spent || this.#depth > 5 ? tape.pick(3) : tape.pick(9);
      if (kind === 0) out += tape.one(texts);
      else if (kind < 3) out += tape.one(['{v}', '{v}', '{v}', '{none}', '{[v, v]}', "{''}"]);
      else if (kind < 5) out += this.element();
      else out += (ways[tape.one(wayNames)] as Way)(this);
    }
    this.#depth--;
    return out;
  }

  element(): string {
    const { tape } = this;
    const kind = tape.pick(10);
    if (kind < 4) return this.withAttributes();
    if (kind === 4) return this.raw();
    if (kind === 8) return `<${tape.one(['script', 'style', 'title', 'textarea', 'b', 'iframe'])}/>{v}`;
    if (kind === 9) return this.inText();
    const name = tape.one(kind === 5 ? flow : kind === 6 ? textual : foreign);
    return `<${name}>${this.content()}</${name}>`;
  }

  /** A script or style that holds text only. */
  raw(name = this.tape.one(['script', 'style'])): string {
    return `<${name}>${this.tape.one(['let a = 1', 'p{}', '<!--', '<!--<script>', 'a </scr', 'x {v} y', 'if (a<b) {}'])}</${name}>`;
  }

  /** An element where only text can stand, in which an end tag is begun. */
  inText(): string {
    const name = `pieces/i${this.number()}`;
    const [around, begun] = this.tape.one([
      ['title', '</tit'],
      ['noscript', '</nos'],
      ['textarea', '</texta'],
    ] as const);
    this.base[`${name}.html`] =
      `<takes name="v"><b ${this.tape.one(['title', 'class', 'data-x'])}="a ${begun}{v}">a</b>`;
    return `<${around}><draw name="${name}" v="{v}"/></${around}>`;
  }

  withAttributes(): string {
    const { tape } = this;
    const place = tape.one(Object.keys(attributes) as AttributePlace[]);
    const [name, attribute] = tape.one(attributes[place]);
    const start = `<${name} ${this.attribute(attribute)}${tape.one(['', '', '', ' id="i"', ' x', '/'])}`;
    if (voids.has(name)) return `${start}>`;
    if (name === 'script') return `${start}></script>`;
    return `${start}>${tape.pick(2) ? this.content() : ''}${tape.pick(6) ? `</${name}>` : ''}`;
  }

  attribute(name: string): string {
    const { tape } = this;
    const quote = tape.one(['"', '"', '"', "'", '']);
    let value = tape.pick(3) ? '' : tape.one(recipes);
    for (let turns = value ? tape.pick(2) : 1 + tape.pick(4); turns > 0; turns--)
      value += tape.pick(2) ? '{v}' : tape.one(parts).replace(quote === '"' ? /"/g : /'/g, '');
    if (quote === '') value = value.replace(/[\s"'>]/g, '');
    return `${name}=${quote}${value}${tape.pick(40) ? quote : ''}`;
  }

  /** An element that an operation of the layer above changes, by its mark or by its path. */
  marked(name: string, content: string, operation: (place: string) => string): string {
    if (this.tape.pick(2)) {
      const mark = `m${this.number()}`;
      this.amend(this.#file, operation(`mark="${mark}"`));
      return `<${name} do:mark="${mark}">${content}</${name}>`;
    }
    // A path is one from a file's root: the element stands in a piece of its own.
    const piece = `pieces/n${this.number()}`;
    this.base[`${piece}.html`] = `<takes name="v"><${name}>${content}</${name}>`;
    this.amend(`${piece}.html`, operation(`at="${name}"`));
    return `<draw name="${piece}" v="{v}"/>`;
  }

  amend(file: string, operation: string): void {
    this.amended[file] = (this.amended[file] ?? '') + operation;
  }

  /** The directives of an operation that puts something there. */
  directives(): string {
    return this.tape.one([
      '',
      '',
      '',
      ' do:when="y"',
      ' do:when="n"',
      ' do:each="v in l"',
      ' do:let="w = v"',
      ' do:as-written',
    ]);
  }

  /** What an element of a target's name holds at first. */
  inside(name: string): string {
    return name === 'script' ? 'let a = 1' : name === 'style' ? 'p{}' : 'A';
  }
}

type Way = (make: Maker) => string;

/** An operation that puts its contents beside, into or in place of a target. */
const puts =
  (operation: string): Way =>
  (make) => {
    const target = make.tape.one(targets);
    const kept = operation === 'replace' && make.tape.pick(2) ? '<kept>' : '';
    const content = make.tape.pick(4)
      ? make.content()
      : make.tape.one([';{v}', 'b{}', '</script>{v}', '<!--', '<draw name="pieces/a" v="{v}"/>']);
    const before = make.tape.one(['', 'a <', 'AT&', '&#']);
    return (
      before +
      make.marked(
        target,
        make.inside(target),
        (place) =>
          `<${operation} ${place}${make.directives()}>${kept}${content}${kept && make.tape.pick(8) === 0 ? '<kept>' : ''}</${operation}>`,
      )
    );
  };

const gates =
  (name: string): Way =>
  (make) =>
    `<b do:when="${make.tape.one(['y', 'n'])}">${make.tape.one(['a', 'a <', '&'])}</b>${make.tape.one(['', ' '])}<i ${name}>${make.content()}</i>`;

/** How a value comes to a place: one for each element of the language's own, each operation and each directive. */
export const ways: Record<string, Way> = {
  // Elements of the language's own.
  draw: (make) => {
    const name = `pieces/p${make.number()}`;
    make.file(`${name}.html`, () => `<takes name="v">${make.content()}${make.tape.one(tails)}`);
    return `<draw name="${name}" v="${make.tape.one(['{v}', 'a{v}', '{v}&{v}'])}"/>${make.tape.one(['', '{v}', '{v}'])}`;
  },
  gap: (make) => {
    const name = `pieces/g${make.number()}`;
    make.file(`${name}.html`, () => {
      const around = make.tape.one(['', '', 'i', 'textarea', 'title', 'svg', 'noscript']);
      const gap = `${make.tape.one(['', 'a <', '&#', '</tit'])}<gap>${make.tape.one(['d', '{none}'])}</gap>`;
      return around ? `<${around}>${gap}</${around}>` : gap;
    });
    return `<draw name="${name}">${make.content()}</draw>`;
  },
  fill: (make) => {
    const name = `pieces/f${make.number()}`;
    make.file(
      `${name}.html`,
      () =>
        `${make.tape.one(['', 'a <', '&#'])}<gap name="x">d</gap>${make.tape.one(['', '<textarea><gap name="y"></gap></textarea>'])}`,
    );
    const tied = make.tape.pick(2);
    return `<draw name="${name}"><fill gap="x" do:when="${make.tape.one(['y', 'n'])}">${make.content()}</fill>${tied ? `<fill gap="x" do:otherwise>{v}</fill>` : ''}<fill gap="y">${make.content()}</fill></draw>`;
  },
  shelf: (make) => {
    const [shelf, name] = [`s${make.number()}`, `pieces/s${make.number()}`];
    make.file(`${name}.html`, () => `<takes name="v">${make.content()}`);
    if (make.tape.pick(3)) make.placed[shelf] = name;
    return `${make.tape.one(['', 'a <', '&'])}<shelf name="${shelf}">${make.content()}</shelf>`;
  },
  takes: (make) => {
    const name = `pieces/t${make.number()}`;
    make.file(
      `${name}.html`,
      () =>
        `a ${make.tape.one(['', '<', '&#'])}<takes name="v" type="${make.tape.one(['text', 'link', 'colour'])}" default="{v}">${make.content()}`,
    );
    return `<draw name="${name}" v="{v}"/>`;
  },
  placeable: (make) => {
    const [shelf, name] = [`o${make.number()}`, `pieces/o${make.number()}`];
    make.file(`${name}.html`, () => {
      const offered = `<placeable label="${make.tape.one(['O', '{v}', '&quot;<b>'])}" shelves="${shelf}">`;
      return `${make.tape.one(['', 'a <', '&#'])}${offered}<takes name="v">${make.content()}`;
    });
    if (make.tape.pick(3)) make.placed[shelf] = name;
    return `<shelf name="${shelf}" takes="${name}" most="${make.tape.one(['1', '9', '{v}'])}">${make.content()}</shelf>`;
  },
  ask: (make) => {
    const name = `q${make.number()}`;
    make.base['pieces/ask/text.html'] ??=
      '<takes name="question"><label title="{question.help}">{question.label}<input name="{question.name}"></label>';
    return `${make.tape.one(['', '&#', 'a <'])}<ask name="${name}" type="text" label="{v}" help="{v}"></ask>`;
  },
  group: (make) =>
    `${make.tape.one(['', 'a <', '&#', '</tit'])}<group${make.tape.one(['', ' do:when="n"', ' do:when="y"'])}>${make.content()}</group>`,
  amend: (make) => `<amend>${make.content()}</amend>`,
  // Operations of amendments.
  before: puts('before'),
  after: puts('after'),
  prepend: puts('prepend'),
  append: puts('append'),
  replace: puts('replace'),
  kept: puts('replace'),
  remove: (make) => {
    const removed = make.marked('u', 'A', (place) => `<remove ${place}${make.tape.one(['', '', ' do:when="n"'])}>`);
    return `${make.tape.one(['a &', 'a <', '&#', '&lt', 'a'])}${removed}${make.tape.one(['{v}', 'lt;', '#60;'])}`;
  },
  move: (make) => {
    const mark = `to${make.number()}`;
    const target = make.tape.one(targets);
    const moved = make.marked(
      's',
      make.content(),
      (place) =>
        `<move ${place} ${make.tape.one(['into', 'before', 'after'])}="${mark}"${make.tape.one(['', '', ' do:when="y"', ' do:when="n"'])}>`,
    );
    return `${moved}${make.tape.one(['', '&'])}<${target} do:mark="${mark}">${make.inside(target)}</${target}>{v}`;
  },
  adjust: (make) => {
    const place = make.tape.one(Object.keys(attributes) as AttributePlace[]);
    const [name, attribute] = make.tape.one(attributes[place]);
    const mark = `a${make.number()}`;
    const given = make.attribute(attribute);
    make.amend(
      make.writing,
      `<adjust mark="${mark}" ${given}${make.tape.one(['', '', ' do:when="y"', ' do:when="n"'])}>`,
    );
    const own = make.tape.pick(2) ? ` ${make.attribute(attribute)}` : '';
    return voids.has(name) ? `<${name} do:mark="${mark}"${own}>` : `<${name} do:mark="${mark}"${own}></${name}>`;
  },
  // Directives.
  'do:when': (make) =>
    `${make.tape.one(['a', '&#', 'a <'])}<b do:when="${make.tape.one(['y', 'n'])}">${make.content()}</b>{v}`,
  'do:or-when': (make) => gates(`do:or-when="${make.tape.one(['y', 'n'])}"`)(make),
  'do:otherwise': gates('do:otherwise'),
  'do:each': (make) => `<b do:each="v in ${make.tape.one(['l', '[]', '[v]'])}">${make.content()}</b>`,
  'do:let': (make) => `<b do:let="w = v; v = w">${make.content()}</b>`,
  'do:wrap-when': (make) => {
    const name = make.tape.one(['b', 'textarea', 'title', 'option', 'noscript', 'iframe', 'script', 'style', 'svg']);
    return `<${name} do:wrap-when="${make.tape.one(['y', 'n'])}">${make.content()}</${name}>{v}`;
  },
  'do:attributes': (make) => {
    const place = make.tape.one(Object.keys(attributes) as AttributePlace[]);
    const [name, attribute] = make.tape.one(attributes[place]);
    const start = `<${name} do:attributes="record('${attribute}': v, 'data-y': v)"`;
    return voids.has(name) ? `${start}>` : `${start}></${name}>`;
  },
  'do:once': (make) => `${make.tape.one(['', '&#'])}<b do:once>${make.content()}</b>`,
  'do:as-written': (make) => `<b do:as-written>${make.tape.one(written)}${make.tape.one(written)}</b>{v}`,
  'do:json': (make) =>
    `<script type="${make.tape.one(['application/json', 'text/javascript', 'application/ld+json'])}" do:json="${make.tape.one(['v', 'record(v: v)', 'l'])}"></script>`,
  'do:mark': (make) => `<b do:mark="k${make.number()}">${make.content()}</b>`,
};

/** Everything that needs a way of its own. */
export const neededWays: string[] = [...ownElements, ...amendElements, ...directiveNames];

const wayNames = Object.keys(ways);

/** A theme from a tape. */
export function hostileTheme(numbers: readonly number[]): HostileTheme {
  const tape = new Tape(numbers);
  const make = new Maker(tape);
  const page = tape.pick(8) === 0 ? 'pieces/alone' : 'product/default';
  make.base['pieces/a.html'] = '<takes name="v"><b title="{v}">{v}</b>';
  const document = tape.pick(4) === 0;
  make.file(`${page}.html`, () => {
    const content = make.content();
    return document ? `<!doctype html><html><head><title>t</title></head><body>${content}{v}</body></html>` : content;
  });
  const upper = Object.entries(make.amended).map(([path, operations]) => [path, `<amend>${operations}</amend>`]);
  return { layers: [make.base, Object.fromEntries(upper) as Record<string, string>], page, placed: make.placed };
}
