/** Shelves: where staff may put pieces, what they put there, and what of it stands on a page. */
export {
  arrangementOf,
  CannotArrange,
  duplicated,
  movedTo,
  newId,
  type Placed,
  removedFrom,
  withKeys,
  writeArrangement,
} from './arrange';
export { checkShelves } from './check';
export { boundFields, canBind } from './fields';
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
export {
  misfit,
  piecesFor,
  piecesForShelves,
  pieceLabel,
  placeableOf,
  type Shelf,
  shelvesAmong,
  shelvesIn,
  shelvesOf,
} from './fit';
export { type NotHere, notHere, placementOf, placementsOn, type ShelvesPage, textIn } from './standing';
