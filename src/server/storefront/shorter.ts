import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';

/** Ways to send a text shorter than it is, the better first. */
export const encodings = ['br', 'gzip'] as const;
export type Encoding = (typeof encodings)[number];

/** A text in an encoding. `quality`: as much of the work as is worth it, from 1 to 9. */
export const shorter: Record<Encoding, (bytes: Uint8Array, quality: number) => Promise<Buffer>> = {
  br: (bytes, quality) =>
    promisify(brotliCompress)(bytes, {
      params: {
        [constants.BROTLI_PARAM_QUALITY]: quality,
        [constants.BROTLI_PARAM_MODE]: constants.BROTLI_MODE_TEXT,
        [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length,
      },
    }),
  gzip: (bytes, level) => promisify(gzip)(bytes, { level }),
};
