import { isFieldSubject, type FieldSubject } from '@/core/catalogue';
import type { CatalogueFile, MenuItemFile } from '@/contract/catalogue-file';
import type { MediaOwner } from '@/core/catalogue';
import { sameValue } from '@/core/exchange';
import { forgetSearch, tellCounts, tellPrices, tellSearch } from './derived';
import { type MediaFile, putMediaFile, removeMediaFile } from './media';
import type { Statements } from './statements';
import type { TextKind } from './texts';

/** A sentence about a name that the file uses and does not declare. */
export class CatalogueFileError extends Error {
  override readonly name = 'CatalogueFileError';
}

type Product = CatalogueFile['products'][number];
type Category = CatalogueFile['categories'][number];
type Page = CatalogueFile['content'][number];
type FileTexts = Record<string, Record<string, string | undefined>>;

const rich = new Set(['description', 'body']);

/** Parts of a product that hang together by the values of its options: they are written together. */
const choices = ['options', 'variants', 'media'];
/** Fields whose words products are found by, article numbers of variants aside. */
const searched = ['name', 'summary', 'sku', 'tags', 'texts'];
const scalars: Record<string, string> = {
  type: 'type',
  name: 'name',
  summary: 'summary',
  sku: 'sku',
  gtin: 'gtin',
  added: 'added',
};

/** Whether variants are chosen as before, each known by an article number of its own. */
const sameChoices = (before: Product['variants'], after: Product['variants']): boolean =>
  before.length === after.length &&
  new Set(after.map(({ sku }) => sku)).size === after.length &&
  after.every(({ sku, values, texts }, at) => {
    const was = before[at];
    return was?.sku === sku && sameValue(was.values, values) && sameValue(was.texts, texts);
  });

/** When more products than this are asked for, all are read. */
const maxAsked = 200;

/** How many products are worked out at once, in one query. */
const batch = 2000;

const inBatches = (ids: readonly number[]): number[][] =>
  Array.from({ length: Math.ceil(ids.length / batch) }, (_, at) => ids.slice(at * batch, (at + 1) * batch));

/**
 * Writes records of the catalogue, each as a catalogue file says it. Run it in a transaction, and `finish` at its end: only then are
 * prices, counts, search and what products say of each other brought up to date. A name that names nothing ends it with a
 * CatalogueFileError. Longer than most files: it has a method for each kind of record.
 */
export class CatalogueWriter {
  readonly #ids = new Map<string, Map<string, number>>();
  readonly #pairs: { table: 'member' | 'related'; id: number; of: string; others: string[] }[] = [];
  readonly #products = new Set<number>();
  /** Products whose words in the search may be others now. */
  readonly #searched = new Set<number>();
  readonly #removed: number[] = [];
  #position: number | null = null;
  /** Products that were asked for one by one. */
  #asked = 0;
  #translated: boolean | null = null;
  /** Whether more than fields of products changed: what was worked out of the catalogue is then computed again. */
  #whole = false;
  /** Whether products may be in other categories now. */
  #counts = false;

  constructor(
    readonly sql: Statements,
    /** Makes rich text safe. */
    readonly clean: (markup: string) => string,
  ) {}

  shop({ name, currency, locale, locales, email }: CatalogueFile['shop']): void {
    this.#whole = true;
    this.sql.run(
      `INSERT INTO shop (id, name, currency, locale, locales, email) VALUES (1, ?, ?, ?, ?, ?)
       ON CONFLICT (id) DO UPDATE SET name = excluded.name, currency = excluded.currency, locale = excluded.locale,
         locales = excluded.locales, email = excluded.email`,
      name,
      currency,
      locale,
      JSON.stringify(locales),
      email,
    );
  }

  brand({ slug, name, summary, texts }: CatalogueFile['brands'][number]): void {
    const id = this.#row('brand', slug, { name, summary });
    this.#texts('brand', id, texts);
  }

