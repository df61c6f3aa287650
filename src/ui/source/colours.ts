import { css } from '@codemirror/lang-css';
import { html } from '@codemirror/lang-html';
import { javascript } from '@codemirror/lang-javascript';
import { json } from '@codemirror/lang-json';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { EditorState, Prec, type Extension, type Text } from '@codemirror/state';
import { Decoration, ViewPlugin, type DecorationSet, type EditorView, type ViewUpdate } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { Highlighter, type Highlight } from '@/core/language';

const style = HighlightStyle.define([
  { tag: [tags.tagName, tags.angleBracket], color: 'var(--code-tag)' },
  { tag: [tags.attributeName, tags.propertyName], color: 'var(--code-name)' },
  { tag: [tags.attributeValue, tags.string], color: 'var(--code-text)' },
  { tag: [tags.comment, tags.processingInstruction, tags.documentMeta], color: 'var(--soft)' },
  { tag: [tags.keyword, tags.unit, tags.color, tags.number, tags.bool], color: 'var(--code-value)' },
]);

/** Larger texts are shown without the language's own colours: working those out would delay typing. */
const maxColouredLength = 300_000;
/** A text that has to be read as a whole is read once typing rests so long, in milliseconds; until then its colours are moved along. */
const rest = 220;

/**
 * Colours for what is the language's own, from the same parser that the server uses. A change is followed at once where it can
 * be read with what stands beside it only.
 */
const ownColours = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    readonly #highlighter: Highlighter;
    #timer: ReturnType<typeof setTimeout> | null = null;

    constructor({ state: { doc } }: EditorView) {
      this.#highlighter = new Highlighter(textOf(doc));
      this.decorations = Decoration.set(this.#highlighter.found.map(coloured));
    }

    update({ docChanged, changes, startState, state, view }: ViewUpdate): void {
      if (!docChanged) return;
      this.decorations = this.decorations.map(changes);
      const edits: [from: number, to: number, insert: string][] = [];
      changes.iterChanges((from, to, _, __, inserted) => edits.push([from, to, inserted.toString()]));
      const [one] = edits;
      if (edits.length > 1 || Math.max(startState.doc.length, state.doc.length) > maxColouredLength)
        this.#highlighter.lose();
      const stretch = one && this.#highlighter.change(...one);
      if (stretch) this.#colour(stretch);
      else this.#later(view);
    }

    destroy(): void {
      if (this.#timer) clearTimeout(this.#timer);
    }

    /** Puts the colours of a stretch in place of those that were there. */
    #colour({ from: filterFrom, to: filterTo, found }: NonNullable<ReturnType<Highlighter['change']>>): void {
      const filter = (from: number, to: number) => from >= filterTo || to <= filterFrom;
      this.decorations = this.decorations.update({ filterFrom, filterTo, filter, add: found.map(coloured) });
    }

    /** Reads the whole text once typing rests. */
    #later(view: EditorView): void {
      if (this.#timer) clearTimeout(this.#timer);
      this.#timer = setTimeout(() => {
        this.#timer = null;
        this.#highlighter.read(textOf(view.state.doc));
        this.decorations = Decoration.set(this.#highlighter.found.map(coloured));
        view.dispatch({});
      }, rest);
    }
  },
  { decorations: (plugin) => plugin.decorations },
);

const textOf = (doc: Text): string => (doc.length > maxColouredLength ? '' : doc.toString());
const coloured = ({ from, to, kind }: Highlight) => Decoration.mark({ class: `own-${kind}` }).range(from, to);

/** A template's comments are the language's own: never printed. */
const comments = Prec.highest(
  EditorState.languageData.of(() => [{ commentTokens: { block: { open: '<!--:', close: ':-->' } } }]),
);

/** How a file's text is read and coloured, by its name. */
export function languageOf(path: string): Extension {
  const colours = syntaxHighlighting(style);
  if (path.endsWith('.html'))
    return [html({ autoCloseTags: true, matchClosingTags: true }), ownColours, comments, colours];
  if (path.endsWith('.css')) return [css(), colours];
  if (path.endsWith('.js')) return [javascript(), colours];
  return path.endsWith('.json') ? [json(), colours] : [];
}
