import type { Statements } from './statements';

/** The data folder's own key, 32 random bytes that were made with it. */
export function signingKey(sql: Statements): Buffer {
  return sql.get<{ key: Buffer }>('SELECT key FROM signing_key WHERE id = 1')?.key as Buffer;
}
