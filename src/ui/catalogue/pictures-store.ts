import { createStore } from 'zustand/vanilla';
import { goodsEndpoints } from '@/contract/goods';
import { pictureEndpoints, type PictureOutcome } from '@/contract/pictures';
import type { call as callServer, callForLines as callServerForLines } from '@/ui/shared';

/** A file that is brought in, by the name that it has in its folder. */
export interface NamedFile {
  name: string;
  file: Blob;
}

/** What came of files that were brought in, or of pictures that were deleted. */
export interface Came {
  added: number;
  replaced: number;
  same: number;
  deleted: number;
  /** Left out, each with the reason. */
  left: PictureOutcome[];
  /** Taken, though their content is there under another path too. */
  copies: PictureOutcome[];
  /** The change, to be undone; null: nothing was changed. */
  change: number | null;
}

export interface PicturesState {
  busy: { done: number; of: number } | null;
  failed: string | null;
  came: Came | null;
  /** Files whose names others have already, and those others: they are taken only when that is said. */
  asked: { files: NamedFile[]; paths: string[] } | null;
}

const nothing: Came = { added: 0, replaced: 0, same: 0, deleted: 0, left: [], copies: [], change: null };
const idle: PicturesState = { busy: null, failed: null, came: null, asked: null };

interface Needs {
  call: typeof callServer;
  callForLines: typeof callServerForLines;
  messageOf(error: unknown): string;
  /** Pictures were changed: what was read of them is read again. */
  changed(): void;
}

/** Pictures on their way in: files are sent one after another, as one change that can be undone. Kept outside React. */
export class Pictures {
  readonly state = createStore<PicturesState>(() => idle);
  #stop: AbortController | null = null;

  constructor(readonly needs: Needs) {}

  /** Sends files; those whose place is taken by another are asked about at the end. */
  take(files: readonly NamedFile[]): Promise<void> {
    return this.#send(files, 'no', nothing);
  }

  /** Answers what was asked: whether the files take the places of those that are there. */
  async answer(replace: boolean): Promise<void> {
    const { asked, came } = this.state.getState();
    this.state.setState({ asked: null });
    if (asked && replace) await this.#send(asked.files, 'yes', came ?? nothing);
  }

  async remove(paths: string[]): Promise<void> {
    await this.#trying(async () => {
      const { change, removed } = await this.needs.call(pictureEndpoints.remove, {}, { paths });
      this.state.setState({ came: { ...nothing, deleted: removed, change } });
    });
  }

  /** Undoes what was done last. */
  async undo(): Promise<void> {
    const change = this.state.getState().came?.change;
    if (typeof change !== 'number') return;
    await this.#trying(async (signal) => {
      await this.needs.callForLines(goodsEndpoints.undo, { change, overlapping: 'leave' }, undefined, () => {}, signal);
      this.state.setState({ came: null });
    });
  }

  /** Sends no further file; those that were taken stay. */
  stop(): void {
    this.#stop?.abort();
  }

  /** Puts away what was said. */
  dismiss(): void {
    this.state.setState({ came: null, failed: null });
  }

  async #send(files: readonly NamedFile[], replace: 'yes' | 'no', before: Came): Promise<void> {
    let came = before;
    const asked: NamedFile[] = [];
    const paths: string[] = [];
    await this.#trying(async (signal) => {
      for (const [done, { name, file }] of files.entries()) {
        this.state.setState({ busy: { done, of: files.length } });
        let taken = false;
        const given = { path: name, replace, ...(came.change === null ? {} : { change: came.change }) };
        const body = file as unknown as undefined;
        await this.needs.callForLines(pictureEndpoints.take, given, body, heard, signal);
        if (taken) asked.push({ name, file });

        function heard({ outcome, change }: { outcome?: PictureOutcome; change?: number | null }) {
          if (typeof change === 'number') came = { ...came, change };
          if (!outcome) return;
          if (outcome.what === 'there') {
            taken = true;
            paths.push(outcome.path);
          } else came = after(came, outcome);
        }
      }
    });
    this.state.setState({ came, ...(asked.length ? { asked: { files: asked, paths } } : {}) });
  }

  async #trying(work: (signal: AbortSignal) => Promise<void>): Promise<void> {
    const { signal } = (this.#stop = new AbortController());
    this.state.setState({ failed: null, came: this.state.getState().came, busy: { done: 0, of: 0 } });
    try {
      await work(signal);
    } catch (error) {
      if (!signal.aborted) this.state.setState({ failed: this.needs.messageOf(error) });
    } finally {
      this.state.setState({ busy: null });
      this.needs.changed();
    }
  }
}

/** What came so far, with one more outcome. */
function after(came: Came, outcome: PictureOutcome): Came {
  const { what } = outcome;
  if (what === 'left') return { ...came, left: [...came.left, outcome] };
  if (what === 'there') return came;
  return {
    ...came,
    [what]: came[what] + 1,
    copies: what !== 'same' && outcome.copyOf !== null ? [...came.copies, outcome] : came.copies,
  };
}
