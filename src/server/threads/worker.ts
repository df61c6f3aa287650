import { workerData } from 'node:worker_threads';
import { Shop } from '@/server/shop';
import { giveWay, type Job, type JobAnswer, type Lane } from '@/server/jobs';
import { jobs } from './jobs';

/** A thread of the pool: it reads the data folder for itself, and answers one job after the other. */
const { folder, lane } = workerData as { folder: string; lane: Lane };
if (lane !== 'live') giveWay();
const open = () => new Shop(folder, { readOnly: true });
let shop = open();
let read = 0;

export default async function answer({ name, args, asJson = false, turn = 0 }: Job): Promise<JobAnswer> {
  if (turn !== read) {
    shop.sql.db.close();
    shop = open();
    read = turn;
  }
  const job = jobs.get(name);
  if (!job) throw new RangeError(`there is no job “${name}”`);
  try {
    const answer = await job.work(shop, ...(args as never[]));
    return { answer: asJson ? new TextEncoder().encode(JSON.stringify(answer)) : answer };
  } catch (error) {
    if ((error as Error).name !== 'Refused') throw error;
    const { status, body } = error as { status: number; body: never };
    return { refused: { status, body } };
  }
}
