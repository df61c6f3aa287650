/** Goods: imports that are shown before they happen, exports, and what was changed. */
export { bringPictures } from './bring';
export { CatalogueScreen } from './CatalogueScreen';
export { droppedFiles } from './dropped';
export { RichText } from './record/RichText';
export { ValueEditor } from './record/ValueEditor';
