import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { ZodError } from 'zod';
import { feedLine, type FeedAnswer, type FeedLine } from '@/contract/feed';
import { isCondition, mayWrite, refuse, Refused } from '@/server/http';
import { writeWanted } from '@/server/records';
import { Shop } from '@/server/shop';
import {
  backUp,
  changeOfRecord,
  databaseFile,
  feedTitle,
  fileKinds,
  type FileKind,
  type GoodsRecord,
  OrderHolds,
  RecordReader,
  wholeRecord,
} from '@/store';
import { etagOfRecord, readKnown, recordWithHeld, skusIn, withHeld } from './known';

/** What a line is refused for that a later line may put right. */
const mayComeLater = new Set(['sku', 'names', 'gone', 'used']);
/** Refused lines that an answer names. */
const maxRefused = 1000;

interface Numbered {
  line: number;
  item: FeedLine;
}
type Figures = Extract<FeedLine, { sku: string }>;

/** Lines as they were sent, and by whom. */
export interface FeedAsk {
  text: string;
  by: string;
}

/**
 * Takes lines of goods, each by itself: one that is refused keeps no other from being taken.
 *
 * @param atOnce lines that are saved as one change; between two of them pages are made, and others save
 * @param alone does what it is given when nobody else writes; that gives how many lines were taken
 */
export async function takeFeed(
  shop: Shop,
  { text, by }: FeedAsk,
  atOnce: number,
  alone: (step: () => number) => Promise<void>,
): Promise<FeedAnswer> {
  const taking = new Taking(shop, text, by, atOnce);
  while (taking.isLeft) {
    await alone(() => taking.step());
    await setImmediate();
  }
  return taking.answer(false);
}

