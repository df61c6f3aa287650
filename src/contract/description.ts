import { z } from 'zod';
import { endpoint } from './endpoint';

/** What programs read to learn of all the rest. */
export const descriptionEndpoints = {
  openApi: endpoint('GET', '/api/openapi.json', 'Gives this description of all calls, as an OpenAPI 3.1 document', {
    answer: z.record(z.string(), z.unknown()),
  }),
};
