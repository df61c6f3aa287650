import { createStore } from 'zustand/vanilla';
import {
  arrangementOf,
  CannotArrange,
  duplicated,
  type InputEntry,
  movedTo,
  newId,
  type Placed,
  readShelves,
  type ShelfEntry,
  removedFrom,
  withKeys,
  writeArrangement,
} from '@/core/theme';

export interface ArrangeState {
  /** All placements, those of other pages too. */
  placements: readonly Placed[];
  /** Id of the one whose form is open. */
  chosen: string | null;
  /** Why nothing can be arranged: a sentence. */
  refused: string | null;
  canUndo: boolean;
  canRedo: boolean;
}

/** Steps that can be undone. */
const maxSteps = 200;
/** Changes of one input that follow one another so soon are one step, in milliseconds. */
const together = 1000;

/**
 * The placements of a draft as they are arranged: each change gives the text of the shop's `shelves.json`, which the page follows; it is saved as any
 * other file. It needs no React and no browser.
 */
export class ArrangeStore {
  readonly api = createStore<ArrangeState>(() => ({
    ...{ placements: [], chosen: null, refused: null, canUndo: false, canRedo: false },
  }));
  #below: readonly ShelfEntry[] = [];
  /** The texts that it was read from: the same ones are not read again. */
  #read: string | null = null;
  /** The text that it wrote last: it comes back, and is what is here already. */
  #wrote: string | null = null;
  #before: (readonly Placed[])[] = [];
  #after: (readonly Placed[])[] = [];
  #last = { what: '', at: 0 };

  constructor(
    readonly onText: (text: string) => void,
    readonly clock: () => number = () => performance.now(),
  ) {}

  get now(): ArrangeState {
    return this.api.getState();
  }

  /** Takes the shop's own text and those of the layers below, the lowest first. */
  take(own: string | null, below: readonly string[]): void {
    const key = JSON.stringify([own, below]);
    if (key === this.#read) return;
    this.#read = key;
    if (own !== null && own === this.#wrote) return;
    this.#below = below.reduce<readonly ShelfEntry[]>((under, text) => readShelves(text, under).entries, []);
    try {
      const placements = arrangementOf(own, this.#below);
      this.#before = [];
      this.#after = [];
      const { chosen } = this.now;
      const there = placements.some(({ id }) => id === chosen);
      this.api.setState({ placements, chosen: there ? chosen : null, refused: null, canUndo: false, canRedo: false });
    } catch (error) {
      if (!(error instanceof CannotArrange)) throw error;
      this.api.setState({ placements: [], chosen: null, refused: error.message });
    }
  }

  choose = (id: string | null): void => this.api.setState({ chosen: id });

  /** Puts a piece on a shelf, last, and opens its form. */
  add(shelf: string, piece: string, where: Partial<ShelfEntry>): string {
    const { placements } = this.now;
    const id = newId(piece, new Set(placements.map((one) => one.id)));
    this.#change(`add ${id}`, [...placements, { ...where, id, shelf, piece, inputs: {} }]);
    this.choose(id);
    return id;
  }

  /** Changes keys of a placement; undefined removes one. */
  set(id: string, changes: Partial<ShelfEntry>): void {
    this.#one(`set ${id} ${Object.keys(changes).join(' ')}`, id, (one) => withKeys(one, changes));
  }

  /** Fills an input in; undefined empties it. */
  setInput(id: string, name: string, value: InputEntry | undefined): void {
    this.#one(`input ${id} ${name}`, id, (one) => {
      const { [name]: _, ...others } = one.inputs;
      return { ...one, inputs: value === undefined ? others : { ...one.inputs, [name]: value } };
    });
  }

  move(id: string, shelf: string, before: string | null): void {
    this.#change(`move ${id}`, movedTo(this.now.placements, id, shelf, before));
  }

  remove(id: string): void {
    this.#change(`away ${id}`, removedFrom(this.now.placements, id, this.#below));
    if (!this.now.placements.some((one) => one.id === id)) this.choose(null);
  }

  duplicate(id: string, changes: Partial<ShelfEntry> = {}): void {
    const { placements } = this.now;
    const next = duplicated(placements, id, changes);
    this.#change(`copy ${id}`, next);
    const made = next.find((one) => !placements.includes(one));
    if (made) this.choose(made.id);
  }

  /** A second one of a placement on another page alone; what is chosen stays. */
  copyTo(id: string, subject: string): void {
    const { placements } = this.now;
    const where = { subject, kind: undefined, template: undefined, when: undefined };
    this.#change(`copy ${id} ${subject}`, duplicated(placements, id, where));
  }

  undo = (): void => this.#step(this.#before, this.#after);

  redo = (): void => this.#step(this.#after, this.#before);

  #one(what: string, id: string, change: (one: Placed) => Placed): void {
    this.#change(
      what,
      this.now.placements.map((one) => (one.id === id ? change(one) : one)),
    );
  }

  #change(what: string, placements: readonly Placed[]): void {
    const at = this.clock();
    const goesOn = what === this.#last.what && at - this.#last.at < together;
    this.#last = { what, at };
    if (!goesOn) this.#before = [...this.#before, this.now.placements].slice(-maxSteps);
    this.#after = [];
    this.#tell(placements);
  }

  #step(from: (readonly Placed[])[], to: (readonly Placed[])[]): void {
    const placements = from.pop();
    if (!placements) return;
    to.push(this.now.placements);
    this.#last = { what: '', at: 0 };
    this.#tell(placements);
  }

  #tell(placements: readonly Placed[]): void {
    const text = writeArrangement(placements, this.#below) ?? `${JSON.stringify({ placements: [] }, null, 2)}\n`;
    this.#wrote = text;
    const canUndo = this.#before.length > 0;
    this.api.setState({ placements, canUndo, canRedo: this.#after.length > 0 });
    this.onText(text);
  }
}

/** The text of an input in a language, as it is given: by language, or the same in all. */
export function textOf(value: InputEntry | undefined, locale: string): string {
  if (typeof value === 'string') return value;
  return typeof value === 'object' && !Array.isArray(value) && 'texts' in value ? (value.texts[locale] ?? '') : '';
}

/** An input with another text in a language; undefined where no language has any. */
export function withText(
  value: InputEntry | undefined,
  locale: string,
  text: string,
  first: string,
): InputEntry | undefined {
  const given = typeof value === 'object' && !Array.isArray(value) && 'texts' in value ? value.texts : {};
  const before = typeof value === 'string' ? { [first]: value } : given;
  const texts = Object.fromEntries(Object.entries({ ...before, [locale]: text }).filter(([, one]) => one !== ''));
  return Object.keys(texts).length ? { texts } : undefined;
}
