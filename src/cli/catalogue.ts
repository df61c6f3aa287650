import { CatalogueFileError, replaceCatalogue, writeCatalogueFile } from '@/server/catalogue-file';
import { DataFolderError, dataFolder, Shop } from '@/server/shop';

/** `last catalogue`: exit status 0 when done, 1 when the file or the data folder cannot be used, 2 for a call that says neither way. */
export function catalogueCommand(
  options: { out?: string; in?: string; pictures?: string },
  say: (line: string) => void,
  complain: (line: string) => void,
): number {
  if ((options.out === undefined) === (options.in === undefined)) {
    complain('Say which way: --out FILE writes the catalogue, --in FILE reads it.');
    return 2;
  }
  const pictures = options.pictures ?? null;
  let shop: Shop | null = null;
  try {
    shop = new Shop(dataFolder());
    const written = options.out !== undefined;
    const counts = written
      ? writeCatalogueFile(shop, options.out as string, pictures)
      : replaceCatalogue(shop, options.in as string, pictures);
    const also = pictures === null ? '' : ` and ${counts.pictures} pictures`;
    say(`${counts.products} products${also} ${written ? `written to ${options.out}` : `read from ${options.in}`}.`);
    return 0;
  } catch (error) {
    if (!(error instanceof DataFolderError || error instanceof CatalogueFileError)) throw error;
    complain(error.message);
    return 1;
  } finally {
    shop?.sql.db.close();
  }
}
