/** What a page was made from, read from its trace: places, reasons, reach, styles, awkward pages. */
export { type Anchor, anchorOf, type AnchorText, findAnchor, type Found } from './anchor';
export { outcomeInWords } from './awkward-words';
export { type Survey, surveyLookup, Surveyor } from './awkward';
export { type Level, levelsOf } from './levels';
export { markOfComment, type CommentedOn } from './commented';
export { type Place, placeTable, type PlaceTable } from './places';
export { type Reach, reachOf } from './reach';
export type { RecordPlace } from './record-place';
export { inProse } from './shown';
export {
  readRules,
  selectorsFor,
  type Shaping,
  shapingOf,
  type Sheet,
  type SheetChange,
  withRule,
  withValue,
} from './styles';
export {
  countOf,
  drawsBetween,
  marksOf,
  placeOfMark,
  readMark,
  renderedIn,
  type Spot,
  spotsAt,
  type Step,
  templatesTo,
  trailOf,
} from './trail';
export { type Arranged, arrangedAt, marksOfPlacement, marksOfShelf } from './on-shelf';
export { type Counted, type LineFacts, linesOf, type Outcome, type Reason, sentenceOf } from './why';
