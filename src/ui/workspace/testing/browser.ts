import { vi } from 'vitest';

/** A browser's storage, as much of it as the workspace uses; `room`: how many texts it takes. */
export class MemoryStorage {
  readonly #entries = new Map<string, string>();
  room = Infinity;

  get length(): number {
    return this.#entries.size;
  }

  key(at: number): string | null {
    return [...this.#entries.keys()][at] ?? null;
  }

  getItem(key: string): string | null {
    return this.#entries.get(key) ?? null;
  }

  setItem(key: string, value: string): void {
    if (!this.#entries.has(key) && this.#entries.size >= this.room) throw new RangeError('There is no room.');
    this.#entries.set(key, value);
  }

  removeItem(key: string): void {
    this.#entries.delete(key);
  }
}

/** Stands in for the browser around the workspace: its storages, its window. Ended by `vi.unstubAllGlobals`. */
export function stubBrowser(): { local: MemoryStorage; session: MemoryStorage } {
  const [local, session] = [new MemoryStorage(), new MemoryStorage()];
  vi.stubGlobal('localStorage', local);
  vi.stubGlobal('sessionStorage', session);
  vi.stubGlobal('window', new EventTarget());
  vi.stubGlobal(
    'document',
    Object.assign(new EventTarget(), { querySelector: () => null, visibilityState: 'visible' }),
  );
  return { local, session };
}
