import { tellSearch } from './import';
import type { Statements } from './statements';

/** Says that these products changed: what was worked out of them from an older revision of the catalogue is worked out again. */
function productsChanged(sql: Statements, ids: readonly number[]): void {
  sql.run('UPDATE catalogue_state SET revision = revision + 1');
  sql.run(
    'UPDATE product SET revision = (SELECT revision FROM catalogue_state) WHERE id IN (SELECT value FROM json_each(?))',
    JSON.stringify(ids),
  );
}

/** Takes a tag out of the catalogue, and from all products that have it; gives how many had it, null where there is no such tag. */
export function retireTag(sql: Statements, slug: string): number | null {
  return sql.db
    .transaction(() => {
      const tag = sql.get<{ id: number }>('SELECT id FROM tag WHERE slug = ?', slug);
      if (!tag) return null;
      const rows = sql.all<{ id: number }>('SELECT product_id AS id FROM product_tag WHERE tag_id = ?', tag.id);
      const ids = rows.map(({ id }) => id);
      sql.run('DELETE FROM tag WHERE id = ?', tag.id);
      sql.run("DELETE FROM translation WHERE kind = 'tag' AND id = ?", tag.id);
      productsChanged(sql, ids);
      const first = sql.get<{ locale: string }>('SELECT locale FROM shop')?.locale ?? '';
      tellSearch(sql, first, ids);
      return ids.length;
    })
    .immediate();
}
