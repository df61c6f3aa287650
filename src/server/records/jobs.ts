import type { CellsAsk, TableAnswer } from '@/contract/records';
import { type Shop, shopJobs } from '@/server/shop';
import { recordPage } from './page';
import { GoodsTable } from './table';
import { misfits, planFollow, usedBy, usesOf } from './used-by';

const tables = new WeakMap<Shop, GoodsTable>();

/** Rows of the table of products; its columns are kept where it was asked for before. */
function tablePage(shop: Shop, ask: CellsAsk): TableAnswer {
  let table = tables.get(shop);
  if (!table) tables.set(shop, (table = new GoodsTable(shop)));
  return table.page(ask);
}

/** What threads do for records. */
export const recordJobs = shopJobs('records', {
  page: recordPage,
  table: tablePage,
  usedBy,
  usesOf,
  planFollow,
  misfits,
});
