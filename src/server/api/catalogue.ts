import { catalogueEndpoints } from '@/contract/catalogue';
import { findSubjects } from '@/server/catalogue';
import { serveAll } from './serve';

export const catalogueCalls = serveAll(catalogueEndpoints, {
  subjects: ({ shop, query: { q, kind } }) => findSubjects(shop, q, kind ?? null),
  emptiness: ({ shop, body }) => body.fields.map(({ object, path }) => shop.facts().emptiness(object, path)),
});
