import {
  Prec,
  RangeSet,
  RangeSetBuilder,
  StateEffect,
  StateField,
  type EditorState,
  type Extension,
} from '@codemirror/state';
import {
  Decoration,
  EditorView,
  gutter,
  GutterMarker,
  showTooltip,
  WidgetType,
  type DecorationSet,
  type Tooltip,
} from '@codemirror/view';
import { sentenceOf, type Counted, type LineFacts, type Outcome, type Reason } from '@/core/inspect';

/** What happened on the page at each line of the text, as it was when the page was made. */
export const setFacts = StateEffect.define<Map<number, LineFacts>>();
const openWhy = StateEffect.define<number | null>();

/** What the reasons need from the Bench. */
export interface WhyAsks {
  /** How often a field is empty over the catalogue. */
  counted: (object: string, path: string[]) => Promise<Counted | null>;
  /** Goes to a page where a condition holds, or does not. */
  showPage: (outcome: Outcome, held: boolean) => void;
}

class CountMarker extends GutterMarker {
  constructor(
    readonly text: string,
    readonly state: 'yes' | 'no' | 'some' | 'count',
    readonly said: string,
  ) {
    super();
  }
  override eq(other: CountMarker): boolean {
    return other.text === this.text && other.state === this.state && other.said === this.said;
  }
  override toDOM(): Node {
    const mark = document.createElement('span');
    mark.className = `why-mark why-${this.state}`;
    mark.textContent = this.text;
    mark.title = this.said;
    return mark;
  }
}

/** A line's mark: for conditions how they came out, else how often it was rendered when that is not once. */
function markerOf({ rendered, outcomes, loops }: LineFacts): CountMarker | null {
  const held = outcomes.reduce((sum, one) => sum + one.held, 0);
  const not = outcomes.reduce((sum, one) => sum + one.not, 0);
  if (held + not > 0) {
    if (outcomes.length === 1 && held + not > 1 && held && not)
      return new CountMarker(`${held}/${held + not}`, 'some', `The condition held ${held} of ${held + not} times`);
    const state = not === 0 ? 'yes' : held === 0 ? 'no' : 'some';
    const times = held + not > 1 ? `, ${held + not} times` : '';
    return new CountMarker(
      state === 'some' ? `${held}/${held + not}` : state,
      state,
      state === 'yes' ? `Held${times}: why?` : state === 'no' ? `Did not hold${times}: why?` : 'Held in part: why?',
    );
  }
  if (loops.length) {
    const items = loops.reduce((sum, count) => sum + count, 0);
    return new CountMarker(
      `×${items}`,
      'count',
      `The list had ${loops.join(', ')} ${items === 1 ? 'item' : 'items'} here`,
    );
  }
  if (rendered === null || rendered === 1) return null;
  return new CountMarker(
    rendered ? `×${rendered}` : '–',
    'count',
    rendered ? `Rendered ${rendered} times on this page` : 'Not rendered on this page',
  );
}

/** Why an element is not on the page, after its start tag. */
class NoteWidget extends WidgetType {
  constructor(readonly text: string) {
    super();
  }
  override eq(other: NoteWidget): boolean {
    return other.text === this.text;
  }
  override toDOM(): HTMLElement {
    const note = document.createElement('span');
    note.className = 'why-note';
    note.textContent = this.text;
    return note;
  }
}

interface Facts {
  lines: { from: number; facts: LineFacts }[];
  markers: RangeSet<GutterMarker>;
  notes: DecorationSet;
}

const noFacts: Facts = { lines: [], markers: RangeSet.empty, notes: Decoration.none };

function factsFor(state: EditorState, given: Map<number, LineFacts>): Facts {
  const lines = [...given]
    .filter(([line]) => line <= state.doc.lines)
    .sort(([a], [b]) => a - b)
    .map(([line, facts]) => ({ from: state.doc.line(line).from, facts }));
  const markers = new RangeSetBuilder<GutterMarker>();
  const notes = new RangeSetBuilder<Decoration>();
  const noted: [number, string][] = [];
  for (const { from, facts } of lines) {
    const marker = markerOf(facts);
    if (marker) markers.add(from, from, marker);
    if (facts.hidden) {
      const { file, layer, line, why } = facts.hidden;
      const where = `line ${line} of ${file}${layer ? ` in ${layer}` : ''}`;
      noted.push([state.doc.lineAt(from).to, `not here: ${shortReason(why)} (${where})`]);
    }
    for (const outcome of facts.outcomes) {
      const { place, held, whyNot } = outcome;
      if (held || !whyNot || !place.element || place.element.openTo > state.doc.length) continue;
      noted.push([state.doc.lineAt(place.element.openTo).to, `not here: ${shortReason(whyNot)}`]);
    }
  }
  noted.sort(([a], [b]) => a - b);
  const seen = new Set<number>();
  for (const [at, text] of noted) {
    if (seen.has(at)) continue;
    seen.add(at);
    notes.add(at, at, Decoration.widget({ widget: new NoteWidget(text), side: 1 }));
  }
  return { lines, markers: markers.finish(), notes: notes.finish() };
}

function shortReason({ part, said }: Reason): string {
  if (!part) return 'what stands before it is';
  if (part.comparison) return `${part.text.split(/\s(?:==|!=|<=|>=|<|>|not in|in)\s/)[0]} is ${said.split('\n')[0]}`;
  return `${part.text} is ${said === 'false' ? 'false' : 'empty'}`;
}

