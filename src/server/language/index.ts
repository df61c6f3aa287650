/** The language from outside: case files, and the docs that are made from its tables. */
export { runCaseFiles } from './cases';
