/** The screen of phrases: all of them in all languages, and tables for translators. */
export { PhraseDialog } from './PhraseDialog';
export { PhrasesScreen } from './PhrasesScreen';
