import type { ListingIndex, Split } from './listings/listing-index';
import type { Redirects } from './renames';
import type {
  AttributeRow,
  BrandRow,
  CategoryRow,
  FacetValueRow,
  FieldDefinition,
  FieldRow,
  FieldSubject,
  MediaOwner,
  MediaRow,
  MenuItemRow,
  OptionRow,
  PageRow,
  ProductRow,
  ShopRow,
  TagRow,
  Untranslated,
  VariantRow,
} from './rows';

/** What listings ask of their index. */
export type Listings = Pick<ListingIndex, 'split' | 'list' | 'count' | 'counts'>;

/**
 * Where the catalogue comes from. Every list is asked for once for all the items it is wanted for.
 * Rows come in the order in which they are shown. Requests share them: nothing changes them.
 */
export interface CatalogueSource {
  shop(): ShopRow;
  productBySlug(slug: string): ProductRow | null;
  products(ids: readonly number[]): readonly ProductRow[];
  /** What listings are made of; kept until the catalogue changes. */
  index(split: Split | null): Listings;
  /** Names of all products, in the language of the texts. */
  names(): Iterable<[productId: number, name: string]>;
  /** Values of all options, once for each pair of slugs. */
  facetValues(): FacetValueRow[];
  /** Products whose name, summary, tags or article numbers hold every word, or its beginning; accents and capitals aside. Best first. */
  search(words: string, limit: number): number[];
  /** Language of the texts: one of the shop's. */
  readonly language: string;
  /** The same catalogue in the shop's first language: itself, when that is its own. */
  inFirst(): CatalogueSource;
  /** Texts that were asked for and are not there in that language, so far. */
  readonly untranslated: readonly Untranslated[];
  /** Says that a row of a list read whole is shown, so that what it lacks in this language is told. */
  used(kind: 'category' | 'content' | 'article' | 'menu_item' | 'brand', id: number): void;
  variants(productIds: readonly number[]): readonly VariantRow[];
  options(productIds: readonly number[]): readonly OptionRow[];
  /** A picture's file by its path; null: there is none. */
  picture(path: string): MediaRow | null;
  media(owner: MediaOwner, ownerIds: readonly number[]): readonly MediaRow[];
  tags(productIds: readonly number[]): readonly (TagRow & { productId: number })[];
  tagBySlug(slug: string): TagRow | null;
  allTags(): TagRow[];
  productCategories(productIds: readonly number[]): readonly { productId: number; categoryId: number }[];
  categories(): CategoryRow[];
  brands(): BrandRow[];
  attributes(productIds: readonly number[]): readonly AttributeRow[];
  fieldDefinitions(subject: FieldSubject): FieldDefinition[];
  fields(subject: FieldSubject, ids: readonly number[]): readonly FieldRow[];
  members(productIds: readonly number[]): readonly { productId: number; memberId: number }[];
  /** Types of products, each once. */
  productTypes(): string[];
  /** Slugs of what can be chosen of products, each once. */
  optionSlugs(): string[];
  related(productIds: readonly number[]): readonly { productId: number; relatedId: number }[];
  contentBySlug(slug: string): PageRow | null;
  contents(): PageRow[];
  articleBySlug(slug: string): PageRow | null;
  /** The newest first. */
  articles(): PageRow[];
  menu(slug: string): MenuItemRow[];
  menus(): { slug: string; name: string }[];
  /** Where addresses lead that are no page's any more: those that a page has again lead nowhere else. */
  redirects(): Redirects;
}
