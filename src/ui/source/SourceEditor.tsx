'use client';
import { closeBrackets, closeBracketsKeymap } from '@codemirror/autocomplete';
import {
  defaultKeymap,
  history,
  historyField,
  historyKeymap,
  indentWithTab,
  isolateHistory,
} from '@codemirror/commands';
import { bracketMatching, codeFolding, foldGutter, foldKeymap } from '@codemirror/language';
import { lintGutter, lintKeymap, nextDiagnostic, previousDiagnostic, setDiagnostics } from '@codemirror/lint';
import { highlightSelectionMatches, searchKeymap } from '@codemirror/search';
import { Compartment, EditorState, type Extension } from '@codemirror/state';
import { EditorView, highlightActiveLine, highlightActiveLineGutter, keymap, lineNumbers } from '@codemirror/view';
import { useEffect, useImperativeHandle, useRef, type Ref } from 'react';
import type { ProblemItem } from '@/contract/shared';
import type { LineFacts } from '@/core/inspect';
import { languageOf } from './colours';
import { diagnosticsOf, fixHere, type OnPhrases } from './problems';
import { explainHere, setFacts, whyExtension, type WhyAsks } from './why';

/** What the Bench does to the text that is shown. */
export interface EditorHandle {
  /** Puts the caret at an offset and shows it. */
  show: (offset: number, to?: number) => void;
  /** Puts the caret at the beginning of a line, from 1. */
  showLine: (line: number) => void;
  /** Writes at the caret, over what is selected. */
  write: (text: string) => void;
  /** Changes stretches of the text, as one step to undo. */
  change: (edits: { from: number; to: number; text: string }[]) => void;
  explain: () => void;
  nextProblem: (back: boolean) => void;
  /** Applies the fix that is offered at the caret; false when there is none. */
  fix: () => boolean;
  focus: () => void;
  caret: () => number;
  text: () => string;
}

interface Props {
  draft: string;
  path: string;
  /** The text to begin with; later changes come from typing. A new `version` puts it in again. */
  text: string;
  version: number;
  readOnly: boolean;
  problems: ProblemItem[];
  facts: Map<number, LineFacts>;
  asks: WhyAsks;
  aid: Extension;
  onType: (text: string) => void;
  onSave: () => void;
  onPhrases: OnPhrases;
  /** `typing`: it moved because the text changed. */
  onCaret: (offset: number, typing: boolean) => void;
  ref: Ref<EditorHandle>;
}

/** Texts as they stood in the editor, with all that can be undone, for as long as the workbench is open. */
const closed = new Map<string, unknown>();
const withHistory = { history: historyField };
const maxCached = 40;

