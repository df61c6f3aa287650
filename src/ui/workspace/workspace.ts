import type { Arranged } from '@/core/inspect';
import type { FileItem } from '@/contract/files';
import type { FromFrame, Matched } from '@/contract/frame';
import type { ProblemItem, SubjectItem } from '@/contract/shared';
import type { TypedProblems } from '@/ui/shared';
import { pageOfDraft, pathOf } from '@/core/address';
import { ChangesStore } from './changes';
import { CommentsStore } from './comments';
import { LanguageStore } from './language';
import { NamingStore } from './naming';
import { FileStore, shelvesFile } from './open-file';
import { PageStore } from './page';
import { PanelStore } from './panels';
import type { Editor, Frame, Ports, Text } from './ports';
import { noteRecent } from './recent';
import { SpotStore } from './spot';
import { Store } from './store';
import { allUnsaved } from './unsaved';

/** Where one is, as the workbench's address says it. */
export interface Place {
  /** Scheme, host and port of the draft's pages. */
  origin: string;
  /** Address of the draft's pages: their origin, with a path where drafts have no names of their own. */
  base: string;
  /** Path and query of the page in the shop. */
  address: string;
  tried: string | null;
  on: string | null;
  /** The file to open; null: the page's own template. */
  file: string | null;
  layer: string | null;
}

export interface WorkspaceState {
  place: Place;
  /** The open file; null: the page is not known yet. */
  path: string | null;
  /** All files of the draft. */
  files: FileItem[];
  /** Goes up when the frame is to load the page again. */
  revision: number;
  /** How often what is typed changed, and rested. */
  edits: number;
  /** How often a newer page was put in place of the one shown. */
  painted: number;
  /** What the page's style rules match, as it answered last. */
  matched: (Matched & { id: number }) | null;
  /** The placement that was chosen on the page, where its shelves are filled. */
  placed: Arranged | null;
}

/** Keys as they are pressed. */
export interface Press {
  key: string;
  ctrl: boolean;
  shift: boolean;
  alt: boolean;
}

/** How long typing rests before what follows it is asked again, in milliseconds. */
const rest = 150;

/**
 * All that is worked on in one draft: the page and the file, where one stands in both, what the language says, what is
 * being changed. It hears the address, the frame and the editor, and calls the server; screens only show it.
 */
export class Workspace extends Store<WorkspaceState> {
  readonly file: FileStore;
  readonly page: PageStore;
  readonly spot: SpotStore;
  readonly language: LanguageStore;
  readonly naming: NamingStore;
  readonly changes: ChangesStore;
  readonly comments: CommentsStore;
  readonly panels = new PanelStore();
  #frame: Frame | null = null;
  #editor: Editor | null = null;
  #toSource = false;
  #pressed: ((press: Press) => void) | null = null;
  #resting: ReturnType<typeof setTimeout> | null = null;
  #byPath = new Map<string, FileItem>();
  /** The open file and which text of it was put into the editor. */
  #openedLast: string | null = null;

