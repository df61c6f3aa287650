import { slugOf } from './slug';
import { isGtin } from './values';

/**
 * What a column holds, as our own files head it: `name`, `name@fr`, `price`, `option:colour`, `field:lead_time`,
 * `attribute:Height`.
 */
export interface Target {
  part: string;
  /** Of an option, a custom field or an attribute: its name. */
  name: string | null;
  /** A further language of the shop that the text is in. */
  locale: string | null;
}

/** A column of a file that comes in: its heading, and what it is taken for (null: it is left out). */
export interface Column {
  heading: string;
  target: string | null;
  /** How that was found: the file's own heading is one of ours, a word for it, the values, or nothing. */
  by: 'heading' | 'word' | 'values' | 'nothing';
}

/** What there is in the shop that columns may be named after. */
export interface ColumnContext {
  locales: readonly string[];
  /** Slugs and names of options. */
  options: readonly { slug: string; name: string }[];
  /** Custom fields of products. */
  fields: readonly { key: string; name: string }[];
  /** Names of attributes. */
  attributes: readonly string[];
}

/** What a column may be, in groups as lists show them: names in our own files, and what people call them. */
export const targetGroups: { label: string; targets: { target: string; label: string }[] }[] = [
  {
    label: 'Product',
    targets: [
      { target: 'product', label: 'Product: its name in addresses, the same in each row of one product' },
      { target: 'name', label: 'Name' },
      { target: 'type', label: 'Type' },
      { target: 'summary', label: 'Summary' },
      { target: 'description', label: 'Description' },
      { target: 'brand', label: 'Brand' },
      { target: 'categories', label: 'Categories: paths as in Kitchen > Bowls' },
      { target: 'tags', label: 'Tags' },
      { target: 'pictures', label: 'Pictures: paths' },
      { target: 'added', label: 'Day it was added' },
      { target: 'live', label: 'Live: whether customers see it, yes or no' },
      { target: 'gtin', label: 'GTIN' },
      { target: 'product_sku', label: 'Article number of the product' },
      { target: 'related', label: 'Related products' },
      { target: 'members', label: 'Products of the set' },
    ],
  },
  {
    label: 'Variant',
    targets: [
      { target: 'sku', label: 'Article number' },
      { target: 'price', label: 'Price' },
      { target: 'was_price', label: 'Price before' },
      { target: 'stock', label: 'Stock' },
      { target: 'variant', label: 'Name of the variant' },
    ],
  },
];

const plain = new Set(targetGroups.flatMap(({ targets }) => targets.map(({ target }) => target)));
const inLanguages = new Set(['name', 'summary', 'description', 'variant']);

/** Reads what a column is, as our own files head it; null for anything else. */
export function readTarget(text: string): Target | null {
  const [, part = '', name = null, locale = null] = /^(\w+)(?::([^@]+))?(?:@([\w-]+))?$/.exec(text.trim()) ?? [];
  if (name === null) {
    if (!plain.has(part) || (locale !== null && !inLanguages.has(part))) return null;
    return { part, name, locale };
  }
  if (part === 'option' && locale === null) return { part, name: name.trim(), locale };
  if (part === 'attribute') return { part, name: name.trim(), locale };
  if (part === 'field' && /^[a-z_][a-z0-9_]*$/.test(name)) return { part, name, locale };
  return null;
}

export const writeTarget = ({ part, name, locale }: Target): string =>
  part + (name === null ? '' : `:${name}`) + (locale === null ? '' : `@${locale}`);

