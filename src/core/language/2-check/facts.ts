import type { Template } from '../1-parse/nodes';
import type { ObjectTypes } from '../types/types';

/** What the checker may ask about the theme that a template stands in. */
export interface ThemeFacts {
  template(name: string): Template | null;
  templateNames(): string[];
  phrase(key: string): string | Record<string, string> | null;
  phraseKeys(): Iterable<string>;
  assetPaths(): Iterable<string>;
  /** Menus that the theme says it shows, which a shop need not have. */
  readonly menus: readonly string[];
  /** Schemes that links may have besides those that every theme may use. */
  readonly schemes: ReadonlySet<string>;
  locale: string;
  /** The objects in reach; null: any name and field may be one. */
  types: ObjectTypes | null;
  /** The shop that the theme is for; null where none is at hand. */
  site: SiteFacts | null;
}

/** What the checker may ask about a shop. */
export interface SiteFacts {
  contents: ReadonlySet<string>;
  menus: ReadonlySet<string>;
  /** The languages that the shop speaks, its first one first. */
  locales: readonly string[];
  /** Slugs and names of all tags, categories or brands, types of products, slugs of options and of their values (`colour/navy`): what `'x' in product.tags` can find. */
  named(object: Named): ReadonlySet<string> | null;
  /** Whether a path of the site (`/content/care`) leads to a page. */
  leads(path: string): boolean;
  /** On how many subjects of a kind a field is empty; null for what is not counted. */
  emptiness(object: string, path: readonly string[]): Emptiness | null;
}

/** What a shop has few enough of to be listed whole. */
export type Named = 'Tag' | 'Category' | 'Brand' | 'Type' | 'Option' | 'Value';

export interface Emptiness {
  empty: number;
  total: number;
  /** Name of one on which it is empty. */
  example: string;
}
