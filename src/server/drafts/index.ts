/** Drafts: their files, history, layers, updates, publishing, and how themes travel. */
export { contentOfDraft, publishContent } from './content';
export { differingPages } from './differing';
export { applied, type Edit } from './edits';
export { dropFiles, putTheme, takeTheme } from './exchange';
export { dropFile, layerItem, saveFiles, writeText } from './files';
export { changeOf, historyOf, historyOfFile, restoreFile, undoChange } from './history';
export { bringInThread, editInThread, updateInThread } from './in-thread';
export { draftJobs } from './jobs';
export { bytesBy, contentBy, settle } from './layers';
export { Link, put } from './link';
export { publish, putBack } from './release';
export { renameWrites } from './rename';
export { bounds, readZip, type ThemeFiles, themeOf, writeZip } from './travel';
export { addVersion, updatedTheme, versionItems } from './updates';