/** Words that files of other shops head columns with, in the languages of Europe's trade. */
const words: Record<string, string> = {
  product:
    'product id, product slug, slug, group, group id, item group, item group id, product group, parent, parent sku, parent id, style, style number, model, url key, produkt, produkt id, artikelgruppe, gruppe, modell, hauptartikel, produit, modele, groupe, producto, modelo, grupo, prodotto, modello, gruppo, artikelgroep, produto, produkt nr',
  name: 'title, product name, item name, product title, bezeichnung, artikelbezeichnung, produktname, artikelname, titel, nom, titre, nom du produit, designation, libelle, nombre, titulo, nome, titolo, naam, productnaam, nazwa, namn, navn, nimi',
  type: 'product type, kind, produkttyp, produktart, artikelart, typ, art, type de produit, tipo, tipo de producto, tipo prodotto, soort, producttype',
  summary:
    'short description, teaser, subtitle, kurzbeschreibung, kurztext, untertitel, resume, description courte, accroche, resumen, descripcion corta, descrizione breve, sommario, korte omschrijving',
  description:
    'long description, body, details, text, product description, beschreibung, langtext, artikeltext, produktbeschreibung, langbeschreibung, description longue, descriptif, descripcion, descrizione, omschrijving, descricao, opis, beskrivning, beskrivelse',
  brand:
    'manufacturer, maker, vendor, make, label, marke, hersteller, marque, fabricant, marca, fabricante, produttore, merk, fabrikant, producent, varumarke, maerke',
  categories:
    'category, category path, department, section, breadcrumb, kategorie, kategorien, warengruppe, rubrik, categorie, rayon, categoria, categorias, categorie prodotto, kategoria, kategori',
  tags: 'tag, keywords, labels, schlagworte, schlagwort, stichworte, mots cles, etiquettes, etiquetas, palabras clave, etichette, trefwoorden, slowa kluczowe',
  pictures:
    'picture, image, images, image url, image link, photo, photos, main image, bild, bilder, foto, fotos, bilddatei, bildname, visuel, imagen, imagenes, immagine, immagini, afbeelding, afbeeldingen, imagem, zdjecie, bilder fil',
  added:
    'created, date added, created at, available from, date, release date, angelegt, angelegt am, datum, erstellt, erstellt am, hinzugefugt am, date d ajout, ajoute le, cree le, fecha, fecha de alta, data, aangemaakt',
  live: 'visible, published, active, enabled, online, aktiv, sichtbar, veroffentlicht, visible en ligne, publie, actif, publicado, activo, pubblicato, attivo, zichtbaar, actief',
  gtin: 'ean, ean13, ean code, barcode, upc, isbn, gtin13, gtin14, strichcode, code barre, code barres, codigo de barras, codice a barre, streepjescode',
  product_sku: 'product number, base sku, hauptartikelnummer',
  related:
    'related products, see also, cross sell, zubehor, passend dazu, ahnliche artikel, produits lies, produits associes, relacionados, correlati, gerelateerd',
  members: 'set, bundle, contains, consists of, set inhalt, bestandteile, contenu du lot',
  sku: 'article number, article no, item number, item no, part number, code, stock code, variant sku, artikelnummer, artikelnr, artikel nr, art nr, bestellnummer, artnr, reference, ref, code article, referencia, codigo, codice, codice articolo, riferimento, artikelcode, referencia producto, nr artykulu, artikelnummer variant, id, item id, item code',
  price:
    'sale price, retail price, unit price, rrp, price eur, price gbp, net price, gross price, preis, verkaufspreis, vk, vk preis, brutto, bruttopreis, ladenpreis, prix, prix ttc, prix de vente, tarif, precio, pvp, prezzo, prijs, preco, cena, pris, hinta',
  was_price:
    'was price, price before, old price, compare price, list price, original price, strike price, uvp, streichpreis, alter preis, statt preis, listenpreis, prix barre, ancien prix, prix avant, precio anterior, prezzo precedente, prezzo di listino, oude prijs, adviesprijs',
  stock:
    'quantity, qty, in stock, inventory, on hand, available, stock level, units, bestand, lagerbestand, lager, menge, anzahl, verfugbar, stueck, stock disponible, quantite, en stock, existencias, cantidad, giacenza, quantita, disponibilita, voorraad, aantal, estoque, quantidade, stan, lagersaldo, ilosc',
  variant:
    'variant name, variant title, variante, variantenname, ausfuhrung, nom de la variante, declinaison, nombre de la variante',
};

/** Words for what products are chosen by: such columns are options where their values differ within a product. */
const optionWords: Record<string, string> = {
  colour: 'color, farbe, couleur, color, colore, kleur, cor, kolor, farg, farve, vari',
  size: 'sizes, groesse, grosse, taille, talla, taglia, maat, tamanho, rozmiar, storlek, storrelse',
  material: 'werkstoff, matiere, materiau, materiale, materiaal',
};

