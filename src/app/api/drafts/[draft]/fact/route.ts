import { catalogueEndpoints } from '@/contract/catalogue';
import { serve } from '@/server/shop';

export const POST = serve(catalogueEndpoints.emptiness, ({ shop, body }) =>
  body.fields.map(({ object, path }) => shop.facts().emptiness(object, path)),
);
