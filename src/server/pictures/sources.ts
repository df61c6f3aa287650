import { readdirSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import yauzl from 'yauzl';
import { folderAround, mayBePicture } from '@/core/exchange';
import { refuse } from '@/server/http';
import { maxBytes } from './read';
import type { GivenFile } from './take';

/** Bounds of what comes at once: files, and bytes of all together when they are unpacked. */
const maxFiles = 20_000;
const maxUnpacked = 4_000_000_000;

const tooLarge = (bytes: number) => ({
  why: `it has ${(bytes / 1e6).toFixed(0)} MB; at most ${maxBytes.mp4 / 1e6} MB are taken`,
});

/** Pictures and films of a folder, each by its path in there. */
export function* filesOfFolder(folder: string): Generator<GivenFile> {
  const inner = readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) =>
      join(entry.parentPath, entry.name)
        .slice(folder.length)
        .replace(/^[/\\]/, ''),
    )
    .filter(mayBePicture);
  for (const name of inner.sort()) {
    const path = join(folder, name);
    const { size } = statSync(path);
    yield { name, bytes: async () => (size > maxBytes.mp4 ? tooLarge(size) : readFile(path)) };
  }
}

/**
 * Pictures and films of a ZIP on the disk, each by its path in there; a folder around all of them is not part of it. The whole is refused where it
 * cannot be read, leads out of its folder, or unpacks to more than it may.
 */
export async function* filesOfZip(file: string): AsyncGenerator<GivenFile> {
  const zip = await yauzl.openPromise(file, { strictFileNames: false }).catch(unreadable);
  try {
    const entries: yauzl.Entry[] = [];
    let unpacked = 0;
    for await (const entry of zip.eachEntry()) {
      if (entry.fileName.endsWith('/') || !mayBePicture(entry.fileName)) continue;
      unpacked += entry.uncompressedSize;
      if (unpacked > maxUnpacked)
        refuse(422, 'zip', `The ZIP unpacks to more than ${maxUnpacked / 1e9} GB: divide it into several.`);
      if (entries.push(entry) > maxFiles)
        refuse(422, 'zip', `The ZIP has more than ${maxFiles.toLocaleString('en')} pictures: divide it into several.`);
    }
    const names = entries.map(({ fileName }) => fileName);
    const around = folderAround(names);
    for (const entry of entries) yield { name: entry.fileName.slice(around.length), bytes: () => bytesOf(zip, entry) };
  } catch (error) {
    unreadable(error as Error);
  } finally {
    zip.close();
  }
}

async function bytesOf(zip: yauzl.ZipFile, entry: yauzl.Entry): Promise<Buffer | { why: string }> {
  if (entry.isEncrypted()) return { why: 'it is encrypted' };
  if (entry.uncompressedSize > maxBytes.mp4) return tooLarge(entry.uncompressedSize);
  if (((entry.externalFileAttributes >>> 16) & 0xf000) === 0xa000) return { why: 'it is a link, and no file' };
  try {
    const parts: Buffer[] = [];
    // One that unpacks to more than the ZIP says ends here.
    for await (const part of await zip.openReadStreamPromise(entry)) parts.push(part as Buffer);
    return Buffer.concat(parts);
  } catch (error) {
    return { why: `it cannot be unpacked (${(error as Error).message})` };
  }
}

function unreadable(error: Error): never {
  if (error.name === 'Refused') throw error;
  return refuse(422, 'zip', `The ZIP cannot be read (${error.message}).`);
}
