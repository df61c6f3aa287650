import { parentPort, workerData } from 'node:worker_threads';
import { Shop } from './shop';
import { survey, type SurveyAsk, type SurveyStep } from './survey';

/** What the thread is told: a survey to make (the newest one counts), or to stop. */
export type ToThread = { id: number; draft: string; ask: SurveyAsk } | { id: number; stop: true };

export type FromThread = { id: number; step: SurveyStep } | { id: number; failed: string };

/**
 * A thread that surveys templates over the whole catalogue, so that the server answers meanwhile. It reads the data folder by
 * itself, and looks for newer wishes between two subjects' steps.
 */
const port = parentPort;
if (port) {
  const shop = new Shop((workerData as { folder: string }).folder);
  let newest = 0;
  port.on('message', (told: ToThread) => {
    newest = told.id;
    if (!('ask' in told)) return;
    void work(told.id, told.draft, told.ask);
  });
  const work = async (id: number, slug: string, ask: SurveyAsk) => {
    const say = (message: FromThread) => port.postMessage(message);
    try {
      const draft = shop.themes.draft(slug);
      if (!draft) throw new Error(`There is no draft “${slug}”.`);
      for (const step of survey(shop, draft, ask, () => performance.now())) {
        say({ id, step });
        await new Promise((resolve) => setImmediate(resolve));
        if (newest !== id) return;
      }
    } catch (error) {
      say({ id, failed: (error as Error).message });
    }
  };
}
