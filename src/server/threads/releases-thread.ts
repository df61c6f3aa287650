import { parentPort, workerData } from 'node:worker_threads';
import { giveWay } from '@/server/jobs';

/** A thread that keeps a folder of release files up with what is live: it reads the data folder for itself. */
const { folder, out, everyMs } = workerData as { folder: string; out: string; everyMs: number };
giveWay();
// Only now: loading gives way too.
const { ReleaseFolder } = await import('@/server/shop');
const releases = new ReleaseFolder(folder, out);
/** A folder that cannot be written is tried again after so long, in milliseconds, and what is wrong is said once. */
const againMs = 10_000;
let wrong = '';
function look(): void {
  let wait = everyMs;
  try {
    const file = releases.look();
    if (file !== null) parentPort?.postMessage(`Release file written: ${file}`);
    if (file !== null) wrong = '';
  } catch (error) {
    const { message } = error as Error;
    if (message !== wrong) parentPort?.postMessage((wrong = message));
    wait = againMs;
  }
  setTimeout(look, wait);
}
look();
