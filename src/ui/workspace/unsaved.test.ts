import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { stubBrowser } from './testing/browser';

/** One window after another on the same storage: each has its own copy of the module, as each has its own memory. */
let local: ReturnType<typeof stubBrowser>['local'];
let session: ReturnType<typeof stubBrowser>['session'];
beforeEach(() => {
  vi.useFakeTimers();
  ({ local, session } = stubBrowser());
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const at = '2026-11-28T09:00:00.000Z';
const text = (of: string) => ({ text: of, from: 'h1', at });
async function newWindow() {
  vi.resetModules();
  vi.stubGlobal('sessionStorage', stubSession());
  return import('./unsaved');
}
const stubSession = () => new (session.constructor as new () => typeof session)();

describe('texts that are not saved', () => {
  it('are kept by draft and path, and dropped', async () => {
    const { allUnsaved, dropUnsaved, keepUnsaved, readUnsaved, watchUnsaved } = await newWindow();
    const changed = vi.fn();
    const end = watchUnsaved(changed);
    keepUnsaved('spring', 'b.html', text('B'));
    keepUnsaved('spring', 'a.html', text('A'));
    keepUnsaved('autumn', 'a.html', text('other'));
    expect(allUnsaved('spring')).toEqual([
      { path: 'a.html', text: 'A' },
      { path: 'b.html', text: 'B' },
    ]);
    dropUnsaved('spring', 'a.html');
    dropUnsaved('spring', 'a.html');
    expect(readUnsaved('spring', 'a.html')).toBeNull();
    expect(readUnsaved('autumn', 'a.html')).toEqual(text('other'));
    expect(changed).toHaveBeenCalledTimes(4);
    end();
    dropUnsaved('spring', 'b.html');
    expect(changed).toHaveBeenCalledTimes(4);
  });

  it('of a window that is open are its own; those of a closed one go to the next that asks', async () => {
    const first = await newWindow();
    first.keepUnsaved('spring', 'a.html', text('first'));
    const second = await newWindow();
    expect(second.readUnsaved('spring', 'a.html')).toBeNull();
    window.dispatchEvent(new Event('pagehide'));
    vi.clearAllTimers();
    const third = await newWindow();
    expect(third.readUnsaved('spring', 'a.html')).toEqual(text('first'));
    expect(second.readUnsaved('spring', 'a.html')).toBeNull();
  });

  it('of a window that says nothing any more are taken for those of a closed one', async () => {
    const first = await newWindow();
    first.keepUnsaved('spring', 'a.html', text('first'));
    vi.clearAllTimers();
    const second = await newWindow();
    vi.setSystemTime(Date.now() + 60_000);
    expect(second.readUnsaved('spring', 'a.html')).toBeNull();
    vi.setSystemTime(Date.now() + 20_000);
    expect(second.readUnsaved('spring', 'a.html')).toEqual(text('first'));
  });

  it('of a window that is being reloaded are listed elsewhere, and stay its own', async () => {
    const first = await newWindow();
    const itsSession = sessionStorage;
    first.keepUnsaved('spring', 'a.html', text('first'));
    const second = await newWindow();
    window.dispatchEvent(new Event('pagehide'));
    expect(second.allUnsaved('spring')).toEqual([{ path: 'a.html', text: 'first' }]);
    vi.resetModules();
    vi.stubGlobal('sessionStorage', itsSession);
    const again = await import('./unsaved');
    expect(again.readUnsaved('spring', 'a.html')).toEqual(text('first'));
  });

  it('that cannot be kept, or read, are no error', async () => {
    const { keepUnsaved, readUnsaved } = await newWindow();
    readUnsaved('spring', 'a.html');
    local.room = local.length;
    expect(keepUnsaved('spring', 'a.html', text('A'))).toBe(false);
    local.room = Infinity;
    keepUnsaved('spring', 'a.html', text('A'));
    const key = Array.from({ length: local.length }, (_, n) => local.key(n)).find((one) => one?.includes('unsaved'));
    local.setItem(key ?? '', '{"text":');
    expect(readUnsaved('spring', 'a.html')).toBeNull();
  });
});
