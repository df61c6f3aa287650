import { readdirSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { DataFolderError, deltaOf } from '@/store';

/** What a node is to serve: a release file, and the delta files beside it in their order. */
export interface InForce {
  file: string;
  /** What the delta files have in common; null: there are none. */
  chain: string | null;
  deltas: { file: string; number: number }[];
}

const isFolder = (path: string): boolean => statSync(path, { throwIfNoEntry: false })?.isDirectory() ?? false;

/** The folder in which the files of a path stand. */
export const folderOf = (path: string): string => (isFolder(path) ? path : dirname(path));

/**
 * The release file at a path: itself, or of a folder the one that came last; with its delta files.
 *
 * @throws DataFolderError when a folder has none
 */
export function inForce(path: string): InForce {
  const file = isFolder(path) ? newest(path) : path;
  const folder = dirname(file);
  const named = basename(file, '.release');
  const found = (statSync(folder, { throwIfNoEntry: false }) ? readdirSync(folder) : []).flatMap((name) => {
    const delta = deltaOf(name, named);
    return delta ? [{ ...delta, file: join(folder, name) }] : [];
  });
  // Where files are copied here from elsewhere, those of a chain that has ended may stay for a moment.
  const chains = [...new Set(found.map(({ chain }) => chain))];
  const chain =
    chains.length < 2
      ? (chains[0] ?? null)
      : (found.map((one) => ({ ...one, at: changedAt(one.file) })).sort((a, b) => b.at - a.at)[0]?.chain ?? null);
  const deltas = found.filter((one) => one.chain === chain).sort((a, b) => a.number - b.number);
  return { file, chain, deltas };
}

const changedAt = (file: string): number => statSync(file, { throwIfNoEntry: false })?.mtimeMs ?? 0;

function newest(folder: string): string {
  // What is still on its way has another name.
  const files = readdirSync(folder)
    .filter((name) => name.endsWith('.release'))
    .map((name) => ({ name, at: changedAt(join(folder, name)) }))
    .sort((a, b) => b.at - a.at || (a.name < b.name ? -1 : 1));
  if (!files[0])
    throw new DataFolderError(`There is no release file in ${folder}: last pack live --out ${folder} writes one.`);
  return join(folder, files[0].name);
}
