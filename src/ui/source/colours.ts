import { css } from '@codemirror/lang-css';
import { html } from '@codemirror/lang-html';
import { javascript } from '@codemirror/lang-javascript';
import { json } from '@codemirror/lang-json';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { EditorState, Prec, RangeSetBuilder, type Extension } from '@codemirror/state';
import { Decoration, ViewPlugin, type DecorationSet, type EditorView, type ViewUpdate } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { highlights } from '@/core/language';

const style = HighlightStyle.define([
  { tag: [tags.tagName, tags.angleBracket], color: 'var(--code-tag)' },
  { tag: [tags.attributeName, tags.propertyName], color: 'var(--code-name)' },
  { tag: [tags.attributeValue, tags.string], color: 'var(--code-text)' },
  { tag: [tags.comment, tags.processingInstruction, tags.documentMeta], color: 'var(--soft)' },
  { tag: [tags.keyword, tags.unit, tags.color, tags.number, tags.bool], color: 'var(--code-value)' },
]);

/** Larger texts are shown without the language's own colours: working those out would delay typing. */
const maxColouredLength = 300_000;
/** How long the language's own colours may stay as they were moved by typing, in milliseconds. */
const rest = 220;

/** Colours for what is the language's own, from the same parser that the server uses; a moment after typing rests. */
const ownColours = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    #timer: ReturnType<typeof setTimeout> | null = null;

    constructor(view: EditorView) {
      this.decorations = decorate(view);
    }

    update(update: ViewUpdate): void {
      if (!update.docChanged) return;
      this.decorations = this.decorations.map(update.changes);
      if (this.#timer) clearTimeout(this.#timer);
      const { view } = update;
      this.#timer = setTimeout(() => {
        this.#timer = null;
        this.decorations = decorate(view);
        view.dispatch({});
      }, rest);
    }

    destroy(): void {
      if (this.#timer) clearTimeout(this.#timer);
    }
  },
  { decorations: (plugin) => plugin.decorations },
);

function decorate(view: EditorView): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>();
  if (view.state.doc.length <= maxColouredLength) {
    let after = 0;
    for (const { from, to, kind } of highlights(view.state.doc.toString())) {
      if (from < after) continue;
      builder.add(from, to, Decoration.mark({ class: `own-${kind}` }));
      after = to;
    }
  }
  return builder.finish();
}

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
