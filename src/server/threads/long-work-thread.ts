import type { DifferingStep } from '@/contract/shared';
import { parentPort, workerData } from 'node:worker_threads';
import type {
  CoverRequest,
  FallAnswer,
  MatchAnswer,
  matchRequest,
  ProblemsAnswer,
  TargetItem,
  WhoAnswer,
  WhoRequest,
} from '@/contract/alternates';
import type { z } from 'zod';
import { Covers } from '@/server/alternates';
import { differingPages, updatedTheme } from '@/server/drafts';
import { giveWay } from '@/server/jobs';
import { Shop, stateOf } from '@/server/shop';
import { survey, type SurveyAsk, type SurveyStep } from '@/server/bench';

/**
 * Work over the whole catalogue: which subjects show every outcome of a template, which pages two states make otherwise, or
 * a draft and the same on another version of a layer below; who gets which template, and whom a condition holds for.
 */
export type LongWork =
  | { kind: 'survey'; draft: string; ask: SurveyAsk }
  | { kind: 'differing'; a: string; b: string }
  | { kind: 'update'; draft: string; to: number }
  | { kind: 'cover'; state: string; ask: CoverRequest }
  | { kind: 'problems'; state: string }
  | { kind: 'who'; state: string; ask: WhoRequest }
  | { kind: 'match'; state: string; ask: z.output<typeof matchRequest> }
  | { kind: 'fall'; state: string; ask: { target: TargetItem; name: string } };

/** What work with one answer comes to. */
export interface WorkAnswers {
  problems: ProblemsAnswer;
  who: WhoAnswer;
  match: MatchAnswer;
  fall: FallAnswer;
}

/** Something that is known by then; `done` says that it is all. */
export type WorkStep = SurveyStep | DifferingStep | { done: boolean; [found: string]: unknown };

/** What the thread is told: a work to do, or the number of one to stop. */
export type ToThread = { id: number; work: LongWork } | { stop: number };

export type FromThread = { id: number } & ({ step: WorkStep } | { failed: string });

/**
 * A thread that works through the whole catalogue, so that the server answers meanwhile. It reads the data folder by itself; works go on beside one
 * another, a step of each in turn.
 */
const port = parentPort;
if (port) {
  giveWay();
  const shop = new Shop((workerData as { folder: string }).folder);
  const covers = new Covers(shop);
  const wanted = new Set<number>();
  port.on('message', (told: ToThread) => {
    if ('work' in told) void run(told.id, told.work);
    else wanted.delete(told.stop);
  });
  const now = () => performance.now();
  const steps = (work: LongWork): Iterable<WorkStep> => {
    if (work.kind === 'differing')
      return differingPages(shop, { state: stateOf(shop, work.a) }, { state: stateOf(shop, work.b) }, now);
    if (work.kind === 'cover') return covers.map(stateOf(shop, work.state), work.ask, now);
    if (work.kind === 'problems') return [{ problems: covers.problems(stateOf(shop, work.state), null), done: true }];
    if (work.kind === 'who') return [{ ...covers.who(stateOf(shop, work.state), work.ask), done: true }];
    if (work.kind === 'match') return [{ ...covers.match(stateOf(shop, work.state), work.ask), done: true }];
    if (work.kind === 'fall') return [{ ...covers.fall(stateOf(shop, work.state), work.ask), done: true }];
    const state = stateOf(shop, `draft/${work.draft}`);
    if (work.kind === 'survey') return survey(shop, state, work.ask, now);
    return differingPages(shop, { state }, { state, made: updatedTheme(shop, state, work.to) }, now);
  };
  const run = async (id: number, work: LongWork) => {
    const say = (message: FromThread) => port.postMessage(message);
    wanted.add(id);
    try {
      for (const step of steps(work)) {
        say({ id, step });
        await new Promise((resolve) => setImmediate(resolve));
        if (!wanted.has(id)) break;
      }
    } catch (error) {
      say({ id, failed: (error as Error).message });
    }
    wanted.delete(id);
  };
}
