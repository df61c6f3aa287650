/** What someone has open in a draft. */
export interface Here {
  /** Their window. */
  window: string;
  account: number;
  called: string;
  /** Path of the file that is open. */
  file: string | null;
  /** What is on the shelf or piece that is being filled, in words. */
  shelf: string | null;
}

/** Who says nothing for so long is gone, in milliseconds; a window says so every 20 seconds. */
export const goneAfter = 50_000;
/** So many windows are remembered of a draft. */
const most = 500;

/** Who has which draft open, as their windows say. It is kept in memory: whoever is here says so again. */
export class Presence {
  readonly #drafts = new Map<number, Map<string, Here & { until: number }>>();

  constructor(private readonly now: () => number = Date.now) {}

  say(draft: number, here: Here): void {
    const of = this.#of(draft);
    of.delete(here.window);
    if (of.size < most) of.set(here.window, { ...here, until: this.now() + goneAfter });
  }

  leave(draft: number, window: string, account: number): void {
    const of = this.#of(draft);
    if (of.get(window)?.account === account) of.delete(window);
  }

  /** The others in a draft: one line for each that they have open. */
  others(draft: number, account: number): Here[] {
    return [...this.#of(draft).values()]
      .filter((one) => one.account !== account)
      .sort((a, b) => a.called.localeCompare(b.called));
  }

  #of(draft: number): Map<string, Here & { until: number }> {
    let of = this.#drafts.get(draft);
    if (!of) this.#drafts.set(draft, (of = new Map()));
    const now = this.now();
    for (const [window, { until }] of of) if (until <= now) of.delete(window);
    return of;
  }
}
