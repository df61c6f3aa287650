/** Alternates: what `alternates.json` holds, which template serves a subject and why, who gets what. */
export { followed, type SlugNow } from './follow';
export {
  alternateEntry,
  alternatesFile,
  type Alternates,
  assignedTo,
  checkAlternates,
  pieceName,
  readAlternates,
  type ReadAlternates,
  saidWrong,
  sameTarget,
  type Target,
  targetKey,
  templateOf,
  writeAlternates,
} from './alternates';
export { type Choice, chooser, type Chooser, holds, wrongRule } from './choose';
export {
  condition,
  type Condition,
  fold,
  type GroupName,
  groupOf,
  type Leaf,
  leavesOf,
  type Test,
  testsOf,
  wrongLeaf,
} from './condition';
export { type Cell, type CoverNode, coverTree, wayTo } from './cover-tree';
export { cover, Coverage, type CoverAsk, switches } from './coverage';
export { differencesOf } from './differences';
export {
  alternatesEdit,
  type AlternatesEdit,
  edited,
  EditRefused,
  followedIn,
  registered,
  renamed,
  retired,
} from './edit';
export { explain, type Outcome, type Step } from './explain';
export { pieceChooser, pieceTried, subjectInput } from './pieces';
export { problemsOf } from './problems';
export { signOf } from './signs';
export { type Column, FactTable, Matcher } from './table';
export { inSeason, type Season } from './season';
export { sayCondition, sayDays, sayLeaf, sayValue, type Wording } from './words';
