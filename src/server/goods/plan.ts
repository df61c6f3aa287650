import type { FieldShape } from '@/core/catalogue';
import { readFileSync } from 'node:fs';
import {
  decimalMarkOf,
  guessColumns,
  mergeProduct,
  productOf,
  readTarget,
  sameHeadings,
  slugOf,
  type Column,
  type DecimalMark,
  type GoodsIssue,
  type RowContext,
  type TableRow,
  type WholeProduct,
} from '@/core/exchange';
import { changedProduct, productFile } from '@/contract/catalogue-file';
import type { Shop } from '@/server/shop';
import {
  changeOfRecord,
  mappingOf,
  optionSlugs,
  RecordReader,
  Staging,
  type GoodsRecord,
  type RecordChange,
  type RowGroup,
} from '@/store';
import { NamesMade } from './names-made';
import { checkNamed, checkPictures, stageRemoved } from './plan-checks';
import { isLinked, rowsOfLinkedFile } from './linked-file';
import { readFilePlan } from './plan-file';
import { readJson, type ReadJson } from './read-json';
import { checkSize, maxJsonBytes, readHead, tableRows, type TableFormat, type TableHead } from './table-rows';

/** How a file is to be taken. */
export interface ImportAsk {
  /** Where it lies on this machine. */
  file: string;
  format: 'csv' | 'json';
  /** Add and change only, or have the file's records and no others. */
  mode: 'merge' | 'replace';
  /** What columns are taken for, by heading; what is not named is guessed. */
  columns?: Readonly<Record<string, string | null>> | undefined;
  encoding?: TableFormat['encoding'] | undefined;
  delimiter?: string | undefined;
  mark?: DecimalMark | undefined;
  /** Paths of pictures that come with it. */
  coming?: readonly string[];
  /** Today in ISO 8601. */
  today: string;
}

/** What is known of a table file before it is read whole. */
export interface TableLook extends TableHead {
  columns: Column[];
  mark: DecimalMark;
}

/** Products that are compared at once. */
const batch = 500;

/** A product of the file that can be taken, and what that would change. */
interface Planned {
  slug: string;
  line: number;
  product: WholeProduct;
  change: RecordChange | null;
}

const decimalOf = (locale: string): DecimalMark =>
  new Intl.NumberFormat(locale).formatToParts(1.5).some(({ type, value }) => type === 'decimal' && value === ',')
    ? ','
    : '.';

/** Looks at a table file: how it is written, and what its columns seem to be; what was corrected for such a file before counts. */
export async function lookAt(shop: Shop, ask: ImportAsk): Promise<TableLook> {
  const head = await readHead(ask.file, {
    ...(ask.encoding ? { encoding: ask.encoding } : {}),
    ...(ask.delimiter ? { delimiter: ask.delimiter } : {}),
  });
  const source = shop.catalogue();
  const { locales, locale } = source.shop();
  const fields = source.fieldDefinitions('product');
  const options = source.facetValues().map(({ option, optionName }) => ({ slug: option, name: optionName }));
  const guessed = guessColumns(head.headings, head.sample, {
    locales,
    options,
    fields,
    attributes: [],
  });
  const kept = mappingOf(shop.sql, sameHeadings(head.headings)) ?? {};
  const columns = guessed.map((column): Column => {
    const { heading } = column;
    const said = ask.columns?.[heading] !== undefined ? ask.columns[heading] : kept[heading];
    return said === undefined ? column : { heading, target: said, by: 'heading' };
  });
  const numbers = new Set([
    'price',
    'was_price',
    ...fields.flatMap(({ key, type }) => (type === 'number' ? [`field:${key}`] : [])),
  ]);
  const values = head.sample.flatMap((row) => row.filter((_, at) => numbers.has(columns[at]?.target ?? '')));
  // Our own files write numbers as JSON does.
  const own = guessed.every(({ by }) => by === 'heading');
  return { ...head, columns, mark: ask.mark ?? (own ? '.' : decimalMarkOf(values, decimalOf(locale))) };
}

/**
 * Works out what an import would change, and what of the file cannot be taken; nothing of the shop is written. Tells now and then how many
 * rows or products it has come to.
 */
