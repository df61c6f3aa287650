/** What changes between two states: the lines of a page, the files of a folder, pieces and words. */
export { type ContentChange, contentChanges, isContent } from './content';
export { differingLines } from './pages';
export { syncSteps } from './sync';
