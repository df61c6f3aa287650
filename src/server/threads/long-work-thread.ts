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

/** A newer work of these takes the place of the one that is done; the others are short, and each is answered. */
const alone = new Set<LongWork['kind']>(['survey', 'differing', 'update']);

/** Names what a work takes the place of: another of its kind, or nothing. */
export const workKey = (kind: LongWork['kind'], id: number): string => (alone.has(kind) ? kind : `${kind} ${id}`);

/** Something that is known by then; `done` says that it is all. */
export type WorkStep = SurveyStep | DifferingStep | { done: boolean; [found: string]: unknown };

/** What the thread is told: a work to do (the newest of its kind counts), or to stop. */
export type ToThread = { id: number; work: LongWork } | { id: number; stop: string };

export type FromThread = { id: number; kind: LongWork['kind'] } & ({ step: WorkStep } | { failed: string });

/**
 * A thread that works through the whole catalogue, so that the server answers meanwhile. It reads the data folder by itself,
 * and looks for newer wishes between two subjects' steps.
 */
const port = parentPort;
if (port) {
  giveWay();
  const shop = new Shop((workerData as { folder: string }).folder);
  const covers = new Covers(shop);
  const newest = new Map<string, number>();
  port.on('message', (told: ToThread) => {
    newest.set('work' in told ? workKey(told.work.kind, told.id) : told.stop, told.id);
    if ('work' in told) void run(told.id, told.work);
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
    const { kind } = work;
    const key = workKey(kind, id);
    const say = (message: FromThread) => port.postMessage(message);
    try {
      for (const step of steps(work)) {
        say({ id, kind, step });
        await new Promise((resolve) => setImmediate(resolve));
        if (newest.get(key) !== id) break;
      }
    } catch (error) {
      say({ id, kind, failed: (error as Error).message });
    }
    if (key !== kind) newest.delete(key);
  };
}
