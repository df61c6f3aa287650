import { describe, expect, it } from 'vitest';
import { readShelves } from '@/core/theme';
import { ArrangeStore, textOf, withText } from './arrange-store';

const below = JSON.stringify({
  placements: [
    { id: 'hero', shelf: 'home', piece: 'pieces/row/hero' },
    { id: 'newest', shelf: 'home', piece: 'pieces/row/products', inputs: { limit: 4 } },
  ],
});

function begun(own: string | null = null) {
  const texts: string[] = [];
  let now = 0;
  const store = new ArrangeStore(
    (text) => texts.push(text),
    () => now,
  );
  store.take(own, [below]);
  const ids = () => store.now.placements.map(({ id, hidden }) => `${id}${hidden ? '-' : ''}`).join(' ');
  return { store, texts, ids, wait: (ms: number) => (now += ms) };
}
const lastOf = (texts: string[]) => JSON.parse(texts.at(-1) ?? 'null') as { placements: object[] };

describe('what is arranged', () => {
  it('begins with what the layers below place, and writes only what differs', () => {
    const { store, texts, ids } = begun();
    expect(ids()).toBe('hero newest');
    store.setInput('newest', 'limit', 8);
    expect(lastOf(texts)).toEqual({ placements: [{ id: 'newest', inputs: { limit: 8 } }] });
    store.setInput('newest', 'limit', 4);
    expect(lastOf(texts)).toEqual({ placements: [] });
  });
  it('adds, copies, moves, hides and removes', () => {
    const { store, texts, ids } = begun();
    expect(store.add('home', 'pieces/notice', { kind: 'home' })).toBe('notice');
    expect(store.now.chosen).toBe('notice');
    store.move('notice', 'home', 'hero');
    store.duplicate('notice', { subject: 'category/rope' });
    expect(store.now.chosen).toBe('notice-2');
    expect(ids()).toBe('notice notice-2 hero newest');
    store.remove('hero');
    store.remove('notice');
    expect(ids()).toBe('notice-2 hero- newest');
    const read = readShelves(texts.at(-1) ?? '', readShelves(below).entries).entries;
    expect(read.map(({ id }) => id)).toEqual(['notice-2', 'hero', 'newest']);
  });
  it('copies to another page, and stays where it was', () => {
    const { store, ids } = begun();
    store.add('home', 'pieces/notice', { kind: 'home' });
    store.copyTo('notice', 'category/rope');
    expect([ids(), store.now.chosen]).toEqual(['hero newest notice notice-2', 'notice']);
    expect(store.now.placements.at(-1)).toEqual({
      id: 'notice-2',
      shelf: 'home',
      piece: 'pieces/notice',
      inputs: {},
      subject: 'category/rope',
    });
  });
  it('undoes and redoes step by step; what is typed without a rest is one step', () => {
    const { store, texts, ids, wait } = begun();
    store.add('home', 'pieces/notice', {});
    for (const text of ['U', 'Un', 'Unt']) {
      wait(200);
      store.setInput('notice', 'text', text);
    }
    wait(5000);
    store.setInput('notice', 'text', 'Until Friday');
    store.undo();
    expect(store.now.placements.at(-1)?.inputs).toEqual({ text: 'Unt' });
    store.undo();
    expect(store.now.placements.at(-1)?.inputs).toEqual({});
    store.undo();
    expect([ids(), store.now.canUndo, lastOf(texts)]).toEqual(['hero newest', false, { placements: [] }]);
    store.undo();
    for (let step = 0; step < 3; step++) store.redo();
    expect([store.now.placements.at(-1)?.inputs, store.now.canRedo]).toEqual([{ text: 'Until Friday' }, false]);
    store.undo();
    store.remove('hero');
    expect(store.now.canRedo).toBe(false);
  });
  it('knows its own text when it comes back, and reads another one', () => {
    const { store, texts, ids } = begun();
    store.add('home', 'pieces/notice', {});
    store.take(texts.at(-1) ?? '', [below]);
    expect([store.now.canUndo, store.now.chosen]).toEqual([true, 'notice']);
    store.take('{"placements": [{"id": "hero", "hidden": true}]}', [below]);
    expect([ids(), store.now.canUndo, store.now.chosen]).toEqual(['hero- newest', false, null]);
  });
  it('touches nothing that could be lost, and says why', () => {
    const { store, texts } = begun('{"placements": [{"id": "hero", "colour": "red"}]}');
    expect(store.now.refused).toMatch(/mistake.*colour.*nothing is lost/);
    expect(texts).toEqual([]);
  });
});

describe('a text by language', () => {
  it.each([
    [undefined, 'fr', 'Neuf', { texts: { fr: 'Neuf' } }],
    ['New', 'fr', 'Neuf', { texts: { 'en-GB': 'New', fr: 'Neuf' } }],
    [{ texts: { 'en-GB': 'New', fr: 'Neuf' } }, 'fr', '', { texts: { 'en-GB': 'New' } }],
    [{ texts: { fr: 'Neuf' } }, 'fr', '', undefined],
    [{ phrase: 'home.new' }, 'en-GB', 'New', { texts: { 'en-GB': 'New' } }],
  ])('%j in %s: “%s”', (value, locale, text, made) => expect(withText(value, locale, text, 'en-GB')).toEqual(made));
  it.each([
    ['New', 'New'],
    [{ texts: { fr: 'Neuf' } }, 'Neuf'],
    [{ field: 'product.name' }, ''],
    [['a'], ''],
    [4, ''],
  ])('%j reads “%s”', (value, text) => expect(textOf(value, 'fr')).toBe(text));
});
