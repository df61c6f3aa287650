import type { SlugNow } from '@/core/alternates';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type FieldSubject, CatalogueFacts, fieldSubjects } from '@/core/catalogue';
import { Theme, type Layer } from '@/core/theme';
import { LRUCache } from 'lru-cache';
import {
  databaseFile,
  DataFolderError,
  dataFolder,
  openCarts,
  openCopy,
  openForReading,
  openReleaseFile,
  openDatabase,
  restoreInUse,
  FileWatch,
  hashOf,
  StoredCatalogue,
  RevisionCache,
  Statements,
  StoredThemes,
  type StateRow,
  type RevisedShop,
  setRevision,
  type AskedState,
  type Visit,
  visitOf,
} from '@/store';

import type { MadeTheme, UnsavedText } from './ask';
import { endThreads, JobPool } from '@/server/jobs';
import { Pages } from './pages';
import { Pictures } from './pictures';
import { PictureSigner } from './signer';
import { Views } from './views';

export { DataFolderError, dataFolder };

/** Files that hold text: all else of a theme is bytes. */
export const textual = /\.(?:html|json|css|js|svg|txt|md)$/i;

/** Themes of states, and of drafts with unsaved texts, that are cached. */
const maxThemes = 20;
const maxTried = 8;
/** Texts of files that are cached, in bytes: a theme of a thousand files has some 4 million. */
const maxTextBytes = 10_000_000;
/** Bytes of unsaved assets that pages may ask for. */
const maxUnsavedBytes = 50_000_000;

/** What is known of the goods at a revision; `around`: all of them that a theme is made with, as one text. */
interface FactsNow {
  version: number;
  facts: CatalogueFacts;
  around: string;
}

/** A theme with what it was read from: the revision of its state, and what of the goods it is made with. */
interface ReadTheme extends MadeTheme {
  revision: number;
  around: string;
}

