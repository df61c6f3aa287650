/** What changes between two states: the lines of a page, the files of a folder. */
export { differingLines } from './pages';
export { syncSteps } from './sync';
