import { z } from 'zod';
import { endpoint } from './endpoint';
import { languageTag } from './language-tag';

/** Beginning with an empty data folder: with the demo, or with a shop of one's own. */

/** Base themes that a shop may begin with, by the name that the command line takes. */
export const baseThemes = ['quay', 'empty'] as const;

const currencies = new Set(Intl.supportedValuesOf('currency'));

export const newShop = z.strictObject({
  name: z.string().trim().min(1, 'The shop needs a name').max(80, 'The shop’s name may have 80 letters'),
  /** ISO 4217. */
  currency: z
    .string()
    .trim()
    .toUpperCase()
    .refine((code) => currencies.has(code), {
      error: ({ input }) => `“${String(input)}” is not a currency of ISO 4217, as “EUR” or “GBP” are`,
    }),
  /** The first is the one that texts are written in. */
  languages: z
    .array(languageTag)
    .min(1, 'The shop needs a language')
    .max(20)
    .refine((all) => new Set(all).size === all.length, 'A language is there twice'),
  theme: z.enum(baseThemes),
});
export type NewShop = z.output<typeof newShop>;

export const startEndpoints = {
  demo: endpoint('POST', '/api/start/demo', 'Fills an empty data folder with the demo', {
    answer: z.object({ draft: z.string() }),
  }),
  shop: endpoint('POST', '/api/start/shop', 'Makes a shop in an empty data folder', {
    body: newShop,
    answer: z.object({ draft: z.string() }),
  }),
};
