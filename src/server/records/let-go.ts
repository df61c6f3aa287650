import type { Shop } from '@/server/shop';
import { productsNaming, RecordReader, type GoodsRecord, type RecordChange } from '@/store';

/** What takes a product out of the lists of others, before it is removed: so that undoing puts it back into them. */
export function lettingGo(shop: Shop, slug: string): [change: RecordChange, now: GoodsRecord][] {
  return [...new RecordReader(shop.catalogue()).read('product', productsNaming(shop.sql, slug))].map(([other, now]) => {
    const parts = (['related', 'members'] as const).filter((part) => (now[part] as string[]).includes(slug));
    const before = Object.fromEntries(parts.map((part) => [part, now[part]]));
    const after = Object.fromEntries(
      parts.map((part) => [part, (now[part] as string[]).filter((one) => one !== slug)]),
    );
    return [{ kind: 'product', slug: other, what: 'changed', before, after }, now];
  });
}
