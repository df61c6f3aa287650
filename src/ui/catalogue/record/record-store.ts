import { createStore } from 'zustand/vanilla';
import { goodsEndpoints } from '@/contract/goods';
import { recordEndpoints, type RecordAnswer, type RecordKindName } from '@/contract/records';
import type { Refusal } from '@/contract/shared';
import { namedThings, type NamedThing } from '@/core/editing';
import { differences, mergeFields } from '@/core/exchange';
import type { call as callServer, callForLines as callServerForLines } from '@/ui/shared';
import { bringPictures } from '../bring';
import type { NamedFile } from '../pictures-store';

export type Fields = Readonly<Record<string, unknown>>;
type PageMade = Awaited<ReturnType<typeof callServer<(typeof recordEndpoints)['page']>>>;

export interface RecordState {
  answer: RecordAnswer | null;
  /** The record as it is edited. */
  record: Fields;
  failed: string | null;
  /** Values that someone else changed meanwhile, in words: saving asks. */
  overlap: readonly string[] | null;
  saving: boolean;
  /** What was saved last, and can be undone. */
  saved: number | null;
  /** What is known of the page that is shown beside; why there is no newer one. */
  page: PageMade['page'];
  pageFailed: string | null;
}

/** What was edited and is not saved, with the record that it started from. */
export interface Draft {
  before: Fields;
  record: Fields;
}

interface Needs {
  call: typeof callServer;
  callForLines: typeof callServerForLines;
  messageOf(error: unknown): string;
  refusalOf(error: unknown): Refusal | null;
  changed(): void;
  /** Where what is not saved is kept beyond a reload; null: nothing is. */
  keep(name: string, draft: Draft | null): void;
  kept(name: string): Draft | null;
  /** The record has another slug now. */
  renamed(slug: string): void;
}

/** The frame beside. */
interface PageBeside {
  /** Shows a page as it is edited. */
  show(html: string, shown: string): void;
  /** Loads the page again: another was saved. */
  reload(): void;
}

/** What the frame shows. */
interface Framed {
  view: string;
  shown: string;
  address: string;
}

/** Pages are made no more often than this, in milliseconds. */
const between = 80;

const empty: RecordState = {
  ...{ answer: null, record: {}, failed: null, overlap: null, saving: false, saved: null, page: null },
  pageFailed: null,
};

/** A record that is edited, and its page in a draft, made again with each change. Kept outside React. */
export class RecordStore {
  readonly state = createStore<RecordState>(() => empty);
  /** The record as it was read, or saved last: what is edited is held against it. */
  #before: Fields = {};
  #frame: Framed | null = null;
  #beside: PageBeside | null = null;
  #making = false;
  #wanted = false;
  #began = -Infinity;

  constructor(
    readonly kind: RecordKindName,
    readonly slug: string,
    /** Where its page is made; null: there is no draft. */
    readonly at: { draft: string; origin: string; address: string } | null,
    readonly needs: Needs,
  ) {}

  /** What it is kept under. */
  get name(): string {
    return this.kind === 'product' ? this.slug : `${this.kind} ${this.slug}`;
  }

  async open(): Promise<void> {
    try {
      const answer = await this.needs.call(recordEndpoints.record, { kind: this.kind, slug: this.slug });
      const kept = this.needs.kept(this.name);
      this.#before = kept?.before ?? answer.record;
      this.state.setState({ answer, record: kept?.record ?? answer.record, failed: null });
      this.#make();
    } catch (error) {
      this.state.setState({ failed: this.needs.messageOf(error) });
    }
  }

  /** Takes in what others saved since, beside what is edited here. */
  async refresh(): Promise<void> {
    if (!this.state.getState().answer) return;
    try {
      const answer = await this.needs.call(recordEndpoints.record, { kind: this.kind, slug: this.slug });
      const { before, after } = this.#edited();
      const { fields, overlaps } = mergeFields(before, after, answer.record);
      // Where both changed the same, what is edited here stays until saving asks.
      if (overlaps.length) return;
      this.#before = answer.record;
      this.#edit({ ...answer.record, ...fields }, { answer });
    } catch {
      // It is read again with the next save.
    }
  }

  /** Fields that differ from what was read, as they were and are. */
  #edited(): { before: Record<string, unknown>; after: Record<string, unknown> } {
    const changed = differences(this.#before, this.state.getState().record);
    return {
      before: Object.fromEntries(changed.map(({ field, before }) => [field, before])),
      after: Object.fromEntries(changed.map(({ field, after }) => [field, after])),
    };
  }

  get isEdited(): boolean {
    return differences(this.#before, this.state.getState().record).length > 0;
  }

  #changes() {
    const { before, after } = this.#edited();
    return this.#changeOf(before, after);
  }

