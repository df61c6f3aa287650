import type { CatalogueFile } from '@/contract/catalogue-file';
import { demoPictures, withyQuay } from '../../../demo/catalogue';
import { seed } from '@/server/seeding/seed';
import { Shop } from '@/server/shop/shop';

const pictures = await demoPictures();

/** For tests only: the demo, in memory unless it is said where, with nothing under way in its draft. */
export function demoShop(
  more: Iterable<CatalogueFile['products'][number]> = [],
  /** Folder of the shop's own layer; null: an empty layer. */
  own: string | null = 'themes/withy-quay',
  /** The shop that is filled. */
  shop = new Shop(':memory:'),
): Shop {
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
