import { chmodSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import { isRefusal } from '@/server/http';
import { fault } from '@/server/log';
import type { Shop } from '@/server/shop';
import { type Outcome, socketOf } from './ask';
import { runCommand } from './table';

/** Hears commands of the command line, and does them in this process. It holds the data folder: a socket that is left is of no one. */
export function hearCommands(shop: () => Shop, folder: string): void {
  const path = socketOf(folder);
  rmSync(path, { force: true });
  const server = createServer((asked, response) => {
    const parts: Buffer[] = [];
    asked.on('data', (part: Buffer) => parts.push(part));
    asked.on('end', () => {
      void (async () => {
        let outcome: Outcome;
        try {
          const { name, given } = JSON.parse(Buffer.concat(parts).toString()) as { name: string; given: unknown };
          await shop().writable();
          outcome = { said: await runCommand(shop(), name, given) };
        } catch (error) {
          outcome = isRefusal(error) ? { refused: error.message } : { failed: String((error as Error).stack) };
        }
        response.end(JSON.stringify(outcome));
      })();
    });
  });
  server.on('error', (error) => fault(`Commands are not heard: ${error.message}`));
  server.listen(path, () => chmodSync(path, 0o600));
}
