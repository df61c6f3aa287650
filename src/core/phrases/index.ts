/** Phrases of a theme in all languages: the table of them, what is wrong with a text, edits, and the sheet for translators. */
export { formsMissing, isSame, placesOf, textProblem, textsOf } from './check';
export { type Forms, formsOf, inOrder } from './forms';
export { fromSheet, type Sheet, type SheetChange, type SheetPlan, type SheetProblem, toSheet } from './sheet';
export { type PhraseRow, phraseTable, type PhraseText } from './table';
export { phrasePlaces, phraseUses } from './uses';
export { type PhraseEdit, type PhrasePlan, planPhrases } from './write';
