import { parentPort, workerData } from 'node:worker_threads';
import { differingPages, type DifferingStep } from './differing';
import { Shop } from './shop';
import { stateOf } from './states';
import { updatedTheme } from './updates';
import { survey, type SurveyAsk, type SurveyStep } from './survey';

/**
 * Work over the whole catalogue: which subjects show every outcome of a template, which pages two states make otherwise, or
 * a draft and the same on another version of a layer below.
 */
export type LongWork =
  | { kind: 'survey'; draft: string; ask: SurveyAsk }
  | { kind: 'differing'; a: string; b: string }
  | { kind: 'update'; draft: string; to: number };

/** What the thread is told: a work to do (the newest of its kind counts), or to stop. */
export type ToThread = { id: number; work: LongWork } | { id: number; stop: LongWork['kind'] };

export type FromThread = { id: number; kind: LongWork['kind'] } & (
  { step: SurveyStep | DifferingStep } | { failed: string }
);

/**
 * A thread that works through the whole catalogue, so that the server answers meanwhile. It reads the data folder by itself,
 * and looks for newer wishes between two subjects' steps.
 */
const port = parentPort;
if (port) {
  const shop = new Shop((workerData as { folder: string }).folder);
  const newest: Partial<Record<LongWork['kind'], number>> = {};
  port.on('message', (told: ToThread) => {
    newest['work' in told ? told.work.kind : told.stop] = told.id;
    if ('work' in told) void run(told.id, told.work);
  });
  const now = () => performance.now();
  const steps = (work: LongWork): Iterable<SurveyStep | DifferingStep> => {
    if (work.kind === 'differing')
      return differingPages(shop, { state: stateOf(shop, work.a) }, { state: stateOf(shop, work.b) }, now);
    const state = stateOf(shop, `draft/${work.draft}`);
    if (work.kind === 'survey') return survey(shop, state, work.ask, now);
    return differingPages(shop, { state }, { state, made: updatedTheme(shop, state, work.to) }, now);
  };
  const run = async (id: number, work: LongWork) => {
    const { kind } = work;
    const say = (message: FromThread) => port.postMessage(message);
    try {
      for (const step of steps(work)) {
        say({ id, kind, step });
        await new Promise((resolve) => setImmediate(resolve));
        if (newest[kind] !== id) return;
      }
    } catch (error) {
      say({ id, kind, failed: (error as Error).message });
    }
  };
}
