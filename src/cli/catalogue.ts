import { resolve } from 'node:path';
import { writeCatalogueFile } from '@/server/catalogue';
import { onShop, writing, type Say } from './on-shop';

/** `last catalogue`: exit status 0 when done, 1 when the file or the data folder cannot be used, 2 for a call that says neither way. */
export async function catalogueCommand(
  options: { out?: string; in?: string; pictures?: string },
  say: Say,
  complain: Say,
): Promise<number> {
  const { out, in: source, pictures } = options;
  if ((out === undefined) === (source === undefined)) {
    complain('Say which way: --out FILE writes the catalogue, --in FILE reads it.');
    return 2;
  }
  if (source !== undefined)
    return writing(
      'catalogue',
      { file: resolve(source), pictures: pictures === undefined ? null : resolve(pictures) },
      say,
      complain,
    );
  return onShop(complain, (shop) => {
    const counts = writeCatalogueFile(shop, out as string, pictures ?? null);
    const also = pictures === undefined ? '' : ` and ${counts.pictures} pictures`;
    say(`${counts.products} products${also} written to ${out}.`);
  });
}
