import type { Shop } from '@/server/shop';
import {
  copiesOf,
  listMedia,
  mediaCounts,
  mediaFiles,
  missingMedia,
  usesOfMedia,
  type MediaFile,
  type MediaFilter,
} from '@/store';
import { refuse } from '@/server/http';

/** Types that come in smaller sizes. */
const sized = /^image\/(?:png|jpeg|webp|avif)$/;
/** Side of a small picture and of a large one, in pixels. */
const sides = { small: 240, large: 960 };

/** The address of a picture on the shop's origin, in one of two sizes where it has sizes. */
function addressOf(shop: Shop, { path, hash, type }: MediaFile, side: number): string {
  const address = `/media/${path.split('/').map(encodeURIComponent).join('/')}?v=${hash.slice(0, 12)}`;
  return sized.test(type) ? shop.signer.sign(`${address}&w=${side}&h=${side}`) : address;
}

/** Pictures of a filter, a page of them, with how many each filter has. */
export function picturesOf(
  shop: Shop,
  ask: { filter: MediaFilter | 'missing'; words: string; from: number; most: number },
) {
  const counts = mediaCounts(shop.sql);
  if (ask.filter === 'missing') return { counts, pictures: [], ...missingMedia(shop.sql, ask) };
  const { files, total } = listMedia(shop.sql, { ...ask, filter: ask.filter });
  return {
    counts,
    total,
    pictures: files.map(({ hash, ...file }) => ({ ...file, address: addressOf(shop, { hash, ...file }, sides.small) })),
    missing: [],
  };
}

/** One picture, with what names it and which others have the same content. */
export function pictureOf(shop: Shop, path: string) {
  const file =
    mediaFiles(shop.sql, [path]).get(path) ?? refuse(404, 'picture', `There is no picture “${path}” any more.`);
  const { hash, ...rest } = file;
  return {
    ...rest,
    address: addressOf(shop, file, sides.large),
    usedBy: usesOfMedia(shop.sql, path),
    copies: copiesOf(shop.sql, hash).filter((other) => other !== path),
  };
}
