import { catalogueFile, type CatalogueDraft } from '@/contract/catalogue-file';
import { importCatalogue } from '@/store/import';
import { putMedia } from '@/store/media';
import type { Shop } from './shop';
import { readFolder } from './shop';
import { cleanRichText } from './clean';

export interface Seed {
  catalogue: CatalogueDraft;
  pictures: { path: string; svg: string }[];
  /** Folder of the base theme. */
  base: string;
  /** Today in ISO 8601, with time. */
  now: string;
}

/** Fills an empty store: catalogue, pictures, base theme, one draft, and the first release. False when it was filled already. */
export function seed(shop: Shop, { catalogue, pictures, base, now }: Seed): boolean {
  const { sql, themes } = shop;
  return themes.transaction(() => {
    if (sql.get('SELECT 1 FROM shop')) return false;
    importCatalogue(sql, catalogueFile.parse(catalogue), cleanRichText);
    for (const { path, svg } of pictures) putMedia(sql, path, 'image/svg+xml', Buffer.from(svg));
    const files = readFolder(base);
    const about = JSON.parse(files.find(([path]) => path === 'about.json')?.[1].toString() ?? '{}') as {
      name?: string;
      version?: string;
    };
    const baseLayer = themes.addLayer('base', about.name ?? 'Base', about.version ?? '', files);
    const own = themes.addLayer('shop', catalogue.shop.name, '', []);
    const draft = themes.addDraft('spring', 'Spring fit-out', [baseLayer, own], now, 'Last');
    themes.publish(draft, 'The base theme as it comes', now, 'Last');
    return true;
  });
}
