import type { SubjectKind } from '@/core/catalogue';
import { readColumns } from './columns';
import type { Statements } from './statements';

/** Subjects of a kind in groups, which may stand in one another: what a map of them is drawn by. */
export interface Groups {
  groups: { key: string; parent: string | null; name: string }[];
  /** Number of the group of each subject, by its place. */
  of: Int32Array;
}

/** A group for what belongs to none. */
const none = { key: '-', parent: null };

/** Products by the first of their categories, which stand in one another. */
function byCategory(sql: Statements): Groups {
  const rows = sql.all<{ id: number; parentId: number | null; slug: string; name: string }>(
    'SELECT id, parent_id AS parentId, slug, name FROM category ORDER BY position, id',
  );
  const byId = new Map(rows.map((row) => [row.id, row]));
  /** One that comes round to itself stands at the top. */
  const rounds = (row: { id: number; parentId: number | null }): boolean => {
    const seen = new Set([row.id]);
    for (let at = row.parentId; at !== null; at = byId.get(at)?.parentId ?? null) {
      if (seen.has(at)) return true;
      seen.add(at);
    }
    return false;
  };
  const groups: Groups['groups'] = rows.map((row) => ({
    key: row.slug,
    parent: row.parentId === null || rounds(row) ? null : (byId.get(row.parentId)?.slug ?? null),
    name: row.name,
  }));
  groups.push({ ...none, name: 'in no category' });
  const numbers = new Map(rows.map((row, at) => [row.id, at]));
  const [ids = []] = readColumns(sql, 1, 'SELECT id FROM product ORDER BY id') as number[][];
  // SQLite gives the other columns of the row that has the least.
  const first = readColumns(
    sql,
    2,
    'SELECT product_id, category_id FROM (SELECT product_id, category_id, min(position) FROM product_category GROUP BY product_id)',
  ) as number[][];
  const groupOf = new Map<number, number>();
  for (const [at, id] of (first[0] ?? []).entries())
    groupOf.set(id, numbers.get(first[1]?.[at] as number) ?? rows.length);
  return { groups, of: Int32Array.from(ids, (id) => groupOf.get(id) ?? rows.length) };
}

/** Groups by a text of each subject. */
function byText(texts: readonly (string | null)[], nameOf: (text: string) => string, empty: string): Groups {
  const numbers = new Map<string, number>();
  const groups: Groups['groups'] = [];
  const of = Int32Array.from(texts, (text) => {
    const key = text || none.key;
    let number = numbers.get(key);
    if (number === undefined) {
      numbers.set(key, (number = groups.length));
      groups.push({ key, parent: null, name: text ? nameOf(text) : empty });
    }
    return number;
  });
  return { groups, of };
}

/** Categories by the one right above them. */
function categories(sql: Statements): Groups {
  const rows = sql.all<{ parent: string | null; slug: string }>(
    'SELECT c.slug, (SELECT name FROM category p WHERE p.id = c.parent_id) AS parent FROM category c ORDER BY position, id',
  );
  return byText(
    rows.map(({ parent }) => parent),
    (text) => text,
    'at the top',
  );
}

const listingNames: Record<string, string> = {
  all: 'all products',
  search: 'search',
  tag: 'tags',
  brand: 'brands',
  category: 'categories',
};

/** Groups the subjects of a kind, whose slugs stand at their places. */
export function groupsOf(
  sql: Statements,
  kind: SubjectKind,
  slugs: readonly string[],
  by: 'category' | 'type',
): Groups {
  if (kind === 'product') {
    if (by === 'category') return byCategory(sql);
    const [types = []] = readColumns(sql, 1, 'SELECT type FROM product ORDER BY id') as string[][];
    return byText(types, (text) => text, 'of no type');
  }
  if (kind === 'category') return categories(sql);
  const name = kind === 'listing' ? (slug: string) => slug.split('/')[0] as string : () => kind as string;
  return byText(slugs.map(name), (text) => listingNames[text] ?? text, '');
}

/** Names of all subjects of a kind, at their places, with what tells them apart. */
export function namesAt(
  sql: Statements,
  kind: SubjectKind,
  slugs: readonly string[],
): { names: string[]; details: string[] } {
  const columns = (query: string) => readColumns(sql, 2, query) as [string[], string[]];
  const paired = ([names, details]: [string[], string[]]) => ({ names, details });
  switch (kind) {
    case 'product':
      return paired(columns('SELECT name, type FROM product ORDER BY id'));
    case 'category':
      return paired(columns("SELECT name, product_count || ' products' FROM category ORDER BY position, id"));
    case 'content':
    case 'article':
      return paired(columns(`SELECT title, added FROM ${kind} ORDER BY id`));
    case 'listing': {
      const named = new Map<string, string>([
        ['all', 'All products'],
        ['offer', 'On offer'],
        ['search', 'Search'],
      ]);
      for (const table of ['tag', 'brand', 'category'])
        for (const { slug, name } of sql.all<{ slug: string; name: string }>(`SELECT slug, name FROM ${table}`))
          named.set(`${table}/${slug}`, name);
      return {
        names: slugs.map((slug) => named.get(slug) ?? slug),
        details: slugs.map((slug) => (slug.includes('/') ? (slug.split('/')[0] as string) : '')),
      };
    }
    default:
      return { names: [{ home: 'Home', articles: 'All articles', cart: 'Cart' }[kind]], details: [''] };
  }
}
