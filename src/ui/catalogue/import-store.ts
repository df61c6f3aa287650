import { createStore } from 'zustand/vanilla';
import { goodsEndpoints, type DryRunRequest, type DryRunStep, type GoodsStep, type LookAnswer } from '@/contract/goods';
import type { call as callServer, callForLines as callServerForLines } from '@/ui/shared';

type Result = NonNullable<DryRunStep['result']>;

/** How the file is read, where that was corrected. */
export type Reading = Pick<DryRunRequest, 'encoding' | 'delimiter' | 'mark'>;

export interface ImportState {
  /** What is under way, with how far it is. */
  busy: { what: 'upload' | 'dry-run' | 'import' | 'undo'; done: number } | null;
  failed: string | null;
  look: LookAnswer | null;
  reading: Reading;
  mode: 'merge' | 'replace';
  /** What columns are taken for, by heading. */
  columns: Record<string, string | null>;
  /** What an import would do, of the file as it is read now. */
  result: Result | null;
  /** The import that was made last, or its undo. */
  made: { id: number; records: number; left: string[]; undo: boolean; name: string } | null;
  /** An undo that waits for what is to become of values that others changed since. */
  asked: { change: number; name: string; others: string[] } | null;
}

const empty: ImportState = {
  ...{ busy: null, failed: null, look: null, reading: {}, mode: 'merge', columns: {}, result: null, made: null },
  asked: null,
};

interface Needs {
  call: typeof callServer;
  callForLines: typeof callServerForLines;
  messageOf(error: unknown): string;
  /** Goods were changed: what was read of them is read again. */
  changed(): void;
}

/** An import from the file to the goods: look, correct, dry run, import, undo. Kept outside React. */
export class Importing {
  readonly state = createStore<ImportState>(() => empty);
  #stop: AbortController | null = null;

  constructor(readonly needs: Needs) {}

  /** Sends a file, and shows what it is. */
  async choose(file: File): Promise<void> {
    this.state.setState({ ...empty, busy: { what: 'upload', done: 0 } });
    await this.#trying(async () => {
      const look = await this.needs.call(goodsEndpoints.upload, { name: file.name }, file);
      this.#show(look);
      // A catalogue file says what it is: nothing of it need be corrected first.
      if (!look.table) await this.dryRun();
    });
  }

  /** Reads the file in another way. */
  async read(change: Reading): Promise<void> {
    const { look, reading } = this.state.getState();
    if (!look) return;
    const next = { ...reading, ...change };
    this.state.setState({ reading: next, result: null, failed: null });
    if (change.mark) return;
    const { encoding, delimiter } = next;
    await this.#trying(async () => {
      const again = await this.needs.call(goodsEndpoints.look, {
        upload: look.upload,
        ...(encoding ? { encoding } : {}),
        ...(delimiter ? { delimiter } : {}),
      });
      this.#show(again);
    });
  }

  /** Takes a column for something else; null leaves it out. What another column was taken for goes from it to this one. */
  take(heading: string, target: string | null): void {
    this.state.setState(({ columns }) => ({
      columns: {
        ...Object.fromEntries(Object.entries(columns).map(([other, was]) => [other, was === target ? null : was])),
        [heading]: target,
      },
      result: null,
    }));
  }

  setMode(mode: ImportState['mode']): void {
    this.state.setState({ mode, result: null });
  }

  /** From the dry run to the columns again. */
  back(): void {
    this.state.setState({ result: null });
  }

  async dryRun(): Promise<void> {
    const { look, mode, columns, reading } = this.state.getState();
    if (!look) return;
    const body: DryRunRequest = { mode, columns, ...reading };
    await this.#working('dry-run', async (signal, heard) => {
      await this.needs.callForLines(
        goodsEndpoints.dryRun,
        { upload: look.upload },
        body,
        ({ done, result }) => {
          heard(done);
          if (result) this.state.setState({ result });
        },
        signal,
      );
    });
  }

  async import(): Promise<void> {
    const { look } = this.state.getState();
    if (!look) return;
    await this.#working('import', (signal, heard) =>
      this.needs.callForLines(
        goodsEndpoints.import,
        { upload: look.upload },
        undefined,
        (step) => this.#made(step, heard, look.name, false),
        signal,
      ),
    );
  }

  /** Undoes a change; where others changed the same since it is asked first what becomes of that. */
  async undo(change: number, name: string, overlapping: 'ask' | 'leave' | 'replace' = 'ask'): Promise<void> {
    this.state.setState({ asked: null });
    await this.#working('undo', (signal, heard) =>
      this.needs.callForLines(
        goodsEndpoints.undo,
        { change, overlapping },
        undefined,
        (step) => {
          if (step.asked) this.state.setState({ asked: { change, name, others: step.asked } });
          else this.#made(step, heard, name, true);
        },
        signal,
      ),
    );
  }

  /** The undo that was asked about is not done. */
  keepAsItIs(): void {
    this.state.setState({ asked: null });
  }

  /** Stops what is under way: nothing of it is left. */
  stop(): void {
    this.#stop?.abort();
  }

  /** Puts the file aside. */
  leave(): void {
    this.stop();
    this.state.setState(empty);
  }

  #show(look: LookAnswer): void {
    const columns = Object.fromEntries((look.table?.columns ?? []).map(({ heading, target }) => [heading, target]));
    this.state.setState({ look, columns });
  }

  #made({ done, made }: GoodsStep, heard: (done: number) => void, name: string, undo: boolean): void {
    heard(done);
    if (!made) return;
    this.state.setState({ ...empty, made: { ...made, undo, name } });
    this.needs.changed();
  }

  async #working(
    what: NonNullable<ImportState['busy']>['what'],
    work: (signal: AbortSignal, heard: (done: number) => void) => Promise<void>,
  ): Promise<void> {
    const stop = (this.#stop = new AbortController());
    this.state.setState({ busy: { what, done: 0 }, failed: null, made: null });
    await this.#trying(() => work(stop.signal, (done) => this.state.setState({ busy: { what, done } })), stop.signal);
  }

  async #trying(work: () => Promise<void>, signal?: AbortSignal): Promise<void> {
    try {
      await work();
    } catch (error) {
      if (!signal?.aborted) this.state.setState({ failed: this.needs.messageOf(error) });
    } finally {
      this.state.setState({ busy: null });
    }
  }
}
