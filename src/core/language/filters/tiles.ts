import { asList, isRecord, record, type RecordValue, type Value } from '../values/values';
import type { Filter } from './filter';

/**
 * Products as tiles, one for each value of an option: a rope in four colours makes four, each with the sizes of its colour,
 * the pictures that show it, and an address that chooses it. A product without the option makes one plain tile.
 */
export const splitBy: Filter = {
  signature: "split_by('colour', pictures: n, values: […])",
  says: 'tiles of products, one a value of the option; with pictures, a further value only if that many show it; with values, only those. look.listings.category in place of the option: as the look says',
  run: (context, value, by, pictures, values) => {
    // Without an option, as a look may say, nothing is split.
    if (typeof by !== 'string' && by !== null && by !== undefined && !isRecord(by)) return null;
    const look = isRecord(by) ? by : record({ split_by: by ?? null, pictures: pictures ?? 0, values: values ?? [] });
    const option = typeof look.split_by === 'string' && look.split_by ? look.split_by : null;
    const least = typeof look.pictures === 'number' ? look.pictures : 0;
    const tiles: Value[] = [];
    for (const product of asList(value)) {
      if (!isRecord(product)) continue;
      const own = isRecord(look.values_of) ? (look.values_of[String(product.slug)] ?? null) : null;
      const named = asList(own ?? look.values ?? null);
      const whole = !option || (own !== null && !named.length);
      const ofProduct = whole ? [plainTile(product)] : tilesOf(product, option, own ? 0 : least, named);
      context.charge(ofProduct.length);
      tiles.push(...ofProduct);
    }
    return tiles;
  },
};

/** The tiles of a product by an option's values: those named, or all, a further one only with so many pictures. */
function tilesOf(product: RecordValue, slug: string, least: number, named: readonly Value[]): RecordValue[] {
  const option = asList(product.options).find((one) => isRecord(one) && one.slug === slug);
  const variants = asList(product.variants).filter(isRecord);
  const tiles: RecordValue[] = [];
  for (const value of isRecord(option) ? asList(option.values).filter(isRecord) : []) {
    if (named.length && !named.some((slug) => slug === value.slug)) continue;
    const tile = tileOf(product, value, variants);
    if (!tile) continue;
    if (tiles.length && least > 0 && asList(tile.media).filter(isPicture).length < least) continue;
    tiles.push(tile);
  }
  return tiles.length ? tiles : [plainTile(product)];
}

/** The tile of one value; null for a value that no variant has: it cannot be bought. */
function tileOf(product: RecordValue, value: RecordValue, variants: readonly RecordValue[]): RecordValue | null {
  const own = variants.filter((variant) =>
    asList(variant.values).some((one) => isRecord(one) && one.slug === value.slug),
  );
  if (variants.length && !own.length) return null;
  const media = asList(value.media);
  const image = media.find(isPicture) ?? product.image;
  return record({ product, value, variants: own, media, url: value.url ?? product.url, image });
}

/** The tile of a product for one value of an option, by slugs; the plain one when it has no such value. */
export function valueTile(product: RecordValue, option: string, slug: string): RecordValue {
  const of = asList(product.options).find((one) => isRecord(one) && one.slug === option);
  const value = isRecord(of) ? asList(of.values).find((one) => isRecord(one) && one.slug === slug) : null;
  const single = isRecord(value) ? tileOf(product, value, asList(product.variants).filter(isRecord)) : null;
  return single ?? plainTile(product);
}

/** The one tile of a product that is not split. */
export function plainTile(product: RecordValue): RecordValue {
  const { variants, media, url, image } = product;
  return record({ product, value: null, variants, media, url, image });
}

const isPicture = (media: Value): boolean => isRecord(media) && media.kind === 'image';
