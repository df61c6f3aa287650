import type { seeded } from '@/core/language/testing/seeded';
import { saveRecords } from '@/server/records';
import type { Shop } from '@/server/shop';
import { findSubjects, type GoodsRecord, RecordReader, recordKinds } from '@/store';

type Chance = ReturnType<typeof seeded>;

/** Changes something of a value by chance: a text, a number, a list; whether that may be is for the shop to say. */
function changed(value: unknown, chance: Chance): unknown {
  const { random, one } = chance;
  if (typeof value === 'string') return /^\d/.test(value) ? String(random(9000)) : `${value} ${random(9)}`;
  if (typeof value === 'number') return random(3) ? value + 1 : 0;
  if (typeof value === 'boolean') return !value;
  if (Array.isArray(value)) {
    if (!value.length) return value;
    const at = random(value.length);
    if (!random(3)) return value.filter((_, index) => index !== at);
    if (!random(3)) return [...value.slice(at), ...value.slice(0, at)];
    return value.map((item, index) => (index === at ? changed(item, chance) : (item as unknown)));
  }
  if (value === null || typeof value !== 'object') return value;
  const key = one(Object.keys(value));
  return key === undefined ? value : { ...value, [key]: changed((value as GoodsRecord)[key], chance) };
}

/** For tests: one change of the goods by chance, saved as the workbench saves it; what it changed, or null where the shop refuses it. */
export function changeGoods(shop: Shop, chance: Chance): string | null {
  const { random, one } = chance;
  const reader = new RecordReader(shop.catalogue());
  const kind = random(2) ? 'product' : one(recordKinds.filter((of) => of !== 'picture'));
  const slugs =
    kind === 'product'
      ? findSubjects(shop.sql, '', 'product', 1000).map(({ slug: of }) => of)
      : [...reader.all(kind as 'brand').keys()];
  const slug = one(slugs);
  if (slug === undefined) return null;
  const before = reader.read(kind, [slug]).get(slug);
  if (!before) return null;
  const isRemoved = !random(12);
  let after = before;
  for (let times = 1 + random(3); times > 0; times--) after = changed(after, chance) as GoodsRecord;
  try {
    const wanted = { kind, slug, before, after: isRemoved ? null : { ...after, slug: before.slug } };
    const saved = saveRecords(shop, [wanted], { title: 'A change', at: '2026-11-30T10:00:00.000Z', by: 'Robin' });
    return saved.id === null ? null : `${kind} ${slug}`;
  } catch (error) {
    if (['Refused', 'CatalogueFileError', 'ZodError', 'RangeError'].includes((error as Error).name)) return null;
    throw error;
  }
}
