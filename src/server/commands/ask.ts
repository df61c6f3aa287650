import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

/** A socket's path may have about a hundred characters. */
const maxPath = 100;

/** Where the server of a data folder hears commands: a socket that only this account may open. */
export function socketOf(folder: string): string {
  const inside = join(resolve(folder), 'command.sock');
  if (inside.length <= maxPath) return inside;
  return join(tmpdir(), `last-${createHash('sha256').update(inside).digest('hex').slice(0, 24)}.sock`);
}

/** What a command came to. */
export type Outcome = { said: string[] } | { refused: string } | { failed: string };

/**
 * Asks the server of a data folder to do a command; null when none runs there.
 *
 * @throws RangeError with what it was refused for
 */
export async function askServer(folder: string, name: string, given: unknown): Promise<string[] | null> {
  const path = socketOf(folder);
  if (!existsSync(path)) return null;
  const text = await new Promise<string | null>((done, fail) => {
    const asked = request({ socketPath: path, method: 'POST', path: '/' }, (answer) => {
      let read = '';
      answer.setEncoding('utf8').on('data', (part: string) => (read += part));
      answer.on('end', () => done(read)).on('error', fail);
    });
    asked.on('error', (error: NodeJS.ErrnoException) =>
      error.code === 'ECONNREFUSED' || error.code === 'ENOENT' ? done(null) : fail(error),
    );
    asked.end(JSON.stringify({ name, given }));
  });
  if (text === null) return null;
  const outcome = JSON.parse(text) as Outcome;
  if ('said' in outcome) return outcome.said;
  if ('refused' in outcome) throw new RangeError(outcome.refused);
  throw new Error(`The server failed at this: ${outcome.failed}`);
}
