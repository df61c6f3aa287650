import type { Statements } from './statements';

/** A subject as lists and pickers show it. */
export interface SubjectRow {
  kind: 'product' | 'category' | 'listing' | 'content' | 'article' | 'articles' | 'cart' | 'home';
  /** Its slug; of listings `tag/<slug>`, `brand/<slug>` `all` or `offer`. */
  slug: string;
  name: string;
  detail: string;
}

const all = `
  SELECT 'product' AS kind, slug, name, type AS detail, 1 AS rank FROM product
  UNION ALL SELECT 'category', slug, name, '', 2 FROM category
  UNION ALL SELECT 'listing', 'all', 'All products', '', 3
  UNION ALL SELECT 'listing', 'offer', 'On offer', '', 3
  UNION ALL SELECT 'listing', 'tag/' || slug, name, 'tag', 3 FROM tag
  UNION ALL SELECT 'listing', 'brand/' || slug, name, 'brand', 3 FROM brand
  UNION ALL SELECT 'content', slug, title, '', 4 FROM content
  UNION ALL SELECT 'article', slug, title, '', 5 FROM article
  UNION ALL SELECT 'articles', '', 'All articles', '', 5
  UNION ALL SELECT 'cart', '', 'Cart', '', 6
  UNION ALL SELECT 'home', '', 'Home', '', 0`;

/** Subjects whose name or slug holds every word; those whose name begins with the words first. */
export function findSubjects(sql: Statements, words: string, kind: string | null, limit: number): SubjectRow[] {
  const tests = ['1 = 1'];
  const values: unknown[] = [];
  if (kind) {
    tests.push('kind = ?');
    values.push(kind);
  }
  for (const word of words.split(/\s+/).filter(Boolean).slice(0, 8)) {
    const like = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
    tests.push(`(name LIKE ? ESCAPE '\\' OR slug LIKE ? ESCAPE '\\')`);
    values.push(like, like);
  }
  const begins = `${words.trim().replace(/[\\%_]/g, '\\$&')}%`;
  return sql.all(
    `SELECT kind, slug, name, detail FROM (${all}) WHERE ${tests.join(' AND ')}
     ORDER BY name NOT LIKE ? ESCAPE '\\', rank, name COLLATE NOCASE LIMIT ?`,
    ...values,
    begins,
    limit,
  );
}

/** Names of these subjects, by `kind slug`; what is gone is left out. */
export function namesOfSubjects(sql: Statements, subjects: { kind: string; slug: string }[]): Map<string, SubjectRow> {
  const rows = sql.all<SubjectRow>(
    `SELECT s.kind, s.slug, s.name, s.detail FROM (${all}) s JOIN json_each(?) w
     ON s.kind = json_extract(w.value, '$.kind') AND s.slug = json_extract(w.value, '$.slug')`,
    JSON.stringify(subjects),
  );
  return new Map(rows.map((row) => [`${row.kind} ${row.slug}`, row]));
}

/** Slug of the first product in the catalogue's order; null when there is none. */
export const firstProduct = (sql: Statements): string | null =>
  sql.get<{ slug: string }>('SELECT slug FROM product ORDER BY position, id LIMIT 1')?.slug ?? null;

/** How many subjects there are of each kind of page. */
export function countSubjects(sql: Statements): Record<string, number> {
  const rows = sql.all<{ kind: string; n: number }>(`SELECT kind, count(*) AS n FROM (${all}) GROUP BY kind`);
  return Object.fromEntries(rows.map((row) => [row.kind, row.n]));
}

/** A page for search engines: `day` is when it was last changed (ISO 8601), '' where that is not known. */
export interface IndexedSubject {
  kind: 'category' | 'content' | 'article' | 'listing' | 'product';
  slug: string;
  day: string;
}

/** Subjects that search engines are to know: without empty top categories, and tags and brands of no product. */
export function indexedSubjects(sql: Statements): IndexedSubject[] {
  return sql.all(
    `SELECT 'category' AS kind, slug, '' AS day FROM category WHERE live = 1 AND (parent_id IS NOT NULL OR product_count > 0)
     UNION ALL SELECT 'content', slug, '' FROM content WHERE live = 1
     UNION ALL SELECT 'article', slug, added FROM article WHERE live = 1
     UNION ALL SELECT 'listing', 'tag/' || t.slug, '' FROM tag t WHERE EXISTS (SELECT 1 FROM product_tag WHERE tag_id = t.id)
     UNION ALL SELECT 'listing', 'brand/' || b.slug, '' FROM brand b WHERE EXISTS (SELECT 1 FROM product WHERE brand_id = b.id)
     UNION ALL SELECT 'listing', 'offer', '' WHERE EXISTS (SELECT 1 FROM product WHERE live = 1 AND was_price > price)
     UNION ALL SELECT 'product', slug, '' FROM product WHERE live = 1`,
  );
}

/** Kinds of page that are kept as rows of their own. */
export type StoredKind = 'product' | 'category' | 'content' | 'article';
export const isStoredKind = (kind: string): kind is StoredKind =>
  kind === 'product' || kind === 'category' || kind === 'content' || kind === 'article';

export function countOfKind(sql: Statements, kind: StoredKind): number {
  return sql.get<{ n: number }>(`SELECT count(*) AS n FROM ${kind}`)?.n ?? 0;
}

/**
 * Beginnings of words in products' names, so many letters long, in small letters and without accents as the search knows them: those that a search may
 * begin with.
 */
export function wordBeginnings(sql: Statements, letters: number): string[] {
  // A table of the connection's own: nothing is written.
  sql.db.exec("CREATE VIRTUAL TABLE IF NOT EXISTS temp.search_word USING fts5vocab(main, product_search, 'col')");
  return sql
    .all<{ word: string }>(
      `SELECT DISTINCT substr(term, 1, ?) AS word FROM temp.search_word WHERE col = 'name' AND length(term) >= ? ORDER BY word`,
      letters,
      letters,
    )
    .map(({ word }) => word);
}
