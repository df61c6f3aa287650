import { arrangeEndpoints } from '@/contract/arrange';
import { fileEndpoints, type FileAnswer } from '@/contract/files';
import type { ProblemItem } from '@/contract/shared';
import { mergeShelves, noPlacements } from '@/core/theme';
import { ApiError, messageOf } from '@/ui/shared';
import type { Ports, Text } from './ports';
import { Store } from './store';
import { dropUnsaved, keepUnsaved, readUnsaved } from './unsaved';

/** A file as it is now, when it changed under the text here. */
export interface Conflict {
  text: string;
  /** Null: it was removed. */
  hash: string | null;
  message: string;
  /** The text that both began with; null: it is not known any more. */
  base: string | null;
}

export interface OpenFile {
  path: string;
  /** Name of the layer that was asked for; null: the one that serves. */
  layer: string | null;
  /** As the server has it. */
  saved: FileAnswer;
  text: string;
  /** Goes up when the text was replaced from outside the editor. */
  version: number;
  /** The shop may write it: it has the file, or the developer said to change it for the shop. */
  writable: boolean;
  /** Of a file below: the shop has its own already, or an unsaved beginning of one. */
  begun: boolean;
  /** When an earlier visit left the text that was put back. */
  restored: string | null;
  /** The file as it is now, when it changed under the text here. */
  conflict: Conflict | null;
  notice: string | null;
  saving: boolean;
}

export interface OpenFileState {
  /** Its text follows typing after a rest; `FileStore.typed` has it at once. */
  file: OpenFile | null;
  failure: string | null;
}

/** The file that says what stands on shelves. */
export const shelvesFile = 'shelves.json';

/** What both texts of a file in conflict began with. */
const baseOf = ({ path, saved }: OpenFile): string =>
  path === shelvesFile && saved.hash === null ? noPlacements : saved.text;

/**
 * Both texts of a file in conflict, put together placement by placement: with mine and with theirs of what both changed, and what that is. null: that
 * cannot be done with this file.
 */
export function bothOf({ path, text, conflict }: OpenFile): { mine: string; theirs: string; clashes: string[] } | null {
  if (path !== shelvesFile || !conflict || conflict.hash === null || conflict.base === null) return null;
  const merged = mergeShelves(conflict.base, text, conflict.text);
  return merged && { mine: merged.mine, theirs: merged.theirs, clashes: merged.both };
}

/** What others do when the file changes. */
export interface FileEvents {
  /** At once, with every change of the text. */
  onText: (path: string) => void;
  onSaved: (path: string, problems: ProblemItem[]) => void;
}

/** How long typing rests before the screen follows and the text is kept, in milliseconds. */
const rest = 150;

/** One file of a draft in the editor: loaded, typed in, kept, saved. Nothing typed is ever dropped unless that is asked for. */
export class FileStore extends Store<OpenFileState> {
  #asked: { path: string; layer: string | null } | null = null;
  /** Counts the times it was loaded: an answer to an earlier one comes too late. */
  #turn = 0;
  /** The file as it stands this moment. */
  #latest: OpenFile | null = null;
  #timer: ReturnType<typeof setTimeout> | null = null;
  /** Saving was asked for while an earlier text was on its way: it is done once that has arrived. */
  #again: { together: string | undefined } | null = null;

  constructor(
    private readonly draft: string,
    private readonly ports: Pick<Ports, 'call' | 'announce'>,
    private readonly events: FileEvents,
  ) {
    super({ file: null, failure: null });
  }

