import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { DataFolderError } from '@/store';

/**
 * The release file at a path: itself, or of a folder the one that came last.
 *
 * @throws DataFolderError when a folder has none
 */
export function newestRelease(path: string): string {
  const isFolder = statSync(path, { throwIfNoEntry: false })?.isDirectory() ?? false;
  if (!isFolder) return path;
  // What is still on its way has another name.
  const files = readdirSync(path)
    .filter((name) => name.endsWith('.release'))
    .flatMap((name) => {
      const of = statSync(join(path, name), { throwIfNoEntry: false });
      return of ? [{ name, at: of.mtimeMs }] : [];
    })
    .sort((a, b) => b.at - a.at || (a.name < b.name ? -1 : 1));
  if (!files[0])
    throw new DataFolderError(`There is no release file in ${path}: last pack live --out ${path} writes one.`);
  return join(path, files[0].name);
}
