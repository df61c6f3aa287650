import { hashOf } from './themes';
import type { Statements } from './statements';

/** Puts a picture of the catalogue under its path. Pages name it by its content: the catalogue's revision goes up. */
export function putMedia(sql: Statements, path: string, type: string, bytes: Buffer): void {
  sql.run(
    `INSERT INTO media_file (path, hash, type, bytes) VALUES (?, ?, ?, ?)
     ON CONFLICT (path) DO UPDATE SET hash = excluded.hash, type = excluded.type, bytes = excluded.bytes`,
    path,
    hashOf(bytes),
    type,
    bytes,
  );
  sql.run('UPDATE catalogue_state SET revision = revision + 1');
}

export function getMedia(sql: Statements, path: string): { hash: string; type: string; bytes: Buffer } | null {
  return sql.get('SELECT hash, type, bytes FROM media_file WHERE path = ?', path) ?? null;
}

/** Every picture. */
export function allMedia(sql: Statements): { path: string; bytes: Buffer }[] {
  return sql.all('SELECT path, bytes FROM media_file ORDER BY path');
}
