/** The catalogue as templates and rules see it: the object schema, objects over rows, the index of listings. */
export { type CartRow, type CartState, makeCart } from './cart';
export {
  type Definitions,
  factKey,
  type FactName,
  type Facts,
  type FactSpec,
  factSpecs,
  type FactType,
  type FactValue,
  fieldFact,
  specOf,
  type SubjectKind,
} from './facts';
export { grouped } from './grouped';
export { KnownFacts } from './known-facts';
export { Bits } from './listings/bits';
export { Columns, type IndexRows } from './listings/columns';
export { type Chosen, type Counts, ListingIndex, type Split } from './listings/listing-index';
export { CategoryObject, TagObject } from './objects';
export { type PicturePart, readPart, readPicture, writePicture } from './picture-part';
export {
  addressedKinds,
  type AddressedKind,
  addressOf,
  isAddressed,
  type Redirect,
  Redirects,
  redirectsRenamed,
} from './renames';
export type {
  AttributeRow,
  BrandRow,
  CartMessage,
  CategoryRow,
  FacetValueRow,
  FieldDefinition,
  FieldRow,
  FieldShape,
  FieldSubject,
  FieldType,
  ListingKind,
  ListingSort,
  MediaOwner,
  MediaRow,
  MenuItemRow,
  OptionRow,
  OptionValueRow,
  PageRow,
  ProductFilter,
  ProductRow,
  ShopRow,
  TagRow,
  Untranslated,
  VariantRow,
} from './rows';
export { objectSchema, objectTypes, pageSchema } from './schema';
export { allProducts, CatalogueFacts } from './site';
export type { CatalogueSource } from './source';
export { comesTo, productsOf, readingOf } from './reads';
export { asSubject, type RuleSubject, subjectOf } from './subject';
export { World } from './world';
export { fieldSubjects, isFieldSubject, severalValues } from './rows';
export { partOfFact, saidBy, saysOf } from './record-parts';
