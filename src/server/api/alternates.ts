import { alternateEndpoints } from '@/contract/alternates';
import { alternateJobs, factsOfKind } from '@/server/alternates';
import { editInThread } from '@/server/drafts';
import { sendFromThread } from '@/server/shop';
import { streamWork, workOnce } from '@/server/threads';
import { serveAll } from './serve';

export const alternateCalls = serveAll(alternateEndpoints, {
  list: ({ shop, draft }) => sendFromThread(shop, alternateJobs.all, draft),
  make: async ({ shop, draft, body, by }) => {
    const { change } = await editInThread(shop, draft, alternateJobs.planAlternate, body, by);
    return { change };
  },
  edit: async ({ shop, draft, body, by }) => {
    const { change } = await editInThread(shop, draft, alternateJobs.planEdit, body.edit, by);
    return { change };
  },
  rename: async ({ shop, draft, body, by }) => {
    const { change } = await editInThread(shop, draft, alternateJobs.planRename, body, by);
    return { change };
  },
  retire: async ({ shop, draft, body, by }) => {
    const { change } = await editInThread(shop, draft, alternateJobs.planRetirement, body, by);
    return { change };
  },
  makeFile: async ({ shop, draft, body, by }) => {
    const { change } = await editInThread(shop, draft, alternateJobs.planFile, body, by);
    return { change };
  },
  facts: ({ shop, query }) => factsOfKind(shop, query.kind),
  explain: ({ shop, draft, query }) =>
    sendFromThread(shop, alternateJobs.explain, draft, query.address, {
      on: query.on ?? null,
      tried: query.try ?? null,
    }),
  problems: ({ draft }) => workOnce({ kind: 'problems', state: `draft/${draft.slug}` }),
  cover: ({ draft, body }) => streamWork({ kind: 'cover', state: `draft/${draft.slug}`, ask: body }),
  who: ({ draft, body }) => workOnce({ kind: 'who', state: `draft/${draft.slug}`, ask: body }),
  match: ({ draft, body }) => workOnce({ kind: 'match', state: `draft/${draft.slug}`, ask: body }),
  fall: ({ draft, body: { name, ...target } }) =>
    workOnce({ kind: 'fall', state: `draft/${draft.slug}`, ask: { target, name } }),
});
