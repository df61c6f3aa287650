'use client';
import { MergeView, unifiedMergeView } from '@codemirror/merge';
import { EditorState, type Extension } from '@codemirror/state';
import { EditorView, lineNumbers } from '@codemirror/view';
import { useEffect, useRef } from 'react';
import { languageOf } from './colours';

interface Props {
  path: string;
  texts: [string, string];
  beside: boolean;
}

/** Two texts beside each other, or as one with what changed in it. */
export function DifferenceTexts({ path, texts, beside }: Props) {
  const room = useRef<HTMLDivElement>(null);
  const [before, after] = texts;
  useEffect(() => {
    if (!room.current) return;
    const label = (text: string) => EditorView.contentAttributes.of({ 'aria-label': text, tabindex: '0' });
    const shared: Extension[] = [
      lineNumbers(),
      EditorView.lineWrapping,
      languageOf(path),
      EditorState.readOnly.of(true),
      EditorView.editable.of(false),
    ];
    // What is the same throughout is shown whole.
    const collapse = before === after ? {} : { collapseUnchanged: { margin: 2, minSize: 4 } };
    const view = beside
      ? new MergeView({
          parent: room.current,
          a: { doc: before, extensions: [...shared, label(`${path} before`)] },
          b: { doc: after, extensions: [...shared, label(`${path} after`)] },
          ...collapse,
        })
      : new EditorView({
          parent: room.current,
          doc: after,
          extensions: [
            ...shared,
            label(`What changed in ${path}`),
            unifiedMergeView({ original: before, mergeControls: false, ...collapse }),
          ],
        });
    return () => view.destroy();
  }, [path, before, after, beside]);
  return <div className={`difference source${beside ? ' merge-room' : ''}`} ref={room} />;
}
