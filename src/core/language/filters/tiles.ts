import { asList, isRecord, record, type RecordValue, type Value } from '../values/values';
import type { Filter } from './table';

/**
 * Products as tiles, one for each value of an option: a rope in four colours makes four, each with the sizes of its colour,
 * the pictures that show it, and an address that chooses it. A product without the option makes one plain tile.
 */
export const splitBy: Filter = {
  signature: "split_by('colour', pictures: n)",
  says: 'tiles of products, one a value of the option; with pictures, a further value only if that many show it',
  run: (context, value, option, pictures) => {
    if (typeof option !== 'string') return null;
    const least = typeof pictures === 'number' ? pictures : 0;
    const tiles: Value[] = [];
    for (const product of asList(value)) {
      if (!isRecord(product)) continue;
      const made = tilesOf(product, option, least);
      context.charge(made.length);
      tiles.push(...made);
    }
    return tiles;
  },
};

function tilesOf(product: RecordValue, slug: string, least: number): RecordValue[] {
  const option = asList(product.options).find((one) => isRecord(one) && one.slug === slug);
  const variants = asList(product.variants).filter(isRecord);
  const tiles: RecordValue[] = [];
  for (const value of isRecord(option) ? asList(option.values).filter(isRecord) : []) {
    const own = variants.filter((variant) =>
      asList(variant.values).some((one) => isRecord(one) && one.slug === value.slug),
    );
    // A value that no variant has cannot be bought.
    if (variants.length && !own.length) continue;
    const media = asList(value.media);
    if (tiles.length && least > 0 && media.filter(isPicture).length < least) continue;
    const image = media.find(isPicture) ?? product.image;
    tiles.push(record({ product, value, variants: own, media, url: value.url ?? product.url, image }));
  }
  return tiles.length ? tiles : [plainTile(product)];
}

/** The one tile of a product that is not split. */
export function plainTile(product: RecordValue): RecordValue {
  const { variants, media, url, image } = product;
  return record({ product, value: null, variants, media, url, image });
}

const isPicture = (media: Value): boolean => isRecord(media) && media.kind === 'image';
