import { readlinkSync } from 'node:fs';
import { constants, setPriority } from 'node:os';

/**
 * Lets the calling thread run after the others of the process where all processors are busy. Linux takes a thread's number for a
 * process's (setpriority(2), notes); elsewhere nothing is done.
 */
export function giveWay(): void {
  try {
    const thread = Number(readlinkSync('/proc/thread-self').split('/').pop());
    if (Number.isInteger(thread) && thread > 0) setPriority(thread, constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // Without it the thread takes its turn like any other.
  }
}
