import { describe, expect, it } from 'vitest';
import { Theme, type Layer } from '@/core/theme/theme';
import { renamedFiles } from './rename';

const layer = (kind: Layer['kind'], files: Record<string, string | null>): Layer => ({
  ...{ kind, name: kind, version: '1' },
  files: new Map(Object.entries(files).map(([path, text]) => [path, { hash: text ?? path, text }])),
});

/** The shop's files after a rename; a picture (no text) is told as itself. */
function after(
  below: Record<string, string | null>,
  own: Record<string, string | null>,
  path: string,
  to: string,
): Record<string, string | null> {
  const files = { ...own };
  const renamed = renamedFiles(new Theme([layer('base', below), layer('shop', own)]), path, to);
  for (const { was } of renamed) delete files[was];
  for (const { was, path: will, text } of renamed) files[will] = text ?? own[was] ?? null;
  return files;
}

const assigned = (name: string, alternate: string) =>
  JSON.stringify({
    alternates: [{ kind: 'product', piece: name, name: alternate, label: 'Book' }],
    pins: [{ kind: 'product', piece: name, slug: 'almanac', alternate }],
    rules: [{ kind: 'product', piece: name, alternate, when: { fact: 'tag', test: 'is', value: ['books'] } }],
  });

describe('a file that gets another path', () => {
  const tile = '<takes name="product" type="Product"><p>{product.name}</p>';

  it('is renamed in templates, fragments and shelves', () => {
    const own = {
      'pieces/note.html': '<p>note</p>',
      'content/default.html': `<draw name="pieces/note"/><a href={fragment('pieces/note')}>pieces/note</a>`,
      'home/default.html': '<p>nothing of it</p>',
      'shelves.json':
        '{\n  "placements": [{ "shelf": "aside", "piece": "pieces/note", "template": "content/default" }]\n}\n',
    };
    expect(after({}, own, 'pieces/note.html', 'pieces/hint.html')).toEqual({
      'pieces/hint.html': '<p>note</p>',
      'content/default.html': `<draw name="pieces/hint"/><a href={fragment('pieces/hint')}>pieces/note</a>`,
      'home/default.html': '<p>nothing of it</p>',
      'shelves.json': own['shelves.json'].replace('pieces/note', 'pieces/hint'),
    });
    expect(after({}, own, 'content/default.html', 'content/plain.html')['shelves.json']).toContain(
      '"template": "content/plain"',
    );
  });

  it('takes the alternates of a piece along, with their files, pins and rules', () => {
    const own = {
      'pieces/tile.html': tile,
      'pieces/tile/book.html': '<amend of="pieces/tile">\n</amend>\n',
      'pieces/tile/other.html': '<p>no alternate</p>',
      'alternates.json': assigned('pieces/tile', 'book'),
    };
    const now = after({}, own, 'pieces/tile.html', 'pieces/card.html');
    expect(Object.keys(now).sort()).toEqual([
      'alternates.json',
      'pieces/card.html',
      'pieces/card/book.html',
      'pieces/tile/other.html',
    ]);
    expect(now['pieces/card/book.html']).toBe('<amend of="pieces/card">\n</amend>\n');
    const { alternates, pins, rules } = JSON.parse(now['alternates.json'] ?? '') as Record<string, { piece: string }[]>;
    expect([alternates, pins, rules].map((list) => list?.map(({ piece }) => piece))).toEqual([
      ['pieces/card'],
      ['pieces/card'],
      ['pieces/card'],
    ]);
    // And back again, to the letter.
    expect(after({}, now, 'pieces/card.html', 'pieces/tile.html')['pieces/tile/book.html']).toBe(
      own['pieces/tile/book.html'],
    );
  });

  it('leaves the alternates of a piece where they are when it goes where none can be', () => {
    const own = {
      'pieces/tile.html': tile,
      'pieces/tile/book.html': tile,
      'alternates.json': assigned('pieces/tile', 'book'),
    };
    const now = after({}, own, 'pieces/tile.html', 'layouts/tile.html');
    expect(now).toEqual({ 'layouts/tile.html': tile, ...own, 'pieces/tile.html': undefined });
  });

  it('goes on amending what a layer below has at the old path', () => {
    const below = { 'pieces/tile.html': '<p do:mark="name">{1}</p>' };
    for (const of of ['', ' of="pieces/tile"']) {
      const own = { 'pieces/tile.html': `<amend${of}><after mark="name"><p>2</p></after></amend>` };
      const page = { 'home/default.html': '<draw name="pieces/tile"/>' };
      expect(after(below, { ...own, ...page }, 'pieces/tile.html', 'pieces/card.html')).toEqual({
        'pieces/card.html': '<amend of="pieces/tile"><after mark="name"><p>2</p></after></amend>',
        'home/default.html': '<draw name="pieces/card"/>',
      });
    }
  });

  it('of which the shop has no file gets an amendment; none is made for what is nowhere', () => {
    const list = assigned('pieces/tile', 'book');
    const below = { 'pieces/tile/book.html': tile };
    const own = { 'pieces/tile.html': tile, 'alternates.json': list };
    const now = after(below, own, 'pieces/tile.html', 'pieces/card.html');
    expect(now['pieces/card/book.html']).toBe('<amend of="pieces/tile/book">\n</amend>\n');
    expect(Object.keys(after({}, own, 'pieces/tile.html', 'pieces/card.html')).sort()).toEqual([
      'alternates.json',
      'pieces/card.html',
    ]);
  });

  it('is renamed as an asset and as an icon, and a picture stays as it is', () => {
    const page = `<img src={asset('pic.png')} alt=""/>{icon('star')}{asset('icons/star.svg')}`;
    const own = { 'assets/pic.png': null, 'assets/icons/star.svg': '<svg/>', 'home/default.html': page };
    expect(after({}, own, 'assets/pic.png', 'assets/pictures/boat.png')).toEqual({
      'assets/pictures/boat.png': null,
      'assets/icons/star.svg': '<svg/>',
      'home/default.html': page.replace('pic.png', 'pictures/boat.png'),
    });
    expect(after({}, own, 'assets/icons/star.svg', 'assets/icons/wish.svg')['home/default.html']).toBe(
      page.replace("icon('star')", "icon('wish')").replace('icons/star', 'icons/wish'),
    );
  });

  it('is left in other words, in comments, and in layers that are not the shop’s', () => {
    const own = {
      'pieces/note.html': '<p>pieces/note</p>',
      'home/default.html': '<!-- pieces/note --><draw name="pieces/notes"/>',
    };
    expect(
      after({ 'cart/default.html': '<draw name="pieces/note"/>' }, own, 'pieces/note.html', 'pieces/x.html'),
    ).toEqual({ 'pieces/x.html': '<p>pieces/note</p>', 'home/default.html': own['home/default.html'] });
  });
});
