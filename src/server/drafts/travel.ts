import { crc32 } from 'node:zlib';
import { zipSync } from 'fflate';
import yauzl from 'yauzl';
import { z } from 'zod';
import { maxTextBytes } from '@/contract/shared';
import { unmarked } from '@/core/theme';
import { folders, wrongText } from './files';
import { refuse } from '@/server/http';
import { textual } from '@/server/shop';

/** Bounds of a theme that is brought in: files, and bytes of one and of all. */
export const bounds = { files: 5000, file: 20_000_000, all: 200_000_000, zip: 100_000_000 };

export interface TravelFile {
  path: string;
  bytes: Buffer;
}

/** What `about.json` says of the folder that it stands in. */
const about = z.object({
  name: z.string().trim().min(1).max(80),
  version: z.string().trim().min(1).max(30),
  /** Left out: it is not guessed. */
  kind: z.enum(['base', 'add-on', 'shop']).optional(),
});

/** A theme's folder as it came: checked, its paths sorted. */
export interface ThemeFiles {
  about: z.output<typeof about>;
  files: TravelFile[];
}

const mb = (bytes: number): string => `${(bytes / 1e6).toFixed(bytes < 1e6 ? 2 : 0)} MB`;
const not = (why: string): never => refuse(422, 'theme', `Nothing was brought in: ${why}`);

/** Files that systems leave in folders: they are not part of a theme. */
const left = (path: string): boolean => /(?:^|\/)(?:\.|__MACOSX(?:\/|$)|Thumbs\.db$|desktop\.ini$)/.test(path);

/**
 * The files of a ZIP (APPNOTE.TXT, as yauzl reads it). Refused before anything of it is unpacked, or as soon as it shows:
 * paths that leave the folder, links, encrypted files, too many, too large.
 */
export async function readZip(zip: Buffer): Promise<TravelFile[]> {
  if (zip.length > bounds.zip) not(`the ZIP has ${mb(zip.length)}; at most ${mb(bounds.zip)} are taken.`);
  const archive = await yauzl.fromBufferPromise(zip, { strictFileNames: true }).catch(unreadable);
  if (archive.entryCount > bounds.files * 2)
    not(`the ZIP has ${archive.entryCount} entries; a theme may have ${bounds.files} files.`);
  const entries: yauzl.Entry[] = [];
  let all = 0;
  try {
    for await (const entry of archive.eachEntry()) {
      const { fileName, externalFileAttributes, uncompressedSize } = entry;
      if (((externalFileAttributes >>> 16) & 0xf000) === 0xa000)
        not(`“${fileName}” is a link; a theme holds files only.`);
      if (entry.isEncrypted()) not(`“${fileName}” is encrypted.`);
      if (fileName.endsWith('/') || left(fileName)) continue;
      if (uncompressedSize > bounds.file)
        not(`“${fileName}” has ${mb(uncompressedSize)}; a file may have ${mb(bounds.file)}.`);
      all += uncompressedSize;
      if (all > bounds.all) not(`unpacked it has more than ${mb(bounds.all)}.`);
      entries.push(entry);
      if (entries.length > bounds.files) not(`it has more than ${bounds.files} files.`);
    }
    const files: TravelFile[] = [];
    for (const entry of entries) {
      const chunks: Buffer[] = [];
      // What unpacks to more than the ZIP says ends here.
      for await (const chunk of await archive.openReadStreamPromise(entry)) chunks.push(chunk as Buffer);
      const bytes = Buffer.concat(chunks);
      if (crc32(bytes) !== entry.crc32)
        not(`“${entry.fileName}” is damaged: its check sum is not the one that the ZIP gives.`);
      files.push({ path: entry.fileName, bytes });
    }
    return files;
  } catch (error) {
    return unreadable(error as Error);
  } finally {
    archive.close();
  }
}

