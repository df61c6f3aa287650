'use client';
import { MergeView } from '@codemirror/merge';
import { EditorState } from '@codemirror/state';
import { EditorView, lineNumbers } from '@codemirror/view';
import { Modal } from 'antd';
import { useEffect, useMemo, useRef } from 'react';
import { merged } from '@/core/theme';
import { languageOf } from './colours';

interface Props {
  path: string;
  /** What both began with; null: not known. */
  base: string | null;
  mine: string;
  theirs: string;
  /** What theirs is called. */
  theirsName?: string;
  onClose: () => void;
  onMerged: (text: string) => void;
}

/** Two texts of one file side by side: theirs as it is, mine with what only they changed already in it; to be finished by hand. */
export function MergeDialog({
  path,
  base,
  mine,
  theirs,
  theirsName = 'As it was saved elsewhere',
  onClose,
  onMerged,
}: Props) {
  const room = useRef<HTMLDivElement>(null);
  const view = useRef<MergeView | null>(null);
  const { text, overlaps } = useMemo(
    () => (base === null ? { text: mine, overlaps: -1 } : merged(base, mine, theirs)),
    [base, mine, theirs],
  );
  const fill = (host: HTMLDivElement | null) => {
    room.current = host;
    if (!host || view.current) return;
    const shared = [lineNumbers(), EditorView.lineWrapping, languageOf(path)];
    view.current = new MergeView({
      parent: host,
      a: { doc: theirs, extensions: [...shared, EditorState.readOnly.of(true)] },
      b: { doc: text, extensions: [...shared, EditorView.contentAttributes.of({ 'aria-label': 'Merged' })] },
      revertControls: 'a-to-b',
      collapseUnchanged: { margin: 3 },
    });
  };
  useEffect(() => () => view.current?.destroy(), []);
  const says =
    overlaps < 0
      ? 'What both began with is not known any more: take over from the left what you want to keep.'
      : overlaps === 0
        ? 'Nothing overlaps: the right side holds both.'
        : `${overlaps} ${overlaps === 1 ? 'stretch was' : 'stretches were'} changed on both sides: yours stands there now. Look at each.`;
  return (
    <Modal
      open
      width={1100}
      title={`Both texts of ${path}`}
      okText="Use the right side"
      cancelText="Not now"
      onOk={() => onMerged(view.current?.b.state.doc.toString() ?? text)}
      onCancel={onClose}
    >
      <p className="quiet">{says}</p>
      <div className="merge-heads">
        <span>{theirsName}</span>
        <span>Merged</span>
      </div>
      <div className="merge-room source" ref={fill} />
    </Modal>
  );
}
