import { startEndpoints } from '@/contract/start';
import { startDemo, startShop } from '@/server/seeding';
import { serveAll } from './serve';

const now = () => new Date().toISOString();

export const startCalls = serveAll(startEndpoints, {
  demo: async ({ shop }) => ({ draft: await startDemo(shop, now()) }),
  shop: ({ shop, body }) => ({ draft: startShop(shop, body, now()) }),
});
