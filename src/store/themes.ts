import { StoredLayers, up, type FileRow, type LayerRow } from './layers';

export { hashOf, type FileRow, type LayerRow } from './layers';

export interface StateRow {
  id: number;
  kind: 'draft' | 'release';
  slug: string | null;
  name: string;
  note: string;
  number: number | null;
  madeAt: string;
  madeBy: string;
  revision: number;
  removedAt: string | null;
  fromId: number | null;
  /** Where a release is looked at that is not, or need not be, live: `/release/2`. */
  address?: string;
}

/** A file to be written (`bytes` null: removed) into a draft's own layer. */
export interface FileWrite {
  path: string;
  bytes: Buffer | null;
  /** The hash that the writer started from, null for none; undefined: whatever stands there. */
  expected?: string | null;
  /** The file below that it was made from; undefined: the same as before, or for a new file what serves below now. */
  origin?: string | null;
}

/** Who makes a change, when (ISO 8601), and what the change is called. */
export interface Made {
  title: string;
  at: string;
  by: string;
  /** A save joins the latest change of the draft where both say the same here. */
  together?: string | undefined;
}

export interface ChangeRow {
  id: number;
  stateId: number;
  title: string;
  madeAt: string;
  madeBy: string;
  belowWas: string | null;
  below: string | null;
  undoes: number | null;
}

/** A file before and after a change; null: it was not there. */
export interface SaveRow {
  path: string;
  was: string | null;
  hash: string | null;
  originWas: string | null;
  origin: string | null;
}

export const stateColumns =
  'id, kind, slug, name, note, number, made_at AS madeAt, made_by AS madeBy, revision, removed_at AS removedAt, from_id AS fromId';
const changeColumns =
  'id, state_id AS stateId, title, made_at AS madeAt, made_by AS madeBy, below_was AS belowWas, below, undoes';

/** What a save found when the file was not as the writer believed. */
export class ChangedMeanwhile extends Error {
  override readonly name = 'ChangedMeanwhile';
  constructor(
    readonly path: string,
    /** The file as it is now; null: it is gone. */
    readonly hash: string | null,
  ) {
    super(`${path} was changed meanwhile`);
  }
}

/**
 * Theme layers, drafts and releases in the database. Longer than most files: they
 * are one aggregate, written in one transaction.
 */
export class StoredThemes extends StoredLayers {
  /** Runs `work` whole or not at all. */
  transaction<T>(work: () => T): T {
    this.sql.watch?.check();
    return this.sql.db.transaction(work).immediate();
  }

  // Drafts and releases.

  state(id: number): StateRow | null {
    return this.sql.get<StateRow>(`SELECT ${stateColumns} FROM state WHERE id = ?`, id) ?? null;
  }

  draft(slug: string): StateRow | null {
    const sql = `SELECT ${stateColumns} FROM state WHERE kind = 'draft' AND slug = ? AND removed_at IS NULL`;
    return this.sql.get<StateRow>(sql, slug) ?? null;
  }

  /** The drafts, or (`removed`) those that were deleted, the latest first. */
  drafts(removed = false): StateRow[] {
    return removed
      ? this.sql.all(
          `SELECT ${stateColumns} FROM state WHERE kind = 'draft' AND removed_at IS NOT NULL ORDER BY removed_at DESC`,
        )
      : this.sql.all(`SELECT ${stateColumns} FROM state WHERE kind = 'draft' AND removed_at IS NULL ORDER BY name`);
  }

  /** The name in addresses of the oldest draft (`open`: of those that staff and readers see); null when there is none. */
  firstDraft(open = false): string | null {
    const which = open ? 'AND id NOT IN (SELECT state_id FROM closed_draft)' : '';
    const sql = `SELECT slug FROM state WHERE kind = 'draft' AND removed_at IS NULL ${which} ORDER BY id LIMIT 1`;
    return this.sql.get<{ slug: string }>(sql)?.slug ?? null;
  }

  /** Releases, the latest first. */
  releases(): StateRow[] {
    return this.sql.all(`SELECT ${stateColumns} FROM state WHERE kind = 'release' ORDER BY number DESC`);
  }

  release(number: number): StateRow | null {
    return this.sql.get<StateRow>(`SELECT ${stateColumns} FROM state WHERE number = ?`, number) ?? null;
  }

  live(): StateRow | null {
    return this.sql.get<StateRow>(`SELECT ${stateColumns} FROM state WHERE id = (SELECT state_id FROM live)`) ?? null;
  }

