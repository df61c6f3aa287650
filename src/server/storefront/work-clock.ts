import { openSync, readSync } from 'node:fs';
import { sharedWorkMs } from '@/store';

/** Milliseconds that a process has had of the machine, all its threads together. */
const processMs = (): number => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
};

/**
 * Tells how many milliseconds this thread has had of the machine: from the first number of `/proc/thread-self/schedstat`, nanoseconds (proc(5)). Where a
 * system has no such file, what all threads had together stands for it.
 */
function threadClock(): () => number {
  try {
    const file = openSync('/proc/thread-self/schedstat', 'r');
    const line = Buffer.alloc(64);
    const read = () => Number.parseInt(line.toString('latin1', 0, readSync(file, line, 0, 64, 0)), 10) / 1e6;
    return Number.isNaN(read()) ? processMs : read;
  } catch {
    return processMs;
  }
}

const threadMs = threadClock();

/** What a thread had is asked again after so long: asking takes longer than the work in between would. In milliseconds. */
const askedEvery = 4;

/** A page ends after this many times its budget by the wall's clock, however little of the machine it was given. */
const wallShare = 4;

/**
 * A clock for the work of this thread, in milliseconds from now on: while the machine does other work it stands still, so that a
 * page is ended for what it takes and not for what its neighbours take. It is never faster than the wall's clock, and at most four
 * times slower. Work that is done once for many pages does not count. Where it is asked for the first time after more than a
 * moment, all of that but the moment counts as waiting: most pages are made within it, and the thread's work is never asked.
 */
export function workClock(wall = () => performance.now(), worked = threadMs, shared = sharedWorkMs): () => number {
  const began = wall() - shared();
  let [asked, known, had] = [0, 0, Number.NaN];
  return () => {
    const passed = wall() - shared() - began;
    if (passed - asked >= askedEvery) {
      const now = worked() - shared();
      if (Number.isNaN(had)) had = now - askedEvery;
      [asked, known] = [passed, now - had];
    }
    return Math.min(passed, Math.max(known, passed / wallShare));
  };
}
