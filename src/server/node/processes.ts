import cluster, { type Worker } from 'node:cluster';

/** A process that ends within so long of its start is not started again at once, in milliseconds. */
const tooSoon = 1000;

/** Whether this process is one of several that serve, and not the one that started them. */
export const isOneOfSeveral = (): boolean => cluster.isWorker;

/** How the process that started this one is told that it serves. */
export const tellReady = (): void => void process.send?.('ready');

/**
 * Runs this program again in so many processes, which share one port; one that ends is started again. Ends when it is told to, or when a process ends
 * before all have served: it has said why.
 *
 * @returns the exit code
 */
export async function inProcesses(count: number, ready: () => void): Promise<number> {
  const startedAt = new Map<Worker, number>();
  const serving = new Set<Worker>();
  let [haveServed, ending] = [false, false];
  return new Promise((resolve) => {
    const end = (code: number): void => {
      if (ending) return;
      ending = true;
      const all = Object.values(cluster.workers ?? {}).filter((one) => one !== undefined);
      let left = all.length;
      if (!left) resolve(code);
      for (const one of all) {
        one.once('exit', () => {
          if (--left === 0) resolve(code);
        });
        one.process.kill('SIGTERM');
      }
    };
    const start = (): void => {
      const one = cluster.fork();
      startedAt.set(one, Date.now());
      one.once('message', () => {
        serving.add(one);
        if (serving.size < count || haveServed) return;
        haveServed = true;
        ready();
      });
      one.once('exit', (code) => {
        const lived = Date.now() - (startedAt.get(one) ?? 0);
        startedAt.delete(one);
        if (ending) return;
        // Once all have served, one that cannot begin again is tried further: the others go on.
        if (!serving.delete(one) && !haveServed) end(code || 1);
        else setTimeout(() => ending || start(), lived < tooSoon ? tooSoon : 0);
      });
    };
    for (let at = 0; at < count; at++) start();
    for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => end(0));
    // Each opens its log again.
    if (process.env.LAST_LOG && process.env.LAST_LOG !== '-')
      process.on('SIGHUP', () => Object.values(cluster.workers ?? {}).forEach((one) => one?.process.kill('SIGHUP')));
  });
}