  /** Goes up each time another release goes live; 0: none has. */
  liveTurn(): number {
    return this.sql.get<{ n: number }>('SELECT count(*) AS n FROM went_live')?.n ?? 0;
  }

  /** Which releases were live, from when, the latest first. */
  wentLive(): { stateId: number; at: string; by: string }[] {
    return this.sql.all('SELECT state_id AS stateId, at, by FROM went_live ORDER BY id DESC');
  }

  addDraft(slug: string, name: string, layerIds: number[], at: string, by: string): number {
    const { id } = this.sql.run(
      "INSERT INTO state (kind, slug, name, made_at, made_by) VALUES ('draft', ?, ?, ?, ?)",
      slug,
      name,
      at,
      by,
    );
    this.#stack(id, layerIds);
    return id;
  }

  /** A draft that begins with what a state (a draft or a release) is now. No file is copied. */
  copy(fromId: number, slug: string, { title, at, by }: Made, note = ''): number {
    const layers = this.layers(fromId);
    const own = this.freeze(fromId);
    const { id } = this.sql.run(
      "INSERT INTO state (kind, slug, name, note, made_at, made_by, from_id) VALUES ('draft', ?, ?, ?, ?, ?, ?)",
      slug,
      title,
      note,
      at,
      by,
      fromId,
    );
    this.#stack(id, [...layers.slice(0, -1).map((layer) => layer.id), this.above(own)]);
    return id;
  }

  /** Names addresses and lists go by; an empty slug or name leaves it. */
  rename(stateId: number, name: string, note: string): void {
    this.sql.run('UPDATE state SET name = ?, note = ? WHERE id = ?', name, note, stateId);
  }

  /** Removes a draft from the lists (`at` null: puts it back). Nothing of it is lost. */
  remove(stateId: number, at: string | null): void {
    this.sql.run("UPDATE state SET removed_at = ? WHERE id = ? AND kind = 'draft'", at, stateId);
  }

  /** Whether a draft, even a deleted one, has that name in addresses. */
  taken(slug: string): boolean {
    return this.sql.get('SELECT 1 FROM state WHERE slug = ?', slug) !== undefined;
  }

  /** Publishes a draft as the next release: its own layer is never written again, and the draft goes on in one above it. */
  publish(
    draftId: number,
    note: string,
    at: string,
    by: string,
    /** Its pages for when nothing else can be made, by language. */
    errorPages: Record<string, string> = {},
  ): StateRow {
    const layers = this.layers(draftId);
    const frozen = this.freeze(draftId);
    const { n } = this.sql.get<{ n: number }>('SELECT coalesce(max(number), 0) + 1 AS n FROM state') as { n: number };
    const { id } = this.sql.run(
      "INSERT INTO state (kind, name, note, number, made_at, made_by, from_id, error_pages) VALUES ('release', ?, ?, ?, ?, ?, ?, ?)",
      `Release ${n}`,
      note,
      n,
      at,
      by,
      draftId,
      JSON.stringify(errorPages),
    );
    this.#stack(id, [...layers.slice(0, -1).map((layer) => layer.id), frozen]);
    this.putLive(id, at, by);
    return this.live() as StateRow;
  }

  /** What a release shows in a language when nothing else can be made; null: its theme has nothing for that. */
  errorPage(stateId: number, locale: string): string | null {
    const row = this.sql.get<{ pages: string }>('SELECT error_pages AS pages FROM state WHERE id = ?', stateId);
    return (JSON.parse(row?.pages ?? '{}') as Record<string, string>)[locale] ?? null;
  }

  keepErrorPages(stateId: number, pages: Record<string, string>): void {
    this.sql.run('UPDATE state SET error_pages = ? WHERE id = ?', JSON.stringify(pages), stateId);
  }

  /** Makes a release the one that visitors see. */
  putLive(stateId: number, at: string, by: string): void {
    this.sql.run(
      'INSERT INTO live (id, state_id) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET state_id = excluded.state_id',
      stateId,
    );
    this.sql.run('INSERT INTO went_live (state_id, at, by) VALUES (?, ?, ?)', stateId, at, by);
  }

  // Layers.

  /** The layers of a state, the base first, the shop's own last. */
  layers(stateId: number): LayerRow[] {
    return this.sql.all(
      `SELECT l.id, l.kind, l.name, l.version FROM state_layer s JOIN layer l ON l.id = s.layer_id
       WHERE s.state_id = ? ORDER BY s.position`,
      stateId,
    );
  }

