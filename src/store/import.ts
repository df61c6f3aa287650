import type { CatalogueFile } from '@/contract/catalogue-file';
import type { Statements } from './statements';
import { CatalogueWriter } from './writer';

/** A catalogue whose products may come one by one: a large one need not be in memory. */
export type CatalogueImport = Omit<CatalogueFile, 'products'> & {
  products: Iterable<CatalogueFile['products'][number]>;
};

/**
 * Writes a whole catalogue into an empty database; run it in a transaction. `clean` makes rich text safe.
 * A slug that names nothing ends it with a sentence that says where.
 */
export function importCatalogue(sql: Statements, file: CatalogueImport, clean: (markup: string) => string): void {
  const writer = new CatalogueWriter(sql, clean);
  writer.shop(file.shop);
  for (const brand of file.brands) writer.brand(brand);
  for (const tag of file.tags) writer.tag(tag);
  file.fields.forEach((field, position) => writer.field(field, position));
  for (const category of file.categories) writer.category(category);
  for (const product of file.products) writer.addProduct(product);
  for (const page of file.content) writer.page('content', page);
  for (const page of file.articles) writer.page('article', page);
  for (const menu of file.menus) writer.menu(menu);
  for (const redirect of file.redirects) writer.redirect(redirect);
  writer.finish(file.shop.locale, true);
}
