import { fileEndpoints } from '@/contract/files';
import { withEdits, type Use } from '@/core/editing';
import { messageOf } from '@/ui/shared';
import type { Found } from '@/ui/source';
import type { FileStore } from './open-file';
import type { LanguageStore } from './language';
import type { Editor, Ports, Text } from './ports';
import type { SpotStore } from './spot';
import { Store } from './store';
import { dropUnsaved, readUnsaved } from './unsaved';

export interface NamingState {
  /** What is named at the caret. */
  thing: Use | null;
  /** Its new name is being asked for. */
  renaming: boolean;
}

export interface NamingEvents {
  unsaved: () => Text[];
  /** Hash of the shop's own file of a path; null: there is none. */
  ownHash: (path: string) => string | null;
  editor: () => Editor | null;
  /** Gives a file of the shop's another text, not saved yet. */
  keepText: (path: string, text: string) => void;
  /** Files were saved that are not the open one. */
  onSaved: () => void;
  /** Shows the list of uses. */
  showUses: () => void;
}

/** What is named at the caret: where it is made and used, its new name; and one text in place of another in every file. */
export class NamingStore extends Store<NamingState> {
  constructor(
    private readonly draft: string,
    private readonly ports: Pick<Ports, 'call' | 'go' | 'say'>,
    private readonly parts: { file: FileStore; spot: SpotStore; language: LanguageStore },
    private readonly events: NamingEvents,
  ) {
    super({ thing: null, renaming: false });
  }

  /** Lists where a thing is used. */
  showUses = (thing: Use): void => {
    this.set({ thing });
    this.events.showUses();
  };

  /** Asks for a thing's new name. */
  askName = (thing: Use): void => {
    this.showUses(thing);
    this.setRenaming(true);
  };

  setRenaming = (renaming: boolean): void => this.set({ renaming });

  /** Goes to where a thing is made; where that is nowhere, lists its uses. */
  goToDefinition = async (use: Use): Promise<void> => {
    const place = await this.parts.language.ask('definition', use.thing);
    if (place) this.parts.spot.goPlace(place.file, place.layer, place.from);
    else this.showUses(use);
  };

  /** Looks up what is named at an offset of the open file. */
  lookUp = async (offset: number): Promise<void> => {
    const text = this.events.editor()?.text();
    const file = this.parts.file.now.file?.path;
    if (this.now.renaming || text === undefined || !file?.endsWith('.html')) return;
    const { layerHere: layer } = this.parts.spot.now;
    const thing = await this.parts.language.ask('thing', { file, layer, text, offset });
    if (thing) this.set({ thing });
  };

  /** Renames it everywhere. A template's name is its file's: then all of it is saved together. */
  rename = async (use: Use, name: string): Promise<void> => {
    const { kind, name: before } = use.thing;
    try {
      if (kind === 'piece') await this.#renameFile(before, name);
      else {
        const edits = await this.parts.language.ask('rename', { thing: use.thing, name });
        const changed = await Promise.all(
          edits.map(async (one) => ({ path: one.file, text: withEdits(await this.#textOf(one.file), one.edits) })),
        );
        for (const one of changed) this.events.keepText(one.path, one.text);
      }
      this.set({ thing: { ...use, thing: { ...use.thing, name } } });
      this.ports.say.success(
        `${before} is called ${name} now${kind === 'piece' ? '' : ', in texts that are not saved yet'}.`,
      );
    } catch (error) {
      this.ports.say.error(messageOf(error));
    }
  };

  async #renameFile(before: string, name: string): Promise<void> {
    const [path, to] = [`${before}.html`, `${name}.html`];
    const seen = (of: string) => {
      const typed = readUnsaved(this.draft, of);
      return typed ? typed.from : this.events.ownHash(of);
    };
    const unsaved = this.events.unsaved().map((one) => ({ ...one, expected: seen(one.path) }));
    const asked = { path, to, expected: seen(path), unsaved };
    const { paths } = await this.ports.call(fileEndpoints.rename, { draft: this.draft }, asked);
    for (const one of paths) dropUnsaved(this.draft, one);
    this.events.onSaved();
    this.ports.go({ file: to, layer: null });
  }

  /** Puts one text in place of another at these places, in texts that are not saved yet. */
  replaceAll = async (matches: Found[], words: string, by: string): Promise<void> => {
    const paths = [...new Set(matches.map((one) => one.file))];
    try {
      for (const path of paths) {
        const edits = matches
          .filter((one) => one.file === path)
          .map(({ from }) => ({ from, to: from + words.length, text: by }));
        this.events.keepText(path, withEdits(await this.#textOf(path), edits));
      }
      this.ports.say.success(`Replaced in ${paths.length} ${paths.length === 1 ? 'file' : 'files'}, not saved yet.`);
    } catch (error) {
      this.ports.say.error(messageOf(error));
    }
  };

  /** Writes the open file as the language is written. */
  format = async (): Promise<void> => {
    const text = this.events.editor()?.text();
    const { file } = this.parts.file.now;
    if (text === undefined || !file?.writable) return;
    const formatted = await this.parts.language.ask('format', { file: file.path, text });
    if (formatted === null) this.ports.say.info('Only a file that can be read is formatted.');
    else if (formatted !== text && this.events.editor()?.text() === text) this.events.keepText(file.path, formatted);
  };

  async #textOf(path: string): Promise<string> {
    const typed = this.events.unsaved().find((one) => one.path === path);
    if (typed) return typed.text;
    return (await this.ports.call(fileEndpoints.open, { draft: this.draft, path })).text;
  }
}
