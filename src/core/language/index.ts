/**
 * The template language: a file is read to a tree (1-parse), the tree is checked against its theme (2-check), and
 * compiled to one JavaScript function that prints (3-compile). Values, filters and functions stand beside.
 */
export { parseTemplate } from './1-parse/template';
export type { ElementNode, Take, Template, TemplateNode } from './1-parse/nodes';
export { checkTemplate, typeOf, understand, type Understood } from './2-check/check';
export type { TypeScope } from './2-check/scope';
export { drawsOf, unusedPieces } from './2-check/composition';
export type { Emptiness, SiteFacts, ThemeFacts } from './2-check/facts';
export { compileTemplate, formatFor, renderPage } from './3-compile/render';
export type { Compiled, Drawn, Rendered, RenderOptions, TemplateLookup } from './3-compile/render';
export { markAttribute, marksOfView, withoutMarks, type Site } from './3-compile/sites';
export type { Trace } from './3-compile/trace';
export type { GivenAnswer, Question } from './3-compile/questions';
export type { Placement, Player, ProductQuery, SiteServices } from './filters/services';
export { applyFix, problem, problemKinds, type Fix, type Problem, type ProblemCode, type Severity } from './problems';
export {
  bareRecord,
  Day,
  Html,
  isEmpty,
  isRecord,
  keyOf,
  Money,
  record,
  RecordValue,
  type Value,
} from './values/values';
export { plainText } from './values/plain';