  tag({ slug, name, texts }: CatalogueFile['tags'][number]): void {
    const known = this.#known('tag').has(slug);
    const id = this.#row('tag', slug, { name });
    this.#texts('tag', id, texts);
    // Its products are found by its name.
    if (known)
      for (const { product } of this.sql.all<{ product: number }>(
        'SELECT product_id AS product FROM product_tag WHERE tag_id = ?',
        id,
      ))
        this.#searched.add(product);
  }

  field(field: CatalogueFile['fields'][number], position: number | null = null): void {
    const { subject, key, name, type, unit, help } = field;
    const [choices, several] = [JSON.stringify(field.choices), Number(field.several)];
    this.#whole = true;
    const known = this.#known('field').get(`${subject} ${key}`);
    if (known !== undefined) {
      if (type === 'html' && !this.#isRich(subject, key)) this.#cleanField(subject, key, known);
      this.#rich = null;
      this.sql.run(
        'UPDATE field_definition SET name = ?, type = ?, unit = ?, help = ?, choices = ?, several = ? WHERE id = ?',
        ...[name, type, unit, help, choices, several, known],
      );
      return;
    }
    const { id } = this.sql.run(
      `INSERT INTO field_definition (subject, key, name, type, unit, help, choices, several, position)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, coalesce(?, (SELECT coalesce(max(position), -1) + 1 FROM field_definition)))`,
      ...[subject, key, name, type, unit, help, choices, several, position],
    );
    this.#known('field').set(`${subject} ${key}`, id);
    this.#rich = null;
  }

  #rich: ReadonlySet<string> | null = null;

  /** Whether a custom field holds rich text. */
  #isRich(subject: string, key: string): boolean {
    this.#rich ??= new Set(
      this.sql
        .all<{ name: string }>("SELECT subject || ' ' || key AS name FROM field_definition WHERE type = 'html'")
        .map(({ name }) => name),
    );
    return this.#rich.has(`${subject} ${key}`);
  }

  /** A custom field that becomes rich text: what stands in it is made safe, since pages print it as markup from now on. */
  #cleanField(subject: string, key: string, id: number): void {
    for (const { at, value } of this.sql.all<{ at: number; value: string }>(
      'SELECT subject_id AS at, value FROM field_value WHERE definition_id = ?',
      id,
    ))
      this.sql.run(
        'UPDATE field_value SET value = ? WHERE definition_id = ? AND subject_id = ?',
        ...[this.clean(value), id, at],
      );
    const where = 'kind = ? AND field = ?';
    for (const { at, locale, value } of this.sql.all<{ at: number; locale: string; value: string }>(
      `SELECT id AS at, locale, value FROM translation WHERE ${where}`,
      subject,
      `fields.${key}`,
    ))
      this.sql.run(
        `UPDATE translation SET value = ? WHERE ${where} AND id = ? AND locale = ?`,
        ...[this.clean(value), subject, `fields.${key}`, at, locale],
      );
  }

  category(category: Category): void {
    const { slug, parent, position, live, name, summary, description, fields, media } = category;
    const parent_id = parent === null ? null : this.#find('category', parent, 'The category');
    const id = this.#row(
      'category',
      slug,
      { parent_id, name, summary, description: this.clean(description), live: Number(live) },
      true,
    );
    if (position !== undefined) this.#placeCategory(id, parent_id, position);
    this.#fields('category', id, fields);
    this.#unsetMedia('category', id);
    this.#media('category', id, media, new Map());
    this.#texts('category', id, category.texts);
    this.#texts('category', id, category.fieldTexts, 'fields.');
  }

  page(table: 'content' | 'article', page: Page): void {
    const { slug, live, title, summary, body, added, media } = page;
    const id = this.#row(table, slug, { title, summary, body: this.clean(body), added, live: Number(live) });
    this.#unsetMedia(table, id);
    this.#media(table, id, media, new Map());
    this.#fields(table, id, page.fields);
    this.#texts(table, id, page.texts);
    this.#texts(table, id, page.fieldTexts, 'fields.');
  }

  menu({ slug, name, items }: CatalogueFile['menus'][number]): void {
    const id = this.#row('menu', slug, { name });
    this.sql.run(
      "DELETE FROM translation WHERE kind = 'menu_item' AND id IN (SELECT id FROM menu_item WHERE menu_id = ?)",
      id,
    );
    this.sql.run('DELETE FROM menu_item WHERE menu_id = ?', id);
    this.#menuItems(id, null, items);
  }

  redirect({ path, target }: CatalogueFile['redirects'][number]): void {
    this.#whole = true;
    this.sql.run(
      'INSERT INTO redirect (path, target) VALUES (?, ?) ON CONFLICT (path) DO UPDATE SET target = excluded.target',
      path,
      target,
    );
  }

  removeRedirect(path: string): void {
    this.#whole = true;
    this.sql.run('DELETE FROM redirect WHERE path = ?', path);
  }

  /** Gives a record another slug: what names it goes on doing so. */
  rename(
    kind: 'product' | 'brand' | 'tag' | 'category' | 'content' | 'article' | 'menu',
    from: string,
    to: string,
  ): void {
    this.#whole = true;
    const id = this.#find(kind, from, `The ${kind}`);
    this.sql.run(`UPDATE ${kind} SET slug = ? WHERE id = ?`, to, id);
    const known = this.#ids.get(kind);
    known?.delete(from);
    known?.set(to, id);
  }

  picture(file: MediaFile): void {
    putMediaFile(this.sql, file);
  }

  removePicture(path: string): void {
    removeMediaFile(this.sql, path);
  }

  /** A product that is not there yet; it comes last in the catalogue's order. */
  addProduct(product: Product & { position?: number }): void {
    this.#whole = true;
    this.#position ??= this.sql.get<{ n: number }>('SELECT coalesce(max(position), -1) + 1 AS n FROM product')?.n ?? 0;
    const { id } = this.sql.run(
      `INSERT INTO product (slug, type, name, summary, description, brand_id, sku, gtin, added, live, position)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      product.slug,
      product.type,
      product.name,
      product.summary,
      this.clean(product.description),
      product.brand === null ? null : this.#find('brand', product.brand, 'The brand'),
      product.sku,
      product.gtin,
      product.added,
      Number(product.live),
      product.position ?? this.#position++,
    );
    this.#ids.get('product')?.set(product.slug, id);
    this.#tags(id, product);
    this.#categories(id, product);
    this.#attributes(id, product);
    this.#fields('product', id, product.fields);
    this.#choices(id, product);
    this.#texts('product', id, product.texts);
    this.#texts('product', id, product.fieldTexts, 'fields.');
    if (product.members.length) this.#pairs.push({ table: 'member', id, of: product.slug, others: product.members });
    if (product.related.length) this.#pairs.push({ table: 'related', id, of: product.slug, others: product.related });
    this.#products.add(id);
    this.#searched.add(id);
  }

  /** These fields of a product that is there, as the whole record says them; `before` is what they were. */
  changeProduct(product: Product, fields: readonly string[], before: { variants?: Product['variants'] } = {}): void {
    const id = this.#find('product', product.slug, 'The product');
    const changed = new Set(fields);
    const columns = Object.keys(scalars).filter((field) => changed.has(field));
    if (columns.length)
      this.sql.run(
        `UPDATE product SET ${columns.map((field) => `${scalars[field]} = ?`).join(', ')} WHERE id = ?`,
        ...columns.map((field) => product[field as keyof Product]),
        id,
      );
    if (changed.has('description'))
      this.sql.run('UPDATE product SET description = ? WHERE id = ?', this.clean(product.description), id);
    if (changed.has('live')) {
      // Lists and counts are others with it.
      this.#whole = true;
      this.sql.run('UPDATE product SET live = ? WHERE id = ?', Number(product.live), id);
    }
    if (changed.has('brand'))
      this.sql.run(
        'UPDATE product SET brand_id = ? WHERE id = ?',
        product.brand === null ? null : this.#find('brand', product.brand, 'The brand'),
        id,
      );
    if (changed.has('tags')) {
      this.sql.run('DELETE FROM product_tag WHERE product_id = ?', id);
      this.#tags(id, product);
    }
    if (changed.has('categories')) {
      this.#counts = true;
      this.sql.run('DELETE FROM product_category WHERE product_id = ?', id);
      this.#categories(id, product);
    }
    if (changed.has('attributes')) {
      this.sql.run('DELETE FROM attribute WHERE product_id = ?', id);
      this.#unsetTexts('attribute', 'SELECT ?', id);
      this.#attributes(id, product);
    }
    if (changed.has('fields')) this.#fields('product', id, product.fields);
    if (changed.has('texts') || changed.has('fieldTexts')) {
      this.#texts('product', id, product.texts);
      this.#texts('product', id, product.fieldTexts, 'fields.');
    }
    const parts = choices.filter((field) => changed.has(field));
    if (parts.join() === 'variants' && sameChoices(before.variants ?? [], product.variants))
      this.#figures(id, before.variants ?? [], product.variants);
    else if (parts.length) {
      this.#unsetChoices(id);
      this.#choices(id, product);
      this.#searched.add(id);
    }
    if (searched.some((field) => changed.has(field))) this.#searched.add(id);
    if (changed.has('members')) this.#pairs.push({ table: 'member', id, of: product.slug, others: product.members });
    if (changed.has('related')) this.#pairs.push({ table: 'related', id, of: product.slug, others: product.related });
    this.#products.add(id);
  }

  /** Whether there is a record of that name; a custom field by its subject and key. */
  has(kind: string, slug: string): boolean {
    if (kind === 'product' && !this.#ids.has(kind)) return this.#findProduct(slug) !== undefined;
    return this.#known(kind).has(slug);
  }

  /** The place of a product or custom field in its order; null of what has none. */
  placeOf(kind: string, slug: string): number | null {
    if (kind === 'product')
      return this.sql.get<{ position: number }>('SELECT position FROM product WHERE slug = ?', slug)?.position ?? null;
    if (kind !== 'field') return null;
    return (
      this.sql.get<{ position: number }>("SELECT position FROM field_definition WHERE subject || ' ' || key = ?", slug)
        ?.position ?? null
    );
  }

  removeProduct(slug: string): void {
    const id = this.#find('product', slug, 'The product');
    this.#unsetChoices(id);
    for (const kind of ['attribute', 'product'] as const) this.#unsetTexts(kind, 'SELECT ?', id);
    this.#fields('product', id, {});
    this.#removed.push(id);
    this.sql.run('DELETE FROM product WHERE id = ?', id);
    this.#ids.get('product')?.delete(slug);
    this.#products.delete(id);
    this.#searched.delete(id);
    this.#whole = true;
  }

  /** Removes a record that is no product; a category must have none below it any more. */
  remove(kind: 'brand' | 'tag' | 'category' | 'content' | 'article' | 'menu', slug: string): void {
    // Products that had a tag are changed themselves, before it goes.
    this.#whole ||= kind !== 'tag';
    const id = this.#find(kind, slug, `The ${kind}`);
    if (kind === 'menu') this.#unsetTexts('menu_item', 'SELECT id FROM menu_item WHERE menu_id = ?', id);
    else this.#unsetTexts(kind, 'SELECT ?', id);
    if (isFieldSubject(kind)) this.#fields(kind, id, {});
    if (kind === 'category' || kind === 'content' || kind === 'article') this.#unsetMedia(kind, id);
    this.sql.run(`DELETE FROM ${kind} WHERE id = ?`, id);
    this.#known(kind).delete(slug);
  }

  removeField(subject: string, key: string): void {
    this.#whole = true;
    const id = this.#find('field', `${subject} ${key}`, 'The custom field');
    this.sql.run('DELETE FROM field_definition WHERE id = ?', id);
    this.#known('field').delete(`${subject} ${key}`);
  }

  /** Brings up to date what is worked out of the records; `first` is the shop's first language. `whole`: of all products. */
  finish(first: string, whole = false): void {
    // Only now is every product there that another names.
    for (const { table, id, others } of this.#pairs) {
      this.sql.run(`DELETE FROM product_${table} WHERE product_id = ?`, id);
      others.forEach((other, at) =>
        this.sql.run(
          `INSERT INTO product_${table} (product_id, ${table}_id, position) VALUES (?, ?, ?)`,
          id,
          this.#find('product', other, 'The product'),
          at,
        ),
      );
    }
    for (const some of inBatches(this.#removed)) forgetSearch(this.sql, some);
    if (whole || this.#whole || this.#counts) tellCounts(this.sql);
    this.sql.run('UPDATE catalogue_state SET revision = revision + 1');
    if (whole || this.#whole) this.sql.run('UPDATE catalogue_state SET whole = revision');
    if (whole) {
      tellPrices(this.sql, null);
      tellSearch(this.sql, first);
      return;
    }
    for (const some of inBatches([...this.#products])) {
      tellPrices(this.sql, some);
      this.sql.run(
        'UPDATE product SET revision = (SELECT revision FROM catalogue_state) WHERE id IN (SELECT value FROM json_each(?))',
        JSON.stringify(some),
      );
    }
    for (const some of inBatches([...this.#searched])) tellSearch(this.sql, first, some);
  }

  // What records are made of.

  /** Numbers of the records of a kind, by slug; of custom fields by subject and key. */
  #known(kind: string): Map<string, number> {
    let known = this.#ids.get(kind);
    if (!known) {
      const rows = this.sql.all<{ id: number; slug: string }>(
        kind === 'field'
          ? `SELECT id, subject || ' ' || key AS slug FROM field_definition`
          : `SELECT id, slug FROM ${kind}`,
      );
      this.#ids.set(kind, (known = new Map(rows.map(({ id, slug }) => [slug, id]))));
    }
    return known;
  }

  /** A product by itself: of a large catalogue the numbers of all are read only where many are asked for. */
  #findProduct(slug: string): number | undefined {
    if (++this.#asked > maxAsked) return this.#known('product').get(slug);
    return this.sql.get<{ id: number }>('SELECT id FROM product WHERE slug = ?', slug)?.id;
  }

  #find(kind: string, slug: string, what: string): number {
    const id = kind === 'product' && !this.#ids.has(kind) ? this.#findProduct(slug) : this.#known(kind).get(slug);
    if (id === undefined) throw new CatalogueFileError(`${what} “${slug}” is used, but the file has none of that name`);
    return id;
  }

  /** Writes a row by its slug, and removes its texts in further languages; gives its number. */
  #row(table: string, slug: string, values: Record<string, unknown>, positioned = false): number {
    this.#whole = true;
    const names = Object.keys(values);
    const known = this.#known(table).get(slug);
    if (known !== undefined) {
      this.sql.run(
        `UPDATE ${table} SET ${names.map((name) => `${name} = ?`).join(', ')} WHERE id = ?`,
        ...Object.values(values),
        known,
      );
      return known;
    }
    const { id } = this.sql.run(
      `INSERT INTO ${table} (slug, ${names.join(', ')}${positioned ? ', position' : ''})
       VALUES (?${', ?'.repeat(names.length)}${positioned ? `, (SELECT coalesce(max(position), -1) + 1 FROM ${table})` : ''})`,
      slug,
      ...Object.values(values),
    );
    this.#known(table).set(slug, id);
    return id;
  }

  /** Whether any text stands in a further language: most shops have none, and need not be asked for them row by row. */
  get #hasTexts(): boolean {
    return (this.#translated ??= this.sql.get('SELECT 1 FROM translation LIMIT 1') !== undefined);
  }

  #unsetTexts(kind: TextKind, ids: string, id: number): void {
    if (this.#hasTexts) this.sql.run(`DELETE FROM translation WHERE kind = '${kind}' AND id IN (${ids})`, id);
  }

  /** Puts a category at a place among those below the same one. */
  #placeCategory(id: number, parentId: number | null, place: number): void {
    const rows = this.sql.all<{ id: number; position: number }>(
      'SELECT id, position FROM category WHERE parent_id IS ? AND id <> ? ORDER BY position, id',
      parentId,
      id,
    );
    const own = this.sql.get<{ position: number }>('SELECT position FROM category WHERE id = ?', id)?.position ?? 0;
    const order = rows.toSpliced(place, 0, { id, position: own });
    let last = -1;
    for (const one of order) {
      // Most stand after the one before already: those alone are written that do not.
      const at = one.position > last ? one.position : last + 1;
      if (at !== one.position) this.sql.run('UPDATE category SET position = ? WHERE id = ?', at, one.id);
      last = at;
    }
  }

  /** Texts in further languages: those that stood there before are removed. `prefix`: those of custom fields, apart from its own. */
  #texts(kind: TextKind, id: number, texts: FileTexts, prefix = '', suffix = ''): void {
    if (this.#hasTexts && !suffix)
      this.sql.run(
        `DELETE FROM translation WHERE kind = ? AND id = ? AND (field LIKE 'fields.%') = ?`,
        kind,
        id,
        prefix ? 1 : 0,
      );
    for (const [locale, fields] of Object.entries(texts)) {
      for (const [field, value] of Object.entries(fields)) {
        if (!value) continue;
        this.#translated = true;
        this.sql.run(
          'INSERT INTO translation (kind, id, locale, field, value) VALUES (?, ?, ?, ?, ?)',
          kind,
          id,
          locale,
          prefix + field + suffix,
          (prefix ? this.#isRich(kind, field) : rich.has(field)) ? this.clean(value) : value,
        );
      }
    }
  }

  #fields(subject: FieldSubject, id: number, fields: Record<string, string>): void {
    this.sql.run(
      'DELETE FROM field_value WHERE subject_id = ? AND definition_id IN (SELECT id FROM field_definition WHERE subject = ?)',
      id,
      subject,
    );
    for (const [key, value] of Object.entries(fields)) {
      const definition = this.#find('field', `${subject} ${key}`, 'The custom field');
      this.sql.run(
        'INSERT INTO field_value (definition_id, subject_id, value) VALUES (?, ?, ?)',
        definition,
        id,
        this.#isRich(subject, key) ? this.clean(value) : value,
      );
    }
  }

  #media(owner: MediaOwner, id: number, media: Product['media'], values: ReadonlyMap<string, number>): void {
    media.forEach(({ kind, path, alt, width, height, poster, shows, texts }, position) => {
      const { id: mediaId } = this.sql.run(
        'INSERT INTO media (owner, owner_id, kind, path, alt, width, height, poster, position) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)',
        owner,
        id,
        kind,
        path,
        alt,
        width,
        height,
        poster,
        position,
      );
      this.#texts('media', mediaId, texts);
      for (const [option, value] of shows) {
        const valueId = values.get(`${option} ${value}`);
        if (valueId === undefined)
          throw new CatalogueFileError(
            `The option value “${option} ${value}” is used, but the file has none of that name`,
          );
        this.sql.run('INSERT INTO media_value (media_id, value_id) VALUES (?, ?)', mediaId, valueId);
      }
    });
  }

  #unsetMedia(owner: MediaOwner, id: number): void {
    if (this.#hasTexts)
      this.sql.run(
        "DELETE FROM translation WHERE kind = 'media' AND id IN (SELECT id FROM media WHERE owner = ? AND owner_id = ?)",
        owner,
        id,
      );
    this.sql.run('DELETE FROM media WHERE owner = ? AND owner_id = ?', owner, id);
  }

  #tags(id: number, { tags }: Product): void {
    tags.forEach((tag, at) =>
      this.sql.run(
        'INSERT INTO product_tag (product_id, tag_id, position) VALUES (?, ?, ?)',
        id,
        this.#find('tag', tag, 'The tag'),
        at,
      ),
    );
  }

  #categories(id: number, { categories }: Product): void {
    categories.forEach((category, at) =>
      this.sql.run(
        'INSERT INTO product_category (product_id, category_id, position) VALUES (?, ?, ?)',
        id,
        this.#find('category', category, 'The category'),
        at,
      ),
    );
  }

  #attributes(id: number, { attributes }: Product): void {
    attributes.forEach(({ name, value, visible, texts }, at) => {
      this.sql.run(
        'INSERT INTO attribute (product_id, name, value, visible, position) VALUES (?, ?, ?, ?, ?)',
        id,
        name,
        value,
        visible ? 1 : 0,
        at,
      );
      this.#texts('attribute', id, texts, '', ` ${name}`);
    });
  }

  /** Options, variants and pictures of a product that has none. */
  #choices(id: number, { options, variants, media }: Product): void {
    const values = new Map<string, number>();
    options.forEach((option, at) => {
      const { id: optionId } = this.sql.run(
        'INSERT INTO option (product_id, slug, name, position) VALUES (?, ?, ?, ?)',
        id,
        option.slug,
        option.name,
        at,
      );
      this.#texts('option', optionId, option.texts);
      option.values.forEach(({ slug, name, colour, texts }, position) => {
        const { id: valueId } = this.sql.run(
          'INSERT INTO option_value (option_id, slug, name, colour, position) VALUES (?, ?, ?, ?, ?)',
          optionId,
          slug,
          name,
          colour,
          position,
        );
        values.set(`${option.slug} ${slug}`, valueId);
        this.#texts('option_value', valueId, texts);
      });
    });
    variants.forEach((variant, at) => {
      const { id: variantId } = this.sql.run(
        'INSERT INTO variant (product_id, sku, name, price, was_price, stock, position) VALUES (?, ?, ?, ?, ?, ?, ?)',
        id,
        variant.sku,
        variant.name,
        variant.price,
        variant.wasPrice,
        variant.stock,
        at,
      );
      this.#texts('variant', variantId, variant.texts);
      for (const [option, value] of Object.entries(variant.values)) {
        const valueId = values.get(`${option} ${value}`);
        if (valueId === undefined)
          throw new CatalogueFileError(
            `The option value “${option} ${value}” is used, but the file has none of that name`,
          );
        this.sql.run('INSERT INTO variant_value (variant_id, value_id) VALUES (?, ?)', variantId, valueId);
      }
    });
    this.#media('product', id, media, values);
  }

  /** Names, prices and stock of variants that stay what they are: most files that come in have nothing else. */
  #figures(id: number, before: Product['variants'], variants: Product['variants']): void {
    variants.forEach(({ sku, name, price, wasPrice, stock }, at) => {
      const was = before[at];
      if (was?.name === name && was.price === price && was.wasPrice === wasPrice && was.stock === stock) return;
      this.sql.run(
        'UPDATE variant SET name = ?, price = ?, was_price = ?, stock = ? WHERE product_id = ? AND sku = ?',
        ...[name, price, wasPrice, stock, id, sku],
      );
    });
  }

  #unsetChoices(id: number): void {
    this.#unsetTexts(
      'option_value',
      'SELECT v.id FROM option_value v JOIN option o ON o.id = v.option_id WHERE o.product_id = ?',
      id,
    );
    this.#unsetTexts('option', 'SELECT id FROM option WHERE product_id = ?', id);
    this.#unsetTexts('variant', 'SELECT id FROM variant WHERE product_id = ?', id);
    this.#unsetMedia('product', id);
    this.sql.run('DELETE FROM variant WHERE product_id = ?', id);
    this.sql.run('DELETE FROM option WHERE product_id = ?', id);
  }

  #menuItems(menuId: number, parentId: number | null, items: MenuItemFile[]): void {
    items.forEach(({ label, target, children, texts }, position) => {
      const { id } = this.sql.run(
        'INSERT INTO menu_item (menu_id, parent_id, label, target, position) VALUES (?, ?, ?, ?, ?)',
        menuId,
        parentId,
        label,
        target,
        position,
      );
      this.#texts('menu_item', id, texts ?? {});
      this.#menuItems(menuId, id, children ?? []);
    });
  }
}
