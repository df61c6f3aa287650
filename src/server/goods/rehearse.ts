import { sameTarget, templateOf, type Alternates } from '@/core/alternates';
import { pathOf } from '@/core/address';
import type { GoodsEffects } from '@/contract/goods';
import { Covers } from '@/server/alternates';
import { cleanRichText } from '@/server/catalogue';
import type { Shop } from '@/server/shop';
import { pageOf } from '@/server/storefront';
import {
  afterChange,
  CatalogueFileError,
  CatalogueWriter,
  countOfKind,
  recordKinds,
  RecordReader,
  writeRecord,
  type GoodsRecord,
  type RecordChange,
  type Staging,
  type StateRow,
} from '@/store';
import { inBatches, recordsOf } from './records';

/** Records that are written for the rehearsal at the most: nobody else can write meanwhile. */
const maxRecords = 500;
/** Records that are no products, and come before them. */
const maxOthers = 5000;
/** Pages that are made, and how long making them may take, in milliseconds. */
const maxPages = 16;
const pagesMs = 1500;
/** Catalogues up to this many products have pages with listings made too: larger ones take seconds to be read whole. */
const maxListed = 20_000;
/** Names that are given of products that get another template. */
const maxExamples = 5;

/** Ends the rehearsal's transaction, so that nothing of it stays. */
class Over extends Error {}

/**
 * Does an import and rolls it back, to see what becomes of the live shop's assignments and pages: all of a small import, records from all over a
 * large one. null where nothing is live,
 * or too much changes that is no product.
 */
export function rehearseImport(shop: Shop, staging: Staging): GoodsEffects | null {
  const live = shop.themes.live();
  const total = staging.counts().reduce((sum, { count }) => sum + count, 0);
  if (!live || !total) return null;
  const changes = sampled(staging, total);
  if (!changes) return null;
  const pages = pagesOf(changes, countOfKind(shop.sql, 'product') <= maxListed);
  const before = lookAt(shop, live, pages, Infinity);
  let after: Looked | null = null;
  try {
    shop.themes.transaction(() => {
      writeAll(shop, changes);
      after = lookAt(shop, live, pages, performance.now() + pagesMs);
      throw new Over();
    });
  } catch (error) {
    // Records from all over a large import may lack what they name.
    if (error instanceof CatalogueFileError && changes.length < total) return null;
    if (!(error instanceof Over)) throw error;
  }
  // What was read meanwhile is never the shop's.
  shop.theme(live);
  return after && effectsOf(shop, live, changes, before, after, total);
}

/** The records of an import, those of products from all over it where there are too many; null where there are too many others. */
function sampled(staging: Staging, total: number): RecordChange[] | null {
  const counts = staging.counts();
  const products = counts.reduce((sum, { kind, count }) => sum + (kind === 'product' ? count : 0), 0);
  if (total - products > maxOthers) return null;
  return [...staging.changes(recordKinds, Math.max(1, Math.ceil(products / maxRecords)))];
}

/** Writes the records; names of products that are not among them are left out. */
function writeAll(shop: Shop, changes: readonly RecordChange[]): void {
  const reader = new RecordReader(shop.catalogue());
  const writer = new CatalogueWriter(shop.sql, cleanRichText);
  const named = changes.flatMap(({ after }) =>
    [after.related, after.members].flat().filter((one) => typeof one === 'string'),
  );
  const there = new Set([
    ...reader.read('product', [...new Set(named)]).keys(),
    ...changes.filter(({ kind, what }) => kind === 'product' && what === 'added').map(({ slug }) => slug),
  ]);
  const known = (list: unknown) => (Array.isArray(list) ? list.filter((slug) => there.has(slug as string)) : list);
  for (const some of inBatches(changes))
    for (const [change, now] of recordsOf(reader, some)) {
      const { kind, what } = change;
      const after = kind === 'product' && what !== 'removed' ? mapped(change.after, known) : change.after;
      writeRecord(writer, { ...change, after }, afterChange(now, { ...change, after }));
    }
  writer.finish(shop.catalogue().shop().locale);
}

