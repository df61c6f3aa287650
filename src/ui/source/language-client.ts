import { tells, type FromLanguage, type ToLanguage } from './language-door';
import type { Answers } from './language-service';

/** The way to the worker. */
export interface LanguagePort {
  postMessage: (message: ToLanguage) => void;
  onmessage: ((event: MessageEvent<FromLanguage>) => void) | null;
  terminate: () => void;
}

/** An answer, with the state of the worker that it was worked out from. */
interface Stated<K extends keyof Answers> {
  answer: Answers[K]['answer'];
  state: number;
}

/** Asks the language; rejects where `signal` says that the answer is not wanted any more. */
export type AskLanguage = <K extends keyof Answers>(
  kind: K,
  ask: Answers[K]['ask'],
  signal?: AbortSignal,
) => Promise<Answers[K]['answer']>;

/** The window's end of the language's worker. */
export class LanguageClient {
  readonly #waiting = new Map<number, { resolve: (stated: Stated<never>) => void; reject: (error: Error) => void }>();
  #last = 0;
  /** How often the worker was told something. */
  #told = 0;

  constructor(private readonly port: LanguagePort) {
    port.onmessage = ({ data }) => {
      const one = this.#waiting.get(data.id);
      this.#waiting.delete(data.id);
      if ('failed' in data) one?.reject(new Error(data.failed));
      else one?.resolve({ answer: data.answer as never, state: data.state });
    };
  }

  ask: AskLanguage = async (kind, ask, signal) => (await this.stated(kind, ask, signal)).answer;

  /** Like `ask`, with the state that the answer is of. */
  stated<K extends keyof Answers>(kind: K, ask: Answers[K]['ask'], signal?: AbortSignal): Promise<Stated<K>> {
    if (signal?.aborted) return Promise.reject(signal.reason as Error);
    const id = ++this.#last;
    if (tells.has(kind)) this.#told++;
    return new Promise<Stated<K>>((resolve, reject) => {
      this.#waiting.set(id, { resolve, reject });
      this.port.postMessage({ id, kind, ask } as ToLanguage);
      signal?.addEventListener('abort', () => {
        if (!this.#waiting.delete(id)) return;
        this.port.postMessage({ cancel: id });
        reject(signal.reason as Error);
      });
    });
  }

  /** Whether the worker was told nothing since that state. */
  isNow(state: number): boolean {
    return state === this.#told;
  }

  stop(): void {
    this.port.terminate();
    for (const { reject } of this.#waiting.values()) reject(new DOMException('The workbench was left.', 'AbortError'));
    this.#waiting.clear();
  }
}

/** Starts the language in a worker of its own. */
export const startLanguage = (): LanguagePort =>
  new Worker(new URL('./language.worker.ts', import.meta.url), { type: 'module' });
