import type { Emptiness, Named, SiteFacts } from '@/core/language';

/** What of a shop is known away from its catalogue: small lists whole, the rest as it was asked for. */
export interface FactsSnapshot {
  locales: string[];
  contents: string[];
  menus: string[];
  named: Record<Named, string[]>;
  /** Paths of pages that are listed whole: all but products. */
  paths: string[];
}

/** The facts of a shop in the browser: what is not known yet is noted in `wanted`, and held against nothing. */
export class KnownFacts implements SiteFacts {
  readonly locales: readonly string[];
  readonly contents: ReadonlySet<string>;
  readonly menus: ReadonlySet<string>;
  readonly #named: Record<string, ReadonlySet<string>>;
  readonly #paths: ReadonlySet<string>;
  readonly #counted = new Map<string, Emptiness | null>();
  readonly wanted = new Map<string, { object: string; path: string[] }>();

  constructor({ locales, contents, menus, named, paths }: FactsSnapshot) {
    this.locales = locales;
    this.contents = new Set(contents);
    this.menus = new Set(menus);
    this.#named = Object.fromEntries(Object.entries(named).map(([object, names]) => [object, new Set(names)]));
    this.#paths = new Set(paths);
  }

  named(object: Named): ReadonlySet<string> | null {
    return this.#named[object] ?? null;
  }

  leads(path: string): boolean {
    return /^\/product\//.test(path) || /^\/(?:listing|article|cart)?\/?$/.test(path) || this.#paths.has(path);
  }

  emptiness(object: string, path: readonly string[]): Emptiness | null {
    const key = `${object}.${path.join('.')}`;
    const known = this.#counted.get(key);
    if (known === undefined) this.wanted.set(key, { object, path: [...path] });
    return known ?? null;
  }

  /** Takes what was asked for. */
  learn(object: string, path: readonly string[], found: Emptiness | null): void {
    const key = `${object}.${path.join('.')}`;
    this.wanted.delete(key);
    this.#counted.set(key, found);
  }
}
