import type { z } from 'zod';
import { catalogueFile, productFile } from '@/contract/catalogue-file';
import { withyQuay } from './catalogue';

type Product = z.output<typeof productFile>;

const words: [english: string, french: string][] = [
  ['Estuary', 'de l’estuaire'],
  ['Harbour', 'du port'],
  ['Skerry', 'des îlots'],
  ['Saltmarsh', 'des prés salés'],
  ['Lugger', 'du lougre'],
  ['Spritsail', 'à livarde'],
  ['Northwind', 'du vent du nord'],
  ['Ebb', 'du jusant'],
  ['Slipway', 'de la cale'],
  ['Lantern', 'du fanal'],
  ['Oyster', 'des huîtres'],
  ['Sandbar', 'du banc de sable'],
];
const classes = ['Mark', 'No.', 'Pattern', 'Grade'];

/** Whole numbers below a bound, the same for the same seed (a 32-bit generator by the Weyl sequence and two mixing rounds). */
function randomBy(seed: number): (below: number) => number {
  let state = seed >>> 0;
  return (below) => {
    state = (state + 0x9e3779b9) >>> 0;
    let mixed = state;
    mixed = Math.imul(mixed ^ (mixed >>> 16), 0x85ebca6b);
    mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
    return ((mixed ^ (mixed >>> 16)) >>> 0) % below;
  };
}

/**
 * Further goods for the demo's shop, one by one, so that there are `total` with those it has: each made after one of the
 * demo's, with a name, prices, stock, tags and days of its own. The same seed gives the same goods.
 */
export function* manyGoods(total: number, seed: number): Generator<Product> {
  const models = catalogueFile.parse(withyQuay).products;
  const random = randomBy(seed);
  const pick = <T>(list: readonly T[]): T => list[random(list.length)] as T;
  const tags = (withyQuay.tags ?? []).map(({ slug }) => slug).filter((slug) => slug !== 'offer');
  const leaves = (withyQuay.categories ?? [])
    .map(({ slug }) => slug)
    .filter((slug) => slug !== 'goods' && slug !== 'anchors' && slug !== 'canvas-and-flags');
  const made: string[] = [];
  for (let number = models.length + 1; number <= total; number++) {
    const model = pick(models);
    const [english, french] = pick(words);
    const rank = `${pick(classes)} ${number}`;
    const slug = `${model.slug.slice(0, 40).replace(/-+$/, '')}-${number}`;
    const factor = 60 + random(120);
    const amount = (price: number) => Math.max(5, Math.round((price * factor) / 500) * 5);
    const offer = random(9) === 0;
    const inFrench = model.texts.fr?.name;
    yield {
      ...model,
      slug,
      name: `${english} ${model.name.charAt(0).toLowerCase()}${model.name.slice(1)}, ${rank}`,
      sku: `${model.sku}-${number}`,
      gtin: '',
      added: new Date(Date.UTC(2024, 0, 1 + random(1000))).toISOString().slice(0, 10),
      tags: [...new Set([...model.tags.slice(0, 2), pick(tags), ...(offer ? ['offer'] : [])])],
      categories: [...new Set([model.categories[0] ?? pick(leaves), ...(random(3) ? [] : [pick(leaves)])])],
      variants: model.variants.map((variant, at) => ({
        ...variant,
        sku: `${model.sku}-${number}-${at + 1}`,
        price: amount(variant.price),
        wasPrice: offer ? Math.round(amount(variant.price) * 1.25) : null,
        stock: random(5) ? random(200) : 0,
      })),
      members: [],
      related: made.length > 3 ? [...new Set([pick(made), pick(made), pick(made)])] : [],
      texts: inFrench ? { fr: { ...model.texts.fr, name: `${inFrench} ${french}, ${rank}` } } : {},
    };
    if (made.length < 500) made.push(slug);
    else made[random(500)] = slug;
  }
}
