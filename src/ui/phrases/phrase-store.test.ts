import { describe, expect, it } from 'vitest';
import type { PhraseItem } from '@/contract/phrases';
import { filtered, type Filter } from './filter';
import { keptIn } from './kept';
import { PhraseStore, problemsIn, standingOf, type Keeps, type Typed } from './phrase-store';

/** Storage as a browser has it. */
class Memory implements Storage {
  readonly #kept = new Map<string, string>();
  get length() {
    return this.#kept.size;
  }
  key = (at: number) => [...this.#kept.keys()][at] ?? null;
  getItem = (name: string) => this.#kept.get(name) ?? null;
  setItem = (name: string, value: string) => void this.#kept.set(name, value);
  removeItem = (name: string) => void this.#kept.delete(name);
  clear = () => this.#kept.clear();
}

const nowhere: Keeps = { all: () => [], put: () => undefined, drop: () => undefined };
const text = (phrase: PhraseItem['first'], more: Partial<PhraseItem['texts'][number]> = {}) => ({
  ...{ phrase, layer: phrase === null ? '' : 'Quay', own: false, lacks: [] },
  ...more,
});
const row = (key: string, texts: PhraseItem['texts'], more: Partial<PhraseItem> = {}): PhraseItem => ({
  ...{ key, first: texts[0]?.phrase ?? null, places: [], texts, uses: 1 },
  ...more,
});
const locales = ['en-GB', 'fr'];
const typedIn = (store: PhraseStore) => [...store.state.getState().typed.values()];

describe('what is typed', () => {
  it('is a change until it says again what showed', () => {
    const store = new PhraseStore(nowhere);
    store.type({ key: 'a' }, 'fr', 'Un', '', 'Une');
    expect(typedIn(store)).toEqual([{ key: 'a', locale: 'fr', phrase: 'Une', seen: 'Un' }]);
    store.type({ key: 'a' }, 'fr', 'Un', '', 'Un');
    expect(typedIn(store)).toEqual([]);
  });

  it('goes back to what is below where nothing is left in it', () => {
    const store = new PhraseStore(nowhere);
    store.type({ key: 'a' }, 'fr', 'Un', '', '');
    expect(typedIn(store)[0]?.phrase).toBeNull();
  });

  it('gathers plural forms, and drops those that are emptied', () => {
    const store = new PhraseStore(nowhere);
    const shown = { one: '{count} x', other: '{count} xs' };
    store.type({ key: 'a' }, 'fr', shown, 'one', 'un x');
    store.type({ key: 'a' }, 'fr', shown, 'other', '');
    expect(typedIn(store)[0]?.phrase).toEqual({ one: 'un x' });
    store.type({ key: 'a' }, 'fr', shown, 'one', '');
    expect(typedIn(store)[0]?.phrase).toBeNull();
  });

  it('outlives a reload, and what two windows type is both there', () => {
    const storage = new Memory();
    const [one, two] = [new PhraseStore(keptIn('spring', storage)), new PhraseStore(keptIn('spring', storage))];
    one.type({ key: 'a' }, 'fr', null, '', 'A');
    two.type({ key: 'b' }, 'fr', null, '', 'B');
    storage.setItem('last:phrase:spring:broken', '{');
    const next = new PhraseStore(keptIn('spring', storage));
    expect(typedIn(next).map(({ key }) => key)).toEqual(['a', 'b']);
    expect(typedIn(new PhraseStore(keptIn('other', storage)))).toEqual([]);
    next.drop({ key: 'a', locale: 'fr' });
    expect(typedIn(new PhraseStore(keptIn('spring', storage))).map(({ key }) => key)).toEqual(['b']);
  });

  it('is no change once it is saved, unless it was typed further meanwhile', () => {
    const store = new PhraseStore(nowhere);
    store.type({ key: 'a' }, 'fr', 'Un', '', 'Deux');
    const sent = typedIn(store);
    store.type({ key: 'a' }, 'fr', 'Un', '', 'Trois');
    store.saved(sent);
    expect(typedIn(store)).toEqual([{ key: 'a', locale: 'fr', phrase: 'Trois', seen: 'Deux' }]);
    store.saved(typedIn(store));
    expect(typedIn(store)).toEqual([]);
  });
});

describe('what can be saved', () => {
  const rows = new Map([['a', row('a', [text('Hello, {name}'), text('Salut, {name}')], { places: ['name'] })]]);
  const typed = (phrase: Typed['phrase'], seen: Typed['seen'] = 'Salut, {name}', locale = 'fr'): Typed => ({
    ...{ key: 'a', locale, phrase, seen },
  });
  it.each<[string, Typed, 'ready' | 'late' | 'wrong']>([
    ['as it should be', typed('Bonjour, {name}'), 'ready'],
    ['with a warning', typed('Bonjour'), 'ready'],
    ['back to what is below', typed(null), 'ready'],
    ['a place that nothing fills', typed('Bonjour, {nom}'), 'wrong'],
    ['no form “other”', typed({ one: '{name}' }), 'wrong'],
    ['changed by someone else since', typed('Bonjour, {name}', 'Coucou, {name}'), 'late'],
  ])('%s', (_, one, where) => {
    const standing = standingOf([one], rows, locales);
    expect(standing[where]).toEqual([one]);
  });

  it('is mine again once I chose so', () => {
    const store = new PhraseStore(nowhere);
    store.put(typed('Mine, {name}', 'Coucou, {name}'));
    const [mine] = typedIn(store);
    if (mine) store.keepMine(mine, 'Salut, {name}');
    expect(standingOf(typedIn(store), rows, locales).ready).toHaveLength(1);
  });

  it('says which form is wrong', () =>
    expect(problemsIn({ places: ['count'], first: '{count}' }, 'fr', { one: '{cout}', other: '{count}' })).toEqual([
      { form: 'one', severity: 'error', text: 'Nothing fills “{cout}” in this phrase; did you mean “{count}”?' },
    ]));
});

describe('which phrases are listed', () => {
  const all = [
    row('cart.title', [text('Cart'), text('Panier', { own: true, layer: 'Withy Quay' })]),
    row('cart.items', [text({ one: 'x', other: 'xs' }), text({ other: 'x' }, { lacks: ['one'] })]),
    row('home.lead', [text('Welcome'), text(null)], { uses: 0 }),
  ];
  const any: Filter = { words: '', show: 'all', locale: null, layer: null };
  it.each<[string, Partial<Filter>, string[]]>([
    ['all', {}, ['cart.title', 'cart.items', 'home.lead']],
    ['by key', { words: 'cart' }, ['cart.title', 'cart.items']],
    ['by a text in any language', { words: 'pan' }, ['cart.title']],
    ['missing in any language', { show: 'missing' }, ['cart.items', 'home.lead']],
    ['missing in a language', { show: 'missing', locale: 'fr' }, ['cart.items', 'home.lead']],
    ['missing in none', { show: 'missing', locale: 'en-GB' }, []],
    ['not used', { show: 'unused' }, ['home.lead']],
    ['the shop’s own', { show: 'own' }, ['cart.title']],
    ['typed', { show: 'typed' }, ['home.lead']],
    ['of a layer', { layer: 'Withy Quay' }, ['cart.title']],
  ])('%s', (_, filter, keys) =>
    expect(filtered(all, locales, { ...any, ...filter }, (key) => key === 'home.lead').map(({ key }) => key)).toEqual(
      keys,
    ),
  );
});
