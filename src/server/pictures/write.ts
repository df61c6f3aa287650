import { mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import writeFileAtomic from 'write-file-atomic';
import type { Shop } from '@/server/shop';
import { getMedia, mediaPaths } from '@/store';

/** Writes the pictures of a shop into a folder, each whole or not at all; gives how many. */
export function writePictures(shop: Shop, folder: string): number {
  const paths = mediaPaths(shop.sql);
  for (const path of paths) {
    const file = getMedia(shop.sql, path);
    if (!file) continue;
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileAtomic.sync(join(folder, path), file.bytes);
  }
  return paths.length;
}