const factsField = StateField.define<Facts>({
  create: () => noFacts,
  update(value, transaction) {
    let next = value;
    if (transaction.docChanged)
      next = {
        lines: value.lines.map(({ from, facts }) => ({ from: transaction.changes.mapPos(from), facts })),
        markers: value.markers.map(transaction.changes),
        notes: value.notes.map(transaction.changes),
      };
    for (const effect of transaction.effects) if (effect.is(setFacts)) next = factsFor(transaction.state, effect.value);
    return next;
  },
  provide: (field) => EditorView.decorations.from(field, ({ notes }) => notes),
});

/** Gutter, notes, and the card that says why. */
export function whyExtension(asks: () => WhyAsks): Extension {
  const card = StateField.define<Tooltip | null>({
    create: () => null,
    update(value, transaction) {
      let next = transaction.docChanged ? null : value;
      for (const effect of transaction.effects) {
        if (!effect.is(openWhy)) continue;
        const at = effect.value;
        const here = at === null ? null : factsAt(transaction.state, at);
        next =
          here && at !== null
            ? { pos: at, above: false, arrow: false, create: (view) => cardOf(view, here, asks()) }
            : null;
      }
      return next;
    },
    provide: (field) => showTooltip.from(field),
  });
  return [
    factsField,
    card,
    gutter({
      class: 'why-gutter',
      markers: (view) => view.state.field(factsField).markers,
      initialSpacer: () => new CountMarker('00/00', 'count', ''),
      domEventHandlers: {
        mousedown: (view, line) => {
          view.dispatch({ effects: openWhy.of(line.from) });
          return true;
        },
        mouseover: (view, line) => {
          if (factsAt(view.state, line.from)?.outcomes.length) view.dispatch({ effects: openWhy.of(line.from) });
          return false;
        },
      },
    }),
    Prec.highest(
      EditorView.domEventHandlers({
        mousedown: (_, view) => {
          view.dispatch({ effects: openWhy.of(null) });
          return false;
        },
        keydown: (event, view) => {
          if (event.key === 'Escape') view.dispatch({ effects: openWhy.of(null) });
          // Tab goes into the card while it is open.
          const button = event.key === 'Tab' ? view.dom.querySelector<HTMLElement>('.why-card button') : null;
          if (!button) return false;
          event.preventDefault();
          button.focus();
          return true;
        },
      }),
    ),
  ];
}

/** Opens the card for the line of the caret, or for the nearest one above that has something to tell. */
export function explainHere(view: EditorView): boolean {
  const caret = view.state.selection.main.head;
  const lines = view.state.field(factsField).lines.filter(({ from, facts }) => from <= caret && facts.outcomes.length);
  const last = lines[lines.length - 1];
  if (!last) return false;
  view.dispatch({ effects: openWhy.of(last.from) });
  return true;
}

function factsAt(state: EditorState, at: number): LineFacts | null {
  const { from } = state.doc.lineAt(Math.min(at, state.doc.length));
  return state.field(factsField).lines.find((one) => one.from === from)?.facts ?? null;
}

function cardOf(view: EditorView, { outcomes, rendered, loops }: LineFacts, asks: WhyAsks): { dom: HTMLElement } {
  const dom = document.createElement('div');
  dom.className = 'why-card';
  dom.addEventListener('keydown', (event) => {
    if (event.key !== 'Escape') return;
    view.dispatch({ effects: openWhy.of(null) });
    view.focus();
  });
  dom.setAttribute('role', 'dialog');
  dom.setAttribute('aria-label', 'Why');
  const line = (text: string, kind = '') => {
    const paragraph = document.createElement('p');
    paragraph.textContent = text;
    if (kind) paragraph.className = kind;
    dom.append(paragraph);
    return paragraph;
  };
  if (rendered !== null && !outcomes.length)
    line(
      rendered
        ? `Rendered ${rendered === 1 ? 'once' : `${rendered} times`} on this page.`
        : 'Not rendered on this page.',
    );
  for (const count of loops.slice(0, 3)) line(`The list has ${count} ${count === 1 ? 'item' : 'items'} here.`);
  for (const outcome of outcomes) {
    const { held, not, whyHeld, whyNot } = outcome;
    line(
      held && not
        ? `Held ${held} of ${held + not} times`
        : held
          ? `Held${held > 1 ? ` all ${held} times` : ''}`
          : not
            ? `Did not hold${not > 1 ? `, ${not} times` : ''}`
            : 'Not looked at on this page',
      held && !not ? 'why-yes' : not && !held ? 'why-no' : 'why-some',
    );
    for (const reason of [whyNot, whyHeld]) {
      if (!reason) continue;
      const sentence = line(sentenceOf(reason, null) + '.');
      const { part } = reason;
      if (part?.object)
        void asks.counted(part.object, part.path).then((counted) => {
          sentence.textContent = sentenceOf(reason, counted) + '.';
        });
    }
    const buttons = document.createElement('p');
    buttons.className = 'why-pages';
    for (const wanted of [true, false]) {
      if (wanted ? held && !not : not && !held) continue;
      const button = document.createElement('button');
      button.type = 'button';
      button.textContent = wanted ? 'Show me a page where this holds' : 'Show me a page where it does not';
      button.addEventListener('click', () => {
        view.dispatch({ effects: openWhy.of(null) });
        asks.showPage(outcome, wanted);
      });
      buttons.append(button);
    }
    dom.append(buttons);
  }
  return { dom };
}
