import type { CatalogueFile } from '@/contract/catalogue-file';
import { demoPictures, withyQuay } from '../../../demo/catalogue';
import { seed } from '@/server/commands/seed';
import { Shop } from '@/server/shop/shop';

const pictures = await demoPictures();

/** For tests only: the demo in memory, as a fresh clone has it. */
export function demoShop(more: Iterable<CatalogueFile['products'][number]> = []): Shop {
  const shop = new Shop(':memory:');
  seed(shop, {
    catalogue: withyQuay,
    more,
    pictures,
    base: 'themes/quay-1.0',
    addOns: ['themes/quick-find-1.0'],
    now: '2026-11-24T00:00:00.000Z',
  });
  return shop;
}
