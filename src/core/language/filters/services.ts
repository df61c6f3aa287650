import type { Html, Value } from '../values/values';

/** An input of a piece that was placed: fixed, bound to a field of the page's subject (`product.summary`), or a phrase. */
export type PlacedInput =
  { value: string | number | boolean | readonly string[] } | { field: string } | { phrase: string };

/** A piece that staff placed on a shelf. */
export interface Placement {
  /** By which its own shelves are told from those of others; null: it has none. */
  id: string | null;
  piece: string;
  inputs: Readonly<Record<string, PlacedInput>>;
}

/** How a film's shared link becomes its player's address: `{id}` stands for what both have in common. */
export interface Player {
  share: string;
  player: string;
}

/** What functions may ask of the site around a page. Whatever is left out gives none. */
export interface SiteServices {
  /** A phrase's text or plural forms, by its key. */
  phrase(key: string): string | Record<string, string> | null;
  asset?(path: string): string | null;
  icon?(name: string): Html | null;
  content?(slug: string): Value;
  product?(slug: string): Value;
  category?(slug: string): Value;
  article?(slug: string): Value;
  tag?(slug: string): Value;
  brand?(slug: string): Value;
  menu?(slug: string): Value;
  products?(query: ProductQuery): Value;
  /** The categories that a visitor begins with, in their order. */
  categories?(): Value;
  /** Articles, the newest first. */
  articles?(limit: number): Value;
  /** Scheme and host before addresses of this site, for what is read away from it; '' when it is not known. */
  origin?: string;
  /** The address of a path of this site (`/listing/all`), in the language and state that the page is shown in. */
  address?(path: string): string;
  /** Rich text that staff wrote, with nothing in it that runs; left out: as it is written. */
  rich?(markup: string): string;
  /** A picture of the shop by its path. */
  picture?(path: string): Value;
  /** The address of a picture in a size, as the site takes it: signed, for one. */
  sized?(address: string): string;
  /** What stands on a shelf of this page, in order. A shelf of a placement is called after both: `columns-2/left`. */
  placements?(shelf: string): Placement[];
  /** The template that is drawn in the place of a piece, by what it is given. */
  alternate?(piece: string, inputs: Readonly<Record<string, Value>>): string;
  /** Players of films, from the theme's about.json. */
  players?: readonly Player[];
  /** Whether a piece may be asked for by an address of its own. */
  served?(piece: string): boolean;
}

export interface ProductQuery {
  category?: string;
  tag?: string;
  type?: string;
  sort?: string;
  limit?: number;
  /** Words that they must hold. */
  search?: string;
}