export async function planImport(
  shop: Shop,
  staging: Staging,
  ask: ImportAsk,
  heard: (done: number) => void = () => {},
): Promise<void> {
  const reader = new RecordReader(shop.catalogue());
  staging.note('revision', shop.catalogue().revision);
  if (ask.format === 'json') {
    checkSize(ask.file, maxJsonBytes);
    const json = readJson(readFileSync(ask.file, 'utf8'));
    if ('wrong' in json) staging.putIssue({ ...json.wrong, value: '', severity: 'error' });
    else if (isLinked(json.value)) await planLinked(shop, reader, staging, ask, json, heard);
    else staging.transaction(() => readFilePlan(reader, staging, json, ask.mode));
    return;
  }
  const look = await lookAt(shop, ask);
  if (!look.sure)
    staging.putIssue({
      ...{ line: 1, column: '', value: '', severity: 'warning' },
      message: `The file is not UTF-8 and does not say how it is encoded: it was read as ${look.encoding}. Check whether accents and signs are right`,
    });
  staging.note('headings', look.headings);
  staging.note('columns', Object.fromEntries(look.columns.map(({ heading, target }) => [heading, target])));
  async function* rows() {
    let count = 0;
    for await (const row of tableRows(ask.file, look)) if (count++) yield row;
  }
  await stageRows(reader, staging, rows(), look, heard);
  compareRows(reader, staging, ask, look, shop.catalogue().shop().currency, heard);
}

/** The same for linked data: its products become rows of our own table. */
async function planLinked(
  shop: Shop,
  reader: RecordReader,
  staging: Staging,
  ask: ImportAsk,
  json: ReadJson,
  heard: (done: number) => void,
): Promise<void> {
  const { locale, locales, currency } = shop.catalogue().shop();
  const [tags, categories] = [reader.all('tag'), reader.all('category')];
  const rows = await rowsOfLinkedFile(
    json,
    {
      locale,
      locales: locales.filter((one) => one !== locale),
      options: optionSlugs(shop.sql),
      isTag: (slug) => tags.has(slug),
      isCategory: (slug) => categories.has(slug),
    },
    staging,
  );
  const headings = [...new Set(rows.flatMap(({ cells }) => [...cells.keys()]))];
  const columns = headings.map((heading): Column => ({ heading, target: heading, by: 'heading' }));
  async function* cells() {
    for (const { line, cells: own } of rows)
      yield await Promise.resolve({ line, cells: headings.map((heading) => own.get(heading) ?? '') });
  }
  await stageRows(reader, staging, cells(), { headings, columns }, heard);
  compareRows(reader, staging, ask, { columns, mark: '.' }, currency, heard);
}

const cellOf = (look: Pick<TableLook, 'columns'>, part: string): ((row: TableRow) => string) => {
  const at = look.columns.findIndex(({ target }) => target === part);
  return ({ cells }) => (at < 0 ? '' : (cells[at] ?? '').trim());
};

/** Puts the rows by, each under the product that it belongs to. */
async function stageRows(
  reader: RecordReader,
  staging: Staging,
  given: AsyncIterable<TableRow>,
  look: Pick<TableLook, 'headings' | 'columns'>,
  heard: (done: number) => void,
): Promise<void> {
  const [product, name, sku] = ['product', 'name', 'sku'].map((part) => cellOf(look, part)) as [
    (row: TableRow) => string,
    (row: TableRow) => string,
    (row: TableRow) => string,
  ];
  let rows: TableRow[] = [];
  let count = 0;
  const put = () => {
    const bySku = reader.productsOfSkus(
      rows
        .filter((row) => !product(row))
        .map(sku)
        .filter(Boolean),
    );
    staging.transaction(() => {
      for (const row of rows) {
        const known = product(row) ? undefined : bySku.get(sku(row));
        const called = product(row) || known || name(row) || sku(row);
        const key = known ?? (slugOf(called) || slugOf(sku(row)));
        if (key) staging.putRow(key, called.toLowerCase(), row);
        else
          staging.putIssue({
            ...{ line: row.line, column: '', value: called, severity: 'error' },
            message: called
              ? `“${called}” has no Latin letter or digit that an address could be made of: give the product one, in a column “product”`
              : 'The row says neither product nor name nor article number',
          });
      }
    });
    rows = [];
    heard(count);
  };
  const width = look.headings.length;
  for await (const row of given) {
    count++;
    if (row.cells.length !== width && row.cells.some((cell) => cell.trim()))
      staging.putIssue({
        ...{ line: row.line, column: '', value: '', severity: 'error' },
        message: `The row has ${row.cells.length} cells, the headings are ${width}: it is left out`,
      });
    else if (row.cells.some((cell) => cell.trim())) rows.push(row);
    if (rows.length >= 1000) put();
  }
  put();
}

