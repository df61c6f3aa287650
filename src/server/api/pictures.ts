import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pictureEndpoints } from '@/contract/pictures';
import { bodyToFile, bytesOf } from '@/server/http';
import {
  filesOfZip,
  type GivenFile,
  maxBytes,
  pictureOf,
  picturesOf,
  removePictures,
  takePictures,
} from '@/server/pictures';
import { lines } from './lines';
import { serveAll } from './serve';

/** Pictures of a page of the list. */
const pageSize = 60;
/** Most bytes of a ZIP of pictures. */
const maxZipBytes = 2_000_000_000;

const now = () => new Date().toISOString();

export const pictureCalls = serveAll(pictureEndpoints, {
  list: ({ shop, query }) => picturesOf(shop, { ...query, most: pageSize }),
  one: ({ shop, query: { path } }) => pictureOf(shop, path),
  take: async ({ shop, request, by, query: { path, replace, change = null } }) => {
    const folder = mkdtempSync(join(tmpdir(), 'last-pictures-'));
    const done = () => rmSync(folder, { recursive: true, force: true });
    let files: AsyncIterable<GivenFile> | Iterable<GivenFile>;
    try {
      if (/\.zip$/i.test(path)) {
        const zip = join(folder, 'zip');
        await bodyToFile(request, zip, maxZipBytes);
        files = filesOfZip(zip);
      } else {
        const bytes = await bytesOf(request, maxBytes.mp4);
        files = [{ name: path, bytes: () => Promise.resolve(bytes) }];
      }
    } catch (error) {
      done();
      throw error;
    }
    return lines(async (line, signal) => {
      try {
        const taking = { replace: replace === 'yes', change, at: now(), by, signal };
        line({ change: await takePictures(shop, files, taking, (outcome) => line({ outcome })) });
      } finally {
        done();
      }
    });
  },
  remove: ({ shop, by, body: { paths } }) => {
    const { id, removed } = removePictures(shop, paths, { at: now(), by });
    return { change: id, removed };
  },
});