/** The source of one file. */
export function SourceEditor(props: Props) {
  const { draft, path, text, version, readOnly, problems, facts, aid, ref } = props;
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const locked = useRef(new Compartment());
  const aided = useRef(new Compartment());
  /** Whether the focus was sent here when there was no editor, or was in the one before. */
  const wanted = useRef(false);
  const calls = useRef(props);
  useEffect(() => {
    calls.current = props;
  });
  const key = `${draft} ${path}`;

  useImperativeHandle(ref, (): EditorHandle => {
    const now = () => view.current;
    const show = (offset: number, to?: number) => {
      const editor = now();
      if (!editor) return;
      const { length } = editor.state.doc;
      const anchor = Math.min(Math.max(0, offset), length);
      const head = to === undefined ? anchor : Math.min(to, length);
      editor.dispatch({ selection: { anchor, head }, effects: EditorView.scrollIntoView(anchor, { y: 'center' }) });
      editor.focus();
    };
    return {
      show,
      showLine: (line) => {
        const doc = now()?.state.doc;
        if (doc) show(doc.line(Math.min(Math.max(1, line), doc.lines)).from);
      },
      write: (written) => {
        const editor = now();
        if (!editor) return;
        editor.dispatch(editor.state.replaceSelection(written), {
          userEvent: 'input',
          annotations: isolateHistory.of('full'),
        });
        editor.focus();
      },
      change: (edits) => {
        const changes = edits.map(({ from, to, text: insert }) => ({ from, to, insert }));
        now()?.dispatch({ changes, userEvent: 'input', annotations: isolateHistory.of('full') });
      },
      explain: () => {
        const editor = now();
        if (editor) explainHere(editor);
      },
      nextProblem: (back) => {
        const editor = now();
        if (editor) (back ? previousDiagnostic : nextDiagnostic)(editor);
        editor?.focus();
      },
      fix: () => {
        const editor = now();
        return editor !== null && fixHere(editor);
      },
      focus: () => {
        wanted.current = !now();
        now()?.focus();
      },
      caret: () => now()?.state.selection.main.head ?? 0,
      text: () => now()?.state.doc.toString() ?? '',
    };
  }, []);

  useEffect(() => {
    if (!host.current) return;
    const extensions = [
      lineNumbers(),
      lintGutter(),
      whyExtension(() => calls.current.asks),
      foldGutter({ openText: '⌄', closedText: '›' }),
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
      locked.current.of([]),
      aided.current.of([]),
      EditorView.contentAttributes.of({ 'aria-label': `Source of ${path}`, tabindex: '0' }),
      EditorView.updateListener.of((update) => {
        if (update.docChanged) calls.current.onType(update.state.doc.toString());
        if (update.selectionSet || update.docChanged)
          calls.current.onCaret(update.state.selection.main.head, update.docChanged);
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
    ];
    const before = closed.get(key);
    const editor = new EditorView({
      parent: host.current,
      state: before
        ? EditorState.fromJSON(before, { extensions }, withHistory)
        : EditorState.create({ doc: calls.current.text, extensions }),
    });
    view.current = editor;
    if (wanted.current) editor.focus();
    wanted.current = false;
    return () => {
      // Who writes in it goes on in the one that takes its place.
      wanted.current = editor.hasFocus;
      closed.delete(key);
      closed.set(key, editor.state.toJSON(withHistory));
      if (closed.size > maxCached) closed.delete(closed.keys().next().value as string);
      editor.destroy();
      view.current = null;
    };
  }, [key, path]);

  // A text that comes from elsewhere is put in as one change, which can be undone like any other.
  useEffect(() => {
    const now = view.current;
    if (!now || now.state.doc.toString() === text) return;
    now.dispatch({ changes: changeBetween(now.state.doc.toString(), text), annotations: isolateHistory.of('full') });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only a new version puts the text in again
  }, [version, key]);

  useEffect(() => {
    const extension = readOnly ? [EditorState.readOnly.of(true), EditorView.editable.of(true)] : [];
    view.current?.dispatch({ effects: locked.current.reconfigure(extension) });
  }, [readOnly, key]);

  useEffect(() => {
    view.current?.dispatch({ effects: aided.current.reconfigure(aid) });
  }, [aid, key]);

  useEffect(() => {
    view.current?.dispatch({ effects: setFacts.of(facts) });
  }, [facts, key]);

  useEffect(() => {
    const now = view.current;
    if (!now) return;
    const diagnostics = diagnosticsOf(problems, now.state.doc, readOnly, (phrases) => calls.current.onPhrases(phrases));
    now.dispatch(setDiagnostics(now.state, diagnostics));
  }, [problems, key, version, readOnly]);

  return <div className="source" ref={host} />;
}

/** The one stretch in which two texts differ. */
function changeBetween(before: string, after: string): { from: number; to: number; insert: string } {
  let from = 0;
  const shorter = Math.min(before.length, after.length);
  while (from < shorter && before[from] === after[from]) from++;
  let end = 0;
  while (end < shorter - from && before[before.length - 1 - end] === after[after.length - 1 - end]) end++;
  return { from, to: before.length - end, insert: after.slice(from, after.length - end) };
}
