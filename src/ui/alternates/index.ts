/** The screen Alternates, and what other screens show of alternates. */
export { AlternatesScreen } from './AlternatesScreen';
export { ConditionEditor, filledIn } from './ConditionEditor';
export { Explain } from './Explain';
export { AssignmentProblems } from './AssignmentProblems';
export { MakeAlternate } from './MakeAlternate';
export { PinHere } from './PinHere';
