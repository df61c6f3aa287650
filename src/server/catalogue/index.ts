/** The catalogue: its import and export as files, and its subjects by name. */
export { CatalogueFileError, openCatalogueFile, readCatalogueFile } from './catalogue-file';
export { cleanRichText } from './clean';
export { findSubjects } from './subjects';