/** A heading as words alone: without accents, capitals and signs. */
const bare = (heading: string): string =>
  heading
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replaceAll('ß', 'ss')
    .replaceAll(/[æ]/g, 'ae')
    .replace(/\b[lL]['’]/g, '')
    .replace(/\([^)]*\)/g, ' ')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

const byWord = new Map<string, string>();
for (const [target, list] of Object.entries(words))
  for (const word of [target.replace('_', ' '), ...list.split(', ')]) if (!byWord.has(word)) byWord.set(word, target);
const optionByWord = new Map<string, string>();
for (const [slug, list] of Object.entries(optionWords))
  for (const word of [slug, ...list.split(', ')]) optionByWord.set(word, slug);

/** What a heading says the column is, whatever the values are; null when it says nothing that is known. */
function byHeading(heading: string, context: ColumnContext): Pick<Column, 'target' | 'by'> | null {
  const own = readTarget(heading);
  if (own && (own.locale === null || context.locales.includes(own.locale)))
    return { target: writeTarget(own), by: 'heading' };
  const text = bare(heading);
  const field = context.fields.find(({ key, name }) => bare(name) === text || bare(key) === text);
  if (field) return { target: `field:${field.key}`, by: 'word' };
  const option = context.options.find(({ slug, name }) => bare(name) === text || bare(slug) === text);
  if (option) return { target: `option:${option.slug}`, by: 'word' };
  const attribute = context.attributes.find((name) => bare(name) === text);
  if (attribute !== undefined) return { target: `attribute:${attribute}`, by: 'word' };
  // `Name (FR)`, `name_fr`, `Name français` stand for a text in a further language.
  for (const locale of context.locales.slice(1)) {
    const language = locale.split('-')[0] as string;
    const tail = new RegExp(`(?:^|[\\s_(\\[-])(?:${locale}|${language})[)\\]]?$`, 'i');
    if (!tail.test(heading)) continue;
    const rest = byWord.get(bare(heading.replace(tail, '')));
    if (rest !== undefined && inLanguages.has(rest)) return { target: `${rest}@${locale}`, by: 'word' };
  }
  const word = byWord.get(text);
  if (word !== undefined) return { target: word, by: 'word' };
  const made = optionByWord.get(text);
  if (made !== undefined) return { target: `option:${made}`, by: 'word' };
  return null;
}

/** What the values of a column say it is: GTINs, money with its sign, paths of pictures; else nothing. */
function byValues(values: readonly string[]): string | null {
  const filled = values.map((value) => value.trim()).filter(Boolean);
  if (filled.length < 2) return null;
  const most = (test: (value: string) => boolean) => filled.filter(test).length >= 0.8 * filled.length;
  if (most(isGtin)) return 'gtin';
  if (most((value) => /\p{Sc}/u.test(value) && /\d/.test(value))) return 'price';
  if (most((value) => /\.(?:jpe?g|png|webp|svg|gif|avif)$/i.test(value))) return 'pictures';
  return null;
}

/**
 * Guesses what the columns of a file are, by their headings and then by the first rows' values. What two columns claim goes to the
 * one whose heading says it more surely; what is not recognised, but has a heading, becomes an attribute of that name.
 */
export function guessColumns(
  headings: readonly string[],
  sample: readonly (readonly string[])[],
  context: ColumnContext,
): Column[] {
  const columns = headings.map((heading): Column => ({
    heading,
    ...(byHeading(heading, context) ?? { target: null, by: 'nothing' }),
  }));
  const taken = new Set<string>();
  const order: Column['by'][] = ['heading', 'word'];
  for (const by of order)
    for (const column of columns) {
      if (column.by !== by || column.target === null) continue;
      if (taken.has(column.target)) Object.assign(column, { target: null, by: 'nothing' });
      else taken.add(column.target);
    }
  columns.forEach((column, at) => {
    if (column.target !== null) return;
    const found = byValues(sample.map((row) => row[at] ?? ''));
    if (found === null || taken.has(found)) return;
    taken.add(found);
    Object.assign(column, { target: found, by: 'values' });
  });
  const grouping = taken.has('product') ? -1 : groupingColumn(columns, sample);
  const groups = columns[grouping];
  if (groups) Object.assign(groups, { target: 'product', by: 'values' });
  for (const column of columns) {
    const name = column.heading.trim().replace(/[:@]/g, ' ');
    if (column.target !== null || !name || !slugOf(name) || taken.has(`attribute:${name}`)) continue;
    taken.add(`attribute:${name}`);
    Object.assign(column, { target: `attribute:${name}` });
  }
  return columns;
}

/**
 * The column that says which rows are of one product, by the rows themselves: where a row leaves the name out, it is as in the row
 * before; where one has a name, it is another. -1: none is like that.
 */
function groupingColumn(columns: readonly Column[], sample: readonly (readonly string[])[]): number {
  const name = columns.findIndex(({ target }) => target === 'name');
  const nameless = sample.filter((row) => !row[name]?.trim()).length;
  if (name < 0 || nameless === 0) return -1;
  return columns.findIndex(
    ({ target }, at) =>
      target === null &&
      sample.every((row, place) => {
        const [value, before] = [row[at]?.trim() ?? '', sample[place - 1]?.[at]?.trim()];
        return value !== '' && (value === before) === !row[name]?.trim();
      }),
  );
}

/** The key under which a mapping is kept: files with the same headings, in whatever order, are mapped in the same way. */
export const sameHeadings = (headings: readonly string[]): string =>
  [...headings]
    .map((one) => one.trim())
    .sort()
    .join('\n');
