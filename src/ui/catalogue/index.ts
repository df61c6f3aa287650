/** Goods: imports that are shown before they happen, exports, and what was changed. */
export { CatalogueScreen } from './CatalogueScreen';
export { RichText } from './record/RichText';
export { ValueEditor } from './record/ValueEditor';
