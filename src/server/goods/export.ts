import { createWriteStream, mkdirSync, renameSync, rmSync } from 'node:fs';
import { dirname } from 'node:path';
import { once } from 'node:events';
import { stringify } from 'csv-stringify/sync';
import {
  linkedDocument,
  linkedProduct,
  type LinkedShop,
  productRows,
  tableHeadings,
  tableTargets,
  type WholeProduct,
} from '@/core/exchange';
import { addresses } from '@/server/http';
import type { Shop } from '@/server/shop';
import { attributeNames, countOfKind, exportOthers, exportProducts, optionSlugs, wholeRecord } from '@/store';

/** Formats that goods go out in. */
export type ExportFormat = 'csv' | 'json' | 'jsonld';

/** A catalogue as text, part by part. */
export function* exportParts(shop: Shop, format: ExportFormat): Generator<string> {
  const source = shop.catalogue();
  if (format === 'jsonld') return yield* linkedParts(shop);
  if (format === 'json') {
    const others = JSON.stringify(exportOthers(source), null, 2);
    yield `${others.slice(0, others.lastIndexOf('\n}'))},\n  "products": [`;
    let before = '';
    for (const products of exportProducts(source)) {
      yield before + products.map((one) => `\n    ${JSON.stringify(one)}`).join(',');
      before = ',';
    }
    yield '\n  ]\n}\n';
    return;
  }
  const { currency, locales } = source.shop();
  const fields = source.fieldDefinitions('product');
  const lists = new Set(fields.filter(({ several }) => several).map(({ key }) => key));
  const targets = tableTargets({
    options: optionSlugs(shop.sql),
    fields: fields.map(({ key }) => key),
    attributes: attributeNames(shop.sql),
    locales: locales.slice(1),
  });
  const lines = (rows: string[][]) => stringify(rows, { record_delimiter: '\r\n' });
  yield lines([tableHeadings(targets)]);
  for (const products of exportProducts(source))
    yield lines(products.flatMap((one) => productRows(whole(one), targets, currency, lists)));
}

const whole = (one: unknown): WholeProduct => wholeRecord('product', one) as unknown as WholeProduct;

/** Products as linked data, in schema.org's terms; those that customers do not see are left out, since it has no word for that. */
function* linkedParts(shop: Shop): Generator<string> {
  const source = shop.catalogue();
  const { currency, locale } = source.shop();
  const { brands = [], tags = [], categories = [] } = exportOthers(source);
  const names = (all: readonly { slug: string; name: string }[]) => {
    const known = new Map(all.map((one) => [one.slug, one.name]));
    return (slug: string) => known.get(slug) ?? slug;
  };
  const above = new Map(categories.map(({ slug, name, parent }) => [slug, { name, parent: parent ?? null }]));
  const path = (slug: string): string[] => {
    const own = above.get(slug);
    return own ? [...(own.parent === null ? [] : path(own.parent)), own.name] : [];
  };
  const linked: LinkedShop = {
    origin: addresses().shop,
    currency,
    locale,
    brand: names(brands),
    tag: names(tags),
    category: path,
  };
  const around = JSON.stringify(linkedDocument, null, 2);
  yield around.slice(0, around.lastIndexOf(']'));
  let before = '';
  for (const products of exportProducts(source)) {
    const nodes = products.filter(({ live }) => live !== false).map((one) => linkedProduct(whole(one), linked));
    if (!nodes.length) continue;
    yield before + nodes.map((node) => `\n    ${JSON.stringify(node)}`).join(',');
    before = ',';
  }
  yield '\n  ]\n}\n';
}

/** Writes a catalogue to a file, whole or not at all; gives how many products it has. */
export async function exportTo(shop: Shop, path: string, format: ExportFormat): Promise<number> {
  mkdirSync(dirname(path), { recursive: true });
  const part = `${path}.part`;
  const out = createWriteStream(part);
  try {
    for (const text of exportParts(shop, format)) if (!out.write(text)) await once(out, 'drain');
    out.end();
    await once(out, 'finish');
    renameSync(part, path);
  } catch (error) {
    out.destroy();
    rmSync(part, { force: true });
    throw error;
  }
  return countOfKind(shop.sql, 'product');
}
