import { hashOf } from './themes';
import type { Statements } from './statements';

/** Pictures of the catalogue, by path. */
export function putMedia(sql: Statements, path: string, type: string, bytes: Buffer): void {
  sql.run(
    `INSERT INTO media_file (path, hash, type, bytes) VALUES (?, ?, ?, ?)
     ON CONFLICT (path) DO UPDATE SET hash = excluded.hash, type = excluded.type, bytes = excluded.bytes`,
    path,
    hashOf(bytes),
    type,
    bytes,
  );
}

export function getMedia(sql: Statements, path: string): { hash: string; type: string; bytes: Buffer } | null {
  return sql.get('SELECT hash, type, bytes FROM media_file WHERE path = ?', path) ?? null;
}

/** Every picture. */
export function allMedia(sql: Statements): { path: string; bytes: Buffer }[] {
  return sql.all('SELECT path, bytes FROM media_file ORDER BY path');
}
