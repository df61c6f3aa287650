import { benchEndpoints, type ChangeRequest, type ReachAnswer, type SurveyLine } from '@/contract/bench';
import { fileEndpoints } from '@/contract/files';
import type { ProblemItem } from '@/contract/shared';
import { writeAt } from '@/core/editing';
import { drawsBetween, type Level, type Outcome } from '@/core/inspect';
import { messageOf } from '@/ui/shared';
import type { FileStore } from './open-file';
import type { Editor, Ports, Text } from './ports';
import type { SpotStore } from './spot';
import { Store } from './store';
import { dropUnsaved, keepUnsaved, readUnsaved, watchUnsaved } from './unsaved';

export type ReachRow = ReachAnswer['rows'][number];

/** What came of a change. */
export interface Told {
  text: string;
  wrong: boolean;
  /** Files that are to be saved for it. */
  paths: string[];
}

export interface ChangesState {
  told: Told | null;
  /** The place that is being moved. */
  moving: Level | null;
  /** Where it may go to, once that was pointed at. */
  goal: Level[] | null;
  savingAll: boolean;
  /** Files with texts that are not saved, besides the open one. */
  others: string[];
}

export interface ChangesEvents {
  unsaved: () => Text[];
  ownHash: (path: string) => string | null;
  editor: () => Editor | null;
  /** The page that is worked on. */
  page: () => { address: string; tried: string | null; template: string | null; prefix: string };
  /** Makes the page again. */
  make: () => void;
  point: (on: boolean) => void;
  onSaved: (path: string, problems: ProblemItem[]) => void;
}

/** What is done at a place of the page or of the source: changes, moves, values written, pages found, files saved together. */
export class ChangesStore extends Store<ChangesState> {
  constructor(
    private readonly draft: string,
    private readonly ports: Pick<Ports, 'call' | 'callForLines' | 'go' | 'say' | 'announce'>,
    private readonly parts: { file: FileStore; spot: SpotStore },
    private readonly events: ChangesEvents,
  ) {
    super({ told: null, moving: null, goal: null, savingAll: false, others: [] });
  }

  /** Keeps up with the texts that are not saved, until the given is called. */
  start(): () => void {
    const look = () => {
      const paths = this.events.unsaved().map((one) => one.path);
      const others = paths.filter((path) => !this.parts.file.isOpen(path));
      if (others.join('\n') !== this.now.others.join('\n')) this.set({ others });
    };
    look();
    const ends = [watchUnsaved(look), this.parts.file.subscribe(look)];
    return () => ends.forEach((end) => end());
  }

  /** Begins to move a place: its new one is pointed at next. Null: it stays. */
  move = (moving: Level | null): void => {
    this.set({ moving, goal: null });
    this.events.point(moving !== null);
  };

  /** Where the place that is being moved may go to. */
  aim = (goal: Level[]): void => this.set({ goal });

  clear = (): void => this.set({ told: null });

  /** Does something at a place: the files of the shop's layer get their new texts, which are shown and not saved yet. */
  doAt = async (target: ChangeRequest['target'], action: ChangeRequest['action']): Promise<void> => {
    this.set({ moving: null, goal: null });
    const { template } = this.events.page();
    const asked = { target, action, into: template && `${template}.html`, unsaved: this.events.unsaved() };
    try {
      const { changes, says } = await this.ports.call(benchEndpoints.change, { draft: this.draft }, asked);
      const at = new Date().toISOString();
      for (const { path, text, from } of changes) {
        // What a closed window left of the file is in its new text: it is taken over first.
        readUnsaved(this.draft, path);
        keepUnsaved(this.draft, path, { text, from, at, made: true });
      }
      const [first] = changes;
      if (first) this.#show(first.path, first.text, first.caret);
      const paths = changes.map(({ path }) => path);
      this.set({ told: { text: `${says} Save to keep it.`, wrong: false, paths } });
    } catch (error) {
      this.set({ told: { text: messageOf(error), wrong: true, paths: [] } });
    }
  };

