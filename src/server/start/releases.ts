import { resolve } from 'node:path';
import { beginThread } from '@/server/jobs';

/** How often Last checks whether what is live, or the goods, have changed, in milliseconds. */
const everyMs = 250;
/** A thread that ended is begun again after so long, in milliseconds. */
const againMs = 5000;

/** Keeps the folder that `LAST_RELEASES` names up with what is live, beside the server. */
export function keepReleases(folder: string, out: string, say: (line: string) => void): void {
  const worker = beginThread('releases-thread', { folder: resolve(folder), out: resolve(out), everyMs });
  worker.unref();
  worker.on('message', (line: string) => say(line));
  worker.on('error', (error) => say(`The thread that writes release files ended: ${error.message}`));
  worker.once('exit', () => setTimeout(() => keepReleases(folder, out, say), againMs).unref());
}
