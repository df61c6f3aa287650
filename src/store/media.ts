import type { FieldSubject } from '@/core/catalogue';
import { picturesIn } from '@/core/exchange';
import type { Statements } from './statements';
import { hashOf } from './layers';

/** A picture or film of the catalogue, under the path by which goods name it. Width and height in pixels as it is shown; null: not known. */
export interface MediaFile {
  path: string;
  hash: string;
  type: string;
  width: number | null;
  height: number | null;
  /** In bytes. */
  size: number;
}

/** A picture or film with what goods make of it. */
export interface ListedMedia extends MediaFile {
  /** Places of the catalogue that name it. */
  uses: number;
  /** Files that have the same content, this one among them. */
  copies: number;
}

/** Which files are listed; `copies`: those whose content is there more than once. */
export type MediaFilter = 'all' | 'unused' | 'copies';

type Size = Partial<Pick<MediaFile, 'width' | 'height'>>;

/** Puts a picture of the catalogue under its path. Pages name it by its content: the catalogue's revision goes up. */
export function putMedia(sql: Statements, path: string, type: string, bytes: Buffer, size: Size = {}): MediaFile {
  const { width = null, height = null } = size;
  const file = { path, hash: keepContent(sql, bytes), type, width, height, size: bytes.length };
  putMediaFile(sql, file);
  sql.run('UPDATE catalogue_state SET revision = revision + 1');
  return file;
}

/** Keeps bytes by their hash. */
function keepContent(sql: Statements, bytes: Buffer): string {
  const hash = hashOf(bytes);
  sql.run('INSERT OR IGNORE INTO media_content (hash, bytes) VALUES (?, ?)', hash, bytes);
  return hash;
}

/** Lets a path stand for bytes that are kept. */
export function putMediaFile(sql: Statements, { path, hash, type, width, height, size }: MediaFile): void {
  sql.run(
    `INSERT INTO media_file (path, hash, type, width, height, size) VALUES (?, ?, ?, ?, ?, ?)
     ON CONFLICT (path) DO UPDATE SET hash = excluded.hash, type = excluded.type, width = excluded.width,
       height = excluded.height, size = excluded.size`,
    ...[path, hash, type, width, height, size],
  );
}

/** Takes a file from its path; its bytes stay, so that this can be undone. */
export function removeMediaFile(sql: Statements, path: string): void {
  sql.run('DELETE FROM media_file WHERE path = ?', path);
}

export function getMedia(sql: Statements, path: string): { hash: string; type: string; bytes: Buffer } | null {
  return (
    sql.get(
      'SELECT f.hash, f.type, c.bytes FROM media_file f JOIN media_content c ON c.hash = f.hash WHERE f.path = ?',
      path,
    ) ?? null
  );
}

/** The files that there are under these paths, by path. */
export const mediaFiles = (sql: Statements, paths: readonly string[]): Map<string, MediaFile> =>
  new Map(
    sql
      .all<MediaFile>(
        `SELECT path, hash, type, width, height, size FROM media_file WHERE path IN (SELECT value FROM json_each(?))`,
        JSON.stringify(paths),
      )
      .map((file) => [file.path, file]),
  );

/** Paths that have this content, in order. */
export const copiesOf = (sql: Statements, hash: string): string[] =>
  sql.all<{ path: string }>('SELECT path FROM media_file WHERE hash = ? ORDER BY path', hash).map(({ path }) => path);

/** Paths of all files, in order. */
export const mediaPaths = (sql: Statements): string[] =>
  sql.all<{ path: string }>('SELECT path FROM media_file ORDER BY path').map(({ path }) => path);

/** What the catalogue's records name as picture, film or poster, each time they do; texts are read for what they name. */
const named = `
  named AS (
    SELECT path FROM media WHERE kind <> 'embed'
    UNION ALL SELECT poster FROM media WHERE poster <> ''
    UNION ALL SELECT v.value FROM field_value v JOIN field_definition d ON d.id = v.definition_id WHERE d.type = 'picture'
    UNION ALL SELECT value FROM json_each(:inTexts)
  ),
  used AS (SELECT path, count(*) AS uses FROM named GROUP BY path)`;

/** Paths that rich texts of the catalogue show, each time they do. */
function namedInTexts(sql: Statements): string {
  const texts = sql.all<{ text: string }>(
    `SELECT description AS text FROM product WHERE description LIKE '%/media/%'
     UNION ALL SELECT description FROM category WHERE description LIKE '%/media/%'
     UNION ALL SELECT body FROM content WHERE body LIKE '%/media/%'
     UNION ALL SELECT body FROM article WHERE body LIKE '%/media/%'
     UNION ALL SELECT value FROM translation WHERE value LIKE '%/media/%'
     UNION ALL SELECT v.value FROM field_value v JOIN field_definition d ON d.id = v.definition_id
       WHERE d.type = 'html' AND v.value LIKE '%/media/%'`,
  );
  return JSON.stringify(texts.flatMap(({ text }) => picturesIn(text)));
}

