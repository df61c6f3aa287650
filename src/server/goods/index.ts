/** Goods on their way in and out: files that are looked at, imported and undone, and exports. */
export { importCommand, importGiven, type ImportGiven, listCommand, readColumns, undoCommand } from './command';
export { doGoodsWork, goodsWork } from './work';
export type { GoodsSaid, GoodsTask, GoodsWork, MadeOf } from './task';
export { prepareGoodsThread } from './thread';
export { applyImport, type Made, type Making } from './apply';
export { undoChange, type Overlapping } from './undo';
export { type ImportAsk, lookAt, planImport, type TableLook } from './plan';
export { fieldsInWords } from './in-words';
export { askOf, issuesTable, lookAtUpload, stagingOf, takeUpload, type Upload, uploadOf } from './uploads';
export { type ExportFormat, exportParts, exportTo } from './export';
export { retireTag } from './retire-tag';
