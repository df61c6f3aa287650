import {
  Bits,
  fieldFact,
  severalValues,
  type FactName,
  type FieldSubject,
  type FieldType,
  type SubjectKind,
} from '@/core/catalogue';
import { FactTable, type Column } from '@/core/alternates';
import { readColumns } from './columns';
import type { Statements } from './statements';

/** Texts as codes; '' and null are none. */
function texts(values: readonly unknown[]): Column {
  const known = new Map<string, number>();
  const codes = new Int32Array(values.length);
  for (let at = 0; at < values.length; at++) {
    const value = values[at];
    if (typeof value !== 'string' || value === '') {
      codes[at] = -1;
      continue;
    }
    let code = known.get(value);
    if (code === undefined) known.set(value, (code = known.size));
    codes[at] = code;
  }
  return { type: 'texts', codes, values: [...known.keys()] };
}

const numbers = (values: readonly unknown[]): Column => ({
  type: 'numbers',
  values: Float64Array.from(values, (value) => (typeof value === 'number' ? value : NaN)),
});

/** Places of subjects by their ids. */
function placesOf(ids: readonly number[]): Int32Array {
  const places = new Int32Array(ids.reduce((most, id) => Math.max(most, id), 0) + 1).fill(-1);
  for (let at = 0; at < ids.length; at++) places[ids[at] as number] = at;
  return places;
}

/** Rows of ids and values, at the places of the subjects with those ids. */
function atPlaces(ids: readonly number[], found: unknown[][]): unknown[] {
  const placeOf = placesOf(ids);
  const values: unknown[] = new Array(ids.length).fill(null);
  const [of = [], value = []] = found;
  for (let at = 0; at < of.length; at++) {
    const place = placeOf[of[at] as number];
    if (place !== undefined && place >= 0) values[place] = value[at];
  }
  return values;
}

/** A custom field of all subjects of a kind, as its type reads. */
function field(sql: Statements, kind: FieldSubject, ids: readonly number[], key: string): Column | null {
  const definition = sql.get<{ id: number; type: FieldType; several: number }>(
    'SELECT id, type, several FROM field_definition WHERE subject = ? AND key = ?',
    kind,
    key,
  );
  if (!definition) return null;
  const found = readColumns(sql, 2, 'SELECT subject_id, value FROM field_value WHERE definition_id = ?', definition.id);
  if (definition.several) {
    const lists = [...new Set(found[1] as string[])];
    const codeOf = new Map(lists.map((one, code) => [one, code]));
    const members = (found[1] as string[]).map((one) => codeOf.get(one));
    return sets(ids, [found[0] as number[], members], new Map(lists.map((one, code) => [code, severalValues(one)])));
  }
  const values = atPlaces(ids, found).map((value) =>
    value === null ? null : fieldFact(definition.type, value as string),
  );
  if (definition.type === 'number') return numbers(values);
  if (definition.type !== 'flag') return texts(values);
  const set = new Bits(ids.length);
  values.forEach((value, place) => value === true && set.add(place));
  return { type: 'flags', set };
}

/** Slugs of each category and all above it, by id; one that is below itself ends where it comes round. */
function around(sql: Statements): Map<number, { slug: string; above: string[] }> {
  const rows = sql.all<{ id: number; parentId: number | null; slug: string }>(
    'SELECT id, parent_id AS parentId, slug FROM category',
  );
  const byId = new Map(rows.map((row) => [row.id, row]));
  return new Map(
    rows.map((row) => {
      const seen = new Set([row.id]);
      const above: string[] = [];
      for (let at = row.parentId; at !== null && !seen.has(at);) {
        seen.add(at);
        const next = byId.get(at);
        if (!next) break;
        above.push(next.slug);
        at = next.parentId;
      }
      return [row.id, { slug: row.slug, above }];
    }),
  );
}

/** Sets from rows of a subject's id and that of a member, each of which stands for texts. */
function sets(
  ids: readonly number[],
  [of = [], members = []]: unknown[][],
  texts: ReadonlyMap<number, readonly string[]>,
): Column {
  const placeOf = placesOf(ids);
  const codeOf = new Map([...texts.keys()].map((id, code) => [id, code]));
  const places = new Int32Array(of.length);
  const codes = new Int32Array(of.length);
  let count = 0;
  for (let at = 0; at < of.length; at++) {
    const place = placeOf[of[at] as number];
    const code = codeOf.get(members[at] as number);
    if (place === undefined || place < 0 || code === undefined) continue;
    places[count] = place;
    codes[count++] = code;
  }
  return {
    type: 'sets',
    places: places.subarray(0, count),
    codes: codes.subarray(0, count),
    values: [...texts.values()],
  };
}

