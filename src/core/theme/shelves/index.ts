/** Shelves: where staff may put pieces, what they put there, and what of it stands on a page. */
export {
  arrangementOf,
  CannotArrange,
  duplicated,
  movedTo,
  newId,
  type Placed,
  removedFrom,
  withinPlacement,
  withKeys,
  writeArrangement,
} from './arrange';
export { checkShelves } from './check';
export { boundFields, canBind, givenBy } from './fields';
export { checkShelfElements } from './elements';
export {
  type InputEntry,
  namedInShelves,
  readShelves,
  type ShelfEntry,
  shelvesFile,
  shelvesFollowed,
  type WrittenEntry,
} from './file';
export { mergeShelves, noPlacements } from './merge';
export {
  misfit,
  piecesFor,
  piecesForShelves,
  pieceLabel,
  saidIn,
  placeableOf,
  placementOfShelf,
  type Shelf,
  shelfCalled,
  shelfNames,
  shelfWithin,
  shelvesAmong,
  shelvesIn,
  shelvesOf,
} from './fit';
export { shapeOf } from './shape';
export { type NotHere, notHere, placementOf, placementsOn, type ShelvesPage, textIn } from './standing';
