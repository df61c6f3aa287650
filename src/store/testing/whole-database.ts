import type { Statements } from '../statements';

/**
 * For tests: all that a database holds, row by row, as two databases can be compared that gave their rows other numbers: a number that
 * stands for a row is replaced by what names that row, and a position by the place in its order.
 */

/** What counts up or is told over again, and says nothing of the goods: the history, and revisions. */
const counted = new Set(['goods_change', 'goods_record', 'catalogue_state']);
const countedColumns = new Set(['revision']);

/** Columns that name a row of a table that another column names. */
const byKind: Record<string, { kind: string; id: string }> = {
  media: { kind: 'owner', id: 'owner_id' },
  translation: { kind: 'kind', id: 'id' },
};
/** Kinds of text that stand in another table than one of their own name. */
const tableOfKind: Record<string, string> = { attribute: 'product' };

type Row = Record<string, unknown>;

/** Every table with its rows, sorted. */
export function wholeDatabase(sql: Statements): Record<string, string[]> {
  const db = sql.db;
  const tables = db
    .prepare<[], { name: string }>(
      `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\'
       AND name NOT GLOB 'product_search_*'`,
    )
    .all()
    .map(({ name }) => name)
    .filter((name) => !counted.has(name));
  const rows = new Map(tables.map((name) => [name, db.prepare<[], Row>(`SELECT * FROM "${name}"`).all()]));
  const links = new Map(
    tables.map((name) => [
      name,
      new Map(
        db
          .prepare<[], { from: string; table: string }>(
            `SELECT "from", "table" FROM pragma_foreign_key_list('${name}')`,
          )
          .all()
          .map(({ from, table }) => [from, table]),
      ),
    ]),
  );
  links.set('product_search', new Map([['product_id', 'product']]));
  const byId = new Map(
    tables.map((name) => [name, new Map((rows.get(name) ?? []).map((row) => [row.id as number, row]))]),
  );
  const called = new Map<Row, string>();
  const nameOf = (table: string, id: unknown): string => {
    const row = byId.get(table)?.get(id as number);
    if (!row) return `${String(id)} of ${table}, which is not there`;
    let name = called.get(row);
    if (name === undefined) {
      called.set(row, '…');
      called.set(row, (name = typeof row.slug === 'string' ? ownName(table, row) : told(table, row)));
    }
    return name;
  };
  const ownName = (table: string, row: Row): string => {
    const above = [...(links.get(table) ?? [])].filter(([column]) => column !== 'parent_id' && column !== 'brand_id');
    return [...above.map(([column, of]) => nameOf(of, row[column])), String(row.slug)].join(' ');
  };
  const orders = new Map(tables.map((name) => [name, placesIn(rows.get(name) ?? [])]));
  const told = (table: string, row: Row): string => {
    const linked = links.get(table) ?? new Map<string, string>();
    const kind = byKind[table];
    return JSON.stringify(
      Object.entries(row).flatMap(([column, value]): [string, unknown][] => {
        if (countedColumns.has(column)) return [];
        if (kind?.id === column) {
          const of = String(row[kind.kind]);
          return [[column, nameOf(tableOfKind[of] ?? of, value)]];
        }
        if (table === 'field_value' && column === 'subject_id') {
          const definition = byId.get('field_definition')?.get(row.definition_id as number);
          return [[column, nameOf(String(definition?.subject), value)]];
        }
        if (column === 'id') return [];
        // Words to be found by, in any order.
        if (table === 'product_search' && typeof value === 'string')
          return [[column, value.split(' ').sort().join(' ')]];
        if (column === 'position') return [[column, orders.get(table)?.get(row)]];
        const of = linked.get(column);
        if (of && value !== null && byId.get(of)?.size && 'id' in ((rows.get(of) ?? [])[0] ?? {}))
          return [[column, nameOf(of, value)]];
        return [[column, Buffer.isBuffer(value) ? value.toString('base64').slice(0, 64) : value]];
      }),
    );
  };
  return Object.fromEntries(tables.map((name) => [name, (rows.get(name) ?? []).map((row) => told(name, row)).sort()]));
}

/** The place of each row among those that belong to the same one. */
function placesIn(rows: readonly Row[]): Map<Row, number> {
  const [first] = rows;
  if (!first || !('position' in first)) return new Map();
  const holders = ['product_id', 'option_id', 'menu_id', 'parent_id', 'owner', 'owner_id', 'subject'].filter(
    (column) => column in first,
  );
  const counts = new Map<string, number>();
  const places = new Map<Row, number>();
  for (const row of [...rows].sort(
    (a, b) => Number(a.position) - Number(b.position) || Number(a.id ?? 0) - Number(b.id ?? 0),
  )) {
    const key = holders.map((column) => String(row[column])).join(' ');
    const at = counts.get(key) ?? 0;
    counts.set(key, at + 1);
    places.set(row, at);
  }
  return places;
}
