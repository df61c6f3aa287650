import { existsSync, rmSync } from 'node:fs';
import { goodsEndpoints, type DryRunStep, type GoodsEffects } from '@/contract/goods';
import {
  askOf,
  exportParts,
  fieldsInWords,
  goodsWork,
  issuesTable,
  lookAtUpload,
  stagingOf,
  takeUpload,
  uploadOf,
} from '@/server/goods';
import { GoodsHistory } from '@/store';
import { goodsLines } from './goods-lines';
import { lines } from './lines';
import { serveAll } from './serve';

/** Issues that a dry run sends with its result; the file of all of them can be had. */
const maxIssues = 200;
/** Changes of a page of the list. */
const pageSize = 50;

const now = () => new Date().toISOString();

/** Media types of what goes out (RFC 4180, RFC 8259, JSON-LD 1.1). */
const types = { csv: 'text/csv; charset=utf-8', json: 'application/json', jsonld: 'application/ld+json' };

const file = (body: BodyInit, type: string, name: string) =>
  new Response(body, {
    headers: {
      'Content-Type': type,
      'Content-Disposition': `attachment; filename="${name}"`,
      'Cache-Control': 'no-store',
    },
  });

export const goodsCalls = serveAll(goodsEndpoints, {
  upload: async ({ shop, request, query: { name } }) => lookAtUpload(shop, await takeUpload(shop, name, request)),
  look: ({ shop, upload, query }) => lookAtUpload(shop, uploadOf(shop, upload), query),
  dryRun: ({ shop, upload, body }) => {
    const found = uploadOf(shop, upload);
    if (existsSync(found.staging)) rmSync(found.staging);
    return lines(async (line, signal) => {
      let done = 0;
      const ask = askOf(found, body, now().slice(0, 10));
      const heard = (count: number) => line({ done: (done = count) });
      await goodsWork(shop, { kind: 'plan', staging: found.staging, ask }, heard, signal);
      await goodsWork(shop, { kind: 'rehearse', staging: found.staging }, () => {}, signal);
      const staging = stagingOf(found);
      try {
        const result: DryRunStep['result'] = {
          counts: staging.counts(),
          errors: staging.issueCount('error'),
          warnings: staging.issueCount('warning'),
          issues: staging.issues(0, maxIssues),
          effects: staging.noted<GoodsEffects>('effects'),
        };
        line({ done, result });
      } finally {
        staging.close();
      }
    });
  },
  changes: ({ shop, upload, query: { what, from } }) => {
    const staging = stagingOf(uploadOf(shop, upload));
    try {
      return staging
        .page(what, from, pageSize)
        .map((change) => ({ ...fieldsInWords(change, shop.catalogue().shop().currency) }));
    } finally {
      staging.close();
    }
  },
  issues: ({ shop, upload }) => {
    const found = uploadOf(shop, upload);
    return file(
      issuesTable(found),
      'text/csv; charset=utf-8',
      `${found.name.replace(/\.\w+$/, '').replace(/[^\w.-]+/g, '-')}-issues.csv`,
    );
  },
  import: ({ shop, upload, by }) => {
    const found = uploadOf(shop, upload);
    stagingOf(found).close();
    const making = { title: `Import of ${found.name}`, at: now(), by };
    return goodsLines(shop, { kind: 'apply', staging: found.staging, making }, (made) => {
      rmSync(found.folder, { recursive: true, force: true });
      return { made };
    });
  },
  history: ({ shop }) =>
    new GoodsHistory(shop.sql).list().map(({ at, by, ...change }) => ({ ...change, madeAt: at, madeBy: by })),
  changed: ({ shop, change, query: { from } }) =>
    new GoodsHistory(shop.sql)
      .records(change, from, pageSize)
      .map((one) => fieldsInWords(one, shop.catalogue().shop().currency)),
  undo: ({ shop, change, by, query: { overlapping } }) =>
    goodsLines(shop, { kind: 'undo', change, making: { at: now(), by }, overlapping }, (made) => ({ made })),
  export: ({ shop, query: { format } }) => {
    const parts = exportParts(shop, format);
    const write = new TextEncoder();
    const body = new ReadableStream<Uint8Array>({
      async pull(controller) {
        const next = parts.next();
        if (next.done) return controller.close();
        controller.enqueue(write.encode(next.value));
        // Pages are served between two batches.
        await new Promise((resolve) => setImmediate(resolve));
      },
    });
    return file(body, types[format], `goods.${format}`);
  },
});
