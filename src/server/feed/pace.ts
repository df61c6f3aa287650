import { setTimeout as rest } from 'node:timers/promises';

/** Changed lines that a feed takes a second, at the most: a quicker one would keep visitors waiting. */
const maxASecond = 2500;

/**
 * Keeps a feed to its pace, from one request to the next: a step waits until the time of the one before it is over. A step says how many
 * lines it changed; those that found all as it is cost little, and no time is set for them.
 */
export function paced(
  now: () => number = () => performance.now(),
  wait: (milliseconds: number) => Promise<unknown> = rest,
): (step: () => Promise<number>) => Promise<void> {
  let free = 0;
  return async (step) => {
    if (free > now()) await wait(free - now());
    const from = now();
    free = from + ((await step()) / maxASecond) * 1000;
  };
}
