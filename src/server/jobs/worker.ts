import { workerData } from 'node:worker_threads';
import { Shop } from '../shop';
import { giveWay } from './give-way';
import type { Job, JobAnswer, Lane } from './pool';
import { jobs } from '../thread-jobs';

/** A thread of the pool: it reads the data folder for itself, and answers one job after the other. */
const { folder, lane } = workerData as { folder: string; lane: Lane };
if (lane === 'preview') giveWay();
const shop = new Shop(folder, { readOnly: true });

export default function answer({ name, args, asJson = false }: Job): JobAnswer {
  const job = jobs.get(name);
  if (!job) throw new RangeError(`there is no job “${name}”`);
  try {
    const made = job.work(shop, ...(args as never[]));
    return { answer: asJson ? new TextEncoder().encode(JSON.stringify(made)) : made };
  } catch (error) {
    if ((error as Error).name !== 'Refused') throw error;
    const { status, body } = error as { status: number; body: never };
    return { refused: { status, body } };
  }
}
