/** The catalogue as it is kept: rows with plain fields, texts already in the language asked for. Money in minor units, days as ISO 8601. */

export interface ShopRow {
  name: string;
  currency: string;
  /** The first language; the others stand in `locales` too. */
  locale: string;
  locales: string[];
  url: string;
  email: string;
}

export interface ProductRow {
  id: number;
  slug: string;
  type: string;
  name: string;
  summary: string;
  /** Rich text, cleaned. */
  description: string;
  brandId: number | null;
  sku: string;
  gtin: string;
  /** Lowest and highest of its variants, what it was before a sale, and all its stock. */
  price: number | null;
  priceHigh: number | null;
  wasPrice: number | null;
  stock: number;
  added: string;
  /** 1: customers see it; 0: drafts alone do. The same of categories and pages. */
  live: number;
}

export interface VariantRow {
  id: number;
  productId: number;
  sku: string;
  name: string;
  price: number;
  wasPrice: number | null;
  stock: number;
  valueIds: number[];
}

export interface OptionRow {
  id: number;
  productId: number;
  slug: string;
  name: string;
  values: OptionValueRow[];
}

export interface OptionValueRow {
  id: number;
  slug: string;
  name: string;
  /** A CSS colour, or ''. */
  colour: string;
}

export type MediaOwner = 'product' | 'category' | 'content' | 'article';

export interface MediaRow {
  id: number;
  ownerId: number;
  kind: 'image' | 'video' | 'embed';
  path: string;
  /** Hash of the picture's file; '' where there is none. */
  hash: string;
  alt: string;
  width: number | null;
  height: number | null;
  /** The same of its file, where the record does not say them. */
  fileWidth?: number | null;
  fileHeight?: number | null;
  poster: string;
  /** Option values that it shows; empty: all. */
  valueIds: number[];
}

export interface TagRow {
  id: number;
  slug: string;
  name: string;
}

export interface BrandRow {
  id: number;
  slug: string;
  name: string;
  summary: string;
}

export interface CategoryRow {
  id: number;
  parentId: number | null;
  slug: string;
  name: string;
  summary: string;
  description: string;
  /** Products in it and in those below it, each once. */
  productCount: number;
  live: number;
}

export interface AttributeRow {
  productId: number;
  name: string;
  value: string;
  visible: boolean;
}

export type FieldType = 'text' | 'html' | 'number' | 'flag' | 'day' | 'link' | 'picture';
/** What may have custom fields. */
export const fieldSubjects = ['product', 'category', 'content', 'article'] as const;
export type FieldSubject = (typeof fieldSubjects)[number];
export const isFieldSubject = (kind: string): kind is FieldSubject =>
  (fieldSubjects as readonly string[]).includes(kind);

/** What a custom field's values are: of a type, one or several, free or of these choices. */
export interface FieldShape {
  type: FieldType;
  several: boolean;
  /** None: any text will do. */
  choices: readonly string[];
}

export interface FieldDefinition extends FieldShape {
  key: string;
  name: string;
  unit: string;
  /** For who fills it in. */
  help: string;
}

/** The values of a custom field that holds several, which are kept one a line. */
export const severalValues = (stored: string): string[] =>
  stored
    .split('\n')
    .map((one) => one.trim())
    .filter(Boolean);

export interface FieldRow {
  subjectId: number;
  key: string;
  type: FieldType;
  several: boolean;
  value: string;
}

export interface PageRow {
  id: number;
  slug: string;
  title: string;
  summary: string;
  body: string;
  added: string;
  live: number;
}

export interface MenuItemRow {
  id: number;
  parentId: number | null;
  label: string;
  /** A path of this site (`/category/rope`) or a whole address. */
  target: string;
}

export type ListingKind = 'category' | 'tag' | 'brand' | 'search' | 'all' | 'offer';
/** `chosen`: by hand. `match`: of a search, best first. */
export type ListingSort = 'chosen' | 'match' | 'name' | 'price' | 'price-down' | 'newest';

export interface ProductFilter {
  categoryId?: number;
  tagId?: number;
  brandId?: number;
  type?: string;
  /** Those alone that were dearer before. */
  offer?: boolean;
}

/** A value of an option as filters show it: products of one shop that name it alike share it. */
export interface FacetValueRow {
  option: string;
  optionName: string;
  value: string;
  name: string;
  /** A CSS colour, or ''. */
  colour: string;
}

/** A text of the catalogue that is not there in the language of the page. */
export interface Untranslated {
  kind: string;
  id: number;
  field: string;
  /** The first language's, which is shown instead. */
  text: string;
}

/** What a request for the cart came to. */
export const cartMessages = [
  'added',
  'changed',
  'removed',
  'look',
  'email',
  'none-left',
  'less',
  'quantity',
  'full',
  'not-kept',
] as const;
export type CartMessage = (typeof cartMessages)[number];
