import { benchEndpoints, type ViewAnswer } from '@/contract/bench';
import type { Pointed } from '@/contract/frame';
import {
  countOf,
  levelsOf,
  type Arranged,
  arrangedAt,
  marksOfPlacement,
  marksOfShelf,
  marksOf,
  placeOfMark,
  readMark,
  renderedIn,
  spotsAt,
  templatesTo,
  trailOf,
  type Level,
  type Place,
  type PlaceTable,
  type Spot,
  type Step,
} from '@/core/inspect';
import { layerOfText, type OpenFile } from './open-file';
import type { Editor, Frame, Ports, Text } from './ports';
import { Store } from './store';

/** How long typing rests before the caret's place is reported, in milliseconds. */
const typingRest = 150;

/** A place on the page with its source: what is pointed at, or where the caret stands. */
export interface Where {
  spot: Spot;
  place: Place;
  file: string;
  layer: string;
  /** The frame on the page that is meant, of all in which it was rendered. */
  frame: number;
  count: number;
  /** Which turn of the innermost loop it is: “3 of 12”; null: of none. */
  item: string | null;
}

interface Caret {
  file: string;
  layer: string;
  offset: number;
}

export interface SpotState {
  /** Name of the layer that is written. */
  shopLayer: string;
  /** The layer that the open text is, or will be, in. */
  layerHere: string;
  /** What the marks of the page speak of. */
  table: PlaceTable | null;
  /** The view of a piece that was fetched by itself; null: the page's own. */
  view: string | null;
  caret: Caret | null;
  /** What the caret's element is, on the page. */
  where: Where | null;
  pointed: Where | null;
  /** Marks of all elements that the place became. */
  marks: string[];
  /** The mark of the element that is meant. */
  mark: string | null;
  /** Templates that lead to it. */
  trail: Step[];
  /** The place and those around it, innermost first. */
  levels: Level[];
}

export interface SpotEvents {
  /** The layer whose file serves at a path. */
  topmost: (path: string) => string | null;
  unsaved: () => Text[];
  origin: () => string;
  frame: () => Frame | null;
  editor: () => Editor | null;
}

/** What is known of the caret's place. */
type Here = Pick<SpotState, 'where' | 'marks' | 'mark' | 'trail' | 'levels'>;

const nothing: Here = { where: null, marks: [], mark: null, trail: [], levels: [] };
const nowhere: SpotState = {
  ...{ shopLayer: '', layerHere: '', table: null, view: null, caret: null, pointed: null },
  ...nothing,
};

/** Where one stands: pointing at the page moves the caret, moving the caret outlines the place on the page. */
export class SpotStore extends Store<SpotState> {
  #answer: ViewAnswer | null = null;
  #file: OpenFile | null = null;
  /** Tables of served pieces that scripts fetched, by view. */
  readonly #pieces = new Map<string, PlaceTable>();
  #view: string | null = null;
  #caret: Caret | null = null;
  /** Which of the times it was rendered is meant, counted from 0. */
  #turn = 0;
  #pointedLast: Pointed | null = null;
  #outlined = '';
  /** What the place was last worked out from. */
  #inputs: unknown[] = [];
  #resting: ReturnType<typeof setTimeout> | null = null;
  /** Where the caret goes once a file is in the editor. */
  #wanted: { file: string; layer: string | null; show: (editor: Editor) => void } | null = null;

  constructor(
    private readonly draft: string,
    private readonly ports: Pick<Ports, 'call' | 'go'>,
    private readonly events: SpotEvents,
  ) {
    super(nowhere);
  }

