/** Goods on their way in and out: columns of a table and what they mean, values as people write them, records and how two differ. */
export {
  guessColumns,
  readTarget,
  sameHeadings,
  targetGroups,
  type Column,
  type ColumnContext,
  type Target,
  writeTarget,
} from './columns';
export { decimalMarkOf, readDay, readFlag, readList, readNumber, readPrice, type DecimalMark } from './values';
export { delimiterOf, encodingOf, type Encoding } from './table-file';
export { differences, sameValue, type FieldChange } from './differences';
export {
  productOf,
  slugOfProduct,
  type GoodsIssue,
  type ProductGoods,
  type RowContext,
  type TableRow,
} from './product-rows';
export { productRows, tableHeadings, type TableNeeds, tableTargets } from './product-table';
export { folderAround, mayBePicture, picturePath, picturesIn } from './picture-path';
export { linkedDocument, linkedProduct, type LinkedShop } from './linked-product';
export {
  linkedBase,
  rowsOfLinked,
  type LinkedContext,
  type LinkedNode,
  type LinkedRow,
  type PlacedNode,
} from './linked-rows';
export { slugOf } from './slug';
export { freeSlug, mergeProduct, type Named, type WholeProduct } from './merge-product';
export { cellOf, writeCell, type Cell, type CellChange, type CellContext, type NamedKind } from './cell';
export { mergeFields, mergeValue, valueChanges, type Overlap, type ValueChange } from './merge-record';
export {
  missingCombinations,
  variantsWith,
  withOption,
  withoutOption,
  withoutValue,
  withValue,
  withVariants,
} from './options';
export { pathInWords } from './path-in-words';
export { mediaMoved, mediaOfValue, mediaShows, withMedia, type Shown } from './value-media';
export { readFieldValue } from './field-value';
