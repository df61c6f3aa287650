import { catalogueEndpoints } from '@/contract/catalogue';
import { findSubjects } from '@/server/catalogue';
import { serve } from '@/server/shop';

export const GET = serve(catalogueEndpoints.subjects, ({ shop, query: { q, kind } }) =>
  findSubjects(shop, q, kind ?? null),
);
