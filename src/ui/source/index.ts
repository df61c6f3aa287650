/** The source editor with its language aid, merging, and differences of texts. */
export { Difference } from './Difference';
export { MergeDialog } from './MergeDialog';
export { type EditorHandle, SourceEditor } from './SourceEditor';
export { languageAid } from './aid';
export type { Found } from './language.worker';
export { type AskLanguage, useLanguage } from './useLanguage';
