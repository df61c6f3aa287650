/**
 * The template language: a file is read to a tree (1-parse), the tree is understood and checked against its theme (2-check),
 * written as one JavaScript function (3-compile), and a page is made by running those (4-render). Values, filters and functions stand beside.
 */
export { noDirectives } from './1-parse/directives';
export { staysRaw } from './1-parse/ends';
export { type Expression, partsOf } from './1-parse/expression';
export { settle } from './1-parse/loose';
export { amendElements, ownElements, ownVoid, rawElements } from './1-parse/names';
export {
  type Attribute,
  attributesOf,
  type Directives,
  type ElementNode,
  sourceOf,
  type Placeable,
  type Take,
  type Template,
  type TemplateNode,
  type Writable,
} from './1-parse/nodes';
export { Source } from './1-parse/source';
export { maxNodes, parseTemplate } from './1-parse/template';
export { writeExpression } from './1-parse/write';
export { checkTemplate, typeOf, understand, type Understood } from './2-check/check';
export { cannotRead, drawsOf, inputType, unusedPieces } from './2-check/composition';
export type { Emptiness, Named, SiteFacts, ThemeFacts } from './2-check/facts';
export { fixOf } from './2-check/infer';
export { TypeScope } from './2-check/scope';
export {
  allExpressions,
  eachElement,
  elementAround,
  eachExpression,
  expressionsOf,
  fixedName,
  gapsOf,
} from './2-check/walk';
export { readInput } from './4-render/inputs';
export { missingInput, placedInputs } from './4-render/placed';
export type { GivenAnswer, Question } from './4-render/questions';
export { type Compiled, compileTemplate } from './4-render/compiled';
export { type Drawn, type Rendered, type RenderOptions, renderPage, type TemplateLookup } from './4-render/render';
export { printed } from './4-render/runtime';
export { markAttribute, marksOfView, type Site, type SiteKind, withoutMarks } from './3-compile/sites';
export { Trace } from './4-render/trace';
export { playerOf } from './filters/embed';
export { functionTable } from './filters/functions';
export type { PlacedInput, Placement, Player, SiteServices } from './filters/services';
export { filterTable } from './filters/table';
export { plainTile, valueTile } from './filters/tiles';
export { type Highlight, Highlighter, highlights } from './highlight';
export { jsonErrorInWords, jsonFault } from './json';
export {
  choicesAt,
  issueInWords,
  keysAt,
  type Misfit,
  misfits,
  pathInWords,
  saidOf,
  shapeProblems,
  typeAt,
} from './json-shape';
export { nearestOf, type Near } from './nearest';
export {
  type About,
  applyFix,
  type Fix,
  problem,
  type Problem,
  type ProblemCode,
  problemKinds,
  rewrite,
} from './problems';
export { filterSignatures, functionSignatures } from './types/signatures';
export {
  any,
  fits,
  flag,
  inWords,
  number,
  objectOf,
  type ObjectTypes,
  openRecord,
  readType,
  recordOf,
  text,
  type Type,
} from './types/types';
export { minorDigits } from './values/currencies';
export { formatFor } from './values/formats';
export { LocaleFormat } from './values/locale';
export { unmetered } from './values/meter';
export { plainText } from './values/plain';
export { phraseNow } from './values/renamed';
export { bareRecord, Day, Html, isEmpty, isRecord, Money, record, RecordValue, type Value } from './values/values';
