import type { Keeps, Typed } from './phrase-store';

/** Typed phrases of a draft in this browser, each by itself: two windows lose nothing of one another's. */
export function keptIn(draft: string, storage: Storage = localStorage): Keeps {
  const prefix = `last:phrase:${draft}:`;
  const keyOf = ({ key, locale }: Pick<Typed, 'key' | 'locale'>) => `${prefix}${locale} ${key}`;
  return {
    all: () => {
      const found: Typed[] = [];
      for (let at = 0; at < storage.length; at++) {
        const name = storage.key(at);
        if (!name?.startsWith(prefix)) continue;
        try {
          const read = JSON.parse(storage.getItem(name) ?? 'null') as Partial<Typed> | null;
          if (read && typeof read.key === 'string' && typeof read.locale === 'string') found.push(read as Typed);
        } catch {
          // Not ours: left where it is.
        }
      }
      return found;
    },
    put: (one) => {
      try {
        storage.setItem(keyOf(one), JSON.stringify(one));
      } catch {
        // Without room it is kept as long as the page is open.
      }
    },
    drop: (one) => storage.removeItem(keyOf(one)),
  };
}
