/** A theme of layers: the file that serves, amendments, words, the look, shelves, updates. */
export { withPhrase, withPhrases, type WordRow, wordsOf } from './add-phrases';
export { amendmentOf, amendsOther, pathTo } from './amendment';
export { type Case, judge, runCase } from './cases';
export { checkDeclaration } from './css';
export { fileSchemas } from './data-files';
export { standingOf } from './drift';
export { fontsOf } from './fonts';
export { iconsOf } from './icons';
export { layered } from './layered';
export { comesTo, type Reads, readingOf, readsSame } from './reads';
export {
  isReadable,
  listingRows,
  type ListingKey,
  type ListingRow,
  type ListingValue,
  type LookValue,
  type Setting,
  settingsOf,
  withListing,
  withSetting,
} from './look-form';
export { type ListingLook, listingSettings, type ListingSettings, readLook, wrongListings } from './look';
export { unmarked } from './mark';
export { type Content, mergeFile } from './merge-files';
export { merged } from './merge';
export { valuesGiven } from './phrase-values';
export {
  arrangementOf,
  boundFields,
  canBind,
  CannotArrange,
  duplicated,
  givenBy,
  type InputEntry,
  mergeShelves,
  movedTo,
  namedInShelves,
  newId,
  noPlacements,
  type NotHere,
  notHere,
  type Placed,
  piecesFor,
  pieceLabel,
  placeableOf,
  placementOf,
  placementOfShelf,
  placementsOn,
  readShelves,
  shapeOf,
  type Shelf,
  shelfCalled,
  type ShelfEntry,
  shelfNames,
  type ShelvesPage,
  removedFrom,
  saidIn,
  withKeys,
  withinPlacement,
  writeArrangement,
} from './shelves';
export { type Layer, type LayerFile, type LayerKind, Theme } from './theme';
export { isAmendment, type OwnFile, placesLostSince, planUpdate, type UpdatePlan } from './update';
export { type Phrase, readWords, type Words } from './words';
