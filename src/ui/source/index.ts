/** The source editor with its language aid, merging, and differences of texts. */
export { Difference } from './Difference';
export { MergeDialog } from './MergeDialog';
export { type EditorHandle, SourceEditor } from './SourceEditor';
export { languageAid } from './aid';
export { type AskLanguage, LanguageClient, type LanguagePort, startLanguage } from './language-client';
export { openDoor } from './language-door';
export { type Found, LanguageService } from './language-service';
