import type { Lane } from '@/server/jobs';
import type { Shop } from './shop';

/** Something that a thread can do for a shop: it takes and gives plain data, and writes nothing. */
export interface ShopJob<Args extends unknown[] = never[], Answer = unknown> {
  /** Its name on the way to a thread. */
  name: string;
  /** Where it waits and runs, unless it is said otherwise. */
  lane: Lane;
  work: (shop: Shop, ...args: Args) => Answer | Promise<Answer>;
}

type Work = (shop: Shop, ...args: never[]) => unknown;
type Jobs<Table extends Record<string, Work>> = {
  [Name in keyof Table]: Table[Name] extends (shop: Shop, ...args: infer Args) => infer Answer
    ? ShopJob<Args, Awaited<Answer>>
    : never;
};

/** The jobs of one subject, each named by it and by its own name. src/server/threads/jobs.ts lists all subjects. */
export const shopJobs = <Table extends Record<string, Work>>(
  subject: string,
  table: Table,
  lane: Lane = 'preview',
): Jobs<Table> =>
  Object.fromEntries(
    Object.entries(table).map(([name, work]) => [name, { name: `${subject}.${name}`, lane, work }]),
  ) as Jobs<Table>;

/** Runs a job in a thread; in the process itself where the shop has none, as in tests. */
export async function inThread<Args extends unknown[], Answer>(
  shop: Shop,
  lane: Lane,
  { name, work }: ShopJob<Args, Answer>,
  ...args: Args
): Promise<Answer> {
  if (shop.jobs) return (await shop.jobs.run(lane, { name, args })) as Answer;
  return work(shop, ...args);
}

/** The answer of a job in a thread, as JSON to send. */
export async function sendFromThread<Args extends unknown[], Answer>(
  shop: Shop,
  job: ShopJob<Args, Answer>,
  ...args: Args
): Promise<Response> {
  const headers = { 'Content-Type': 'application/json', 'Cache-Control': 'no-store' };
  if (!shop.jobs) return Response.json(await inThread(shop, job.lane, job, ...args), { headers });
  const bytes = (await shop.jobs.run(job.lane, { name: job.name, args, asJson: true })) as Uint8Array<ArrayBuffer>;
  return new Response(bytes, { headers });
}
