import { cleanRichText } from '@/server/catalogue';
import type { Shop } from '@/server/shop';
import {
  afterChange,
  CatalogueWriter,
  GoodsHistory,
  productsOfTag,
  RecordReader,
  writeRecord,
  type RecordChange,
} from '@/store';
import { inBatches } from './records';

/**
 * Takes a tag out of the catalogue, and from all products that have it, as one change that can be undone. Gives how many had it; null where
 * there is no such tag.
 */
export function retireTag(
  shop: Shop,
  slug: string,
  making: { at: string; by: string },
): { id: number; had: number } | null {
  return shop.themes.transaction(() => {
    const reader = new RecordReader(shop.catalogue());
    const tag = reader.read('tag', [slug]).get(slug);
    if (!tag) return null;
    const history = new GoodsHistory(shop.sql);
    const id = history.begin(`Retire the tag ${slug}`, making.at, making.by);
    const writer = new CatalogueWriter(shop.sql, cleanRichText);
    const change = (one: RecordChange, before: object) => {
      writeRecord(writer, one, one.what === 'removed' ? {} : afterChange({ ...before }, one));
      history.put(id, one);
    };
    const having = productsOfTag(shop.sql, slug);
    for (const slugs of inBatches(having))
      for (const [product, record] of reader.read('product', slugs)) {
        const tags = record.tags as string[];
        const without = { tags: tags.filter((one) => one !== slug) };
        change({ kind: 'product', slug: product, what: 'changed', before: { tags }, after: without }, record);
      }
    change({ kind: 'tag', slug, what: 'removed', before: tag, after: {} }, tag);
    writer.finish(shop.catalogue().shop().locale);
    return { id, had: having.length };
  });
}