/** Everything that serves one data folder: its store, and themes made from it, kept until their state changes. */
export class Shop {
  readonly sql: Statements;
  readonly themes: StoredThemes;
  readonly #themes = new LRUCache<number, ReadTheme>({ max: maxThemes });
  readonly pictures: Pictures;
  readonly signer: PictureSigner;
  readonly pages: Pages;
  /** What it is read from: the path of a release file; empty for a data folder. */
  readonly release: string;
  /** Its copy that is read in its place; empty: there is none. */
  readonly copy: string;
  readonly views = new Views();
  #catalogueCache = new RevisionCache();
  readonly #tried = new LRUCache<string, MadeTheme>({ max: maxTried });
  /** Texts of files, by hash: layers, drafts and releases share most of them. */
  readonly #texts = new LRUCache<string, string>({
    maxSize: maxTextBytes,
    sizeCalculation: (text) => 100 + 2 * text.length,
  });
  /** Bytes of unsaved files, by hash, so that a page that is made with them can ask for them. */
  readonly #unsaved = new LRUCache<string, Buffer>({
    maxSize: maxUnsavedBytes,
    sizeCalculation: (bytes) => Math.max(bytes.length, 1),
  });
  /** Themes' icons, each as one file, by their version. */
  readonly sprites = new LRUCache<string, string>({ max: 30 });
  #facts: FactsNow | null = null;
  #live: Visit | null = null;
  #writing: Promise<unknown> | null = null;
  /** Threads that render and check; null: it is done here. */
  jobs: JobPool | null = null;

  /** Where carts are kept: beside the rest, but for a render node. */
  readonly carts: Statements;

  /**
   * @param folder the data folder; of a render node, where its carts are
   * @param before the shop that this one takes the place of: its pages are this one’s too, and what was read of the same goods
   * @param sql the store that is open already
   * @param release the release file that a render node reads; empty: it is no such node
   * @param copy its copy that delta files bring up to date; empty: the file itself is read
   */
  constructor(
    folder: string,
    {
      readOnly = false,
      before = null,
      sql = null,
      release = '',
      copy = '',
    }: { readOnly?: boolean; before?: Shop | null; sql?: Statements | null; release?: string; copy?: string } = {},
  ) {
    this.pages = before?.pages ?? new Pages();
    // Another copy may have other goods at the same revision: a chain of changes may have started over from a backup.
    if (before?.release === release && (!before.copy || before.copy === copy))
      this.#catalogueCache = before.#catalogueCache;
    this.release = release;
    this.copy = copy;
    if (release) {
      this.sql = new Statements(copy ? openCopy(copy) : openReleaseFile(release));
      this.carts = new Statements(openCarts(folder));
    } else this.carts = this.sql = sql ?? new Statements(readOnly ? openForReading(folder) : openDatabase(folder));
    if (!readOnly && !release && folder !== ':memory:') this.sql.watch = new FileWatch(databaseFile(folder));
    this.themes = new StoredThemes(this.sql);
    this.signer = new PictureSigner(this.sql);
    this.pictures = new Pictures(folder === ':memory:' ? null : join(folder, 'pictures'));
  }

  /** Does long work that writes elsewhere; whoever else wants to write waits for it. One such work at a time. */
  async whileWriting<T>(work: () => Promise<T>): Promise<T> {
    await this.writable();
    const running = work();
    this.#writing = running.catch(() => {});
    try {
      return await running;
    } finally {
      this.#writing = null;
    }
  }

  /** Resolves once nothing long is being written. */
  async writable(): Promise<void> {
    while (this.#writing) await this.#writing;
  }

  /** What a request needs to know first. What a render node reads changes by delta files alone: until one is applied it is read once. */
  visit(asked: AskedState, token: string | null): Visit {
    if (!this.release || asked.kind !== 'shop' || token !== null) return visitOf(this.sql, asked, token, this.carts);
    return (this.#live ??= visitOf(this.sql, asked, null));
  }

  /** Delta files were applied to what it reads. */
  changed(): void {
    this.#live = null;
  }

  /** The catalogue as one request reads it, in one of the shop's languages (null: the first). `row`: where it was read already. */
  catalogue(locale: string | null = null, row: RevisedShop | null = null): StoredCatalogue {
    return new StoredCatalogue(this.sql, locale, this.#catalogueCache, row);
  }

  /**
   * Does work on a catalogue that will be rolled back, as if it were of this revision: themes and what checks them stay as they are, and nothing that
   * was read meanwhile is read again afterwards.
   */
  rehearse(revision: number, work: () => void): void {
    const cache = this.#catalogueCache;
    setRevision(this.sql, revision);
    this.#catalogueCache = new RevisionCache();
    try {
      work();
    } finally {
      this.#catalogueCache = cache;
    }
  }

  /** What the checker asks about the catalogue: counted once, until it changes. */
  facts(catalogue = this.catalogue()): CatalogueFacts {
    return this.#factsNow(catalogue).facts;
  }

  #factsNow(catalogue: StoredCatalogue): FactsNow {
    const version = catalogue.revision;
    if (this.#facts?.version !== version) {
      const definitions = fieldSubjects.map((subject) => catalogue.fieldDefinitions(subject));
      const around = JSON.stringify([catalogue.shop().locale, definitions, catalogue.redirects().all]);
      this.#facts = { version, facts: new CatalogueFacts(catalogue), around };
    }
    return this.#facts;
  }

  /** The theme and assignments of a state. Asks the store for its revision each time, so that nothing stale is served. */
  theme(state: StateRow, catalogue = this.catalogue()): MadeTheme {
    const { around } = this.#factsNow(catalogue);
    const cached = this.#themes.get(state.id);
    if (cached?.key === this.#keyOf(state)) return cached;
    const fresh = this.sql.snapshot((): ReadTheme => {
      const now = this.themes.state(state.id) ?? state;
      // Of the goods a theme needs few things: where these are as they were, so is the theme.
      const same = cached?.revision === now.revision && cached.around === around;
      return same ? { ...cached, key: this.#keyOf(now) } : { ...this.#readTheme(now), revision: now.revision, around };
    });
    this.#themes.set(state.id, fresh);
    return fresh;
  }

  #keyOf(state: StateRow): string {
    return `${state.revision} ${this.#facts?.version}`;
  }

  /** The theme as it stands in the store, under the revision that it has there. */
  #readTheme(state: StateRow): MadeTheme {
    const layers = this.themes.layers(state.id).map(({ id, kind, name, version }): Layer => {
      const rows = [...this.themes.hashes(id).values()].sort((a, b) => (a.path < b.path ? -1 : 1));
      const texts = this.#textsOf(rows.filter(({ path }) => textual.test(path)).map(({ hash }) => hash));
      return {
        kind,
        name,
        version,
        files: new Map(
          rows.map(({ path, hash }) => [path, { hash, text: textual.test(path) ? (texts.get(hash) ?? '') : null }]),
        ),
      };
    });
    return { ...this.themeOf(layers), key: this.#keyOf(state) };
  }

  /** Texts by their hashes. Those that were read before are not read again: after a save only what it changed is. */
  #textsOf(hashes: readonly string[]): Map<string, string> {
    const texts = new Map<string, string>();
    const missing: string[] = [];
    for (const hash of hashes) {
      const known = this.#texts.get(hash);
      if (known === undefined) missing.push(hash);
      else texts.set(hash, known);
    }
    for (const { hash, bytes } of this.themes.bytesOf(missing)) {
      const text = bytes.toString('utf8');
      texts.set(hash, text);
      this.#texts.set(hash, text);
    }
    return texts;
  }

  /** A theme of these layers for this shop; nothing of it is kept. */
  themeOf(layers: readonly Layer[]): MadeTheme {
    const source = this.catalogue();
    const definitions = (subject: FieldSubject) => source.fieldDefinitions(subject);
    const redirects = source.redirects();
    const slugNow: SlugNow | null = redirects.size ? (kind, slug) => redirects.slugOf(kind, slug) : null;
    // A theme that is read once is checked against the goods as they are by then.
    const factsNow = () => this.facts();
    const surroundings = {
      definitions,
      slugNow,
      get site() {
        return factsNow();
      },
    };
    const theme = new Theme(layers, source.shop().locale, surroundings);
    return { key: '', theme, ...theme.assignments };
  }

  /** The theme of a draft with texts in its own layer that are not saved. Nothing is written. */
  themeWith(state: StateRow, unsaved: readonly UnsavedText[], catalogue = this.catalogue()): MadeTheme {
    const saved = this.theme(state, catalogue);
    if (!unsaved.length) return saved;
    const files = unsaved.map(({ path, text }) => {
      const bytes = Buffer.from(text);
      return { path, text, bytes, hash: hashOf(bytes) };
    });
    const changed = files.filter(({ path, hash }) => saved.theme.file(path)?.hash !== hash);
    if (!changed.length) return saved;
    const key = [state.id, saved.key, ...changed.map(({ path, hash }) => `${path} ${hash}`)].join('\n');
    const cached = this.#tried.get(key);
    if (cached) return cached;
    const { layers, locale, surroundings } = saved.theme;
    const top = layers[layers.length - 1] as Layer;
    const own = new Map(top.files);
    for (const { path, text, bytes, hash } of changed) {
      own.set(path, { hash, text });
      if (path.startsWith('assets/')) this.#keepBytes(hash, bytes);
    }
    const theme = new Theme([...layers.slice(0, -1), { ...top, files: own }], locale, surroundings);
    const fresh = { key, theme, ...theme.assignments };
    this.#tried.set(key, fresh);
    return fresh;
  }

  /** Keeps the assets among unsaved texts, so that a page that a thread makes with them can ask for them here. */
  keepUnsaved(unsaved: readonly UnsavedText[]): void {
    for (const { path, text } of unsaved) {
      if (!path.startsWith('assets/')) continue;
      const bytes = Buffer.from(text);
      this.#keepBytes(hashOf(bytes), bytes);
    }
  }

  #keepBytes(hash: string, bytes: Buffer): void {
    this.#unsaved.set(hash, bytes);
  }

  /** The bytes of an unsaved file by the beginning of its hash; null once it is long gone. */
  unsavedBytes(version: string): { hash: string; bytes: Buffer } | null {
    for (const [hash, bytes] of this.#unsaved.entries())
      if (version.length >= 8 && hash.startsWith(version)) return { hash, bytes };
    return null;
  }
}

const global = globalThis as { lastShop?: Shop };

/** The shop of this process, opened when first asked for, with threads of its own. */
export function shop(): Shop {
  if (!global.lastShop) {
    const folder = dataFolder();
    global.lastShop = new Shop(folder);
    global.lastShop.jobs = new JobPool(folder);
  }
  return global.lastShop;
}

/**
 * Replaces the shop’s data with a backup while this process serves it. Work in progress ends; later requests see the backup.
 * Gives the file that keeps the data as they were.
 *
 * @throws DataFolderError when the file cannot be restored; then everything is as it was
 */
export function restoreServed(before: Shop, file: string, now: string): Promise<string> {
  return before.whileWriting(async () => {
    const folder = dataFolder();
    const kept = await restoreInUse(folder, file, now);
    // Nothing of what was read holds any more: revisions are counted from the backup's on.
    const after = new Shop(folder, { sql: before.sql });
    after.jobs = before.jobs;
    after.jobs?.forget();
    global.lastShop = after;
    await endThreads();
    return kept;
  });
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
