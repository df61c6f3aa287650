import { catalogueFile } from '@/contract/catalogue-file';
import type { ReadJson } from './read-json';
import {
  changeOfRecord,
  fileKinds,
  recordSchema,
  slugOfRecord,
  type GoodsRecord,
  type FileKind,
  type RecordReader,
  type Staging,
} from '@/store';

/** Where each kind of record stands in a catalogue file. */
const lists: Record<Exclude<FileKind, 'shop'>, keyof typeof catalogueFile.shape> = {
  field: 'fields',
  brand: 'brands',
  tag: 'tags',
  category: 'categories',
  product: 'products',
  content: 'content',
  article: 'articles',
  menu: 'menus',
  redirect: 'redirects',
};

/** What a record names that must be there: of each its kind, and its name. */
function namedBy(kind: FileKind, record: GoodsRecord): [kind: FileKind, name: string][] {
  const list = (of: FileKind, field: string) =>
    ((record[field] ?? []) as string[]).map((name): [FileKind, string] => [of, name]);
  const fields = Object.keys((record.fields ?? {}) as object).map((key): [FileKind, string] => [
    'field',
    `${kind} ${key}`,
  ]);
  if (kind === 'category')
    return [...(record.parent === null ? [] : [['category', String(record.parent)] as [FileKind, string]]), ...fields];
  if (kind !== 'product') return fields;
  const brand: [FileKind, string][] = record.brand === null ? [] : [['brand', String(record.brand)]];
  return [
    ...brand,
    ...list('tag', 'tags'),
    ...list('category', 'categories'),
    ...fields,
    ...list('product', 'related'),
    ...list('product', 'members'),
  ];
}

/** Each category after the one that it stands below. */
function parentsFirst<T extends { record: GoodsRecord }>(categories: ReadonlyMap<string, T>): Map<string, T> {
  const sorted = new Map<string, T>();
  const put = (slug: string) => {
    const one = categories.get(slug);
    if (!one || sorted.has(slug)) return;
    put(String(one.record.parent ?? ''));
    sorted.set(slug, one);
  };
  for (const slug of categories.keys()) put(slug);
  return sorted;
}

/** Works out what a catalogue file would change: of a record that is there, the fields that the file has. */
export function readFilePlan(
  reader: RecordReader,
  staging: Staging,
  { value, at }: ReadJson,
  mode: 'merge' | 'replace',
): void {
  const error = (line: number, column: string, message: string, value = '') =>
    staging.putIssue({ line, column, value, message, severity: 'error' });
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    return error(1, '1', 'The file holds no catalogue');
  const file = value as Record<string, unknown>;
  for (const name of Object.keys(file))
    if (!Object.hasOwn(catalogueFile.shape, name)) error(at([name]).line, name, `A catalogue file has no “${name}”`);

  /** Names of the records that there will be, of the kinds that were gone through. */
  const names = new Map<FileKind, Set<string>>();
  const isThere = (kind: FileKind, name: string): boolean => reader.read(kind, [name]).size > 0;
  for (const kind of fileKinds) {
    const name = kind === 'shop' ? 'shop' : lists[kind];
    const given = file[name];
    if (given === undefined) continue;
    if (kind !== 'shop' && !Array.isArray(given)) {
      error(at([name]).line, name, `“${name}” is a list`);
      continue;
    }
    const raw = (kind === 'shop' ? [given] : given) as unknown[];
    const pathOf = (place: number) => (kind === 'shop' ? [name] : [name, place]);
    stageKind(kind, raw, pathOf);
  }

  function stageKind(kind: FileKind, raw: readonly unknown[], pathOf: (place: number) => (string | number)[]): void {
    const seen = new Map<string, number>();
    const whole = new Map<string, { record: GoodsRecord; named: string[] }>();
    const slugs = raw.map((one) =>
      slugOfRecord(kind, (typeof one === 'object' && one !== null ? one : {}) as GoodsRecord),
    );
    const there = reader.read(kind, slugs);
    raw.forEach((one, place) => {
      const slug = slugs[place] as string;
      const before = there.get(slug);
      const own = typeof one === 'object' && one !== null ? one : {};
      // What is there already need not be said again.
      const read = recordSchema(kind).safeParse({ ...before, ...own });
      if (!read.success) {
        for (const { path, message } of read.error.issues) {
          const steps = path.filter((step): step is string | number => typeof step !== 'symbol');
          const where = at([...pathOf(place), ...steps]);
          error(where.line, where.column, message);
        }
        seen.set(slug, place);
        return;
      }
      if (seen.has(slug)) return error(at(pathOf(place)).line, 'slug', `“${slug}” is there twice`, slug);
      seen.set(slug, place);
      whole.set(slug, { record: read.data as GoodsRecord, named: Object.keys(own) });
    });
    if (kind === 'category') checkRings(whole);
    const known = new Set(
      kind === 'product' ? [...reader.productSlugs(), ...whole.keys()] : [...reader.all(kind).keys(), ...whole.keys()],
    );
    if (mode === 'replace') for (const slug of known) if (!seen.has(slug)) known.delete(slug);
    names.set(kind, known);
    for (const [slug, { record }] of whole) {
      const missing = namedBy(kind, record).find(
        ([of, name]) => !names.get(of)?.has(name) && !(names.get(of) === undefined && isThere(of, name)),
      );
      if (!missing) continue;
      const where = at(pathOf(seen.get(slug) ?? 0));
      error(
        where.line,
        where.column,
        `There is no ${missing[0]} “${missing[1].replace(/^\w+ (?=\w+$)/, '')}”, which “${slug}” names`,
        slug,
      );
      whole.delete(slug);
    }
    for (const [slug, { record }] of kind === 'category' ? parentsFirst(whole) : whole) {
      const change = changeOfRecord(kind, slug, there.get(slug), record);
      if (change) staging.putChange(change);
    }
    if (mode !== 'replace' || kind === 'shop') return;
    const all = kind === 'product' ? reader.productSlugs() : [...reader.all(kind).keys()];
    const gone = all.filter((slug) => !seen.has(slug));
    for (const [slug, before] of reader.read(kind, gone))
      staging.putChange({ kind, slug, what: 'removed', before, after: {} });
  }

  /** A category that stands below itself is left out. */
  function checkRings(whole: Map<string, { record: GoodsRecord }>): void {
    const parentOf = (slug: string) =>
      (whole.get(slug)?.record ?? reader.all('category').get(slug))?.parent as string | null | undefined;
    for (const slug of [...whole.keys()]) {
      const path = [slug];
      for (let above = parentOf(slug); above; above = parentOf(above)) {
        if (above === slug) {
          error(1, 'parent', `The category “${slug}” would stand below itself: ${[...path, slug].join(' < ')}`, slug);
          whole.delete(slug);
          break;
        }
        if (path.includes(above)) break;
        path.push(above);
      }
    }
  }
}
