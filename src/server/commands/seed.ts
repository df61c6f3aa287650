import { catalogueFile, type CatalogueDraft, type CatalogueFile } from '@/contract/catalogue-file';
import { hasShop, importCatalogue, putMedia } from '@/store';
import { type Shop, readFolder } from '@/server/shop';
import { cleanRichText } from '@/server/catalogue';
import { errorPagesOf } from '@/server/storefront';

export interface Seed {
  catalogue: CatalogueDraft;
  /** Further products, one by one. */
  more?: Iterable<CatalogueFile['products'][number]>;
  pictures: { path: string; type: string; bytes: Buffer }[];
  /** Folders of the base theme and of the add-ons above it, the lowest first. */
  base: string;
  addOns: string[];
  /** Today in ISO 8601, with time. */
  now: string;
}

/** Fills an empty store: catalogue, pictures, base theme, one draft, and the first release. False when it was filled already. */
export function seed(shop: Shop, { catalogue, more = [], pictures, base, addOns, now }: Seed): boolean {
  const { sql, themes } = shop;
  const filled = themes.transaction(() => {
    if (hasShop(sql)) return false;
    const file = catalogueFile.parse(catalogue);
    function* products() {
      yield* file.products;
      yield* more;
    }
    importCatalogue(sql, { ...file, products: products() }, cleanRichText);
    for (const { path, type, bytes } of pictures) putMedia(sql, path, type, bytes);
    const layers = [base, ...addOns].map((folder, at) => {
      const files = readFolder(folder);
      const about = JSON.parse(files.find(([path]) => path === 'about.json')?.[1].toString() ?? '{}') as {
        name?: string;
        version?: string;
      };
      return themes.addLayer(at ? 'add-on' : 'base', about.name ?? folder, about.version ?? '', files);
    });
    const own = themes.addLayer('shop', catalogue.shop.name, '', []);
    const draft = themes.addDraft('spring', 'Spring fit-out', [...layers, own], now, 'Last');
    themes.publish(draft, 'The base theme as it comes', now, 'Last');
    return true;
  });
  const live = filled ? themes.live() : null;
  if (live) themes.keepErrorPages(live.id, errorPagesOf(shop, live));
  return filled;
}
