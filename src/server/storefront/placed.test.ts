import { describe, expect, it } from 'vitest';
import { browserTree, writtenTree } from '@/core/language/testing/trees';
import { arrangeAt } from '@/server/bench/arrange';
import { stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import type { PieceItem, TakeItem } from '@/contract/arrange';
import { pageOf } from './page';

const shop = demoShop();
const draft = stateOf(shop, 'draft/spring');
const address: Record<string, string> = {
  home: '/',
  product: '/product/tarred-hemp-rope',
  category: '/category/lamps',
  content: '/content/delivery',
};
const unsaved = (placements: object[]) => [
  // In place of all that the demo places itself.
  { path: 'shelves.json', text: JSON.stringify({ placements: placements.length ? placements : [] }) },
];
const page = (path: string, placements: object[]) =>
  pageOf(shop, draft, { path, query: {}, unsaved: unsaved(placements) });
const asked = (path: string, placements: object[]) =>
  arrangeAt(shop, draft, { address: path, try: null, on: null, unsaved: unsaved(placements) });

/** Every piece that may stand on a shelf of a page, on that shelf. */
const places = Object.values(address).flatMap((path) => {
  const { shelves, pieces } = asked(path, []);
  return shelves.flatMap((shelf) =>
    shelf.pieces.map((name) => ({
      path,
      shelf: shelf.name,
      piece: pieces.find((one) => one.name === name) as PieceItem,
    })),
  );
});

type Profile = 'empty' | 'shortest' | 'longest' | 'hostile';
const hostile = [
  '<script>alert(1)</script><img src=x onerror=alert(1)>',
  '</textarea></title></style></script><p>out',
  '"><svg onload=alert(1)>',
  "' onmouseover='alert(1)",
  'javascript:alert(1)',
  '{product.name}',
  '\u0000\ufffe\ud800&#x3c;script&#x3e;',
];

/** What is given to an input; undefined: nothing. */
function given(take: TakeItem, profile: Profile, at: number): unknown {
  if (profile === 'empty') return undefined;
  const evil = hostile[at % hostile.length] as string;
  const named = (slug: string) => (profile === 'hostile' ? evil : slug);
  switch (take.type) {
    case 'number':
      return profile === 'longest' ? (take.most ?? 9_999_999) : (take.least ?? 0);
    case 'boolean':
      return profile !== 'shortest';
    case 'choice':
      return take.options[profile === 'longest' ? take.options.length - 1 : 0];
    case 'picture':
      return named('anchor-lamp.svg');
    case 'product':
      return named('deck-oil');
    case 'category':
      return named('lamps');
    case 'content':
      return named('care');
    case 'link':
      return profile === 'hostile' ? evil : '/listing/all';
    case 'html':
      return profile === 'shortest'
        ? '<p>.</p>'
        : profile === 'longest'
          ? `<h2>Long</h2>${'<p>Words that go on and on.</p><ul><li>and on</li></ul>'.repeat(400)}`
          : `<p>${evil}</p>${evil}<table><td>${evil}`;
    default:
      return profile === 'shortest' ? '.' : profile === 'longest' ? 'Unbreakable'.repeat(2000) : evil;
  }
}

describe('every piece of the base theme on every shelf that takes it', () => {
  it('there are several, on every kind of page that has shelves', () => {
    expect(new Set(places.map(({ path }) => path)).size).toBe(4);
    expect(new Set(places.map(({ piece }) => piece.name)).size).toBeGreaterThanOrEqual(10);
  });
  const bare = new Map(Object.values(address).map((path) => [path, page(path, []).html]));
  it.each(['empty', 'shortest', 'longest', 'hostile'] as const)('with its inputs %s', (profile) => {
    let at = 0;
    for (const { path, shelf, piece } of places)
      for (let round = 0; round < (profile === 'hostile' ? hostile.length : 1); round++) {
        const entries = piece.takes.flatMap((take) => {
          const value = given(take, profile, at + round);
          return value === undefined ? [] : [[take.name, value] as const];
        });
        at++;
        const placements = [{ id: 'one', shelf, piece: piece.name, inputs: Object.fromEntries(entries) }];
        const { html, problems, status } = page(path, placements);
        const where = `${path} ${shelf} ${piece.name} ${JSON.stringify(placements).slice(0, 300)}`;
        expect([where, status, problems.filter(({ code }) => code !== 'blocked').map((one) => one.message)]).toEqual([
          where,
          200,
          [],
        ]);
        // The page as a browser builds it (parse5), and as it is written.
        expect([where, browserTree(html, true)]).toEqual([where, writtenTree(html)]);
        expect([where, /<script>alert|<svg[^>]*onload|<img[^>]*onerror|href="javascript/i.test(html)]).toEqual([
          where,
          false,
        ]);
        const stands = asked(path, placements)
          .shelves.find(({ name }) => name === shelf)
          ?.placements.find(({ id }) => id === 'one');
        const needs = piece.takes.some(({ required }) => required);
        if (profile === 'empty') expect([where, stands?.why]).toEqual([where, needs ? 'missing' : null]);
        // What a required empty input keeps away leaves the page as if it were not placed.
        if (stands?.why === 'missing') expect([where, html]).toEqual([where, bare.get(path)]);
      }
  });
});

describe('an input that names something of the catalogue', () => {
  const piece = (type: string) =>
    `<placeable label="Own"><takes name="one" type="${type}" required>` +
    (type.startsWith('List of ')
      ? '<ul><li do:each="each in one">{each.name or each.title}</li></ul>'
      : '<p class="named">{one.name or one.title}</p>');
  const made = (type: string, given: unknown) => {
    const placements = [{ id: 'one', shelf: 'category-bottom', piece: 'pieces/row/own', inputs: { one: given } }];
    const texts = [...unsaved(placements), { path: 'pieces/row/own.html', text: piece(type) }];
    const { html } = pageOf(shop, draft, { path: '/category/lamps', query: {}, unsaved: texts });
    const { theme } = shop.themeWith(draft, texts);
    const wrong = theme.checkData().filter(({ code, file }) => code === 'shelf' && file === 'shelves.json');
    const named = /<p class="named">([^<]*)</.exec(html)?.[1] ?? '';
    const listed = [...html.matchAll(/<ul>((?:<li>[^<]*<\/li>)+)<\/ul>/g)].at(-1)?.[1]?.replace(/<\/?li>/g, '|') ?? '';
    return [named || listed, ...wrong.map(({ message }) => message)];
  };
  it.each([
    ['Product', 'deck-oil', 'Deck oil'],
    ['product', 'deck-oil', 'Deck oil'],
    ['Category', 'finishes', 'Finishes'],
    ['Content', 'care', 'Caring for rope'],
    ['Article', 'first-eye-splice', 'A first eye splice'],
    ['Tag', 'safety', 'safety'],
    ['Brand', 'withy-yard', 'Withy Yard'],
  ])('%s %s is %s', (type, slug, name) => expect(made(type, slug)[0]).toContain(name.slice(0, 8)));
  it.each([
    ['List of Tag', ['safety', 'load-rated'], '|safety||load-rated|'],
    ['List of Brand', ['withy-yard'], '|Withy Yard|'],
  ])('%s %j are %s', (type, slugs, names) => expect(made(type, slugs)).toEqual([names]));
  it.each(['Product', 'Category', 'Content', 'Article', 'Tag', 'Brand'])(
    '%s that is gone shows nothing, and is said',
    (type) => expect(made(type, 'no-such')).toEqual(['', `There is no ${type.toLowerCase()} “no-such”`]),
  );
});
