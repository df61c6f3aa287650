import { catalogueFile, type CatalogueDraft, type CatalogueFile } from '@/contract/catalogue-file';
import { hasShop, importCatalogue, putMedia } from '@/store';
import { type Shop, readFolder } from '@/server/shop';
import { cleanRichText } from '@/server/catalogue';
import { errorPagesOf } from '@/server/storefront';

export interface Seed {
  catalogue: CatalogueDraft;
  /** Further products, one by one. */
  more?: Iterable<CatalogueFile['products'][number]>;
  /** Width and height in pixels, where they are known. */
  pictures: { path: string; type: string; bytes: Buffer; width?: number; height?: number }[];
  /** Folders of the base theme and of the add-ons above it, the lowest first. */
  base: string;
  addOns: string[];
  /** Folder of the shop's own layer; null: an empty layer. */
  own: string | null;
  /** The first draft; the demo's unless it says otherwise. */
  draft?: { slug: string; name: string };
  /** What is under way in the draft: files that were saved together, the first saved first. */
  work?: { title: string; files: { path: string; text: string }[] }[];
  /** Today in ISO 8601, with time. */
  now: string;
}

/** Fills an empty store: catalogue, pictures, base theme, one draft, and the first release. False when it was filled already. */
export function seed(
  shop: Shop,
  {
    catalogue,
    more = [],
    pictures,
    base,
    addOns,
    own,
    draft = { slug: 'spring', name: 'Spring fit-out' },
    work = [],
    now,
  }: Seed,
): boolean {
  const { sql, themes } = shop;
  const filled = themes.transaction(() => {
    if (hasShop(sql)) return false;
    const file = catalogueFile.parse(catalogue);
    function* products() {
      yield* file.products;
      yield* more;
    }
    importCatalogue(sql, { ...file, products: products() }, cleanRichText);
    for (const { path, type, bytes, ...size } of pictures) putMedia(sql, path, type, bytes, size);
    const layers = [base, ...addOns].map((folder, at) => {
      const files = readFolder(folder);
      const about = JSON.parse(files.find(([path]) => path === 'about.json')?.[1].toString() ?? '{}') as {
        name?: string;
        version?: string;
      };
      return themes.addLayer(at ? 'add-on' : 'base', about.name ?? folder, about.version ?? '', files);
    });
    const shopLayer = themes.addLayer('shop', catalogue.shop.name, '', own === null ? [] : readFolder(own), layers);
    const draftId = themes.addDraft(draft.slug, draft.name, [...layers, shopLayer], now, 'Last');
    themes.publish(draftId, 'The shop as it opens', now, 'Last');
    for (const { title, files } of work) {
      const writes = files.map(({ path, text }) => ({ path, bytes: Buffer.from(text) }));
      themes.save(draftId, writes, { title, at: now, by: 'Last' });
    }
    return true;
  });
  const live = filled ? themes.live() : null;
  if (live) themes.keepErrorPages(live.id, errorPagesOf(shop, live));
  return filled;
}
