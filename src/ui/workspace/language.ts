import { benchEndpoints } from '@/contract/bench';
import { catalogueEndpoints } from '@/contract/catalogue';
import type { ProblemItem } from '@/contract/shared';
import { ApiError } from '@/ui/shared';
import { LanguageClient, type AskLanguage } from '@/ui/source';
import type { Ports, Text } from './ports';
import { Store } from './store';

export interface LanguageState {
  /** Problems of the templates that are looked at; null: they are not known yet, or those of others are. */
  problems: ProblemItem[] | null;
  /** The files that those are of. */
  paths: string[];
  /** Goes up when the worker has come to know what is saved and typed: what was asked before may have another answer now. */
  known: number;
}

/** How long typing rests before all that is looked at is checked, in milliseconds. */
const rest = 250;
/** Most fields whose emptiness is asked for at once. */
const maxFields = 200;

/** The language in a worker: what is wrong as one types, and whatever the editor asks. */
export class LanguageStore extends Store<LanguageState> {
  #client: LanguageClient | null = null;
  #timer: ReturnType<typeof setTimeout> | null = null;
  #checking: AbortController | null = null;
  /** Counts the times it was loaded: a theme that comes after a newer one is dropped. */
  #loading = 0;
  #loaded = false;
  #paths: string[] = [];
  #open!: () => void;
  /** The worker has a theme, or there is no server to get one from. */
  readonly #begun = new Promise<void>((resolve) => (this.#open = resolve));

  constructor(
    private readonly draft: string,
    private readonly ports: Pick<Ports, 'call' | 'language'>,
    private readonly unsaved: () => Text[],
  ) {
    super({ problems: null, paths: [], known: 0 });
  }

  start(): void {
    this.#client = new LanguageClient(this.ports.language());
    if (this.#loading) void this.load();
  }

  stop(): void {
    this.#rest();
    this.#client?.stop();
    this.#client = null;
  }

  /** Asks the language, once it has a theme to answer from. */
  ask: AskLanguage = async (kind, given, signal) => {
    if (kind !== 'format') await this.#begun;
    if (!this.#client) throw new DOMException('The workbench was left.', 'AbortError');
    return this.#client.ask(kind, given, signal);
  };

  /** Files of the draft were saved: the worker gets the theme as it is now. */
  load = async (): Promise<void> => {
    const turn = ++this.#loading;
    try {
      const theme = await this.ports.call(benchEndpoints.theme, { draft: this.draft });
      if (turn !== this.#loading || !this.#client) return;
      await this.#client.ask('load', theme);
      this.#loaded = true;
      this.check();
    } catch (error) {
      // Without a server the worker goes on with what it has.
      if (!isExpected(error)) throw error;
    } finally {
      if (turn === this.#loading) this.#open();
    }
  };

  /** Looks at other templates: the open one first, and those of the page. */
  lookAt(paths: string[]): void {
    if (paths.join('\n') === this.#paths.join('\n')) return;
    this.#paths = paths;
    this.set({ problems: null });
    this.check();
  }

  /** Checks what is looked at, once typing rests. */
  check(): void {
    this.#rest();
    this.#timer = setTimeout(() => void this.#check(), rest);
  }

  async #check(): Promise<void> {
    const client = this.#client;
    if (!client) return;
    const asking = new AbortController();
    this.#checking = asking;
    try {
      await client.ask('texts', this.unsaved());
      const wanted = await this.#checkOnce(client, asking.signal);
      if (!wanted.length || asking.signal.aborted) return;
      const fields = wanted.slice(0, maxFields);
      const facts = await this.ports.call(catalogueEndpoints.emptiness, { draft: this.draft }, { fields });
      await client.ask('learn', { fields, facts });
      await this.#checkOnce(client, asking.signal);
    } catch (error) {
      // Cancelled for a newer check, or the server does not answer: what is known stays.
      if (!isExpected(error)) throw error;
    }
  }

  async #checkOnce(client: LanguageClient, signal: AbortSignal): Promise<{ object: string; path: string[] }[]> {
    const { answer, state } = await client.stated('check', this.#paths, signal);
    // What was worked out before the worker was told something newer is checked again anyway.
    if (client.isNow(state)) {
      const before = this.now.problems;
      const same = before !== null && JSON.stringify(before) === JSON.stringify(answer.problems);
      this.set({
        paths: this.#paths,
        problems: !this.#loaded ? null : same ? before : answer.problems,
        known: this.now.known + 1,
      });
    }
    return answer.wanted;
  }

  #rest(): void {
    if (this.#timer) clearTimeout(this.#timer);
    this.#timer = null;
    this.#checking?.abort();
  }
}

const isExpected = (error: unknown): boolean =>
  error instanceof ApiError || (error instanceof DOMException && error.name === 'AbortError');