  /** The page was made again. */
  answered(answer: ViewAnswer | null): void {
    if (answer === this.#answer) return;
    // A page that was rendered again has marks of its own; pieces that were fetched for the one before are gone.
    if (answer?.shown !== this.#answer?.shown) {
      this.#pieces.clear();
      this.#view = null;
      this.#outlined = '';
    }
    this.#answer = answer;
    this.#settle();
  }

  /** Another file is open, or its text changed. */
  opened(file: OpenFile | null): void {
    if (file === this.#file) return;
    const before = this.#file && `${this.#file.path} ${this.now.layerHere}`;
    this.#file = file;
    const layer = this.#layerHere();
    // A file that is opened has its caret at the top, until it is put elsewhere.
    if (file && `${file.path} ${layer}` !== before && (this.#caret?.file !== file.path || this.#caret.layer !== layer))
      this.#caret = { file: file.path, layer, offset: this.#caret?.file === file.path ? this.#caret.offset : 0 };
    this.#settle();
  }

  /** The editor shows the open file as it stands now: the caret goes where it was wanted. */
  shown(): void {
    const to = this.#wanted;
    const editor = this.events.editor();
    if (!to || !editor || this.#file?.path !== to.file) return;
    if (to.layer !== null && this.#layerHere() !== to.layer) return;
    this.#wanted = null;
    to.show(editor);
  }

  /** The caret moved; `typing`: because the text changed. */
  caretAt(offset: number, typing: boolean): void {
    if (!this.#file) return;
    const caret = { file: this.#file.path, layer: this.#layerHere(), offset };
    this.#rest();
    const put = () => {
      this.#caret = caret;
      this.#settle();
    };
    // Not in the way of typing: what shows the caret's place follows when typing rests.
    if (typing) this.#resting = setTimeout(put, typingRest);
    else put();
  }

  /** Something of the page is pointed at; null: nothing any more. */
  pointAt = async (at: Pointed | null): Promise<void> => {
    this.#pointedLast = at;
    const of = at && (await this.#tableOf(at.view).catch(() => null));
    if (this.#pointedLast !== at) return;
    const pointed = of ? whereOf(of, at.mark) : null;
    this.set({ pointed });
    // Who sees no source is told no place in it.
    if (!pointed?.file || !at) return;
    const { place, file, item, layer } = pointed;
    const parts = [labelOf(place), `${file}, line ${place.line}`, ...(item ? [item] : []), layerName(layer)];
    this.events.frame()?.post({ kind: 'label', mark: at.mark, text: parts.join('  ·  ') });
  };

  /** The mark of the page itself that is pointed at; null: nothing, or part of a piece that a script fetched. */
  get pointedAt(): string | null {
    return this.#pointedLast && this.#pointedLast.view === null ? this.#pointedLast.mark : null;
  }

  /** Something of the page was chosen: its source is opened. */
  pick = async (at: Pointed): Promise<void> => {
    const of = await this.#tableOf(at.view).catch(() => null);
    const where = of && whereOf(of, at.mark);
    if (!of || !where) return;
    this.#view = at.view;
    this.#turn = Math.max(0, renderedIn(of, where.spot).indexOf(where.frame));
    this.#caret = { file: where.file, layer: where.layer, offset: where.place.from };
    this.#settle();
    this.goPlace(where.file, where.layer, where.place.from);
  };

  /** The placement or empty shelf that something of the page is part of; null: of none. */
  arrangedAt = async (at: Pointed): Promise<Arranged | null> => {
    const of = await this.#tableOf(at.view).catch(() => null);
    return of && arrangedAt(of, at.mark);
  };

  /** Outlines a placement on the page, and scrolls to it; null: none. */
  outlinePlacement = (one: string | null, scroll: boolean): void => {
    const { table, view } = this.now;
    const marks = table && one ? marksOfPlacement(table, one) : [];
    this.events.frame()?.post({ kind: 'outline', marks, view, to: scroll ? (marks[0] ?? null) : null });
  };

  /** Shows on the page where these shelves stand; none: nowhere. */
  showShelves = (shelves: readonly { name: string; label: string }[]): void => {
    const { table } = this.now;
    const shown = table
      ? shelves.flatMap(({ name, label }) => marksOfShelf(table, name).map((mark) => ({ mark, label })))
      : [];
    this.events.frame()?.post({ kind: 'shelves', shelves: shown });
  };

  /** What is pointed at, with the draws around it. */
  levelsAt = async (at: Pointed): Promise<Level[]> => {
    const of = await this.#tableOf(at.view).catch(() => null);
    const found = of && whereOf(of, at.mark);
    return of && found ? levelsOf(of, found.spot, found.frame) : [];
  };

  /** Scrolls the page to the caret's element. */
  scrollTo = (): void => {
    const { mark, marks, view } = this.now;
    if (mark) this.events.frame()?.post({ kind: 'outline', marks, view, to: mark });
  };

  /** Opens a template of the trail, at what it draws below. */
  toStep = (step: Step, next: Step | undefined): void => {
    const { table } = this.now;
    if (!table) return;
    const frame = table.parents[next?.frame ?? -1] ?? -1;
    const template = table.templateOf[frame];
    const place = next && template !== undefined ? table.templates[template]?.places[next.place] : null;
    const source = place && table.sources[place.source];
    if (!place || !source) {
      this.ports.go({ file: step.file, layer: this.#layerParam(step.file, step.layer) });
      return;
    }
    const of = { template: template ?? 0, place: next?.place ?? 0 };
    this.#turn = Math.max(0, renderedIn(table, of).indexOf(frame));
    this.#settle();
    this.goPlace(source.file, source.layer, place.from);
  };

  /** Opens the shop's own file of a path with its caret at an offset. */
  goTo = (path: string, offset: number): void => {
    this.#wanted = { file: path, layer: this.now.shopLayer, show: (editor) => editor.show(offset) };
    this.ports.go({ file: path, layer: null });
  };

  /** Opens the file that serves at a path with its caret at a line, from 1. */
  goLine = (path: string, line: number): void => {
    const show = (editor: Editor) => editor.showLine(line);
    if (this.#file?.path === path && this.#file.layer === null) this.#show(show);
    else {
      this.#wanted = { file: path, layer: null, show };
      this.ports.go({ file: path, layer: null });
    }
  };

  /** Opens a file of a layer with its caret at an offset. */
  goPlace = (path: string, layer: string, from: number): void => {
    const show = (editor: Editor) => editor.show(from);
    if (this.#file?.path === path && this.#layerHere() === layer) this.#show(show);
    else {
      this.#wanted = { file: path, layer, show };
      this.ports.go({ file: path, layer: this.#layerParam(path, layer) });
    }
  };

  /** Puts the caret at an offset once the editor shows the text that was just put into the open file. */
  afterPut(offset: number): void {
    if (this.#file) this.#wanted = { file: this.#file.path, layer: null, show: (editor) => editor.show(offset) };
  }

  #show(show: (editor: Editor) => void): void {
    const editor = this.events.editor();
    if (editor) show(editor);
  }

  #rest(): void {
    if (this.#resting) clearTimeout(this.#resting);
    this.#resting = null;
  }

  #layerHere(): string {
    return this.#file ? layerOfText(this.#file, this.#answer?.shopLayer ?? '') : '';
  }

  /** How an address names a file of a layer: the one that serves needs no layer. */
  #layerParam(path: string, layer: string): string | null {
    return layer === this.now.shopLayer || layer === this.events.topmost(path) ? null : layer;
  }

  async #tableOf(view: string | null): Promise<PlaceTable | null> {
    if (view === null) return this.#answer?.table ?? null;
    const known = this.#pieces.get(view);
    if (known) return known;
    const of = this.#answer?.shown;
    const { table } = await this.ports.call(
      benchEndpoints.view,
      { draft: this.draft },
      { view, address: '/', try: null, origin: this.events.origin(), unsaved: this.events.unsaved(), shown: null },
    );
    if (this.#answer?.shown === of) this.#pieces.set(view, table);
    return table;
  }

  /** Works out what follows from page, file and caret. */
  #settle(): void {
    const layerHere = this.#layerHere();
    const table = this.#view === null ? (this.#answer?.table ?? null) : (this.#pieces.get(this.#view) ?? null);
    const caret = this.#caret;
    const path = this.#file?.path ?? null;
    const inputs = [table, caret, layerHere, path, this.#turn];
    const same = inputs.every((one, at) => one === this.#inputs[at]);
    this.#inputs = inputs;
    const shopLayer = this.#answer?.shopLayer ?? '';
    const here = table && caret && caret.file === path && caret.layer === layerHere;
    this.set({
      ...{ shopLayer, layerHere, table, caret, view: this.#view },
      ...(same ? {} : here ? hereOn(table, caret, this.#turn) : nothing),
    });
    this.#outline(this.now.marks);
  }

  #outline(marks: string[]): void {
    const key = `${this.#answer?.shown ?? ''} ${this.#view ?? ''} ${marks.join(' ')}`;
    if (key === this.#outlined) return;
    this.#outlined = key;
    this.events.frame()?.post({ kind: 'outline', marks, view: this.#view, to: null });
  }
}

/** What is to be known of a caret's place. */
function hereOn(table: PlaceTable, caret: Caret, turn: number): Here {
  const where = whereIs(table, caret, turn);
  if (!where) return nothing;
  // A layout is all of the page: an outline around it would say nothing.
  const whole = where.place.kind === 'draw' && where.place.text.startsWith('layouts/');
  const marks = whole ? [] : marksOf(table, where.spot);
  const mark = marks.find((one) => one.startsWith(`${where.frame}.`)) ?? marks[0] ?? null;
  return {
    ...{ where, marks, mark },
    trail: templatesTo(table, where.frame),
    levels: levelsOf(table, where.spot, where.frame),
  };
}

/** What a caret's element is on the page: the given turn of those that were rendered. */
function whereIs(table: PlaceTable, { file, layer, offset }: Caret, turn: number): Where | null {
  const spots = spotsAt(table, file, layer, offset);
  const spot = spots.find((one) => countOf(table, one) > 0) ?? spots[0];
  if (!spot) return null;
  const frames = renderedIn(table, spot);
  const frame = frames[Math.min(turn, frames.length - 1)] ?? table.templateOf.lastIndexOf(spot.template);
  const place = table.templates[spot.template]?.places[spot.place];
  return place && frame >= 0
    ? { spot, place, file, layer, frame, count: countOf(table, spot), item: itemOf(table, frame) }
    : null;
}

/** The place that a mark of the page speaks of. */
function whereOf(table: PlaceTable, mark: string): Where | null {
  const read = readMark(mark);
  const place = placeOfMark(table, mark);
  const source = place && table.sources[place.source];
  if (!read || !place || !source) return null;
  const { frame } = read;
  const spot = { template: table.templateOf[frame] as number, place: read.place };
  return { spot, place, ...source, frame, count: countOf(table, spot), item: itemOf(table, frame) };
}

/** The innermost turn of a loop on the way to a frame. */
function itemOf(table: PlaceTable, frame: number): string | null {
  return trailOf(table, frame).findLast((step) => step.kind === 'item')?.text ?? null;
}

export const layerName = (layer: string): string => layer || 'shop';

/** A place in a few signs: `<p>`, `{product.name}`. */
export function labelOf({ kind, text, mark }: Place): string {
  if (kind === 'element') return `<${text}>${mark ? ` ${mark}` : ''}`;
  if (kind === 'draw' || kind === 'shelf') return `<${kind} ${text}>`;
  return kind === 'value' ? `{${text}}` : text;
}