/** Says what would be taken, and keeps nothing: it is taken into a copy, which is thrown away. */
export async function dryFeed(shop: Shop, { text, by }: FeedAsk): Promise<FeedAnswer> {
  const folder = mkdtempSync(join(tmpdir(), 'last-dry-feed-'));
  try {
    await backUp(dirname(shop.sql.db.name), databaseFile(folder));
    const copy = new Shop(folder);
    try {
      const taking = new Taking(copy, text, by, 1000);
      while (taking.isLeft) taking.step();
      return taking.answer(true);
    } finally {
      copy.sql.db.close();
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Lines as they are taken, some at a time. */
class Taking {
  readonly #lines: number;
  #left: Numbered[];
  #taken = 0;
  #same = 0;
  readonly #refused: FeedAnswer['refused'];
  /** Lines that name what is not there: it may come later. */
  #waiting: Numbered[] = [];
  #waitingSince: FeedAnswer['refused'] = [];
  #takenBefore = -1;

  constructor(
    readonly shop: Shop,
    text: string,
    readonly by: string,
    readonly atOnce: number,
  ) {
    const { lines, items, refused } = readLines(text);
    this.#lines = lines;
    this.#left = items;
    this.#refused = refused;
  }

  /** Whether there are lines to take. */
  get isLeft(): boolean {
    if (!this.#left.length && this.#waiting.length && this.#taken > this.#takenBefore) {
      // Something was taken since: what they name may be there now.
      this.#takenBefore = this.#taken;
      [this.#left, this.#waiting, this.#waitingSince] = [this.#waiting, [], []];
    }
    return this.#left.length > 0;
  }

  /** Takes the next lines; gives how many changed something. */
  step(): number {
    const items = this.#left.splice(0, this.atOnce);
    const { taken, same, refused, left } = save(this.shop, items, this.by);
    this.#left.unshift(...left);
    this.#taken += taken;
    this.#same += same;
    for (const one of refused) {
      const item = items.find(({ line }) => line === one.line);
      if (!item || !mayComeLater.has(one.code)) this.#refused.push(one);
      else {
        this.#waiting.push(item);
        this.#waitingSince.push(one);
      }
    }
    return taken;
  }

  answer(dry: boolean): FeedAnswer {
    const refused = [...this.#refused, ...this.#waitingSince].sort((a, b) => a.line - b.line);
    return {
      ...{ lines: this.#lines, taken: this.#taken, same: this.#same, dry },
      ...{ refusedCount: refused.length, refused: refused.slice(0, maxRefused) },
    };
  }
}

function readLines(text: string): { lines: number; items: Numbered[]; refused: FeedAnswer['refused'] } {
  const items: Numbered[] = [];
  const refused: FeedAnswer['refused'] = [];
  let lines = 0;
  text.split('\n').forEach((one, at) => {
    if (!one.trim()) return;
    lines++;
    const line = at + 1;
    let read: unknown;
    try {
      read = JSON.parse(one);
    } catch {
      return void refused.push({ line, code: 'json', message: 'This line is not JSON: was it cut off?' });
    }
    const item = feedLine.safeParse(read);
    if (item.success) items.push({ line, item: item.data });
    else refused.push({ line, code: 'line', message: inWords(item.error, read) });
  });
  return { lines, items, refused };
}

/** What a line lacks: the words of the form that it comes nearest to. */
function inWords(error: ZodError, read: unknown): string {
  const has = (name: string) => typeof read === 'object' && read !== null && name in read;
  const form = has('sku') ? 0 : has('put') ? 1 : has('patch') ? 2 : has('remove') ? 3 : null;
  if (form === null)
    return 'A line has an article number with figures ({"sku": …, "price": …, "stock": …}), or a record: {"kind": …, "slug": …} with put, patch or remove.';
  const [issue] = error.issues;
  const own = issue?.code === 'invalid_union' ? issue.errors[form]?.[0] : issue;
  return own ? `${own.path.join('.') || 'The line'}: ${own.message}` : 'This line cannot be read.';
}

interface Taken {
  taken: number;
  same: number;
  refused: FeedAnswer['refused'];
  /** Lines from the first on whose condition is about a record that one before it changed: they are for the next time. */
  left: Numbered[];
}

/** Saves lines as one change, in one transaction; where that is refused, in halves, until it is known which line it was. */
function save(shop: Shop, items: readonly Numbered[], by: string): Taken {
  try {
    return shop.themes.transaction(() => saveAll(shop, items, by));
  } catch (error) {
    const said =
      error instanceof Refused
        ? { code: error.body.code, message: error.message.replace(/ Nothing was saved\.$/, '') }
        : error instanceof ZodError
          ? { code: 'value', message: `${error.issues[0]?.path.join('.')}: ${error.issues[0]?.message}` }
          : null;
    if (!said) throw error;
    if (items.length === 1) return { taken: 0, same: 0, refused: [{ line: items[0]?.line ?? 0, ...said }], left: [] };
    const half = Math.ceil(items.length / 2);
    const one = save(shop, items.slice(0, half), by);
    if (one.left.length) return { ...one, left: [...one.left, ...items.slice(half)] };
    const two = save(shop, items.slice(half), by);
    const refused = [...one.refused, ...two.refused];
    return { taken: one.taken + two.taken, same: one.same + two.same, refused, left: two.left };
  }
}

function saveAll(shop: Shop, items: readonly Numbered[], by: string): Taken {
  const reader = new RecordReader(shop.catalogue());
  const refused: FeedAnswer['refused'] = [];
  const skus = items.flatMap(({ item }) => ('sku' in item ? [item.sku] : []));
  const owners = skus.length ? reader.productsOfSkus(skus) : new Map<string, string>();
  const now = recordsOf(reader, items, owners);
  const named = [...items.flatMap(({ item }) => skusIn(fieldsOf(item))), ...[...now.values()].flatMap(skusIn)];
  const held = new OrderHolds(shop.sql).of([...skus, ...named]);
  /** Records as the lines so far leave them; null: they go. */
  const next = new Map<string, GoodsRecord | null>();
  const keyOf = (kind: FileKind, slug: string) => `${kind} ${slug}`;
  let [taken, same] = [0, 0];
  let left: Numbered[] = [];
  for (const [at, { line, item }] of items.entries()) {
    const kind: FileKind = 'sku' in item ? 'product' : item.kind;
    const slug = 'sku' in item ? owners.get(item.sku) : item.slug;
    if (slug === undefined) {
      const { sku } = item as Figures;
      refused.push({ line, code: 'sku', message: `No variant has the article number “${sku}”.` });
      continue;
    }
    const key = keyOf(kind, slug);
    const { ifMatch, ifNoneMatch } = item;
    if (ifMatch !== undefined || ifNoneMatch !== undefined) {
      if (next.has(key)) {
        left = items.slice(at);
        break;
      }
      const why = whyNot(now.get(key), held, ifMatch, ifNoneMatch);
      if (why) {
        refused.push({ line, ...why });
        continue;
      }
    }
    const before = next.has(key) ? next.get(key) : now.get(key);
    const after = afterLine(item, held, before ?? null, kind, slug);
    if (after === before || (after === null && !before)) same++;
    else if (after && before && !changeOfRecord(kind, slug, before, after)) same++;
    else {
      taken++;
      next.set(key, after);
    }
  }
  const changes = [...next].flatMap(([key, after]) => {
    const [kind, slug] = [key.slice(0, key.indexOf(' ')) as FileKind, key.slice(key.indexOf(' ') + 1)];
    const before = now.get(key) ?? null;
    if (!before || !after) return before || after ? [{ kind, slug, before, after }] : [];
    // Only what differs is looked at further.
    const change = changeOfRecord(kind, slug, before, after);
    return change ? [{ kind, slug, before: change.before, after: change.after }] : [];
  });
  // Nothing names what comes later: what is named is there when it is.
  changes.sort((a, b) => fileKinds.indexOf(a.kind) - fileKinds.indexOf(b.kind));
  if (changes.length)
    writeWanted(shop, changes, { title: feedTitle, at: new Date().toISOString(), by }, { force: true, known: now });
  return { taken, same, refused, left };
}

/** Why a condition keeps a line from being taken; null: it does not. */
function whyNot(
  before: GoodsRecord | undefined,
  held: ReadonlyMap<string, number>,
  ifMatch = '',
  ifNoneMatch = '',
): { code: string; message: string } | null {
  const unread = [ifMatch, ifNoneMatch].find((one) => one !== '' && !isCondition(one));
  if (unread !== undefined)
    return { code: 'condition', message: `“${unread}” is no condition: give * or entity tags, as "…" or W/"…".` };
  const etag = before ? etagOfRecord(before, held) : null;
  if (mayWrite(etag, ifMatch || null, ifNoneMatch || null)) return null;
  if (etag === null) return { code: 'match', message: 'There is no such record any more.' };
  if (!ifMatch) return { code: 'match', message: `It is there already: its entity tag is ${etag}.` };
  return { code: 'match', message: `It was changed since: its entity tag is ${etag} now. Read it again.` };
}

/** The fields of a record that a line writes. */
const fieldsOf = (item: FeedLine): Readonly<Record<string, unknown>> =>
  'put' in item ? item.put : 'patch' in item ? item.patch : {};

/** The records that lines are about, as they are, by kind and slug. */
function recordsOf(
  reader: RecordReader,
  items: readonly Numbered[],
  owners: ReadonlyMap<string, string>,
): Map<string, GoodsRecord> {
  const slugs = new Map<FileKind, Set<string>>();
  for (const { item } of items) {
    const kind = 'sku' in item ? 'product' : item.kind;
    const slug = 'sku' in item ? owners.get(item.sku) : item.slug;
    if (slug !== undefined) slugs.set(kind, (slugs.get(kind) ?? new Set()).add(slug));
  }
  return new Map(
    [...slugs].flatMap(([kind, some]) =>
      [...reader.read(kind, [...some])].map(([slug, record]) => [`${kind} ${slug}`, record] as const),
    ),
  );
}

/** A record after a line; null: there is none. What the line says of stock is without what orders hold. */
function afterLine(
  item: FeedLine,
  held: ReadonlyMap<string, number>,
  before: GoodsRecord | null,
  kind: FileKind,
  slug: string,
): GoodsRecord | null {
  if ('sku' in item) {
    const { sku, ifMatch: _, ifNoneMatch: __, ...figures } = withHeld(item, held, -1);
    const variants = (before?.variants as { sku: string }[]).map((one) =>
      one.sku === sku ? { ...one, ...figures } : one,
    );
    return { ...before, variants };
  }
  if ('remove' in item) return null;
  const name = kind === 'redirect' ? 'path' : 'slug';
  const fields = recordWithHeld(fieldsOf(item), held, -1);
  if ('put' in item) return wholeRecord(kind, { ...fields, [name]: slug });
  if (!before) return refuse(404, 'gone', `There is no ${kind} “${slug}”: put it whole first.`);
  return { ...before, ...fields, [name]: slug };
}

/** Statuses of what a single record is refused for; the rest is 422. */
const statuses: Readonly<Record<string, number>> = { match: 412, condition: 400, gone: 404 };

/** Takes a single line by itself; what it is refused for is the answer. */
export function takeRecord(
  shop: Shop,
  item: Exclude<FeedLine, Figures>,
  by: string,
): { taken: boolean; etag: string | null } {
  const { taken, refused } = save(shop, [{ line: 1, item }], by);
  const [why] = refused;
  if (why) refuse(statuses[why.code] ?? 422, why.code, why.message);
  return { taken: taken > 0, etag: readKnown(shop, item.kind, item.slug)?.etag ?? null };
}
