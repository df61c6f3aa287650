/** The screen Release, and pages that come out different. */
export { DifferingPages } from './DifferingPages';
export { ReleaseScreen } from './ReleaseScreen';
