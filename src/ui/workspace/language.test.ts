import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ThemeAnswer } from '@/contract/bench';
import type * as themes from '@/core/theme';
import type { call } from '@/ui/shared';
import { LanguageStore } from './language';
import type { Text } from './ports';
import { languageHere } from './testing/bench-of';

/** How many themes were made. */
const count = vi.hoisted(() => ({ themes: 0 }));
vi.mock('@/core/theme', async (load) => {
  const real = await load<typeof themes>();
  const construct = (theme: typeof real.Theme, given: ConstructorParameters<typeof real.Theme>) => {
    count.themes++;
    return new theme(...given);
  };
  return { ...real, Theme: new Proxy(real.Theme, { construct }) };
});

const snapshot = (text: string): ThemeAnswer =>
  ({
    layers: [{ kind: 'shop', name: 'Withy Quay', version: '', files: [{ path: 'a.html', hash: text, text }] }],
    locale: 'en-GB',
    definitions: { product: [], category: [] },
    facts: { locales: [], contents: [], menus: [], named: {}, paths: [] },
  }) as unknown as ThemeAnswer;

let themeCalls: ((theme: ThemeAnswer) => void)[];
let emptinessCalls: unknown[];
let unsaved: Text[];
let language: LanguageStore;
beforeEach(() => {
  themeCalls = [];
  emptinessCalls = [];
  unsaved = [];
  const fake = ((one: { path: string }, _: unknown, body: unknown) => {
    if (one.path.endsWith('/theme')) return new Promise((resolve) => themeCalls.push(resolve));
    emptinessCalls.push(body);
    return Promise.resolve([]);
  }) as unknown as typeof call;
  language = new LanguageStore('spring', { call: fake, language: () => languageHere() }, () => unsaved);
});
afterEach(() => language.stop());

const codes = () => language.now.problems?.map(({ code }) => code) ?? null;
const until = (holds: () => boolean) => vi.waitUntil(holds, { timeout: 5000, interval: 5 });

describe('the language on the Bench', () => {
  it('knows no problems before it has a theme, and then those of what is looked at', async () => {
    language.start();
    language.lookAt(['a.html']);
    void language.load();
    expect(codes()).toBeNull();
    themeCalls[0]?.(snapshot('<p>{nothing}</p>'));
    await until(() => codes() !== null);
    expect(codes()).toEqual(['name']);
    language.lookAt(['a.html', 'b.html']);
    expect(codes()).toBeNull();
    await until(() => codes() !== null);
  });

  it('goes by the newest theme, whichever comes first', async () => {
    language.start();
    language.lookAt(['a.html']);
    void language.load();
    void language.load();
    themeCalls[1]?.(snapshot('<p>new</p>'));
    await until(() => codes() !== null);
    themeCalls[0]?.(snapshot('<p>{old}</p>'));
    language.check();
    const { known } = language.now;
    await until(() => language.now.known > known);
    expect(codes()).toEqual([]);
  });

  it('is asked only once it has the newest theme', async () => {
    language.start();
    void language.load();
    void language.load();
    const found = vi.fn();
    void language.ask('find', { words: 'here', capitals: false }).then(found);
    themeCalls[0]?.(snapshot('not there'));
    await vi.waitFor(() => expect(themeCalls).toHaveLength(2));
    expect(found).not.toHaveBeenCalled();
    themeCalls[1]?.(snapshot('it is here'));
    await until(() => found.mock.calls.length > 0);
    expect(found.mock.calls[0]?.[0]).toMatchObject([{ file: 'a.html', from: 6 }]);
  });

  it('reads a text while it has no theme, and says what is wrong once it has one', async () => {
    unsaved = [{ path: 'a.html', text: '<p>{' }];
    language.start();
    language.lookAt(['a.html']);
    language.check();
    await until(() => language.now.known > 0);
    expect(codes()).toBeNull();
  });

  it('makes the theme once for a keystroke, whatever is asked of it', async () => {
    language.start();
    language.lookAt(['a.html']);
    void language.load();
    themeCalls[0]?.(snapshot('<p>one</p>'));
    await until(() => codes() !== null);
    const before = count.themes;
    const text = '<p>one {</p>';
    unsaved = [{ path: 'a.html', text }];
    const spot = { file: 'a.html', layer: 'Withy Quay', text, offset: 8 };
    language.check();
    await Promise.all([language.ask('complete', spot), language.ask('thing', spot), language.ask('hover', spot)]);
    const { known } = language.now;
    await until(() => language.now.known > known);
    expect(count.themes).toBe(before + 1);
  });

  it('leaves no one waiting when the Bench is left', async () => {
    language.start();
    void language.load();
    themeCalls[0]?.(snapshot('x'));
    await until(() => language.now.known >= 0);
    const asked = language.ask('find', { words: 'x', capitals: false });
    language.stop();
    await expect(asked).rejects.toMatchObject({ name: 'AbortError' });
  });
});