  /** Opens a file: the one that serves, or that of a layer by its name. */
  open(path: string | null, layer: string | null): void {
    if (path === null || (this.#asked?.path === path && this.#asked.layer === layer)) return;
    this.#keep();
    this.#asked = { path, layer };
    this.#change(null);
    void this.load();
  }

  /** Reads the open file from the server, and puts back what was typed in it before. */
  load = async (): Promise<void> => {
    if (!this.#asked) return;
    const { path, layer } = this.#asked;
    const turn = ++this.#turn;
    this.set({ failure: null });
    let saved: FileAnswer;
    try {
      saved = await this.#read(path, layer);
    } catch (error) {
      if (turn !== this.#turn) return;
      this.#change(null);
      this.set({ failure: messageOf(error) });
      return;
    }
    if (turn !== this.#turn) return;
    // What was typed while the answer was on its way is put back like any other.
    this.#keep();
    this.#change(this.#loaded(path, layer, saved));
  };

  /** Shelves have calls of their own: who arranges need not see any other file. */
  #read(path: string, layer: string | null): Promise<FileAnswer> {
    const { draft } = this;
    if (path === shelvesFile && layer === null) return this.ports.call(arrangeEndpoints.open, { draft });
    return this.ports.call(fileEndpoints.open, { draft, path, layer: layer ?? undefined });
  }

  #write(path: string, given: { text: string; expected: string | null; together: string | undefined }) {
    const { draft } = this;
    if (path === shelvesFile) return this.ports.call(arrangeEndpoints.save, { draft }, given);
    return this.ports.call(fileEndpoints.save, { draft }, { path, ...given });
  }

  #loaded(path: string, layer: string | null, saved: FileAnswer): OpenFile {
    const unsaved = readUnsaved(this.draft, path);
    const base: OpenFile = {
      ...{ path, layer, saved, text: saved.text, version: Date.now() },
      ...{ writable: saved.hash !== null, begun: false },
      ...{ restored: null, conflict: null, notice: null, saving: false },
    };
    // A file below is only looked at: what the shop has, or has begun, is another text.
    if (layer !== null) return { ...base, writable: false, begun: saved.hash !== null || unsaved !== null };
    if (!unsaved) return base;
    if (unsaved.text === saved.text) {
      dropUnsaved(this.draft, path);
      return base;
    }
    const message = `“${path}” was saved from elsewhere since you typed this. Your text is kept here: look at both, then choose.`;
    return {
      ...base,
      text: unsaved.text,
      writable: true,
      restored: unsaved.made ? null : unsaved.at,
      conflict: unsaved.from === saved.hash ? null : { text: saved.text, base: null, hash: saved.hash, message },
    };
  }

  /** Checks whether the file was saved or removed elsewhere, and takes over what is newer where nothing is typed. */
  look = async (): Promise<void> => {
    const before = this.#latest;
    if (!before || before.saving || before.conflict || before.layer !== null) return;
    let fresh: FileAnswer | null = null;
    try {
      fresh = await this.#read(before.path, null);
    } catch (error) {
      if (!(error instanceof ApiError) || error.status !== 404) return;
    }
    const now = this.#latest;
    if (now?.path !== before.path || now.saving || now.conflict || (fresh && fresh.hash === now.saved.hash)) return;
    const base = baseOf(now);
    if (!fresh || (now.saved.hash !== null && fresh.hash === null)) {
      const message = `“${now.path}” was taken out of the shop’s layer elsewhere. Its text is kept here: save it again, or leave it.`;
      this.#change({ ...now, conflict: { text: fresh?.text ?? '', hash: null, base, message } });
    } else if (now.text !== now.saved.text) {
      const message = `“${now.path}” was saved from elsewhere meanwhile. Your text is kept here: merge both, or choose.`;
      this.#change({ ...now, conflict: { text: fresh.text, hash: fresh.hash, base, message } });
      this.#together();
    } else {
      const writable = fresh.hash !== null || now.writable;
      this.#change({ ...now, saved: fresh, text: fresh.text, writable, version: now.version + 1 });
      this.events.onText(now.path);
    }
  };

  /** Another window saved a file. */
  heard({ draft, path }: { draft: string; path: string }): void {
    if (draft === this.draft && path === this.#latest?.path) void this.look();
  }

  type = (text: string): void => {
    const now = this.#latest;
    if (!now || now.text === text) return;
    const changed = (of: string) => of !== now.saved.text;
    this.#latest = { ...now, text };
    this.events.onText(now.path);
    // The screen around the editor follows when typing rests, and when the text becomes an unsaved one.
    if (changed(now.text) !== changed(text)) this.set({ file: this.#latest });
    this.#clear();
    this.#timer = setTimeout(() => {
      this.set({ file: this.#latest });
      this.#keep();
    }, rest);
  };

  /** The text of the open file as it stands this moment; null where it is the saved one. */
  typed(): Text | null {
    const now = this.#latest;
    return now?.writable && now.text !== now.saved.text ? { path: now.path, text: now.text } : null;
  }

  /** Whether this is the open file, and its text the saved one again: what was kept of it is not dropped before typing rests. */
  isAsSaved(path: string): boolean {
    const now = this.#latest;
    return now?.path === path && now.layer === null && now.writable && now.text === now.saved.text;
  }

  /** Whether this is the open file, and the one that serves. */
  isOpen(path: string): boolean {
    return this.#latest?.path === path && this.#latest.layer === null;
  }

  /** Saves the text as it stands. `over`: onto that file, for the one that this text began with. */
  save = async (over?: { expected: string | null }, together?: string): Promise<void> => {
    if (this.#latest?.saving) {
      this.#again = { together };
      return;
    }
    this.#again = null;
    await this.#saveOnce(over, together);
    while (this.#again !== null) {
      const next: { together: string | undefined } = this.#again;
      this.#again = null;
      const now = this.#latest;
      if (now && now.text !== now.saved.text) await this.#saveOnce(undefined, next.together);
    }
  };

  async #saveOnce(over?: { expected: string | null }, together?: string): Promise<void> {
    const now = this.#latest;
    if (!now?.writable || (now.conflict && !over)) return;
    this.#keep();
    this.#change({ ...now, saving: true, notice: null });
    const { path, text } = now;
    const expected = over ? over.expected : now.saved.hash;
    try {
      const saved = await this.#write(path, { text, expected, together });
      const after = this.#latest;
      if (after?.path === path) {
        const { hash, layer, problems } = saved;
        this.#change({
          ...after,
          ...{ saved: { ...after.saved, text, hash, layer, problems }, saving: false, conflict: null, restored: null },
        });
        if (after.text === text) dropUnsaved(this.draft, path);
        else this.#keep();
      } else if (readUnsaved(this.draft, path)?.text === text) dropUnsaved(this.draft, path);
      this.ports.announce({ draft: this.draft, path });
      this.events.onSaved(path, saved.problems);
    } catch (error) {
      const after = this.#latest;
      if (after?.path !== path) return;
      const body = error instanceof ApiError ? error.body : null;
      if (body?.code === 'changed' && body.now) {
        const base = baseOf(after);
        this.#change({ ...after, saving: false, conflict: { ...body.now, base, message: body.message } });
        // Both changed other placements: they are put together, and saved as was asked.
        if (this.#together()) this.#again = { together };
      } else {
        const notice = `Not saved. ${messageOf(error)} Your text is kept in this browser.`;
        this.#change({ ...after, saving: false, notice });
      }
    }
  }

  /** Puts a text in, as one change that can be undone. */
  put = (text: string): void => {
    const now = this.#latest;
    if (now) this.#change({ ...now, text, writable: true, restored: null, version: now.version + 1 });
  };

  /** Makes the file below changeable: the shop gets its own at the first save. */
  override = (): void => {
    if (this.#latest) this.#change({ ...this.#latest, writable: true });
  };

  /** Ends a conflict with a text that holds both: it goes on from the file as it is now. */
  settle = (text: string): void => {
    const now = this.#latest;
    if (!now?.conflict) return;
    const saved = { ...now.saved, text: now.conflict.text, hash: now.conflict.hash };
    this.#change({ ...now, text, saved, conflict: null, version: now.version + 1 });
    this.#keep();
    this.events.onText(now.path);
  };

  /** Puts both texts together where neither contradicts the other; false: someone has to look. */
  #together(): boolean {
    const both = this.#latest && bothOf(this.#latest);
    if (!both || both.clashes.length) return false;
    this.settle(both.mine);
    return true;
  }

  /** Drops what was typed for the file as the server has it. */
  dropTyped = (): void => {
    const now = this.#latest;
    if (!now) return;
    this.#forget(now);
    void this.load();
  };

  /** Removes the shop's own file: the one below serves again. */
  revert = async (): Promise<void> => {
    const now = this.#latest;
    if (!now?.saved.hash) return;
    const { path } = now;
    try {
      await this.ports.call(fileEndpoints.revert, { draft: this.draft }, { path, expected: now.saved.hash });
      this.ports.announce({ draft: this.draft, path });
      if (this.#latest?.path === path) this.#forget(this.#latest);
      else dropUnsaved(this.draft, path);
      this.events.onSaved(path, []);
      await this.load();
    } catch (error) {
      if (this.#latest?.path === path) this.#change({ ...this.#latest, notice: messageOf(error) });
    }
  };

  /** Keeps what is typed, as when the window is about to close. */
  rest = (): void => this.#keep();

  #forget(now: OpenFile): void {
    this.#clear();
    dropUnsaved(this.draft, now.path);
    this.#latest = { ...now, text: now.saved.text, conflict: null };
  }

  #keep(): void {
    this.#clear();
    const now = this.#latest;
    if (!now?.writable) return;
    const { path, text, saved } = now;
    if (text === saved.text && !now.conflict) {
      dropUnsaved(this.draft, path);
      return;
    }
    const stored = keepUnsaved(this.draft, path, { text, from: saved.hash, at: new Date().toISOString() });
    if (stored || now.notice) return;
    const notice = 'This browser has no room to keep the unsaved text over a reload: save it soon.';
    this.#change({ ...now, notice });
  }

  #clear(): void {
    if (this.#timer) clearTimeout(this.#timer);
    this.#timer = null;
  }

  #change(file: OpenFile | null): void {
    this.#latest = file;
    this.set({ file });
  }
}

/** Name of the layer that a text is in: the shop's once it is the shop's, or has been begun to be. */
export function layerOfText(file: OpenFile, shopLayer: string): string {
  return file.writable && file.text !== file.saved.text ? shopLayer : file.saved.layer.name;
}
