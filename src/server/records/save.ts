import { mergeFields, pathInWords, readFieldValue } from '@/core/exchange';
import { grouped, isFieldSubject } from '@/core/catalogue';
import { cleanRichText } from '@/server/catalogue';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import {
  changeOfRecord,
  isRenamed,
  isUsed,
  RecordReader,
  type GoodsRecord,
  type RecordChange,
  type RecordKind,
} from '@/store';
import { lettingGo } from './let-go';
import { settledSlug, withRenames } from './renames';
import { madeRich } from './rich-fields';
import type { WantedChange } from './wanted';
import { writeChanges, type ChangeOf, type Saving } from './write';

/** What was saved: number of the change (null: nothing differs), and the records as they are now; null for those that were removed. */
export interface Saved {
  id: number | null;
  records: { kind: RecordKind; slug: string; record: GoodsRecord | null }[];
}

/**
 * Saves changes of records as one change that can be undone, all or none. What others changed meanwhile is merged value by value; where both
 * changed the same it is refused, with `force` it takes the place of theirs. Refused too: what a record may not hold, and removing what is
 * in use.
 */
export function saveRecords(
  shop: Shop,
  wanted: readonly WantedChange[],
  saving: Saving,
  { force = false } = {},
): Saved {
  return shop.themes.transaction(() => {
    const id = writeWanted(shop, wanted, saving, { force });
    return { id, records: recordsNow(shop, wanted.map(settledSlug)) };
  });
}

/** Records by kind and slug: `product deck-oil`. */
export type KnownRecords = ReadonlyMap<string, GoodsRecord>;

/**
 * The same as a part of a transaction, without reading what came of it.
 *
 * @param known records that were read in this transaction: they are not read again
 * @returns the number of the change; null: nothing differs
 */
export function writeWanted(
  shop: Shop,
  wanted: readonly WantedChange[],
  saving: Saving,
  { force = false, known = null }: { force?: boolean; known?: KnownRecords | null } = {},
): number | null {
  const reader = new RecordReader(shop.catalogue());
  const left: string[] = [];
  const changes: ChangeOf[] = [];
  const gone = new Set<string>();
  for (const [kind, some] of grouped(withRenames(reader, wanted), ({ kind: one }) => one)) {
    const there = reader.read(
      kind,
      some.flatMap(({ slug }) => (known?.has(`${kind} ${slug}`) ? [] : [slug])),
    );
    for (const one of some) {
      const now = known?.get(`${kind} ${one.slug}`) ?? there.get(one.slug);
      const { change, overlaps } = changeOf(placed(one, now, reader), now, force);
      left.push(...overlaps);
      if (change && isRenamed(change) && reader.read(kind, [String(change.after.slug)]).size)
        refuse(409, 'there', `There is a ${kind} “${String(change.after.slug)}” already. Nothing was saved.`);
      if (change?.what === 'removed' && isUsed(shop.sql, kind, one.slug))
        refuse(409, 'used', `The ${kind} “${one.slug}” is in use: take it from what has it first.`);
      if (change?.what === 'removed' && kind === 'product') gone.add(one.slug);
      if (change) changes.push([withFields(shop, change, now), now]);
    }
  }
  refuseRings(reader, changes);
  refuseItself(changes);
  refuseTakenNumbers(reader, changes);
  if (left.length && !force)
    refuse(409, 'overlap', `Someone else changed ${left.join(', ')} meanwhile. Nothing was saved.`, { left });
  return writeChanges(shop, [...withoutGone(shop, gone), ...madeRich(shop, changes), ...changes], saving);
}

/** A category that goes below another one comes last there, unless it is said where; and its place before is kept, so that it can go back. */
function placed(wanted: WantedChange, now: GoodsRecord | undefined, reader: RecordReader): WantedChange {
  const { kind, before, after } = wanted;
  if (kind !== 'category' || !before || !now || after?.parent === undefined || after.position !== undefined)
    return wanted;
  if (after.parent === now.parent) return wanted;
  const beside = [...reader.all('category').values()].filter(({ parent }) => parent === after.parent).length;
  return { ...wanted, before: { ...before, position: now.position }, after: { ...after, position: beside } };
}

/** What a wish changes of a record as it is (null: nothing), and which of it others changed too. */
function changeOf(
  { kind, slug, before, after }: WantedChange,
  now: GoodsRecord | undefined,
  force: boolean,
): { change: RecordChange | null; overlaps: string[] } {
  const called = `${kind} “${slug}”`;
  const will = after && safe(after);
  if (before === null) {
    if (now) refuse(409, 'there', `There is a ${called} already.`);
    return { change: { kind, slug, what: 'added', before: {}, after: will ?? {} }, overlaps: [] };
  }
  if (!now) return refuse(404, 'gone', `The ${called} is gone: someone removed it meanwhile.`);
  if (will === null) return { change: { kind, slug, what: 'removed', before: now, after: {} }, overlaps: [] };
  const { fields, overlaps } = mergeFields(before, will, now, force);
  return {
    change: changeOfRecord(kind, slug, now, fields),
    overlaps: overlaps.map((one) => `${pathInWords(one)} of the ${called}`),
  };
}

