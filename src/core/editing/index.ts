/** What an editor asks of the language: suggestions, hover, rename, format, the smallest change. */
export { changeFor, NoChange } from './change';
export { complete, type Suggestion, type Suggestions, takesSuggestions } from './complete';
export { formatTemplate } from './format';
export { handDown } from './hand-down';
export { type Hover, hoverAt } from './hover';
export { completeJson, hoverJson } from './json';
export { type RenamedFile, renamedFiles } from './rename';
export {
  definitionOf,
  type FileEdits,
  lineAt,
  renaming,
  type Thing,
  thingAt,
  thingWords,
  type Use,
  usesIn,
  usesOf,
  withEdits,
} from './things';
export { namedThings, type NamedThing, renamedUses, type ValueUse, valueUses } from './value-uses';
export { fieldUses, type FieldUse } from './field-uses';
export { writeAt } from './write';
