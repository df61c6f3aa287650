import { severalValues } from '@/core/catalogue';
import type { z } from 'zod';
import { recordEndpoints, type recordSaved, type SavedAnswer } from '@/contract/records';
import { viewOf } from '@/server/bench';
import { editInThread } from '@/server/drafts';
import { goodsWork, prepareGoodsThread } from '@/server/goods';
import { may } from '@/server/http';
import { inThread, sendFromThread } from '@/server/shop';
import {
  readRecord,
  recordJobs,
  saveRecords,
  rowsOf,
  tableColumns,
  tableNames,
  titleOfBulk,
  titleOfCells,
  type Written,
} from '@/server/records';
import { countRecords, listedRecords } from '@/store';
import { goodsLines } from './goods-lines';
import { serveAll } from './serve';
import { pageWithoutSource } from './without-source';

/** Cells that an answer lists. */
const maxListed = 200;

const now = () => new Date().toISOString();

/** Products whose cells are sent with what was written. */
const maxRows = 500;

const savedOf = (written: Written | null): SavedAnswer => ({
  rows: [],
  change: written?.id ?? null,
  count: written?.records ?? 0,
  left: (written?.left ?? []).slice(0, maxListed),
  leftCount: written?.left.length ?? 0,
});

export const recordCalls = serveAll(recordEndpoints, {
  list: ({ shop, query: { kind } }) => listedRecords(shop.sql, kind),
  counts: ({ shop }) => countRecords(shop.sql),
  misfits: ({ shop, query }) =>
    sendFromThread(shop, recordJobs.misfits, {
      ...query,
      several: query.several === 'true',
      choices: severalValues(query.choices),
    }),
  record: ({ shop, query: { kind, slug } }) => readRecord(shop, kind, slug),
  save: ({ shop, body: { changes, title, force }, by }) => {
    const { id, records } = saveRecords(shop, changes, { title, at: now(), by }, { force });
    return { change: id, records: records as z.output<typeof recordSaved>['records'] };
  },
  usedBy: ({ shop, draft, query }) => sendFromThread(shop, recordJobs.usedBy, draft, query),
  valueUses: ({ shop, draft, query }) => sendFromThread(shop, recordJobs.usesOf, draft, query),
  players: ({ shop, draft }) => [...shop.theme(draft).theme.about.players],
  follow: ({ shop, draft, body, by }) => editInThread(shop, draft, recordJobs.planFollow, body, by),
  page: async ({ shop, draft, body, who }) => {
    const view = viewOf(shop, draft, body);
    if (may(who, 'source')) return sendFromThread(shop, recordJobs.page, draft, body, view);
    const made = await inThread(shop, recordJobs.page.lane, recordJobs.page, draft, body, view);
    return { ...made, page: made.page && pageWithoutSource(made.page) };
  },
  table: ({ shop, body }) => {
    prepareGoodsThread(shop);
    return sendFromThread(shop, recordJobs.table, body);
  },
  columns: ({ shop }) => ({
    columns: tableColumns(shop),
    currency: shop.catalogue().shop().currency,
    names: tableNames(shop),
  }),
  cells: async ({ shop, body: { cells, partly, columns }, by }) => {
    const saving = { title: titleOfCells(shop, cells), at: now(), by };
    const saved = savedOf(await goodsWork(shop, { kind: 'cells', cells, partly, saving }));
    const slugs = [...new Set(cells.map(({ slug }) => slug))];
    return { ...saved, rows: columns.length && slugs.length <= maxRows ? rowsOf(shop, slugs, columns) : [] };
  },
  bulk: ({ shop, body: { slugs, search, where, ...edit }, by }) =>
    goodsLines(
      shop,
      { kind: 'bulk', edit, of: slugs ?? { search, where }, saving: { title: titleOfBulk(shop, edit), at: now(), by } },
      (made) => ({ saved: savedOf(made) }),
    ),
});