/** A change with the values of custom fields as they are kept; refused where one that was written does not fit its type. */
function withFields(shop: Shop, change: RecordChange, now: GoodsRecord | undefined): RecordChange {
  const { kind, slug, after } = change;
  if (!isFieldSubject(kind) || (!after.fields && !after.fieldTexts) || change.what === 'removed') return change;
  const definitions = new Map(
    shop
      .catalogue()
      .fieldDefinitions(kind)
      .map((one) => [one.key, one]),
  );
  const before = (now?.fields ?? {}) as Record<string, string>;
  const fields = Object.entries((after.fields ?? {}) as Record<string, string>).map(
    ([key, value]): [string, string] => {
      const definition = definitions.get(key);
      if (!definition || before[key] === value) return [key, value];
      if (definition.type === 'html') return [key, cleanRichText(value)];
      const read = readFieldValue(value, definition);
      if (typeof read === 'object')
        refuse(422, 'value', `${definition.name} of “${slug}”: ${read.wrong}. Nothing was saved.`);
      return [key, read as string];
    },
  );
  const isRich = (key: string) => definitions.get(key)?.type === 'html';
  const texts = Object.entries((after.fieldTexts ?? {}) as Record<string, Record<string, string>>).map(
    ([locale, own]) => [
      locale,
      Object.fromEntries(Object.entries(own).map(([key, value]) => [key, isRich(key) ? cleanRichText(value) : value])),
    ],
  );
  return {
    ...change,
    after: {
      ...after,
      ...(after.fields ? { fields: Object.fromEntries(fields) as Record<string, string> } : {}),
      ...(after.fieldTexts ? { fieldTexts: Object.fromEntries(texts) as Record<string, Record<string, string>> } : {}),
    },
  };
}

/** Refuses article numbers of variants that another product has. */
function refuseTakenNumbers(reader: RecordReader, changes: readonly ChangeOf[]): void {
  const owners = new Map(
    changes.flatMap(([{ kind, slug, after }]) =>
      kind === 'product' ? ((after.variants ?? []) as { sku: string }[]).map(({ sku }) => [sku, slug] as const) : [],
    ),
  );
  if (!owners.size) return;
  for (const [sku, slug] of reader.productsOfSkus([...owners.keys()]))
    if (owners.get(sku) !== slug)
      refuse(422, 'value', `The product “${slug}” has the article number “${sku}” already. Nothing was saved.`);
}

/** Refuses categories that would stand below themselves. */
function refuseRings(reader: RecordReader, changes: readonly ChangeOf[]): void {
  const moved = new Map(
    changes.flatMap(([{ kind, slug, after }]) =>
      kind === 'category' && after.parent !== undefined ? [[slug, after.parent as string | null]] : [],
    ),
  );
  if (!moved.size) return;
  const all = reader.all('category');
  const above = (slug: string) =>
    moved.has(slug) ? moved.get(slug) : (all.get(slug)?.parent as string | null | undefined);
  for (const slug of moved.keys()) {
    const path = [slug];
    for (let one = above(slug); one && !path.slice(1).includes(one); one = above(one)) {
      path.push(one);
      if (one === slug)
        refuse(422, 'ring', `A category cannot stand below itself: ${path.join(' below ')}. Nothing was saved.`);
    }
  }
}

/** What takes products that are removed out of the lists of those that stay. */
function withoutGone(shop: Shop, gone: ReadonlySet<string>): ChangeOf[] {
  const lists = new Map<string, ChangeOf>();
  for (const slug of gone)
    for (const [change, now] of lettingGo(shop, slug)) {
      if (gone.has(change.slug)) continue;
      const parts = Object.keys({ ...lists.get(change.slug)?.[0].after, ...change.after });
      const left = (part: string) => (now[part] as string[]).filter((one) => !gone.has(one));
      const before = Object.fromEntries(parts.map((part) => [part, now[part]]));
      lists.set(change.slug, [
        { ...change, before, after: Object.fromEntries(parts.map((part) => [part, left(part)])) },
        now,
      ]);
    }
  return [...lists.values()];
}

/** Refuses a product that would hold itself, or go with itself. */
function refuseItself(changes: readonly ChangeOf[]): void {
  for (const [{ kind, slug, after }] of changes)
    for (const [part, says] of [
      ['members', 'be part of itself'],
      ['related', 'go with itself'],
    ] as const)
      if (kind === 'product' && ((after[part] ?? []) as string[]).includes(slug))
        refuse(422, 'value', `The product “${slug}” cannot ${says}. Nothing was saved.`);
}

const rich = new Set(['description', 'body']);

/** Rich text made safe, in all languages, so that what is kept is what was written. */
function safe(fields: GoodsRecord): GoodsRecord {
  return Object.fromEntries(
    Object.entries(fields).map(([name, value]) => {
      if (rich.has(name) && typeof value === 'string') return [name, cleanRichText(value)];
      if (name !== 'texts' || typeof value !== 'object' || value === null) return [name, value];
      return [
        name,
        Object.fromEntries(Object.entries(value).map(([locale, texts]) => [locale, safe(texts as GoodsRecord)])),
      ];
    }),
  );
}

function recordsNow(shop: Shop, wanted: readonly WantedChange[]): Saved['records'] {
  const reader = new RecordReader(shop.catalogue());
  return [...grouped(wanted, ({ kind }) => kind)].flatMap(([kind, some]) => {
    const there = reader.read(
      kind,
      some.map(({ slug }) => slug),
    );
    return some.map(({ slug }) => ({ kind, slug, record: there.get(slug) ?? null }));
  });
}