const filters: Record<MediaFilter, string> = {
  all: '1',
  unused: 'u.uses IS NULL',
  copies: '(SELECT count(*) FROM media_file o WHERE o.hash = f.hash) > 1',
};

/** Files that a filter and words in their paths leave, a page of them, and how many there are in all. */
export function listMedia(
  sql: Statements,
  { filter, words, from, most }: { filter: MediaFilter; words: string; from: number; most: number },
): { files: ListedMedia[]; total: number } {
  const where = `WHERE ${filters[filter]} AND (:words = '' OR instr(lower(f.path), lower(:words)) > 0)`;
  const given = { inTexts: namedInTexts(sql), words };
  const files = sql.all<ListedMedia>(
    `WITH ${named}
     SELECT f.path, f.hash, f.type, f.width, f.height, f.size, coalesce(u.uses, 0) AS uses,
       (SELECT count(*) FROM media_file o WHERE o.hash = f.hash) AS copies
     FROM media_file f LEFT JOIN used u ON u.path = f.path ${where}
     ORDER BY ${filter === 'copies' ? 'f.hash, ' : ''}f.path LIMIT :most OFFSET :from`,
    { ...given, from, most },
  );
  const { total } = sql.get<{ total: number }>(
    `WITH ${named} SELECT count(*) AS total FROM media_file f LEFT JOIN used u ON u.path = f.path ${where}`,
    given,
  ) as { total: number };
  return { files, total };
}

const missing = `FROM used u LEFT JOIN media_file f ON f.path = u.path
  WHERE f.path IS NULL AND u.path NOT LIKE '/%' AND u.path NOT GLOB '[a-zA-Z]*:*'`;

/** Files of this shop that goods name and that are not there, with how often they are named; those of other sites are not looked for. */
export function missingMedia(
  sql: Statements,
  { words, from, most }: { words: string; from: number; most: number },
): { missing: { path: string; uses: number }[]; total: number } {
  const rows = `${missing} AND (:words = '' OR instr(lower(u.path), lower(:words)) > 0)`;
  const given = { inTexts: namedInTexts(sql), words };
  return {
    missing: sql.all(`WITH ${named} SELECT u.path, u.uses ${rows} ORDER BY u.path LIMIT :most OFFSET :from`, {
      ...given,
      ...{ from, most },
    }),
    total: sql.get<{ total: number }>(`WITH ${named} SELECT count(*) AS total ${rows}`, given)?.total ?? 0,
  };
}

/** How many files each filter leaves, and how many are named and not there. */
export const mediaCounts = (sql: Statements): Record<MediaFilter | 'missing', number> =>
  sql.get(
    `WITH ${named}, same AS (SELECT hash, count(*) AS files FROM media_file GROUP BY hash)
     SELECT (SELECT count(*) FROM media_file) AS "all",
       (SELECT count(*) FROM media_file f WHERE f.path NOT IN (SELECT path FROM used)) AS unused,
       (SELECT coalesce(sum(files), 0) FROM same WHERE files > 1) AS copies,
       (SELECT count(*) ${missing}) AS missing`,
    { inTexts: namedInTexts(sql) },
  ) as Record<MediaFilter | 'missing', number>;

/** Which records name a file, each once. */
export function usesOfMedia(sql: Statements, path: string, most = 50): { kind: string; slug: string; name: string }[] {
  const owner = (kind: string, name: string) => `
    SELECT '${kind}' AS kind, r.slug, r.${name} AS name FROM media m JOIN ${kind} r ON r.id = m.owner_id
    WHERE m.owner = '${kind}' AND (m.path = :path OR m.poster = :path)
    UNION SELECT '${kind}', r.slug, r.${name} FROM ${kind} r WHERE instr(r.${kind === 'product' || kind === 'category' ? 'description' : 'body'}, :text) > 0`;
  const field = (kind: FieldSubject) => `
    SELECT '${kind}', r.slug, r.name FROM field_value v JOIN field_definition d ON d.id = v.definition_id AND d.subject = '${kind}'
    JOIN ${kind} r ON r.id = v.subject_id WHERE d.type = 'picture' AND v.value = :path`;
  return sql.all(
    `${[owner('product', 'name'), owner('category', 'name'), owner('content', 'title'), owner('article', 'title'), field('product'), field('category')].join(' UNION ')} LIMIT :most`,
    { path, text: `/media/${path.split('/').map(encodeURIComponent).join('/')}`, most },
  );
}
