import { createHash } from 'node:crypto';
import type { LayerKind } from '@/core/theme/theme';
import type { Statements } from './statements';

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
}

export interface LayerRow {
  id: number;
  kind: LayerKind;
  name: string;
  version: string;
}

const stateColumns = 'id, kind, slug, name, note, number, made_at AS madeAt, made_by AS madeBy, revision';

export function hashOf(bytes: Buffer): string {
  return createHash('sha256').update(bytes).digest('hex').slice(0, 32);
}

/** What a save met when the file was not as the one who saves believed. */
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

/** Theme layers, drafts and releases in the database. */
export class StoredThemes {
  constructor(readonly sql: Statements) {}

  /** Runs `work` whole or not at all. */
  transaction<T>(work: () => T): T {
    return this.sql.db.transaction(work).immediate();
  }

  draft(slug: string): StateRow | null {
    return this.sql.get<StateRow>(`SELECT ${stateColumns} FROM state WHERE kind = 'draft' AND slug = ?`, slug) ?? null;
  }

  drafts(): StateRow[] {
    return this.sql.all(`SELECT ${stateColumns} FROM state WHERE kind = 'draft' ORDER BY name`);
  }

  live(): StateRow | null {
    return this.sql.get<StateRow>(`SELECT ${stateColumns} FROM state WHERE id = (SELECT state_id FROM live)`) ?? null;
  }

  layers(stateId: number): LayerRow[] {
    return this.sql.all(
      `SELECT l.id, l.kind, l.name, l.version FROM state_layer s JOIN layer l ON l.id = s.layer_id
       WHERE s.state_id = ? ORDER BY s.position`,
      stateId,
    );
  }

  files(layerId: number): { path: string; hash: string; bytes: Buffer }[] {
    return this.sql.all(
      'SELECT f.path, f.hash, b.bytes FROM layer_file f JOIN blob b ON b.hash = f.hash WHERE f.layer_id = ? ORDER BY f.path',
      layerId,
    );
  }

  bytes(hash: string): Buffer | null {
    return this.sql.get<{ bytes: Buffer }>('SELECT bytes FROM blob WHERE hash = ?', hash)?.bytes ?? null;
  }

  addLayer(kind: LayerKind, name: string, version: string, files: Iterable<[path: string, bytes: Buffer]>): number {
    const { id } = this.sql.run('INSERT INTO layer (kind, name, version) VALUES (?, ?, ?)', kind, name, version);
    for (const [path, bytes] of files) this.#put(id, path, this.#keep(bytes));
    return id;
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

  /** The hash of a file in the draft's own layer; null when it has none of that path. */
  ownHash(stateId: number, path: string): string | null {
    const row = this.sql.get<{ hash: string }>(
      'SELECT hash FROM layer_file WHERE layer_id = ? AND path = ?',
      this.#ownLayer(stateId),
      path,
    );
    return row?.hash ?? null;
  }

  /**
   * Writes a file into a draft's own layer, or takes it away (`bytes` null), and keeps the save. `expected` is the hash
   * that the writer started from, null for none; when it is not that any more, nothing is written and ChangedMeanwhile says so.
   */
  save(
    stateId: number,
    path: string,
    bytes: Buffer | null,
    expected: string | null | undefined,
    at: string,
    by: string,
  ): string | null {
    const layerId = this.#ownLayer(stateId);
    const now = this.ownHash(stateId, path);
    if (expected !== undefined && expected !== now) throw new ChangedMeanwhile(path, now);
    const hash = bytes === null ? null : this.#keep(bytes);
    if (hash === now) return hash;
    if (hash === null) this.sql.run('DELETE FROM layer_file WHERE layer_id = ? AND path = ?', layerId, path);
    else this.#put(layerId, path, hash);
    this.sql.run(
      'INSERT INTO save (state_id, path, hash, saved_at, saved_by) VALUES (?, ?, ?, ?, ?)',
      stateId,
      path,
      hash,
      at,
      by,
    );
    this.sql.run('UPDATE state SET revision = revision + 1 WHERE id = ?', stateId);
    return hash;
  }

  /** Puts a draft live as the next release: its own layer copied and frozen, the layers below as they are. */
  publish(draftId: number, note: string, at: string, by: string): StateRow {
    const layers = this.layers(draftId);
    const own = layers[layers.length - 1] as LayerRow;
    const { n } = this.sql.get<{ n: number }>('SELECT coalesce(max(number), 0) + 1 AS n FROM state') as { n: number };
    const { id: frozen } = this.sql.run(
      'INSERT INTO layer (kind, name, version) VALUES (?, ?, ?)',
      own.kind,
      own.name,
      `release ${n}`,
    );
    this.sql.run(
      'INSERT INTO layer_file (layer_id, path, hash) SELECT ?, path, hash FROM layer_file WHERE layer_id = ?',
      frozen,
      own.id,
    );
    const { id } = this.sql.run(
      "INSERT INTO state (kind, name, note, number, made_at, made_by) VALUES ('release', ?, ?, ?, ?, ?)",
      `Release ${n}`,
      note,
      n,
      at,
      by,
    );
    this.#stack(id, [...layers.slice(0, -1).map((layer) => layer.id), frozen]);
    this.sql.run(
      'INSERT INTO live (id, state_id) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET state_id = excluded.state_id',
      id,
    );
    return this.live() as StateRow;
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

  #ownLayer(stateId: number): number {
    const row = this.sql.get<{ id: number }>(
      "SELECT layer_id AS id FROM state_layer s JOIN state t ON t.id = s.state_id WHERE s.state_id = ? AND t.kind = 'draft' ORDER BY position DESC LIMIT 1",
      stateId,
    );
    if (!row) throw new RangeError(`State ${stateId} is no draft: only a draft's own layer is written`);
    return row.id;
  }

  #keep(bytes: Buffer): string {
    const hash = hashOf(bytes);
    this.sql.run('INSERT INTO blob (hash, bytes) VALUES (?, ?) ON CONFLICT (hash) DO NOTHING', hash, bytes);
    return hash;
  }

  #put(layerId: number, path: string, hash: string): void {
    this.sql.run(
      'INSERT INTO layer_file (layer_id, path, hash) VALUES (?, ?, ?) ON CONFLICT (layer_id, path) DO UPDATE SET hash = excluded.hash',
      layerId,
      path,
      hash,
    );
  }
}