  /** The layer that holds a state's files as they are now, never written again: a draft goes on in one above it. */
  freeze(stateId: number): number {
    const layers = this.layers(stateId);
    const own = layers[layers.length - 1] as LayerRow;
    if (this.state(stateId)?.kind === 'release') return own.id;
    const changed = this.sql.get('SELECT 1 FROM layer_file WHERE layer_id = ?', own.id);
    const parent = this.sql.get<{ id: number | null }>('SELECT parent_id AS id FROM layer WHERE id = ?', own.id);
    // Nothing was written since it was last frozen.
    if (!changed && parent?.id) return parent.id;
    const next = this.above(own.id);
    this.sql.run('UPDATE state_layer SET layer_id = ? WHERE state_id = ? AND layer_id = ?', next, stateId, own.id);
    return own.id;
  }

  // Files of a draft.

  /** The hash of a file in the draft's own layer; null when it has none of that path. */
  ownHash(stateId: number, path: string): string | null {
    return this.#own(stateId, path)?.hash ?? null;
  }

  /**
   * Writes files into a draft's own layer as one change, all or none. When one is not as its writer believed, nothing is
   * written and ChangedMeanwhile says which. Gives the hashes in the order of the files.
   */
  save(stateId: number, files: readonly FileWrite[], made: Made, more: { below?: number[]; undoes?: number } = {}) {
    return this.transaction(() => {
      const layers = this.layers(stateId);
      const belowWas = layers.slice(0, -1).map(({ id }) => id);
      const below = more.below && JSON.stringify(more.below) !== JSON.stringify(belowWas) ? more.below : null;
      if (below) this.#restack(stateId, below);
      const layerId = this.#ownLayer(stateId);
      const writes = files.map(({ path, bytes, expected, origin }) => {
        const now = this.#own(stateId, path);
        if (expected !== undefined && expected !== (now?.hash ?? null))
          throw new ChangedMeanwhile(path, now?.hash ?? null);
        const hash = bytes === null ? null : this.keep(bytes);
        const taken =
          hash === null ? null : origin !== undefined ? origin : now ? now.origin : this.#below(stateId, path);
        return { path, hash, was: now?.hash ?? null, origin: taken, originWas: now?.origin ?? null };
      });
      const changed = writes.filter(({ hash, was, origin, originWas }) => hash !== was || origin !== originWas);
      if (!changed.length && !below) return { hashes: writes.map(({ hash }) => hash), change: null };
      const change =
        this.#joined(stateId, made.together) ??
        this.sql.run(
          'INSERT INTO change (state_id, title, made_at, made_by, below_was, below, undoes, together) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
          stateId,
          made.title,
          made.at,
          made.by,
          below && JSON.stringify(belowWas),
          below && JSON.stringify(below),
          more.undoes ?? null,
          made.together ?? null,
        ).id;
      for (const { path, hash, was, origin, originWas } of changed) {
        if (hash === null && !this.inherited(layerId, path))
          this.sql.run('DELETE FROM layer_file WHERE layer_id = ? AND path = ?', layerId, path);
        else this.put(layerId, path, hash, origin);
        // Saved twice in one change: what came before is what was there before the first save.
        const again = this.sql.run(
          'UPDATE save SET hash = ?, origin = ? WHERE change_id = ? AND path = ?',
          hash,
          origin,
          change,
          path,
        );
        if (again.changes) continue;
        this.sql.run(
          `INSERT INTO save (state_id, path, hash, saved_at, saved_by, change_id, was, origin, origin_was)
           VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
          stateId,
          path,
          hash,
          made.at,
          made.by,
          change,
          was,
          origin,
          originWas,
        );
      }
      this.sql.run('UPDATE state SET revision = revision + 1 WHERE id = ?', stateId);
      return { hashes: writes.map(({ hash }) => hash), change };
    });
  }

  /** The latest change of a draft, if it is to be joined by saves that say the same. */
  #joined(stateId: number, together: string | undefined): number | null {
    if (together === undefined) return null;
    const sql = 'SELECT id, together FROM change WHERE state_id = ? ORDER BY id DESC LIMIT 1';
    const latest = this.sql.get<{ id: number; together: string | null }>(sql, stateId);
    return latest?.together === together ? latest.id : null;
  }

  // History.

  /** Changes of a draft, the latest first. */
  changes(stateId: number, most = 200): ChangeRow[] {
    return this.sql.all(
      `SELECT ${changeColumns} FROM change WHERE state_id = ? ORDER BY id DESC LIMIT ?`,
      stateId,
      most,
    );
  }

  changeCount(stateId: number): number {
    return this.sql.get<{ n: number }>('SELECT count(*) AS n FROM change WHERE state_id = ?', stateId)?.n ?? 0;
  }

  /** The change that undid another; null: none has. */
  undoneBy(changeId: number): number | null {
    const sql = 'SELECT id FROM change WHERE undoes = ? ORDER BY id DESC LIMIT 1';
    return this.sql.get<{ id: number }>(sql, changeId)?.id ?? null;
  }

  change(id: number): ChangeRow | null {
    return this.sql.get<ChangeRow>(`SELECT ${changeColumns} FROM change WHERE id = ?`, id) ?? null;
  }

  saves(changeId: number): SaveRow[] {
    return this.sql.all(
      'SELECT path, was, hash, origin_was AS originWas, origin FROM save WHERE change_id = ? ORDER BY path',
      changeId,
    );
  }

  /** Saves of a path, in any draft, the latest first. */
  savesOf(path: string, most = 200): (SaveRow & Omit<ChangeRow, 'belowWas' | 'below' | 'undoes'>)[] {
    return this.sql.all(
      `SELECT s.path, s.was, s.hash, s.origin_was AS originWas, s.origin,
         c.id, c.state_id AS stateId, c.title, c.made_at AS madeAt, c.made_by AS madeBy
       FROM save s JOIN change c ON c.id = s.change_id WHERE s.path = ? ORDER BY s.id DESC LIMIT ?`,
      path,
      most,
    );
  }

  retitle(changeId: number, title: string): void {
    this.sql.run('UPDATE change SET title = ? WHERE id = ?', title, changeId);
  }

  /** Remembers that a draft took over a layer's changes. */
  noteBrought(stateId: number, layerId: number): void {
    this.sql.run('INSERT OR IGNORE INTO brought (state_id, layer_id) VALUES (?, ?)', stateId, layerId);
  }

  /** The layer that both states' own layers come from, or that was last taken from one into the other; null: none. */
  common(into: number, from: number): number | null {
    const own = (id: number) => this.layers(id).at(-1)?.id ?? 0;
    const known = new Set(this.chain(own(into)));
    for (const { id } of this.sql.all<{ id: number }>('SELECT layer_id AS id FROM brought WHERE state_id = ?', into))
      known.add(id);
    return this.chain(own(from)).find((id) => known.has(id)) ?? null;
  }

  #stack(stateId: number, layerIds: number[]): void {
    layerIds.forEach((layerId, position) =>
      this.sql.run(
        'INSERT INTO state_layer (state_id, position, layer_id) VALUES (?, ?, ?)',
        stateId,
        position,
        layerId,
      ),
    );
  }

  #restack(stateId: number, below: number[]): void {
    const own = this.#ownLayer(stateId);
    this.sql.run('DELETE FROM state_layer WHERE state_id = ?', stateId);
    this.#stack(stateId, [...below, own]);
  }

  #own(stateId: number, path: string): FileRow | null {
    const row = this.sql.get<FileRow & { hash: string | null }>(
      `${up} SELECT f.path, f.hash, f.origin FROM up JOIN layer_file f ON f.layer_id = up.id
       WHERE f.path = ? ORDER BY up.depth LIMIT 1`,
      this.#ownLayer(stateId),
      path,
    );
    return row?.hash ? row : null;
  }

  /** The hash of the file that serves below the shop's own layer. */
  #below(stateId: number, path: string): string | null {
    const row = this.sql.get<{ hash: string }>(
      `SELECT f.hash FROM state_layer s JOIN layer_file f ON f.layer_id = s.layer_id
       WHERE s.state_id = ? AND f.path = ? AND s.layer_id <> ? ORDER BY s.position DESC LIMIT 1`,
      stateId,
      path,
      this.#ownLayer(stateId),
    );
    return row?.hash ?? null;
  }

  #ownLayer(stateId: number): number {
    const row = this.sql.get<{ id: number }>(
      "SELECT layer_id AS id FROM state_layer s JOIN state t ON t.id = s.state_id WHERE s.state_id = ? AND t.kind = 'draft' ORDER BY position DESC LIMIT 1",
      stateId,
    );
    if (!row) throw new RangeError(`State ${stateId} is not a draft: only a draft's own layer is written`);
    return row.id;
  }
}