/** Compares the rows that were put by with the products that are there, and stages what differs. */
function compareRows(
  reader: RecordReader,
  staging: Staging,
  ask: ImportAsk,
  look: Pick<TableLook, 'columns' | 'mark'>,
  currency: string,
  heard: (done: number) => void,
): void {
  const columns = look.columns.map(({ heading, target }) => ({
    heading,
    target: target === null ? null : readTarget(target),
  }));
  const fields = reader.all('field');
  const shapeOf = (key: string) => fields.get(`product ${key}`) as FieldShape | undefined;
  const context: RowContext = {
    columns,
    currency,
    mark: look.mark,
    fields: new Map(
      columns.flatMap(({ target }) => {
        const shape = target?.part === 'field' && target.name ? shapeOf(target.name) : undefined;
        return shape ? [[target?.name ?? '', shape] as const] : [];
      }),
    ),
  };
  const names = new NamesMade(reader);
  for (const { target } of columns)
    if (target?.part === 'field' && target.name && !shapeOf(target.name))
      staging.putChange({
        ...{ kind: 'field', slug: `product ${target.name}`, what: 'added', before: {} },
        after: { subject: 'product', key: target.name, name: target.name.replaceAll('_', ' '), type: 'text' },
      });
  const skus = new Map<string, string>();
  const seen = new Set<string>();
  let count = 0;
  for (const groups of staging.groups(batch)) {
    staging.transaction(() => {
      const there = reader.read(
        'product',
        groups.map(({ key }) => key),
      );
      const after = groups.flatMap((group) => planned(group, there.get(group.key)));
      checkSkus(after, there);
      for (const { slug, change } of after) {
        seen.add(slug);
        if (change) staging.putChange(change);
      }
    });
    heard((count += groups.length));
  }
  staging.transaction(() => {
    for (const { kind, record } of names.made)
      staging.putChange({ kind, slug: String(record.slug), what: 'added', before: {}, after: record });
    if (ask.mode === 'replace') stageRemoved(reader, staging, seen);
    checkNamed(reader, staging, seen);
    checkPictures(reader, staging, ask.coming);
  });

  /** What comes of a product's rows; nothing where they have an error. */
  function planned({ key, called, rows }: RowGroup, before: GoodsRecord | undefined): Planned[] {
    const issues: GoodsIssue[] = [];
    const report = (issue: GoodsIssue) => issues.push(issue);
    const line = rows[0]?.line ?? 0;
    if (called.length > 1)
      report({
        ...{ line, column: '', value: key, severity: 'error' },
        message: `${called.map((one) => `“${one}”`).join(' and ')} come to the same address “${key}”: give one of them another, in a column “product”`,
      });
    const goods = productOf(rows, context, called.length > 1 ? () => {} : report);
    const product = issues.some(({ severity }) => severity === 'error')
      ? null
      : mergeProduct(key, (before as WholeProduct | undefined) ?? null, goods, {
          ...{ line, today: ask.today, report, fields: context.fields },
          ...{
            brand: (name) => names.brand(name),
            tag: (name) => names.tag(name),
            category: (path) => names.category(path),
          },
        });
    const change = product && changeOfRecord('product', key, before, product as unknown as GoodsRecord);
    const schema = before ? changedProduct : productFile;
    const read = change && !issues.some(({ severity }) => severity === 'error') && schema.safeParse(change.after);
    if (read && !read.success)
      for (const { path, message } of read.error.issues)
        report({ ...{ line, column: path.map(String).join('.'), value: '', severity: 'error' }, message });
    for (const issue of issues) staging.putIssue(issue);
    if (issues.some(({ severity }) => severity === 'error')) {
      // It is left out, not removed.
      seen.add(key);
      return [];
    }
    return product ? [{ slug: key, line, product, change }] : [];
  }

  /** Article numbers are each of one variant only, of the file and of what is there. */
  function checkSkus(after: Planned[], there: ReadonlyMap<string, GoodsRecord>): void {
    const before = (slug: string) =>
      new Set(((there.get(slug)?.variants ?? []) as { sku: string }[]).map(({ sku }) => sku));
    const added = after.flatMap(({ slug, product }) => {
      const known = before(slug);
      return product.variants.filter(({ sku }) => !known.has(sku)).map(({ sku }) => sku);
    });
    const elsewhere = reader.productsOfSkus(added);
    const free = after.filter(({ slug, line, product }) => {
      const known = before(slug);
      const taken = product.variants.find(({ sku }) => {
        const other = skus.get(sku) ?? (known.has(sku) ? slug : (elsewhere.get(sku) ?? slug));
        return other !== slug;
      });
      if (!taken) for (const { sku } of product.variants) skus.set(sku, slug);
      else {
        const { sku } = taken;
        const other = skus.get(sku) ?? elsewhere.get(sku) ?? '';
        const message = `The article number “${sku}” is one of “${other}” already`;
        staging.putIssue({ ...{ line, column: '', value: sku, severity: 'error' }, message });
        seen.add(slug);
      }
      return !taken;
    });
    after.splice(0, after.length, ...free);
  }
}
