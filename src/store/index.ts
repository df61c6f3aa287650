/** SQLite by plain SQL: one file an aggregate. */
export { backUp, faultOf, restore } from './backup';
export { Carts, type StoredLine } from './carts';
export { StoredCatalogue } from './catalogue';
export { databaseFile, dataFolder, DataFolderError, isUnwritable, openForReading } from './database';
export { exportCatalogue } from './export';
export { factTable } from './fact-tables';
export {
  attributeNames,
  attributeValues,
  catalogueState,
  changedProducts,
  fieldValues,
  hasShop,
  productTypes,
  typeOfProduct,
} from './facts';
export { type Groups, groupsOf, namesAt } from './groups';
export { CatalogueFileError, importCatalogue, removeCatalogue } from './import';
export { hashOf, type LayerRow } from './layers';
export { allMedia, getMedia, putMedia } from './media';
export { openDatabase } from './open';
export { takeFolder } from './owner';
export { RevisionCache } from './revision-cache';
export { longestTags, sampleOf } from './samples';
export { signingKey } from './signing-key';
export { Statements } from './statements';
export { countOfKind, findSubjects, indexedSubjects, isStoredKind, namesOfSubjects } from './subjects';
export { retireTag } from './tags';
export { ChangedMeanwhile, type ChangeRow, type FileWrite, type Made, type StateRow, StoredThemes } from './themes';
export { type AskedState, type RevisedShop, visitOf } from './visit';
export { FileWatch } from './watch';
