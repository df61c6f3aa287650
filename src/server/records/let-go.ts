import type { Shop } from '@/server/shop';
import { RecordReader, type GoodsRecord, type RecordChange } from '@/store';

/** What takes a product out of the lists of others, before it is removed: so that undoing puts it back into them. */
export function lettingGo(shop: Shop, slug: string): [change: RecordChange, now: GoodsRecord][] {
  const naming = shop.sql
    .all<{ slug: string }>(
      `SELECT DISTINCT p.slug FROM product one JOIN (
         SELECT product_id, related_id AS named FROM product_related UNION ALL SELECT product_id, member_id FROM product_member
       ) AS pair ON pair.named = one.id JOIN product p ON p.id = pair.product_id WHERE one.slug = ? ORDER BY p.slug`,
      slug,
    )
    .map((row) => row.slug);
  return [...new RecordReader(shop.catalogue()).read('product', naming)].map(([other, now]) => {
    const parts = (['related', 'members'] as const).filter((part) => (now[part] as string[]).includes(slug));
    const before = Object.fromEntries(parts.map((part) => [part, now[part]]));
    const after = Object.fromEntries(
      parts.map((part) => [part, (now[part] as string[]).filter((one) => one !== slug)]),
    );
    return [{ kind: 'product', slug: other, what: 'changed', before, after }, now];
  });
}
