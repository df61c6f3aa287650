/** SQLite by plain SQL: one file an aggregate. */
export { Accounts, type AccountRow, type LogAsk } from './accounts';
export { backUp, faultOf, restore, restoreInUse } from './backup';
export { Carts, type OrderBody, type StoredLine } from './carts';
export { StoredCatalogue } from './catalogue';
export { forgetChanges, isFew, lastTurn, noteChanges, noteNoChanges } from './changed-rows';
export { asCustomersSee } from './live-catalogue';
export { databaseFile, dataFolder, DataFolderError, isUnwritable, openForReading } from './database';
export { type Delta, deltaOf, newChain, packDelta, readDelta } from './delta-file';
export { exportCatalogue, exportOthers, exportProducts, optionSlugs } from './export';
export { type ChangedRecord, Feeds, feedTitle, type FigureRow } from './feed';
export { factTable } from './fact-tables';
export {
  attributeNames,
  attributeValues,
  catalogueState,
  changedProducts,
  changedSince,
  eachFieldValue,
  partCounts,
  productsNaming,
  fieldValues,
  hasShop,
  productIds,
  productsFound,
  productTypes,
  setRevision,
  typeOfProduct,
} from './facts';
export {
  afterChange,
  changeOfRecord,
  type GoodsChange,
  isRenamed,
  GoodsHistory,
  isUsed,
  type GoodsRecord,
  keepMapping,
  mappingOf,
  type RecordChange,
  type FileKind,
  fileKinds,
  type RecordKind,
  recordKinds,
  RecordReader,
  partSchema,
  recordSchema,
  slugOfRecord,
  wholeRecord,
  writeRecord,
} from './goods';
export { type Groups, groupsOf, namesAt } from './groups';
export { countHaving, countRecords, menusTo, type ListedKind, listedRecords } from './kinds';
export { importCatalogue } from './import';
export { hashOf, type LayerRow } from './layers';
export { type CommentRow, Comments } from './comments';
export { ClosedDrafts } from './closed-drafts';
export { type Settings, StoredSettings } from './settings';
export { openCarts, prepareNode } from './node-folder';
export { openReleaseFile, packRelease, type Packed, pictureKey, releaseFault } from './release-file';
export { Reviews } from './reviews';
export {
  copiesOf,
  getMedia,
  type ListedMedia,
  listMedia,
  type MediaFile,
  mediaCounts,
  mediaFiles,
  type MediaFilter,
  mediaPaths,
  missingMedia,
  putMedia,
  usesOfMedia,
} from './media';
export { openDatabase } from './open';
export { type OrderEvent, type OrderEventKind, OrderEvents, type Receiver } from './order-events';
export { type HoldRule, OrderHolds } from './order-holds';
export { type OrderFilter, type OrderRow, Orders, type StoredOrderBody } from './orders';
export { takeFolder } from './owner';
export { RevisionCache, sharedWorkMs } from './revision-cache';
export { longestTags, sampleOf } from './samples';
export { signingKey } from './signing-key';
export { type RowGroup, Staging } from './staging';
export { Statements } from './statements';
export {
  countOfKind,
  findSubjects,
  firstProduct,
  indexedSubjects,
  isStoredKind,
  namesOfSubjects,
  wordBeginnings,
} from './subjects';
export { productsOfTag } from './tags';
export { ChangedMeanwhile, type ChangeRow, type FileWrite, type Made, type StateRow, StoredThemes } from './themes';
export { type AskedState, type RevisedShop, type Visit, visitOf } from './visit';
export { FileWatch } from './watch';
export { openCopy, removeCopies, WorkingCopy } from './working-copy';
export { CatalogueFileError, CatalogueWriter } from './writer';