/** By their ids: the store has them in that order, and need not sort for each fact. Those that no rule asks for are the catalogue's table's. */
function products(sql: Statements): FactTable {
  const [ids = [], slugs = []] = readColumns(sql, 2, 'SELECT id, slug FROM product ORDER BY id') as [
    number[],
    string[],
  ];
  const own = (column: string) => readColumns(sql, 1, `SELECT ${column} FROM product p ORDER BY id`)[0] ?? [];
  return new FactTable(slugs, ({ fact, name = '' }: FactName): Column | null => {
    switch (fact) {
      case 'type':
      case 'added':
      case 'name':
      case 'summary':
      case 'gtin':
        return texts(own(fact));
      case 'product_sku':
        return texts(own('sku'));
      case 'description':
        // Only whether there is one is asked: they are long.
        return texts(own('substr(description, 1, 1)'));
      case 'live': {
        const set = new Bits(ids.length);
        own('live').forEach((live, place) => live === 1 && set.add(place));
        return { type: 'flags', set };
      }
      case 'position':
        return numbers(own('position'));
      case 'was_price':
        return numbers(own('was_price'));
      case 'pictures':
        return numbers(
          atPlaces(
            ids,
            readColumns(sql, 2, "SELECT owner_id, count(*) FROM media WHERE owner = 'product' GROUP BY owner_id"),
          ),
        );
      case 'slug':
        return texts(slugs);
      case 'price':
      case 'stock':
        return numbers(own(fact));
      case 'brand':
        return texts(own('(SELECT slug FROM brand b WHERE b.id = p.brand_id)'));
      case 'tag': {
        const tags = sql.all<{ id: number; slug: string }>('SELECT id, slug FROM tag');
        const found = readColumns(sql, 2, 'SELECT product_id, tag_id FROM product_tag');
        return sets(ids, found, new Map(tags.map(({ id, slug }) => [id, [slug]])));
      }
      case 'category': {
        const categories = [...around(sql)].map(([id, { slug, above }]): [number, string[]] => [id, [slug, ...above]]);
        return sets(
          ids,
          readColumns(sql, 2, 'SELECT product_id, category_id FROM product_category'),
          new Map(categories),
        );
      }
      case 'attribute':
        return texts(
          atPlaces(ids, readColumns(sql, 2, 'SELECT product_id, value FROM attribute WHERE name = ?', name)),
        );
      case 'field':
        return field(sql, 'product', ids, name);
      default:
        return null;
    }
  });
}

function categories(sql: Statements): FactTable {
  const rows = sql.all<{ id: number; slug: string; products: number }>(
    'SELECT id, slug, product_count AS products FROM category ORDER BY position, id',
  );
  const ids = rows.map(({ id }) => id);
  const slugs = rows.map(({ slug }) => slug);
  const above = around(sql);
  return new FactTable(slugs, ({ fact, name = '' }): Column | null => {
    if (fact === 'slug') return texts(slugs);
    if (fact === 'products') return numbers(rows.map((row) => row.products));
    if (fact === 'level') return numbers(ids.map((id) => (above.get(id)?.above.length ?? 0) + 1));
    if (fact === 'below') {
      const texts = new Map(ids.map((id) => [id, above.get(id)?.above ?? []]));
      const filled = ids.filter((id) => texts.get(id)?.length);
      return sets(ids, [filled, filled], texts);
    }
    return fact === 'field' ? field(sql, 'category', ids, name) : null;
  });
}

/** Listings in each of their views; a search once for each of the texts that rules ask for, and once for none. */
function listings(sql: Statements, { searches, withCategories }: ListingWish): FactTable {
  const slugs = (table: string) =>
    sql.all<{ slug: string }>(`SELECT slug FROM ${table} ORDER BY id`).map(({ slug }) => slug);
  const rows: { slug: string; kind: string; tag?: string; brand?: string; query?: string; view?: string }[] = [
    { slug: 'all', kind: 'all' },
    { slug: 'offer', kind: 'offer' },
    ...['', ...searches].map((query) => ({ slug: 'search', kind: 'search', query })),
    ...slugs('tag').map((tag) => ({ slug: `tag/${tag}`, kind: 'tag', tag })),
    ...slugs('brand').map((brand) => ({ slug: `brand/${brand}`, kind: 'brand', brand })),
    ...(withCategories ? slugs('category').map((slug) => ({ slug: `category/${slug}`, kind: 'category' })) : []),
  ];
  const each = rows.flatMap((row) => ['grid', 'list'].map((view) => ({ ...row, view })));
  return new FactTable(
    each.map(({ slug }) => slug),
    ({ fact }) =>
      fact === 'kind' || fact === 'tag' || fact === 'brand' || fact === 'query' || fact === 'view'
        ? texts(each.map((row) => row[fact]))
        : null,
  );
}

function pages(sql: Statements, table: 'content' | 'article'): FactTable {
  const rows = sql.all<{ id: number; slug: string; added: string }>(`SELECT id, slug, added FROM ${table} ORDER BY id`);
  const ids = rows.map(({ id }) => id);
  return new FactTable(
    rows.map(({ slug }) => slug),
    ({ fact, name = '' }) => {
      if (fact === 'field') return field(sql, table, ids, name);
      return fact === 'slug' || fact === 'added' ? texts(rows.map((row) => row[fact])) : null;
    },
  );
}

export interface ListingWish {
  /** Texts that rules ask of searches. */
  searches: readonly string[];
  /** Listings of categories too: pieces are given those. */
  withCategories: boolean;
}

/** All subjects of a kind as rules see them. A fact is one query for all of them, made when a rule first asks. */
export function factTable(sql: Statements, kind: SubjectKind, wish: ListingWish): FactTable {
  switch (kind) {
    case 'product':
      return products(sql);
    case 'category':
      return categories(sql);
    case 'listing':
      return listings(sql, wish);
    case 'content':
    case 'article':
      return pages(sql, kind);
    default:
      return new FactTable([''], () => null);
  }
}