  /** A file was saved: what was told to be saved is, once all of its files are. */
  saved = (path: string): void => {
    const { told } = this.now;
    if (!told?.paths.includes(path)) return;
    const paths = told.paths.filter((one) => one !== path);
    this.set({ told: paths.length ? { ...told, paths } : null });
  };

  #show(path: string, text: string, caret: number): void {
    if (this.parts.file.isOpen(path)) {
      this.parts.spot.afterPut(caret);
      this.parts.file.put(text);
    } else this.parts.spot.goTo(path, caret);
    this.events.make();
  }

  /** Gives a file of the shop's another text, not saved yet. */
  keepText = (path: string, text: string): void => {
    if (this.parts.file.isOpen(path)) this.parts.file.put(text);
    else {
      const unsaved = readUnsaved(this.draft, path);
      const from = unsaved ? unsaved.from : this.events.ownHash(path);
      keepUnsaved(this.draft, path, { text, from, at: new Date().toISOString(), made: true });
    }
    this.events.make();
  };

  /** Hands a name down from the template that has it to the one at hand. */
  handDown = (name: string, from: string): void => {
    const { table, where, layerHere } = this.parts.spot.now;
    const { file } = this.parts.file.now;
    const way = table && where ? drawsBetween(table, where.frame, from) : [];
    if (file) void this.doAt({ file: file.path, layer: layerHere, from: 0 }, { kind: 'hand-down', name, from, way });
  };

  /** Writes a value at the caret; `condition`: so that it is there only when it has a value. */
  write = (row: ReachRow, condition: boolean): void => {
    const editor = this.events.editor();
    if (!editor || !this.parts.file.now.file) return;
    const { edits, caret } = writeAt(editor.text(), editor.caret(), row, condition);
    editor.change(edits);
    editor.show(caret);
  };

  /** Goes to a subject on which a condition comes out so. */
  showPage = async ({ place }: Outcome, held: boolean): Promise<void> => {
    const source = this.parts.spot.now.table?.sources[place.source];
    if (!source) return;
    const key = `${source.layer} ${place.from} condition`;
    const { address, tried, prefix } = this.events.page();
    const template = source.file.replace(/\.html$/, '');
    const asked = { address, try: tried, template, unsaved: this.events.unsaved() };
    const asking = new AbortController();
    const { say } = this.ports;
    const hide = say.loading('Looking for such a page…');
    let found: { path: string; name: string } | undefined;
    const hear = ({ survey }: SurveyLine) => {
      found ??= survey.examples.find((example) => example.key === key && example.held === held);
      if (found) asking.abort();
    };
    try {
      await this.ports.callForLines(benchEndpoints.survey, { draft: this.draft }, asked, hear, asking.signal);
      if (!found) say.info(`There is no page on which it ${held ? 'holds' : 'does not hold'}.`);
    } catch (error) {
      if (!asking.signal.aborted) say.error(messageOf(error));
    }
    hide();
    if (!found) return;
    this.ports.go({ page: prefix + found.path, file: source.file });
    say.success(`${found.name}: it ${held ? 'holds' : 'does not hold'} here.`);
  };

  /** Saves the files that are not open. `together` makes one change of these saves and of others that say it. */
  saveOthers = async (together?: string): Promise<void> => {
    this.set({ savingAll: true });
    for (const path of this.now.others) {
      const unsaved = readUnsaved(this.draft, path);
      if (!unsaved) continue;
      try {
        const sent = { path, text: unsaved.text, expected: unsaved.from, together };
        const { problems } = await this.ports.call(fileEndpoints.save, { draft: this.draft }, sent);
        if (readUnsaved(this.draft, path)?.text === unsaved.text) dropUnsaved(this.draft, path);
        this.ports.announce({ draft: this.draft, path });
        this.events.onSaved(path, problems);
      } catch (error) {
        this.ports.say.error(`${path} is not saved. ${messageOf(error)} Open it to look at both.`);
      }
    }
    this.set({ savingAll: false });
  };
}