  constructor(
    readonly draft: string,
    place: Place,
    private readonly ports: Ports,
    /** What may be done here besides looking: see and write the source, fill shelves. */
    readonly may: { source: boolean; arrange: boolean } = { source: true, arrange: true },
  ) {
    super({
      ...{ place, path: place.file, files: [], revision: 0, edits: 0, painted: 0, matched: null, placed: null },
    });
    const { unsaved } = this;
    const editor = () => this.#editor;
    const ownHash = (path: string) => this.#byPath.get(path)?.own ?? null;
    const onSaved = this.#saved;
    this.file = new FileStore(draft, ports, { onText: this.#typed, onSaved });
    this.page = new PageStore(draft, ports, {
      unsaved,
      open: () => this.#writes(),
      onHtml: (html, shown) => this.#frame?.post({ kind: 'show', html, shown }),
    });
    this.spot = new SpotStore(draft, ports, {
      ...{ unsaved, editor },
      topmost: (path) => this.#byPath.get(path)?.layer.name ?? null,
      origin: () => this.now.place.origin,
      frame: () => this.#frame,
    });
    this.comments = new CommentsStore(
      ports,
      { spot: this.spot, panels: this.panels },
      {
        ...{ unsaved, frame: () => this.#frame, address: () => this.now.place.address, may: () => this.may },
        choosePlaced: (placement) => this.set({ placed: { placement } }),
      },
    );
    this.language = new LanguageStore(draft, ports, unsaved);
    const { file, spot, language } = this;
    this.changes = new ChangesStore(
      draft,
      ports,
      { file, spot },
      { ...{ unsaved, ownHash, editor, onSaved }, page: this.#pageNow, make: this.page.make, point: this.point },
    );
    const { keepText } = this.changes;
    this.naming = new NamingStore(
      draft,
      ports,
      { file, spot, language },
      {
        ...{ unsaved, ownHash, editor, keepText },
        onSaved: () => onSaved('', []),
        showUses: () => this.panels.showTab('uses'),
      },
    );
  }

  /** Begins; gives what ends it. Texts that are not saved are kept. */
  start(): () => void {
    if (this.may.source) this.language.start();
    this.page.start();
    const ends = [this.changes.start(), this.page.subscribe(this.#answered), this.file.subscribe(this.#opened)];
    this.#goOn();
    return () => {
      this.file.rest();
      for (const end of ends) end();
      if (this.#resting) clearTimeout(this.#resting);
      this.page.stop();
      this.language.stop();
    };
  }

  /** The address says another place. */
  visit(place: Place): void {
    this.set({ place });
    this.#goOn();
  }

  /** The draft's files, asked again once any was saved; null: they cannot be had. */
  listed(files: FileItem[] | null): void {
    if (files) {
      this.#byPath = new Map(files.map((one) => [one.path, one]));
      this.set({ files });
    }
    if (this.may.source) void this.language.load();
  }

  /** Texts that are not saved: the open one as it stands this moment, and those of files that were open before. */
  unsaved = (): Text[] => {
    const typed = this.file.typed();
    const stored = allUnsaved(this.draft).filter(({ path }) => path !== typed?.path && !this.file.isAsSaved(path));
    return typed ? [...stored, typed] : stored;
  };

  /** What is wrong with the files that are looked at, as they are typed; null: nothing is typed that is not saved. */
  typedProblems(): TypedProblems | null {
    const { file } = this.file.now;
    const { problems, paths } = this.language.now;
    const isTyped = this.changes.now.others.length > 0 || (file !== null && file.text !== file.saved.text);
    if (!isTyped || !problems) return null;
    return { paths, problems: problems.filter(({ severity }) => severity !== 'note') };
  }

  setFrame = (frame: Frame | null): void => {
    this.#frame = frame;
  };

  setEditor = (editor: Editor | null): void => {
    this.#editor = editor;
    if (editor && this.#toSource) this.toSource();
  };

  /** Goes to the source: as soon as it is there. */
  toSource = (): void => {
    this.#toSource = !this.#editor;
    this.#editor?.focus();
  };

  get frame(): Frame | null {
    return this.#frame;
  }

  get editor(): Editor | null {
    return this.#editor;
  }

  /** Begins or ends to point at the page. */
  point = (pointing: boolean): void => {
    this.panels.open({ pointing });
    this.#frame?.post({ kind: 'point', on: pointing });
    if (pointing) this.#frame?.focus();
  };

  /** Goes to the page of a subject. */
  goToPage = (subject: SubjectItem): void => {
    this.ports.go({
      page: this.#pageNow().prefix + pathOf(subject),
      ...{ file: this.#kept(), layer: null, try: null },
    });
  };

  /** Opens a file: that of a layer by its name, else the one that serves. */
  open = (file: string, layer: string | null = null): void => this.ports.go({ file, layer });

  /** Fills the page's shelves in place of its source, or goes back to that. */
  arrange = (on: boolean = this.now.place.file !== shelvesFile): void =>
    this.ports.go({ file: on ? shelvesFile : null, layer: null, source: null });

  /** Loads the page again. */
  reload = (): void => this.set({ revision: this.now.revision + 1 });

  /** The caret of the editor moved; `typing`: because the text changed. */
  caretAt = (offset: number, typing: boolean): void => {
    this.spot.caretAt(offset, typing);
    if (this.panels.now.tab === 'uses') void this.naming.lookUp(offset);
  };

  /** Writes phrases into the shop's files of words, in each language that lacks them; unsaved, as all that is typed. */
  addPhrases = async (phrases: { key: string; text: string }[]): Promise<void> => {
    for (const { path, text } of await this.language.ask('phrases', phrases)) this.changes.keepText(path, text);
  };

  /** Saves all that is not saved, as one change of the history. */
  saveAll = async (): Promise<void> => {
    const together = Math.random().toString(36).slice(2);
    await this.changes.saveOthers(together);
    await this.file.save(undefined, together);
  };

  /** The open file was put back to an earlier version. */
  restored = (): void => {
    void this.file.load();
    this.#saved('', []);
  };

  /** Keys that are pressed in the page go to who has the commands; gives what ends that. */
  hearKeys(pressed: (press: Press) => void): () => void {
    this.#pressed = pressed;
    return () => (this.#pressed = null);
  }

  /** The page in the frame says something; `attended`: someone is at it. */
  heard = (said: FromFrame, attended: boolean): void => {
    const { pointing } = this.panels.now;
    switch (said.kind) {
      case 'ready': {
        const before = this.now.place.address;
        const address = this.#movedTo(said.address, attended, true);
        if (address === null) return;
        this.page.framed({ view: said.view, shown: said.shown, address });
        const at = address === before ? this.spot.pointedAt : null;
        this.#frame?.post({ kind: 'point', on: pointing, ...(pointing && at !== null ? { at } : {}) });
        // What is outlined on the page, and shown on it, is told to the one that is there now.
        this.set({ painted: this.now.painted + 1 });
        return;
      }
      case 'moved':
        this.#movedTo(said.address, attended, false);
        return;
      case 'pointing':
        this.panels.open({ pointing: said.on });
        return;
      case 'pointed':
        void this.spot.pointAt(said.at);
        return;
      case 'picked':
        if (!attended) return;
        if (pointing) this.point(false);
        if (this.now.path === shelvesFile) void this.spot.arrangedAt(said.at).then((placed) => this.set({ placed }));
        else if (this.changes.now.moving) void this.spot.levelsAt(said.at).then(this.changes.aim);
        else void this.spot.pick(said.at);
        return;
      case 'commented':
        if (attended) this.comments.choose(said.id);
        return;
      case 'matched':
        this.set({ matched: said });
        return;
      case 'shown':
        this.set({ painted: this.now.painted + 1 });
        return;
      case 'key':
        if (attended) this.#pressed?.({ key: said.key, ctrl: said.key !== 'F6', shift: false, alt: false });
    }
  };

  /** The page went elsewhere by itself; null: out of the draft's pages. */
  #movedTo(address: string, attended: boolean, loaded: boolean): string | null {
    const to = pageOfDraft(this.now.place.base, address);
    if (to !== null && to !== this.now.place.address) {
      // A page that went elsewhere by itself takes no file out of the hands of who writes in it.
      const leave: Record<string, null> = loaded && attended ? { file: null, layer: null, try: null } : {};
      this.ports.go({ page: to, ...leave }, !loaded);
    }
    return to;
  }

  #goOn(): void {
    const { origin, address, tried, on } = this.now.place;
    this.page.show({ origin, address, tried, on });
    this.#open();
  }

  /** Opens the file that the address names, else the page's template. */
  #open(): void {
    const { file, layer } = this.now.place;
    const { template } = this.#pageNow();
    const { may } = this;
    const path = may.source ? (file ?? (template && `${template}.html`)) : may.arrange ? shelvesFile : null;
    if (path !== this.now.path) this.set({ path });
    this.file.open(path, may.source ? layer : null);
    if (may.source) this.#look();
  }

  /** The file that stays open on another page: what is arranged there is in it. */
  #kept(): string | null {
    return this.now.place.file === shelvesFile ? shelvesFile : null;
  }

  /** The open file and all templates that made the page are checked. */
  #look(): void {
    const drawn = this.page.now.answer?.page?.drawn.map(({ name }) => `${name}.html`) ?? [];
    const { path } = this.now;
    this.language.lookAt([...new Set([...(path ? [path] : []), ...drawn])]);
  }

  readonly #answered = (): void => {
    this.spot.answered(this.page.now.answer);
    this.#open();
    if (this.may.source) this.language.check();
  };

  readonly #opened = (): void => {
    const { file } = this.file.now;
    const name = file && `${file.path} ${file.version}`;
    if (file && name !== this.#openedLast) {
      noteRecent(this.draft, file.path);
      if (this.may.source) this.language.check();
    }
    this.#openedLast = name;
    this.spot.opened(file);
  };

  /** At once with each change of what is typed. */
  readonly #typed = (): void => {
    this.page.make();
    if (this.#resting) clearTimeout(this.#resting);
    this.#resting = setTimeout(() => {
      this.set({ edits: this.now.edits + 1 });
      this.language.check();
    }, rest);
  };

  readonly #saved = (path: string, problems: ProblemItem[]): void => {
    this.changes.saved(path);
    if (!problems.some((one) => one.severity === 'error')) this.reload();
    this.page.make();
    this.ports.draftChanged();
  };

  readonly #pageNow = () => {
    const { address, tried } = this.now.place;
    const page = this.page.now.answer?.page;
    const prefix = page?.languages.find((one) => one.current)?.prefix ?? '';
    return { address, tried, template: page?.template ?? null, prefix };
  };

  #writes(): string | null {
    const { file } = this.file.now;
    return file?.writable && file.layer === null ? file.path : null;
  }
}
