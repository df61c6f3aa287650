'use client';
import { closeBrackets, closeBracketsKeymap } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands';
import { css } from '@codemirror/lang-css';
import { html } from '@codemirror/lang-html';
import { javascript } from '@codemirror/lang-javascript';
import { json } from '@codemirror/lang-json';
import { bracketMatching, codeFolding, foldKeymap, HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, lintKeymap, setDiagnostics, type Action } from '@codemirror/lint';
import { highlightSelectionMatches, searchKeymap } from '@codemirror/search';
import { Compartment, EditorState, RangeSetBuilder, type Extension, type Text } from '@codemirror/state';
import {
  Decoration,
  EditorView,
  highlightActiveLine,
  highlightActiveLineGutter,
  keymap,
  lineNumbers,
  ViewPlugin,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { useEffect, useRef } from 'react';
import type { ProblemItem } from '@/contract/api';
import { highlights } from '@/core/language/highlight';

interface Props {
  path: string;
  /** The text to begin with; later changes come from typing. A new `version` puts it in again. */
  text: string;
  version: number;
  readOnly: boolean;
  problems: ProblemItem[];
  onType: (text: string) => void;
  onSave: () => void;
}

const colours = HighlightStyle.define([
  { tag: [tags.tagName, tags.angleBracket], color: 'var(--code-tag)' },
  { tag: [tags.attributeName, tags.propertyName], color: 'var(--code-name)' },
  { tag: [tags.attributeValue, tags.string], color: 'var(--code-text)' },
  { tag: [tags.comment, tags.processingInstruction, tags.documentMeta], color: 'var(--soft)' },
  { tag: [tags.keyword, tags.unit, tags.color, tags.number, tags.bool], color: 'var(--code-value)' },
]);

/** Larger texts are shown without the language's own colours: working those out would delay typing. */
const largestColoured = 300_000;

/** Colours for what is the language's own, from the same parser that the server uses. */
const ownColours = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = decorate(view);
    }
    update(update: ViewUpdate): void {
      if (update.docChanged) this.decorations = decorate(update.view);
    }
  },
  { decorations: (plugin) => plugin.decorations },
);

function decorate(view: EditorView): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>();
  if (view.state.doc.length <= largestColoured) {
    let after = 0;
    for (const { from, to, kind } of highlights(view.state.doc.toString())) {
      if (from < after) continue;
      builder.add(from, to, Decoration.mark({ class: `own-${kind}` }));
      after = to;
    }
  }
  return builder.finish();
}

function languageOf(path: string): Extension {
  if (path.endsWith('.html')) return [html({ autoCloseTags: true, matchClosingTags: false }), ownColours];
  if (path.endsWith('.css')) return css();
  if (path.endsWith('.js')) return javascript();
  return path.endsWith('.json') ? json() : [];
}

/** The fix of a problem, as something to do beside its message; only to the text that the problem was found in. */
function mendings({ fix }: ProblemItem, found: Text): Action[] {
  if (!fix) return [];
  const apply = (view: EditorView) => {
    if (!view.state.doc.eq(found)) return;
    const changes = fix.edits.map(({ from, to, text }) => ({ from, to, insert: text }));
    view.dispatch({ changes, userEvent: 'input.mend' });
  };
  return [{ name: fix.title, apply }];
}

/** The source of one file. */
export function SourceEditor({ path, text, version, readOnly, problems, onType, onSave }: Props) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const locked = useRef(new Compartment());
  const calls = useRef({ onType, onSave });
  const initial = useRef(text);
  useEffect(() => {
    calls.current = { onType, onSave };
    initial.current = text;
  });

  useEffect(() => {
    if (!host.current) return;
    const made = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: initial.current,
        extensions: [
          lineNumbers(),
          lintGutter(),
          history(),
          codeFolding(),
          bracketMatching(),
          closeBrackets(),
          highlightActiveLine(),
          highlightActiveLineGutter(),
          highlightSelectionMatches(),
          EditorState.tabSize.of(2),
          EditorView.lineWrapping,
          languageOf(path),
          syntaxHighlighting(colours),
          locked.current.of([]),
          EditorView.contentAttributes.of({ 'aria-label': `Source of ${path}`, tabindex: '0' }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) calls.current.onType(update.state.doc.toString());
          }),
          keymap.of([
            {
              key: 'Mod-s',
              preventDefault: true,
              run: () => {
                calls.current.onSave();
                return true;
              },
            },
            ...closeBracketsKeymap,
            ...defaultKeymap,
            ...searchKeymap,
            ...historyKeymap,
            ...foldKeymap,
            ...lintKeymap,
            indentWithTab,
          ]),
        ],
      }),
    });
    view.current = made;
    return () => {
      made.destroy();
      view.current = null;
    };
  }, [path, version]);

  useEffect(() => {
    const extension = readOnly ? [EditorState.readOnly.of(true), EditorView.editable.of(true)] : [];
    view.current?.dispatch({ effects: locked.current.reconfigure(extension) });
  }, [readOnly, path, version]);

  useEffect(() => {
    const now = view.current;
    if (!now) return;
    const length = now.state.doc.length;
    const { doc } = now.state;
    const diagnostics = problems.map((one) => ({
      actions: readOnly ? [] : mendings(one, doc),
      from: Math.min(one.from, length),
      to: Math.min(Math.max(one.to, one.from), length),
      severity: one.severity === 'note' ? ('info' as const) : one.severity,
      message: one.message,
    }));
    now.dispatch(setDiagnostics(now.state, diagnostics));
  }, [problems, path, version, readOnly]);

  return <div className="source" ref={host} />;
}

/** Puts the caret of the editor that is shown at a place. */
export function showPlace(line: number): void {
  const content = document.querySelector<HTMLElement>('.source .cm-content');
  const found = content && EditorView.findFromDOM(content);
  if (!found) return;
  const at = found.state.doc.line(Math.min(Math.max(1, line), found.state.doc.lines));
  found.dispatch({ selection: { anchor: at.from }, effects: EditorView.scrollIntoView(at.from, { y: 'center' }) });
  found.focus();
}
