import { closeSync, constants, fstatSync, lstatSync, openSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Files of a folder as they could be read, and what could not be. */
export interface FolderFiles {
  /** By their paths with `/`. */
  files: Map<string, Buffer>;
  /** Why a path, or all that is below it, is left alone: `a symbolic link`. */
  left: Map<string, string>;
}

/**
 * Reads all files below a folder, but follows no symbolic link: neither may one lead out of it, nor is one of its files read
 * twice. What cannot be read is reported, so that nobody takes it for gone. Names that begin with a dot are not part of a theme.
 */
export function readFiles(folder: string): FolderFiles {
  const files: FolderFiles['files'] = new Map();
  const left: FolderFiles['left'] = new Map();
  const attempt = (path: string, work: () => void): void => {
    try {
      work();
    } catch (error) {
      left.set(path, whyNot(error as NodeJS.ErrnoException));
    }
  };
  const walk = (path: string): void => {
    for (const entry of readdirSync(join(folder, path), { withFileTypes: true })) {
      if (entry.name.startsWith('.')) continue;
      const inner = path ? `${path}/${entry.name}` : entry.name;
      if (entry.isSymbolicLink()) left.set(inner, 'a symbolic link');
      else if (entry.isDirectory()) attempt(inner, () => walk(inner));
      else if (entry.isFile()) attempt(inner, () => files.set(inner, readPlain(join(folder, inner))));
      else left.set(inner, 'neither a file nor a folder');
    }
  };
  attempt('', () => walk(''));
  return { files, left };
}

/** The bytes of a file that is not a link, opened so that none can be put in its place between looking and reading. */
function readPlain(file: string): Buffer {
  const open = openSync(file, constants.O_RDONLY | constants.O_NOFOLLOW | constants.O_NONBLOCK);
  try {
    if (!fstatSync(open).isFile()) throw new RangeError('no file any more');
    return readFileSync(open);
  } finally {
    closeSync(open);
  }
}

function whyNot({ code, message }: NodeJS.ErrnoException): string {
  if (code === 'EACCES' || code === 'EPERM') return 'this account may not read it';
  return code === 'ELOOP' ? 'a symbolic link' : message;
}

/** Why nothing is written to a path below a folder: one of the folders on the way, or the file itself, is a link. Null: it may be. */
export function linkOnTheWay(folder: string, path: string): string | null {
  let at = folder;
  for (const part of path.split('/')) {
    at = join(at, part);
    try {
      if (lstatSync(at).isSymbolicLink()) return `${at} is a symbolic link`;
    } catch {
      return null;
    }
  }
  return null;
}
