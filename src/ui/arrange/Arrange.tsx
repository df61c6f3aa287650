'use client';
import { Alert, Button, Empty, Skeleton } from 'antd';
import { useEffect, useRef } from 'react';
import type { OnShelf } from '@/core/inspect';
import type { ArrangeAnswer } from '@/contract/arrange';
import { messageOf } from '@/ui/shared';
import { ShelfCards } from './ShelfCards';
import { useArrange, type ArrangeProps } from './useArrange';

/** The shelves of the page that is shown: what stands there, why or why not, and the form of the one that is chosen. */
export function Arrange(props: ArrangeProps) {
  const { store, state, answer, error } = useArrange(props);
  const { placed, painted, onOutline, onEmpty } = props;
  const { chosen } = state;
  /** The placements that the page shows, by id, as its shelves have them. */
  const shown = useRef(new Map<string, OnShelf>());
  /** The empty shelf that was chosen on the page: what fits there is offered. */
  const addTo = placed && placed.at < 0 ? placed : null;
  /** The placement that was scrolled to: a newer page stays where it is. */
  const scrolledTo = useRef<string | null>(null);
  useEffect(() => {
    shown.current = shownOn(answer);
    const one = (chosen && shown.current.get(chosen)) || null;
    onOutline(one, one !== null && scrolledTo.current !== chosen);
    if (one || !chosen) scrolledTo.current = chosen;
  }, [answer, chosen, painted, onOutline]);
  useEffect(() => {
    onEmpty((answer?.shelves ?? []).filter(({ placements }) => placements.every(({ why }) => why !== null)));
  }, [answer, painted, onEmpty]);
  useEffect(() => () => onEmpty([]), [onEmpty]);
  useEffect(() => {
    if (!placed) return;
    const found = [...shown.current].find(([, one]) => one.shelf === placed.shelf && one.at === placed.at);
    if (found) store.choose(found[0]);
  }, [placed, store]);
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      // In a field its own letters are undone first.
      if (event.target instanceof HTMLElement && event.target.closest('input, textarea, [contenteditable]')) return;
      event.preventDefault();
      if (event.shiftKey) store.redo();
      else store.undo();
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, [store]);
  if (error && !answer) return <Alert type="error" showIcon title={messageOf(error)} />;
  if (!answer) return <Skeleton active className="arrange" />;
  if (state.refused) return <Alert type="error" showIcon title={state.refused} />;
  const { subject, shelves } = answer;
  return (
    <div className="arrange">
      <header className="arrange-head">
        <h2>{subject ? subject.name : 'This page'}</h2>
        <span className="quiet">{answer.template}</span>
        <Button size="small" disabled={!state.canUndo} title="Undo (Ctrl Z)" onClick={store.undo}>
          Undo
        </Button>
        <Button size="small" disabled={!state.canRedo} title="Redo (Ctrl Shift Z)" onClick={store.redo}>
          Redo
        </Button>
      </header>
      {!shelves.length && (
        <Empty
          image={Empty.PRESENTED_IMAGE_SIMPLE}
          description='This page has no shelf. A developer makes one: <shelf name="…" label="…"></shelf> in its template.'
        />
      )}
      {shelves.map((shelf) => (
        <ShelfCards
          key={shelf.name}
          draft={props.draft}
          {...{ shelf, answer, store }}
          adding={addTo?.shelf === shelf.name ? addTo : null}
        />
      ))}
    </div>
  );
}

/** Which of those that show on its shelf each placement is. */
function shownOn(answer: ArrangeAnswer | null): Map<string, OnShelf> {
  return new Map(
    (answer?.shelves ?? []).flatMap(({ name, placements }) =>
      placements
        .filter(({ why }) => why === null)
        .flatMap(({ id }, at) => (id === null ? [] : [[id, { shelf: name, at }] as const])),
    ),
  );
}