  /** The same for the page beside, which has the address that it had. */
  #changesOfPage() {
    const edited = this.#edited();
    const { slug: _, ...before } = edited.before;
    const { slug: __, ...after } = edited.after;
    return this.#changeOf(before, after);
  }

  #changeOf(before: Record<string, unknown>, after: Record<string, unknown>) {
    return Object.keys(after).length ? [{ kind: this.kind, slug: this.slug, before, after }] : [];
  }

  set(fields: Fields): void {
    this.#edit({ ...this.state.getState().record, ...fields }, { failed: null, overlap: null, saved: null });
  }

  /** Drops what is edited. */
  drop(): void {
    this.#edit(this.#before, { failed: null, overlap: null });
    void this.open();
  }

  #edit(record: Fields, more: Partial<RecordState> = {}): void {
    this.state.setState({ record, ...more });
    this.needs.keep(this.name, this.isEdited ? { before: this.#before, record } : null);
    this.#make();
  }

  /** Saves what is edited; `force` takes the place of what others wrote. */
  async save(force = false): Promise<void> {
    const changes = this.#changes();
    if (!changes.length || this.state.getState().saving) return;
    this.state.setState({ saving: true, failed: null, overlap: null });
    const sent = this.state.getState().record;
    try {
      const names = Object.keys(changes[0]?.after ?? {}).join(', ');
      const { change, records } = await this.needs.call(
        recordEndpoints.save,
        {},
        { changes, title: `${this.slug}: ${names}`.slice(0, 200), force },
      );
      this.#before = records[0]?.record ?? this.#before;
      // What was written while it was saved stays, and is not saved yet.
      const since = differences(sent, this.state.getState().record).map(({ field, after }) => [field, after]);
      this.#edit({ ...this.#before, ...Object.fromEntries(since) }, { saved: change });
      const slug = records[0]?.slug ?? this.slug;
      if (slug !== this.slug) await this.#follow(slug);
      this.needs.changed();
      this.#beside?.reload();
      if (slug !== this.slug) this.needs.renamed(slug);
    } catch (error) {
      const refusal = this.needs.refusalOf(error);
      if (refusal?.code === 'overlap') this.state.setState({ overlap: refusal.left ?? [] });
      else this.state.setState({ failed: this.needs.messageOf(error) });
    }
    this.state.setState({ saving: false });
  }

  /** Has the draft's files name it by another slug. Where that fails they lead there all the same, by the redirect. */
  async #follow(to: string): Promise<void> {
    if (!this.at || !(namedThings as readonly string[]).includes(this.kind)) return;
    const of = this.kind as NamedThing;
    await this.needs
      .call(recordEndpoints.follow, { draft: this.at.draft }, { of, from: this.slug, to })
      .catch(() => undefined);
  }

  /** Takes what others wrote where both changed the same; what else is edited stays. */
  async takeTheirs(): Promise<void> {
    const answer = await this.needs.call(recordEndpoints.record, { kind: this.kind, slug: this.slug });
    const { before, after } = this.#edited();
    const { fields } = mergeFields(before, after, answer.record);
    this.#before = answer.record;
    this.#edit({ ...answer.record, ...fields }, { answer, overlap: null });
  }

  async undo(): Promise<void> {
    const change = this.state.getState().saved;
    if (change === null) return;
    try {
      await this.needs.callForLines(
        goodsEndpoints.undo,
        { change, overlapping: 'leave' },
        undefined,
        () => {},
        new AbortController().signal,
      );
      this.state.setState({ saved: null });
      await this.open();
      this.needs.changed();
      this.#beside?.reload();
    } catch (error) {
      this.state.setState({ failed: this.needs.messageOf(error) });
    }
  }

  /** Brings pictures in, each under the product's own folder; gives their paths, and why others could not be taken. */
  bring(files: readonly NamedFile[]): Promise<{ paths: string[]; left: string[] }> {
    return bringPictures(this.needs, this.slug, files);
  }

  // The page beside.

  /** Whom pages are shown to. */
  attach(beside: PageBeside): void {
    this.#beside = beside;
  }

  /** The frame shows a page: from now on it is made with what is edited. */
  framed(frame: Framed): void {
    this.#frame = frame;
    this.#make();
  }

  #make(): void {
    this.#wanted = true;
    void this.#run();
  }

  async #run(): Promise<void> {
    if (this.#making || !this.at) return;
    this.#making = true;
    while (this.#wanted && this.#frame) {
      const pause = between - (performance.now() - this.#began);
      // Letters that follow one another quickly are shown together.
      if (pause > 0) await new Promise((resolve) => setTimeout(resolve, pause));
      this.#wanted = false;
      await this.#once(this.at, this.#frame);
    }
    this.#making = false;
  }

  async #once({ draft, origin, address }: NonNullable<RecordStore['at']>, frame: Framed): Promise<void> {
    this.#began = performance.now();
    try {
      const { page, html, shown } = await this.needs.call(
        recordEndpoints.page,
        { draft },
        { view: frame.view, shown: frame.shown, origin, address, changes: this.#changesOfPage() },
      );
      this.state.setState({ page, pageFailed: null });
      if (html === null || this.#frame !== frame) return;
      frame.shown = shown;
      this.#beside?.show(html, shown);
    } catch (error) {
      this.state.setState({ pageFailed: this.needs.messageOf(error) });
    }
  }
}
