/** Goods as they are kept by hand: the table of products, its cells, and records one by one. */
export { bulkEdit, type BulkEdit, type CellProblem, saveCells, type Written, type WrittenCell } from './cells';
export { namesNow, redirectChanges, type Renamed } from './renames';
export { saveRecords, writeWanted, type Saved } from './save';
export type { WantedChange } from './wanted';
export { tableColumns, tableNames, titleOfBulk, titleOfCells } from './columns';
export { GoodsTable, rowsOf } from './table';
export { type Saving } from './write';
export { recordJobs } from './jobs';
export { readRecord } from './record';
export { lettingGo } from './let-go';
