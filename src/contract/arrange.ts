import { z } from 'zod';
import { endpoint } from './endpoint';
import { fileAnswer, saveAnswer, saveRequest } from './files';
import { subject, unsavedTexts } from './shared';

/** What Arrange asks: the shelves of a page, and the pieces that can be put there. */

export const arrangeRequest = z.strictObject({
  address: z.string().max(2000),
  try: z.string().nullable(),
  on: z.iso.date().nullish(),
  /** Languages that the reader understands, the best first: labels come in those. */
  languages: z.array(z.string().max(35)).max(20).optional(),
  unsaved: unsavedTexts,
});

const take = z.object({
  name: z.string(),
  type: z.string(),
  label: z.string(),
  help: z.string(),
  required: z.boolean(),
  default: z.string().nullable(),
  options: z.array(z.string()),
  least: z.number().nullable(),
  most: z.number().nullable(),
  unit: z.string(),
  /** Of a picture: the shape that the piece shows it in, as width by height; null: as it is. */
  shape: z.number().nullable(),
});
export type TakeItem = z.output<typeof take>;

export const arrangeAnswer = z.object({
  subject: subject.omit({ detail: true }).nullable(),
  template: z.string(),
  /** The languages of the shop, its first one first. */
  locales: z.array(z.string()),
  shelves: z.array(
    z.object({
      name: z.string(),
      label: z.string(),
      help: z.string(),
      least: z.number().nullable(),
      most: z.number().nullable(),
      /** Pieces that may be put there. */
      pieces: z.array(z.string()),
      placements: z.array(
        z.object({
          id: z.string().nullable(),
          why: z.enum(['hidden', 'date', 'condition', 'missing', 'full']).nullable(),
          input: z.string().nullable(),
        }),
      ),
    }),
  ),
  /** Pieces that stand on a shelf or may be put there, by name. */
  pieces: z.array(z.object({ name: z.string(), label: z.string(), help: z.string(), takes: z.array(take) })),
  /** Fields of the page's subject, each with its value here and how often it is empty; `fits` names the inputs that can be bound to it, as piece and input. */
  fields: z.array(
    z.object({
      path: z.string(),
      label: z.string(),
      value: z.string(),
      empty: z.number(),
      total: z.number(),
      fits: z.array(z.string()),
    }),
  ),
  /** The look's colours, by their labels: offered first. */
  colours: z.array(z.object({ label: z.string(), value: z.string() })),
  /** The text of each layer's `shelves.json` below the shop's own, the lowest first. */
  below: z.array(z.string()),
});
export type ArrangeAnswer = z.output<typeof arrangeAnswer>;
export type ShelfItem = ArrangeAnswer['shelves'][number];
export type FieldItem = ArrangeAnswer['fields'][number];
export type PieceItem = ArrangeAnswer['pieces'][number];

export const arrangeEndpoints = {
  page: endpoint(
    'POST',
    '/api/drafts/{draft}/arrange',
    'Lists the shelves of a page with what stands there, and the pieces that fit',
    { body: arrangeRequest, answer: arrangeAnswer },
  ),
  open: endpoint('GET', '/api/drafts/{draft}/shelves', 'Opens the file that says what stands on shelves', {
    answer: fileAnswer,
  }),
  save: endpoint('PUT', '/api/drafts/{draft}/shelves', 'Saves what stands on shelves', {
    body: saveRequest.omit({ path: true }),
    answer: saveAnswer,
  }),
};
