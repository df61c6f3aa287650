/** One open data folder: its store, its states, and themes made from them. */
export type { MadeTheme, PageAsk, UnsavedText } from './ask';
export { backUp, pack, releaseFault, restore, revisionIn, takeFolder } from './data-folder';
export { inThread, sendFromThread, type ShopJob, shopJobs } from './jobs';
export type { MadePage, PageCounts } from './pages';
export { listName, ReleaseFolder } from './releases';
export { readSize } from './picture-size';
export { standIn } from './pictures';
export { dataFolder, DataFolderError, readFolder, restoreServed, shop, Shop, textual } from './shop';
export {
  copyState,
  draftItem,
  closeDraft,
  draftItems,
  draftNow,
  draftOf,
  beginning,
  releaseItems,
  removeDraft,
  restoreDraft,
  servedHashes,
  stateOf,
} from './states';
export type { View } from './views';
export { wordingOf } from './wording';
