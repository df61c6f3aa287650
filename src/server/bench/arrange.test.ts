import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { demoShop } from '@/server/testing/demo-shop';
import { stateOf } from '@/server/shop';
import { arrangedAt, marksOfPlacement, marksOfShelf } from '@/core/inspect';
import { arrangeAt } from './arrange';
import { viewPage } from './preview';

const shop = demoShop();
const draft = stateOf(shop, 'draft/spring');
const arranged = (address: string, placements: object[] | null = null, on: string | null = null) =>
  arrangeAt(shop, draft, {
    ...{ address, try: null, on },
    unsaved: placements ? [{ path: 'shelves.json', text: JSON.stringify({ placements }) }] : [],
  });
const shelf = (answer: ReturnType<typeof arranged>, name: string) => answer.shelves.find((one) => one.name === name);

describe('the shelves of a page', () => {
  it('are those that its templates ask for, by name, empty ones too, with what they take', () => {
    const answer = arranged('/category/lamps');
    expect([answer.subject?.name, answer.template, answer.locales]).toEqual([
      'Lamps',
      'category/default',
      ['en-GB', 'fr'],
    ]);
    expect(answer.shelves.map(({ name, label, placements }) => [name, label, placements.length])).toEqual([
      ['category-top', 'Above the products', 1],
      ['category-between', 'Between categories and products', 0],
      ['category-bottom', 'Below the products', 0],
    ]);
    // Offered for the first page alone.
    expect(shelf(answer, 'category-top')?.pieces).not.toContain('pieces/row/hero');
    expect(shelf(arranged('/'), 'home')?.pieces).toContain('pieces/row/hero');
    const banner = answer.pieces.find(({ name }) => name === 'pieces/row/banner');
    expect(banner?.takes.map(({ name, type, required }) => [name, type, required])).toContainEqual([
      'heading',
      'text',
      true,
    ]);
    expect(answer.pieces.find(({ name }) => name === 'pieces/row/divider')?.takes[0]).toMatchObject({
      ...{ least: 8, most: 200, unit: 'px', default: '40' },
    });
  });

  const notice = (more: object) => ({
    ...{ id: 'own', shelf: 'category-bottom', piece: 'pieces/notice', inputs: { text: 'Until Friday' } },
    ...more,
  });
  it.each([
    [{}, null, null],
    [{ hidden: true }, 'hidden', null],
    [{ from: '2026-12-01', to: '2026-12-24', yearly: true }, 'date', null],
    [{ inputs: {} }, 'missing', 'text'],
    [{ inputs: { text: { field: 'category.fields.notice' } } }, 'missing', 'text'],
    [{ inputs: { text: { field: 'category.name' } } }, null, null],
    [{ inputs: { text: { texts: { fr: 'Jusqu’à vendredi' } } } }, null, null],
    [{ kind: 'category', when: { fact: 'slug', test: 'is', value: ['lamps'] } }, null, null],
    [{ kind: 'category', when: { fact: 'slug', test: 'is', value: ['rope'] } }, 'condition', null],
    [{ kind: 'category', when: { fact: 'nothing', test: 'filled' } }, 'condition', null],
  ])('%j stands there as %s', (more, why, input) =>
    expect(shelf(arranged('/category/lamps', [notice(more)], '2026-11-24'), 'category-bottom')?.placements).toEqual([
      { id: 'own', why, input },
    ]),
  );
  it('of what is placed too, where it stands: a third column only where there are three', () => {
    const inside = [
      { id: 'columns', shelf: 'category-bottom', piece: 'pieces/row/columns', from: '2030-01-01' },
      notice({ shelf: 'columns/first' }),
      notice({ id: 'inner', shelf: 'columns/second', piece: 'pieces/row/columns', inputs: { count: 3 } }),
      notice({ id: 'deep', shelf: 'inner/third' }),
    ];
    const names = (placements: object[]) =>
      arranged('/category/lamps', placements, '2026-11-24').shelves.flatMap(({ name, label, placements: on }) =>
        name.includes('/') ? [[name, label, on.map(({ id, why }) => `${id} ${why}`).join()]] : [],
      );
    expect(names(inside)).toEqual([
      ['columns/first', 'First column', 'own null'],
      ['columns/second', 'Second column', 'inner null'],
      ['inner/first', 'First column', ''],
      ['inner/second', 'Second column', ''],
      ['inner/third', 'Third column', 'deep null'],
    ]);
    expect(names(inside.map((one) => (one.id === 'columns' ? { ...one, subject: 'category/rope' } : one)))).toEqual([]);
  });
  it.each([[{ subject: 'category/finishes' }], [{ kind: 'product' }], [{ template: 'category/long' }]])(
    '%j is of another page, and not listed',
    (more) => expect(shelf(arranged('/category/lamps', [notice(more)]), 'category-bottom')?.placements).toEqual([]),
  );
  it('each December, as of a day', () => {
    const days = { from: '2026-12-01', to: '2026-12-24', yearly: true };
    const on = (day: string) =>
      shelf(arranged('/category/lamps', [notice(days)], day), 'category-bottom')?.placements[0];
    expect([on('2026-11-30')?.why, on('2026-12-01')?.why, on('2031-12-24')?.why, on('2031-12-25')?.why]).toEqual([
      'date',
      null,
      null,
      'date',
    ]);
  });
  it('of a page that there is not are those of its template', () =>
    expect(arranged('/category/no-such').subject).toBeNull());
  it('come with the fields that inputs can be bound to, their values here and how often they are empty', () => {
    const { fields } = arranged('/category/finishes');
    const of = (path: string) => fields.find((one) => one.path === path);
    expect(of('category.name')).toMatchObject({ value: '“Finishes”', empty: 0, total: 16 });
    expect(of('category.fields.notice')?.label).toBe('Notice');
    expect(of('category.fields.notice')?.empty).toBeGreaterThan(0);
    expect(of('category.name')?.fits).toContain('pieces/notice text');
    expect(of('category.image')?.fits).toContain('pieces/row/banner picture');
    // A text takes no markup, a number no text.
    expect(of('category.description')?.fits).toContain('pieces/row/text text');
    expect(of('category.description')?.fits).not.toContain('pieces/notice text');
    expect(of('category.name')?.fits).not.toContain('pieces/row/divider height');
    expect(arranged('/').fields).toEqual([]);
  });
  it('has labels that are phrases in the reader’s language, else in the shop’s; all else as it is written', () => {
    const unsaved = [
      {
        path: 'pieces/row/own.html',
        text: '<placeable label="home.doors" help="home.all"><takes name="a" type="text" label="home.more"><takes name="b" type="text" label="v1.2 of it">{a}{b}',
      },
    ];
    const own = (languages: string[]) => {
      const answer = arrangeAt(shop, draft, { address: '/category/lamps', try: null, on: null, unsaved, languages });
      const piece = answer.pieces.find(({ name }) => name === 'pieces/row/own');
      return [piece?.label, piece?.help, ...(piece?.takes ?? []).map(({ label }) => label)];
    };
    const phrase = (locale: string, key: string) =>
      (JSON.parse(readFileSync(`themes/quay-1.0/words/${locale}.json`, 'utf8')) as { home: Record<string, string> })
        .home[key];
    const said = (locale: string) => [...['doors', 'all', 'more'].map((key) => phrase(locale, key)), 'v1.2 of it'];
    expect(own(['fr-CA', 'en'])).toEqual(said('fr'));
    expect(own(['nl'])).toEqual(said('en'));
    expect(own([])).toEqual(said('en'));
  });
  it('are found on the page: what a placement became, and the placement of what is pointed at', () => {
    const two = [
      notice({}),
      notice({ id: 'later', from: '2030-01-01' }),
      notice({ id: 'more', inputs: { text: 'Closed' } }),
    ];
    const unsaved = [{ path: 'shelves.json', text: JSON.stringify({ placements: two }) }];
    const { table, html } = viewPage(shop, draft, {
      ...{ view: null, address: '/category/lamps', try: null, on: '2026-11-24', origin: 'http://localhost:4171' },
      ...{ unsaved, open: null, shown: null },
    });
    const markOf = (text: string) =>
      new RegExp(`<p[^>]*data-last-at="(\\d+\\.\\d+)"[^>]*>(?:<!--[^>]*-->)?${text}`).exec(html ?? '')?.[1] ?? '';
    for (const [placement, text] of [
      ['own', 'Until Friday'],
      ['more', 'Closed'],
    ] as const) {
      expect(arrangedAt(table, markOf(text))).toEqual({ placement });
      expect(marksOfPlacement(table, placement)).toEqual([markOf(text)]);
    }
    expect(marksOfPlacement(table, 'later')).toEqual([]);
    const heading = /<h1[^>]*data-last-at="(\d+\.\d+)"/.exec(html ?? '')?.[1] ?? '';
    expect(heading).not.toBe('');
    expect(arrangedAt(table, heading)).toBeNull();

    // A shelf with nothing on it has its place too.
    const [mark = ''] = marksOfShelf(table, 'category-between');
    expect(html).toContain(`<!--last ${mark}--><!--/last-->`);
    expect(arrangedAt(table, mark)).toEqual({ shelf: 'category-between' });
    expect(marksOfShelf(table, 'nowhere')).toEqual([]);
  });
});
