import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import writeFileAtomic from 'write-file-atomic';

const global = globalThis as { lastToken?: string };

/** The token that the workbench's pages carry, and that changing anything needs. */
export const token = (): string => global.lastToken ?? '';

/**
 * Reads a data folder's token, or makes one: kept in a file that only this account may read, so that pages which are open
 * go on when the server starts again.
 */
export function openToken(folder: string): string {
  const file = join(folder, 'token');
  let known = '';
  try {
    known = readFileSync(file, 'utf8').trim();
  } catch {
    // None yet.
  }
  if (!/^[\w-]{32}$/.test(known)) {
    known = randomBytes(24).toString('base64url');
    writeFileAtomic.sync(file, `${known}\n`, { mode: 0o600 });
  }
  global.lastToken = known;
  return known;
}