function unreadable(error: Error): never {
  if (error.name === 'Refused') throw error;
  const path = /(?:invalid relative path|absolute path|invalid characters in fileName): (.*)/.exec(error.message);
  if (path) return not(`the path “${path[1]}” leads out of the folder.`);
  return not(`the ZIP cannot be read (${error.message}).`);
}

/** Files that lie in one folder together, as where a folder was packed: that folder is removed. */
function withoutFolder(files: TravelFile[]): TravelFile[] {
  if (files.some(({ path }) => path === 'about.json')) return files;
  const [first = ''] = files[0]?.path.split('/') ?? [];
  const inside = `${first}/`;
  if (!files.some(({ path }) => path === `${inside}about.json`)) return files;
  if (!files.every(({ path }) => path.startsWith(inside))) return files;
  return files.map(({ path, bytes }) => ({ path: path.slice(inside.length), bytes }));
}

/** Holds files to what a theme's folder is (docs/theme-folder.md); refused with the first that is wrong, by its path. */
export function themeOf(given: readonly TravelFile[]): ThemeFiles {
  const files = withoutFolder(given.filter(({ path }) => !left(path))).sort((a, b) => (a.path < b.path ? -1 : 1));
  if (files.length > bounds.files) not(`it has ${files.length} files; a theme may have ${bounds.files}.`);
  const own = files.find(({ path }) => path === 'about.json');
  if (!own) return not('there is no about.json: it says name and version, as in { "name": "Quay", "version": "1.1" }.');
  const seen = new Map<string, string>();
  for (const { path, bytes } of files) {
    const wrong = wrongFile(path, bytes);
    if (wrong) not(wrong);
    const twin = seen.get(path.toLowerCase());
    if (twin !== undefined) not(`“${twin}” and “${path}” differ only in capitals; on many disks they are one file.`);
    seen.set(path.toLowerCase(), path);
  }
  const folded = new Set([...seen.keys()].flatMap((path) => foldersOf(path)));
  for (const [key, path] of seen) if (folded.has(key)) not(`“${path}” is a file and a folder at once.`);
  const read = about.safeParse(JSON.parse(unmarked(own.bytes.toString('utf8'))));
  if (!read.success) {
    const issue = read.error.issues[0];
    return not(`about.json: ${issue?.path.length ? `“${issue.path.join('.')}”: ` : ''}${issue?.message}.`);
  }
  return { about: read.data, files };
}

/** The folders that a path stands in. */
const foldersOf = (path: string): string[] =>
  path
    .split('/')
    .slice(0, -1)
    .map((_, at, parts) => parts.slice(0, at + 1).join('/'));

/** What keeps a file out of a theme: a sentence, or null. */
export function wrongFile(path: string, bytes: Buffer): string | null {
  if (path.split('/').some((part) => part === '..' || part === '.' || part === '') || path.includes('\\'))
    return `the path “${path}” leads out of the folder.`;
  if (path.length > 200 || !/^[A-Za-z0-9._/-]+$/.test(path))
    return `“${path}” is not a name for a file of a theme: letters, digits, “.”, “_” and “-” with “/” between, 200 at most.`;
  if (!folders.test(path)) return wrongText(path, '') ?? `“${path}” has no place in a theme.`;
  if (!textual.test(path))
    return bytes.length > bounds.file ? `“${path}” has ${mb(bytes.length)}; a file may have ${mb(bounds.file)}.` : null;
  if (bytes.length > maxTextBytes)
    return `“${path}” has ${mb(bytes.length)}; a file of text may have ${mb(maxTextBytes)}.`;
  try {
    return wrongText(path, new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return `“${path}” is not written in UTF-8.`;
  }
}

/** A ZIP of files: the same files give the same bytes. */
export function writeZip(files: readonly TravelFile[]): Buffer {
  const sorted = [...files].sort((a, b) => (a.path < b.path ? -1 : 1));
  // One time for all: a ZIP tells the content, not when it was packed.
  const mtime = new Date(2000, 0, 1);
  return Buffer.from(zipSync(Object.fromEntries(sorted.map(({ path, bytes }) => [path, [bytes, { mtime }]]))));
}
