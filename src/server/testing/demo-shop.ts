import type { CatalogueFile } from '@/contract/catalogue-file';
import { demoPictures, withyQuay } from '../../../demo/catalogue';
import { seed } from '@/server/seeding/seed';
import { Shop } from '@/server/shop/shop';

const pictures = await demoPictures();

/** For tests only: the demo in memory, with nothing under way in its draft. */
export function demoShop(
  more: Iterable<CatalogueFile['products'][number]> = [],
  /** Folder of the shop's own layer; null: an empty layer. */
  own: string | null = 'themes/withy-quay',
): Shop {
  const shop = new Shop(':memory:');
  seed(shop, {
    catalogue: withyQuay,
    more,
    pictures,
    base: 'themes/quay-1.0',
    addOns: ['themes/quick-find-1.0'],
    own,
    now: '2026-11-24T00:00:00.000Z',
  });
  return shop;
}
