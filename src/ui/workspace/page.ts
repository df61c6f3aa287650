import { benchEndpoints, type ViewAnswer } from '@/contract/bench';
import { ApiError, messageOf } from '@/ui/shared';
import type { Ports, Text } from './ports';
import { Store } from './store';

/** Which page is worked on. */
export interface PageAsked {
  /** Scheme and host of the draft's pages. */
  origin: string;
  /** Path and query of the page, without the draft's prefix. */
  address: string;
  tried: string | null;
  /** The day that the page is shown as of; null: today. */
  on: string | null;
}

/** What the frame shows: its view, and the name of the page as it was made. */
export interface Framed {
  view: string;
  shown: string;
  address: string;
}

export interface PageState {
  answer: ViewAnswer | null;
  /** Why there is no newer one. */
  failure: string | null;
  offline: boolean;
}

export interface PageEvents {
  /** Texts that are not saved. */
  unsaved: () => Text[];
  /** The file that is open, where the shop may write it: while it has errors the last good page stays. */
  open: () => string | null;
  /** Shows a page in the frame. */
  onHtml: (html: string, shown: string) => void;
}

/** Pages are made no more often than this, in milliseconds: a lone keystroke does not wait. */
const between = 90;
/** With a long text (in UTF-16 units) pages are made once typing rests so long, in milliseconds. */
const restLong = 200;
const longText = 20_000;
/** A server that does not answer is asked again so often, in milliseconds. */
const retryMs = 1500;

const isLong = (texts: readonly Text[]): boolean => texts.some(({ text }) => text.length > longText);
const sleep = (time: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, time));

/** The page that is worked on, made again with each change of what is typed: one request at a time, the newest text next. */
export class PageStore extends Store<PageState> {
  #asked: PageAsked | null = null;
  #framed: Framed | null = null;
  #flying = false;
  #wanted = false;
  #stopped = false;
  #began = -Infinity;
  #lastAsked = -Infinity;
  /** How long the last one took, in milliseconds: large ones are made less often. */
  #took = 0;
  #retry: ReturnType<typeof setTimeout> | null = null;

  constructor(
    private readonly draft: string,
    private readonly ports: Pick<Ports, 'call'>,
    private readonly events: PageEvents,
  ) {
    super({ answer: null, failure: null, offline: false });
  }

  /** Goes to a page. */
  show(asked: PageAsked): void {
    if (this.#asked && isSame(this.#asked, asked)) return;
    this.#asked = asked;
    this.make();
  }

  /** The frame shows another page now. */
  framed(frame: Framed): void {
    this.#framed = frame;
    this.make();
  }

  /** Makes the page with what is typed. */
  make = (): void => {
    this.#lastAsked = performance.now();
    this.#wanted = true;
    void this.#run();
  };

  start(): void {
    this.#stopped = false;
  }

  stop(): void {
    this.#stopped = true;
    if (this.#retry) clearTimeout(this.#retry);
    this.#retry = null;
  }

  async #run(): Promise<void> {
    if (this.#flying) return;
    this.#flying = true;
    while (this.#wanted && this.#asked && !this.#stopped) {
      await this.#calm();
      if (this.#stopped) break;
      this.#wanted = false;
      await this.#once(this.#asked);
    }
    this.#flying = false;
  }

  /** Letters that follow one another quickly are shown together. */
  async #calm(): Promise<void> {
    const pause = Math.max(between, this.#took * 2) - (performance.now() - this.#began);
    if (pause > 0) await sleep(pause);
    if (this.#stopped) return;
    // Sending and reading a long text takes from typing: it waits until typing rests.
    if (isLong(this.events.unsaved())) while (performance.now() - this.#lastAsked < restLong) await sleep(restLong / 4);
  }

  async #once(asked: PageAsked): Promise<void> {
    const { origin, address, tried, on } = asked;
    const open = this.events.open();
    const frame = this.#frameOf(asked);
    this.#began = performance.now();
    try {
      const answer = await this.ports.call(
        benchEndpoints.view,
        { draft: this.draft },
        {
          ...{ view: frame?.view ?? null, shown: frame?.shown ?? null },
          ...{ origin, address, try: tried, on, open, unsaved: this.events.unsaved() },
        },
      );
      this.#took = performance.now() - this.#began;
      // Someone went on to another page meanwhile: that one is made next.
      if (this.#asked && !isSame(this.#asked, asked)) return;
      const still = this.#frameOf(asked);
      if (answer.html !== null && still) {
        still.shown = answer.shown;
        this.events.onHtml(answer.html, answer.shown);
      }
      this.#take(answer, open);
    } catch (error) {
      const offline = error instanceof ApiError && error.status === 0;
      this.set({ failure: messageOf(error), offline });
      if (offline && !this.#stopped) this.#retry = setTimeout(this.make, retryMs);
    }
  }

  #take(answer: ViewAnswer, open: string | null): void {
    const { answer: before, failure } = this.now;
    const same = before?.shown === answer.shown && !failure && !before.broken && !answer.broken;
    // Nothing that is shown changed, and no place that is reported: the file that is typed in is not part of the page.
    if (
      same &&
      !answer.table.sources.some(({ file }) => file === open) &&
      JSON.stringify(before.page) === JSON.stringify(answer.page)
    )
      return;
    // While a template cannot be shown, the last good page stays with all that its marks speak of.
    const shown = answer.broken && before?.page ? { ...before, broken: answer.broken } : answer;
    this.set({ answer: shown, failure: null, offline: false });
  }

  #frameOf({ address }: PageAsked): Framed | null {
    return this.#framed?.address === address ? this.#framed : null;
  }
}

const isSame = (a: PageAsked, b: PageAsked): boolean =>
  a.origin === b.origin && a.address === b.address && a.tried === b.tried && a.on === b.on;
