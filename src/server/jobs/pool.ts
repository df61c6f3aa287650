import { EventEmitter } from 'node:events';
import { Piscina } from 'piscina';
import { Refused } from '@/server/http';
import { threadFile } from './thread-file';

/**
 * Where a job waits and runs: `live` renders pages that customers wait for, `preview` does whatever the workbench asks of
 * drafts. What takes long in one keeps nobody waiting in the other.
 */
export type Lane = 'live' | 'preview';

/** A job as it travels: a service by its name, and what it is given. */
export interface Job {
  name: string;
  args: unknown[];
  /** The answer is wanted as the bytes of its JSON: what is only sent on need not be taken apart and put together here. */
  asJson?: boolean;
  /** How often the folder has got other data while it was served: a thread that has read earlier data starts over. */
  turn?: number;
}

/** What comes back: an answer, or a refusal, which is not a fault. */
export type JobAnswer = { answer: unknown } | { refused: { status: number; body: Refused['body'] } };

interface LaneLimits {
  threads: number;
  /** Longest wait for an answer in milliseconds, the queue included; then the thread is ended. Far more than a page's own budget. */
  answerMs: number;
  /** Heap of a thread, in MB. */
  heapMb: number;
}

const limits: Record<Lane, LaneLimits> = {
  live: { threads: 2, answerMs: 8000, heapMb: 1024 },
  preview: { threads: 1, answerMs: 20_000, heapMb: 1024 },
};

/** A job that did not answer: its thread took too long, ran out of memory, or ended. */
export class JobEnded extends Error {
  constructor(why: string) {
    super(why);
    this.name = 'JobEnded';
  }
}

/** Threads that read one data folder, by lane. Each opens the database for itself, read only. */
export class JobPool {
  readonly #lanes = new Map<Lane, Piscina>();
  readonly #folder: string;
  readonly #answerMs: number | null;
  #turn = 0;

  /** `answerMs`: another limit than each lane's own, for tests. */
  constructor(folder: string, answerMs: number | null = null) {
    this.#folder = folder;
    this.#answerMs = answerMs;
    this.#lane('live');
    this.#lane('preview');
  }

  /** The folder has other data now: what threads have read of it is forgotten. */
  forget(): void {
    this.#turn++;
  }

  /** The threads of a lane, started when it is first needed. */
  #lane(name: Lane): Piscina {
    let lane = this.#lanes.get(name);
    if (!lane) {
      const { threads, heapMb } = limits[name];
      lane = new Piscina({
        ...threadFile('worker', 'src/server/threads/worker.ts'),
        workerData: { folder: this.#folder, lane: name },
        minThreads: threads,
        maxThreads: threads,
        idleTimeout: Infinity,
        resourceLimits: { maxOldGenerationSizeMb: heapMb },
      });
      this.#lanes.set(name, lane);
    }
    return lane;
  }

  /** Runs a service in a thread of a lane. Rejects with its refusal, or with JobEnded when it does not answer. */
  async run(lane: Lane, job: Job): Promise<unknown> {
    const answerMs = this.#answerMs ?? limits[lane].answerMs;
    // An emitter, which piscina takes as a signal too, costs less than an AbortController for each page.
    const signal = new EventEmitter();
    let late = false;
    const timer = setTimeout(() => {
      late = true;
      signal.emit('abort');
    }, answerMs);
    let reply: JobAnswer;
    try {
      reply = (await this.#lane(lane).run({ ...job, turn: this.#turn }, { signal })) as JobAnswer;
    } catch (error) {
      if (late) throw new JobEnded(`no answer came within ${answerMs / 1000} seconds`);
      const { code, message } = error as NodeJS.ErrnoException;
      if (code === 'ERR_WORKER_OUT_OF_MEMORY') throw new JobEnded('it needed more memory than a page may take');
      throw new JobEnded(message);
    } finally {
      clearTimeout(timer);
    }
    if ('refused' in reply) throw new Refused(reply.refused.status, reply.refused.body);
    return reply.answer;
  }

  /** How much waits in each lane. */
  waiting(): Record<Lane, number> {
    return { live: this.#lanes.get('live')?.queueSize ?? 0, preview: this.#lanes.get('preview')?.queueSize ?? 0 };
  }

  async close(): Promise<void> {
    await Promise.all([...this.#lanes.values()].map((lane) => lane.destroy()));
  }
}
