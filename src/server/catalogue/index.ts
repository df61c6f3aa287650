/** The catalogue: files that bring it in and take it out, and its subjects by name. */
export {
  CatalogueFileError,
  openCatalogueFile,
  replaceCatalogue,
  retireTag,
  writeCatalogueFile,
} from './catalogue-file';
export { cleanRichText } from './clean';
export { findSubjects } from './subjects';
