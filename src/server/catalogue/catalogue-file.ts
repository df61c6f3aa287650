import { readFileSync } from 'node:fs';
import { catalogueFile, type CatalogueFile } from '@/contract/catalogue-file';
import { StoredCatalogue, openDatabase, CatalogueFileError, importCatalogue, Statements } from '@/store';
import { cleanRichText } from './clean';

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
