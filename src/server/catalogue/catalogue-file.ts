import { mkdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import writeFileAtomic from 'write-file-atomic';
import { contentType } from '@/server/http';
import { catalogueFile, type CatalogueFile } from '@/contract/catalogue-file';
import {
  exportCatalogue,
  StoredCatalogue,
  openDatabase,
  CatalogueFileError,
  importCatalogue,
  removeCatalogue,
  allMedia,
  putMedia,
  Statements,
  retireTag as retire,
} from '@/store';
import { cleanRichText } from './clean';
import { readFolder, type Shop } from '@/server/shop';

export { CatalogueFileError };

/** A catalogue file, read and held to its contract. What is wrong is said with its place in the file. */
export function readCatalogueFile(path: string): CatalogueFile {
  let json: unknown;
  try {
    json = JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new CatalogueFileError(`${path} cannot be read: ${(error as Error).message}`);
  }
  const result = catalogueFile.safeParse(json);
  if (result.success) return result.data;
  const issue = result.error.issues[0];
  throw new CatalogueFileError(
    `${path}: ${issue?.path.map(String).join('.') ?? ''}: ${issue?.message ?? 'cannot be read'}`,
  );
}

/** The catalogue of a file as pages are made from it, in memory. */
export function openCatalogueFile(path: string, locale: string | null = null): StoredCatalogue {
  const file = readCatalogueFile(path);
  const sql = new Statements(openDatabase(':memory:'));
  importCatalogue(sql, file, cleanRichText);
  return new StoredCatalogue(sql, locale);
}

/** Writes a shop's catalogue to a file, whole or not at all; with `pictures`, its pictures into that folder. Gives counts. */
export function writeCatalogueFile(
  shop: Shop,
  path: string,
  pictures: string | null,
): { products: number; pictures: number } {
  const file = exportCatalogue(shop.catalogue());
  writeWhole(path, `${JSON.stringify(file, null, 2)}\n`);
  const media = pictures === null ? [] : allMedia(shop.sql);
  for (const { path: name, bytes } of media) writeWhole(join(pictures as string, name), bytes);
  return { products: file.products?.length ?? 0, pictures: media.length };
}

function writeWhole(path: string, data: string | Buffer): void {
  mkdirSync(dirname(path), { recursive: true });
  writeFileAtomic.sync(path, data);
}

/** Files that goods are shown with. */
const shownTypes = /^(?:image\/(?:svg\+xml|png|jpeg|webp)|video\/mp4)$/;

/** Puts a file's catalogue in place of the shop's, all of it or nothing; with `pictures`, the pictures of that folder too. */
export function replaceCatalogue(
  shop: Shop,
  path: string,
  pictures: string | null,
): { products: number; pictures: number } {
  const file = readCatalogueFile(path);
  const media = pictures === null ? [] : readFolder(pictures).filter(([name]) => typeOf(name) !== undefined);
  return shop.themes.transaction(() => {
    removeCatalogue(shop.sql);
    importCatalogue(shop.sql, file, cleanRichText);
    for (const [name, bytes] of media) putMedia(shop.sql, name, typeOf(name) as string, bytes);
    return { products: file.products.length, pictures: media.length };
  });
}

function typeOf(name: string): string | undefined {
  const type = contentType(name);
  return shownTypes.test(type) ? type : undefined;
}

/** Takes a tag out of the catalogue, and from all products that have it; gives how many had it, null where there is no such tag. */
export const retireTag = (shop: Shop, slug: string): number | null => retire(shop.sql, slug);
