import { layerEndpoints } from '@/contract/layers';
import { addVersion, bounds, draftJobs, readZip, settle, themeOf, updateInThread, versionItems } from '@/server/drafts';
import { bytesOf } from '@/server/http';
import { sendFromThread } from '@/server/shop';
import { streamWork } from '@/server/threads';
import { serveAll } from './serve';

export const layerCalls = serveAll(layerEndpoints, {
  all: ({ shop, draft }) => sendFromThread(shop, draftJobs.layers, draft),
  look: ({ shop, draft }) => sendFromThread(shop, draftJobs.look, draft),
  drift: ({ shop, draft, query }) => sendFromThread(shop, draftJobs.drift, draft, query.path),
  settle: ({ shop, draft, body, by }) => {
    settle(shop, draft, body, by);
    return {};
  },
  planUpdate: ({ shop, draft, query }) => sendFromThread(shop, draftJobs.update, draft, query.to),
  update: ({ shop, draft, body, by }) => updateInThread(shop, draft, body.to, by),
  updatedPages: ({ draft, query }) => streamWork({ kind: 'update', draft: draft.slug ?? '', to: query.to }),
  versions: ({ shop }) => versionItems(shop),
  addVersion: async ({ request, shop, query }) =>
    addVersion(shop, themeOf(await readZip(await bytesOf(request, bounds.zip))), query.kind),
});
