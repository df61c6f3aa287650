import { createHash } from 'node:crypto';
import type { LayerKind } from '@/core/theme';
import type { Statements } from './statements';

export interface LayerRow {
  id: number;
  kind: LayerKind;
  name: string;
  version: string;
}

/** A file of a layer. `origin` is the hash of the file below that it was taken from; null: there was none. */
export interface FileRow {
  path: string;
  hash: string;
  origin: string | null;
}

/** A layer and those it adds to, nearest first. */
export const up = `WITH RECURSIVE up(id, depth) AS (
  SELECT ?, 0 UNION ALL SELECT l.parent_id, depth + 1 FROM up JOIN layer l ON l.id = up.id WHERE l.parent_id IS NOT NULL)`;

export function hashOf(bytes: Buffer): string {
  return createHash('sha256').update(bytes).digest('hex').slice(0, 32);
}

/** Layers of themes and the bytes that they name, each kept once. A layer may add to another, its parent. */
export class StoredLayers {
  constructor(readonly sql: Statements) {}

  /** Base themes and add-ons in all versions that were brought in, the latest first. */
  versions(): LayerRow[] {
    return this.sql.all("SELECT id, kind, name, version FROM layer WHERE kind <> 'shop' ORDER BY id DESC");
  }

  /** Adds a layer; `below` are those that it is to stand on, lowest first, if its files may take the place of theirs. */
  addLayer(
    kind: LayerKind,
    name: string,
    version: string,
    files: Iterable<[path: string, bytes: Buffer]>,
    below: readonly number[] = [],
  ): number {
    const { id } = this.sql.run('INSERT INTO layer (kind, name, version) VALUES (?, ?, ?)', kind, name, version);
    const origins = new Map(below.flatMap((layer) => [...this.hashes(layer)]));
    for (const [path, bytes] of files) this.put(id, path, this.keep(bytes), origins.get(path)?.hash ?? null);
    return id;
  }

  /** Files of a layer with their bytes. */
  files(layerId: number): (FileRow & { bytes: Buffer })[] {
    return this.sql.all(
      `${up} SELECT f.path, f.hash, f.origin, b.bytes FROM
       (SELECT f.path, f.hash, f.origin, min(up.depth) FROM up JOIN layer_file f ON f.layer_id = up.id GROUP BY f.path) f
       JOIN blob b ON b.hash = f.hash ORDER BY f.path`,
      layerId,
    );
  }

  /** Files of a layer by path, without their bytes. */
  hashes(layerId: number): Map<string, FileRow> {
    const rows = this.sql.all<FileRow & { hash: string | null }>(
      `${up} SELECT f.path, f.hash, f.origin, min(up.depth) FROM up JOIN layer_file f ON f.layer_id = up.id GROUP BY f.path`,
      layerId,
    );
    return new Map(
      rows.filter(({ hash }) => hash !== null).map(({ path, hash, origin }) => [path, { path, hash, origin }]),
    );
  }

  /** A layer and those it adds to, nearest first. */
  chain(layerId: number): number[] {
    return this.sql.all<{ id: number }>(`${up} SELECT id FROM up ORDER BY depth`, layerId).map(({ id }) => id);
  }

  bytes(hash: string): Buffer | null {
    return this.sql.get<{ bytes: Buffer }>('SELECT bytes FROM blob WHERE hash = ?', hash)?.bytes ?? null;
  }

  /** Several contents at once, each once. */
  bytesOf(hashes: readonly string[]): { hash: string; bytes: Buffer }[] {
    const sql = 'SELECT hash, bytes FROM blob WHERE hash IN (SELECT value FROM json_each(?))';
    return hashes.length ? this.sql.all(sql, JSON.stringify(hashes)) : [];
  }

  /** Bytes that a path once had in any layer, by the beginning of their hash. */
  bytesOfVersion(path: string, version: string): { hash: string; bytes: Buffer } | null {
    if (!/^[0-9a-f]{8,32}$/.test(version)) return null;
    const row = this.sql.get<{ hash: string; bytes: Buffer }>(
      `SELECT b.hash, b.bytes FROM layer_file f JOIN blob b ON b.hash = f.hash
       WHERE f.path = ? AND f.hash >= ? AND f.hash < ? LIMIT 1`,
      path,
      version,
      `${version}g`,
    );
    return row ?? null;
  }

  /** Bytes that a path once had in a draft, by their hash. */
  bytesSaved(path: string, hash: string): Buffer | null {
    return this.sql.get('SELECT 1 FROM save WHERE path = ? AND hash = ? LIMIT 1', path, hash) ? this.bytes(hash) : null;
  }

  /** A path in every version of a base or an add-on that has it, the latest first. */
  versionsOf(path: string): { name: string; version: string; hash: string }[] {
    return this.sql.all(
      "SELECT l.name, l.version, f.hash FROM layer_file f JOIN layer l ON l.id = f.layer_id WHERE f.path = ? AND l.kind <> 'shop' ORDER BY l.id DESC",
      path,
    );
  }

  /** Which version of a base or add-on a file's content comes from: “Quay 1.0”; null when none has it. */
  versionOf(path: string, hash: string): string | null {
    const row = this.sql.get<{ name: string; version: string }>(
      "SELECT l.name, l.version FROM layer_file f JOIN layer l ON l.id = f.layer_id WHERE f.path = ? AND f.hash = ? AND l.kind <> 'shop' ORDER BY l.id LIMIT 1",
      path,
      hash,
    );
    return row ? `${row.name} ${row.version}`.trim() : null;
  }

  /** Keeps bytes, once; gives their hash. */
  keep(bytes: Buffer): string {
    const hash = hashOf(bytes);
    this.sql.run('INSERT INTO blob (hash, bytes) VALUES (?, ?) ON CONFLICT (hash) DO NOTHING', hash, bytes);
    return hash;
  }

  /** A new, empty layer that adds to another. */
  protected above(layerId: number): number {
    return this.sql.run(
      'INSERT INTO layer (kind, name, version, parent_id) SELECT kind, name, version, id FROM layer WHERE id = ?',
      layerId,
    ).id;
  }

  protected inherited(layerId: number, path: string): boolean {
    const sql = `${up} SELECT 1 FROM up JOIN layer_file f ON f.layer_id = up.id WHERE f.path = ? AND up.depth > 0 LIMIT 1`;
    return this.sql.get(sql, layerId, path) !== undefined;
  }

  protected put(layerId: number, path: string, hash: string | null, origin: string | null): void {
    this.sql.run(
      `INSERT INTO layer_file (layer_id, path, hash, origin) VALUES (?, ?, ?, ?)
       ON CONFLICT (layer_id, path) DO UPDATE SET hash = excluded.hash, origin = excluded.origin`,
      layerId,
      path,
      hash,
      origin,
    );
  }
}
