'use client';
import { Alert, Button, Empty, Skeleton } from 'antd';
import { useEffect, useRef } from 'react';
import { placementOfShelf } from '@/core/theme';
import { Comments, useComments } from '@/ui/comments';
import { messageOf, tellOpen } from '@/ui/shared';
import { ShelfCards } from './ShelfCards';
import { useArrange, type ArrangeProps } from './useArrange';

/** The shelves of the page that is shown: what stands there, why or why not, and the form of the one that is chosen. */
export function Arrange(props: ArrangeProps) {
  const { store, state, answer, error } = useArrange(props);
  const { placed, painted, places, onOutline, onEmpty } = props;
  const { chosen } = state;
  /** The empty shelf that was chosen on the page: what fits there is offered. */
  const addTo = placed && 'shelf' in placed ? placed : null;
  /** The placement that was scrolled to: a newer page stays where it is. */
  const scrolledTo = useRef<string | null>(null);
  useEffect(() => {
    const isShown = answer?.shelves.some(({ placements }) => placements.some(({ id, why }) => id === chosen && !why));
    const one = isShown ? chosen : null;
    onOutline(one, one !== null && scrolledTo.current !== chosen);
    if (one || !chosen) scrolledTo.current = chosen;
    // Where they stand may be known only after how they stand.
  }, [answer, chosen, painted, places, onOutline]);
  useEffect(() => {
    onEmpty((answer?.shelves ?? []).filter(({ placements }) => placements.every(({ why }) => why !== null)));
  }, [answer, painted, places, onEmpty]);
  useEffect(() => () => onEmpty([]), [onEmpty]);
  const { comments } = useComments(props.draft);
  const foot = useRef<HTMLElement>(null);
  const head = useRef<HTMLHeadingElement>(null);
  const isThere = answer !== null;
  useEffect(() => {
    // Who comes by keyboard goes on here: what had the focus has made room.
    if (isThere && document.activeElement === document.body) head.current?.focus();
  }, [isThere]);
  const chosenOne = state.placements.find(({ id }) => id === chosen);
  const shelf = answer?.shelves.find(({ name }) => name === chosenOne?.shelf)?.label ?? null;
  useEffect(() => {
    tellOpen({
      file: 'shelves.json',
      shelf: shelf ?? (answer?.subject?.name ? `shelves of ${answer.subject.name}` : null),
    });
  }, [shelf, answer?.subject?.name]);
  useEffect(() => {
    if (placed && 'placement' in placed) store.choose(placed.placement);
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
  const open = comments.filter(({ done }) => !done).length;
  const one = chosenOne;
  const label = one && (answer.pieces.find(({ name }) => name === one.piece)?.label ?? one.piece);
  const target = {
    says: label ?? 'this page',
    given: { page: props.address, placement: one ? chosen : null, shows: (label ?? '').slice(0, 120) },
  };
  return (
    <div className="arrange">
      <header className="arrange-head">
        <h2 ref={head} tabIndex={-1}>
          {subject ? subject.name : 'This page'}
        </h2>
        <span className="quiet">{answer.template}</span>
        <Button size="small" disabled={!state.canUndo} title="Undo (Ctrl Z)" onClick={store.undo}>
          Undo
        </Button>
        <Button size="small" disabled={!state.canRedo} title="Redo (Ctrl Shift Z)" onClick={store.redo}>
          Redo
        </Button>
        {open > 0 && (
          <Button size="small" type="link" onClick={() => foot.current?.scrollIntoView({ block: 'start' })}>
            {open === 1 ? '1 comment' : `${open} comments`}
          </Button>
        )}
      </header>
      {!shelves.length && (
        <Empty
          image={Empty.PRESENTED_IMAGE_SIMPLE}
          description='This page has no shelf. A developer makes one: <shelf name="…" label="…"></shelf> in its template.'
        />
      )}
      {shelves
        .filter(({ name }) => !placementOfShelf(name))
        .map((shelf) => (
          <ShelfCards key={shelf.name} draft={props.draft} {...{ shelf, answer, store, addTo }} />
        ))}
      <footer className="arrange-comments" ref={foot}>
        <h3>Comments</h3>
        <Comments draft={props.draft} target={target} />
      </footer>
    </div>
  );
}
