/** The screen Theme, and the history of a file. */
export { FileHistory } from './FilePanel';
export { ThemePlace } from './ThemePlace';
export { filterOf, firstSight, type Filter, type FirstSight } from './firstSight';
