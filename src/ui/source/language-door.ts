import { breath, LanguageService, type Answers } from './language-service';

/**
 * What the window and the language's worker say to each other. Each request has a number; one that is not wanted any more is
 * cancelled by it, before its turn or between the parts of its work. `state` counts what the worker was told (a theme,
 * texts, facts): an answer says after how much of that it was worked out, so that an old one is known for what it is.
 */
export type ToLanguage =
  { [K in keyof Answers]: { id: number; kind: K; ask: Answers[K]['ask'] } }[keyof Answers] | { cancel: number };
export type FromLanguage = { id: number; state: number } & ({ answer: unknown } | { failed: string });

/** What tells the worker something, and asks nothing: it is never cancelled, and counts. */
export const tells: ReadonlySet<keyof Answers> = new Set(['load', 'texts', 'learn']);

/** Answers requests one at a time, in the order in which they came; gives what takes a message. */
export function openDoor(service: LanguageService, post: (message: FromLanguage) => void) {
  const waiting: Exclude<ToLanguage, { cancel: number }>[] = [];
  let running: { id: number; asking: AbortController } | null = null;
  let state = 0;

  const run = async (): Promise<void> => {
    if (running) return;
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const { id, kind, ask } = next;
      const asking = new AbortController();
      running = { id, asking };
      if (tells.has(kind)) state++;
      const from = state;
      try {
        const answer = await service.answer(kind, ask as never, asking.signal);
        if (!asking.signal.aborted) post({ id, state: from, answer });
      } catch (error) {
        if (!asking.signal.aborted) post({ id, state: from, failed: (error as Error).message });
      }
      // A cancellation that has arrived comes before the next request.
      await breath();
    }
    running = null;
  };

  return (message: ToLanguage): void => {
    if ('cancel' in message) {
      const at = waiting.findIndex(({ id }) => id === message.cancel);
      if (at >= 0) waiting.splice(at, 1);
      else if (running?.id === message.cancel) running.asking.abort();
      return;
    }
    waiting.push(message);
    void run();
  };
}