/** What a product's record names, as it can be written. */
const mapped = (after: GoodsRecord, known: (list: unknown) => unknown): GoodsRecord => ({
  ...after,
  ...(after.related === undefined ? {} : { related: known(after.related) }),
  ...(after.members === undefined ? {} : { members: known(after.members) }),
});

/** Paths of pages that show what changes: products from all over it, content, and where that is soon done (`listed`) the first page and categories. */
function pagesOf(changes: readonly RecordChange[], listed: boolean): string[] {
  const some = (kind: 'product' | 'category' | 'content' | 'article', most: number): string[] => {
    const own = changes.filter((one) => one.kind === kind && one.what !== 'removed');
    const every = Math.ceil(own.length / most);
    return own.filter((_, at) => at % every === 0).map(({ slug }) => pathOf({ kind, slug }));
  };
  return [
    ...some('product', maxPages - 5),
    ...some('content', 1),
    ...some('article', 1),
    ...(listed ? ['/', ...some('category', 2)] : []),
  ];
}

/** What is seen of the live shop: who gets which template, what is wrong with assignments, and on pages. */
interface Looked {
  templates: Map<string, string>;
  assignments: string[];
  pages: Map<string, GoodsEffects['problems']>;
}

function lookAt(shop: Shop, live: StateRow, paths: readonly string[], until: number): Looked {
  const covers = new Covers(shop);
  const all = covers.now(live, product, null);
  const templates = new Map(all.ask.table.slugs.map((slug, place) => [slug, all.wayOf(place).template]));
  const pages = new Map<string, GoodsEffects['problems']>();
  for (const path of paths) {
    if (performance.now() > until) break;
    const { problems } = pageOf(shop, live, { path, query: {} });
    pages.set(
      path,
      problems
        .filter(({ severity }) => severity !== 'note')
        .map(({ file, line, message }) => ({ page: path, file, line, message })),
    );
  }
  return { templates, assignments: covers.problems(live, null).map(({ says }) => says), pages };
}

function effectsOf(
  shop: Shop,
  live: StateRow,
  changes: readonly RecordChange[],
  before: Looked,
  after: Looked,
  total: number,
): GoodsEffects {
  const { alternates } = shop.theme(live);
  const switched = new Map<string, GoodsEffects['templates'][number]>();
  for (const { kind, slug } of changes) {
    const [from, to] = [before.templates.get(slug), after.templates.get(slug)];
    if (kind !== 'product' || to === undefined || from === to || (from === undefined && to === defaultTemplate))
      continue;
    const labels = { from: from === undefined ? '' : labelOf(alternates, from), to: labelOf(alternates, to) };
    const key = JSON.stringify(labels);
    const one = switched.get(key) ?? { ...labels, count: 0, examples: [] };
    one.count++;
    if (one.examples.length < maxExamples) one.examples.push(slug);
    switched.set(key, one);
  }
  const sameAs = ({ file, line, message }: GoodsEffects['problems'][number]) => `${file} ${line} ${message}`;
  const problems = [...after.pages].flatMap(([path, found]) => {
    const known = new Set((before.pages.get(path) ?? []).map(sameAs));
    return found.filter((one) => !known.has(sameAs(one)));
  });
  return {
    rehearsed: changes.length,
    of: total,
    templates: [...switched.values()].sort((a, b) => b.count - a.count),
    assignments: after.assignments.filter((says) => !before.assignments.includes(says)),
    pages: after.pages.size,
    problems,
  };
}

const product = { kind: 'product' } as const;
const defaultTemplate = templateOf(product, 'default');

/** What a product's template is called. */
const labelOf = ({ alternates }: Alternates, template: string): string =>
  alternates.find((one) => sameTarget(one, product) && templateOf(product, one.name) === template)?.label ??
  template.replace(/^product\//, '');
