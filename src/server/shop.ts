import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readAlternates, type Alternates } from '@/core/alternates/alternates';
import { CatalogueFacts } from '@/core/catalogue/site';
import { Theme, type Layer } from '@/core/theme/theme';
import { DataFolderError, dataFolder, openDatabase } from '@/store/database';
import { StoredCatalogue } from '@/store/catalogue';
import { Kept } from '@/store/kept';
import { Statements } from '@/store/statements';
import { StoredThemes, type StateRow } from '@/store/themes';

import { Pages } from './pages';
import { Pictures } from './pictures';

export { DataFolderError, dataFolder };

/** Files that hold text: all else of a theme is bytes. */
export const textual = /\.(?:html|json|css|js|svg|txt|md)$/i;

/** Everything that serves one data folder: its store, and themes made from it, kept until their state changes. */
export class Shop {
  readonly sql: Statements;
  readonly themes: StoredThemes;
  readonly #made = new Map<number, { key: string; theme: Theme; alternates: Alternates; wrong: string[] }>();
  readonly pictures: Pictures;
  readonly pages = new Pages();
  readonly #kept = new Kept();
  #facts: { version: number; facts: CatalogueFacts } | null = null;

  constructor(folder: string) {
    this.sql = new Statements(openDatabase(folder));
    this.themes = new StoredThemes(this.sql);
    this.pictures = new Pictures(folder === ':memory:' ? null : join(folder, 'pictures'));
  }

  /** The catalogue as one request reads it, in one of the shop's languages (null: the first). */
  catalogue(locale: string | null = null): StoredCatalogue {
    return new StoredCatalogue(this.sql, locale, this.#kept);
  }

  /** What the checker asks about the catalogue: counted once, until it changes. */
  facts(): CatalogueFacts {
    const catalogue = this.catalogue();
    const version = catalogue.revision;
    if (this.#facts?.version !== version) this.#facts = { version, facts: new CatalogueFacts(catalogue) };
    return this.#facts.facts;
  }

  /** The theme and assignments of a state. Asks the store for its revision each time, so that nothing stale is served. */
  theme(state: StateRow): { theme: Theme; alternates: Alternates; wrong: string[] } {
    const site = this.facts();
    const key = `${state.revision} ${this.#facts?.version}`;
    const kept = this.#made.get(state.id);
    if (kept?.key === key) return kept;
    const layers: Layer[] = this.themes.layers(state.id).map(({ id, kind, name, version }) => ({
      kind,
      name,
      version,
      files: new Map(
        this.themes
          .files(id)
          .map(({ path, hash, bytes }) => [path, { hash, text: textual.test(path) ? bytes.toString('utf8') : null }]),
      ),
    }));
    const source = this.catalogue();
    const theme = new Theme(layers, source.shop().locale, {
      definitions: (subject) => source.fieldDefinitions(subject),
      site,
    });
    const made = { key, theme, ...readAlternates(theme.file('alternates.json')?.text ?? null) };
    if (this.#made.size > 20) this.#made.clear();
    this.#made.set(state.id, made);
    return made;
  }
}

const global = globalThis as { lastShop?: Shop };

/** The shop of this process, opened when first asked for. */
export function shop(): Shop {
  return (global.lastShop ??= new Shop(dataFolder()));
}

/** All files below a folder, by their paths with `/`. */
export function readFolder(folder: string): [path: string, bytes: Buffer][] {
  const files: [string, Buffer][] = [];
  const walk = (path: string): void => {
    for (const entry of readdirSync(join(folder, path), { withFileTypes: true })) {
      const inner = path ? `${path}/${entry.name}` : entry.name;
      if (entry.isDirectory()) walk(inner);
      else if (entry.isFile()) files.push([inner, readFileSync(join(folder, inner))]);
    }
  };
  walk('');
  return files.sort(([a], [b]) => (a < b ? -1 : 1));
}
