'use client';
import { EllipsisOutlined, HolderOutlined, PlusOutlined } from '@ant-design/icons';
import { App, Button, Dropdown, Modal, Popover } from 'antd';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import type { ArrangeAnswer, PieceItem, ShelfItem } from '@/contract/arrange';
import { pathOf } from '@/core/address';
import { placementOfShelf, withinPlacement, type Placed } from '@/core/theme';
import { SubjectField, useDraftSite } from '@/ui/shared';
import type { ArrangeStore } from './arrange-store';
import { PieceForm } from './PieceForm';
import { gist, shelfLabel, standsWhen, whyNot } from './says';
import { belongsTo, whereHere } from './where';

interface Props {
  draft: string;
  shelf: ShelfItem;
  answer: ArrangeAnswer;
  store: ArrangeStore;
  /** The shelf that was asked for on the page: what fits there is offered; a new one each time. */
  addTo: { shelf: string } | null;
  /** What is called the placement that the shelf is of. */
  within?: string;
}

/** What is dragged is told by its id. */
const dragType = 'application/x-last-placement';

/** One shelf: its placements in their order, each a card with the shelves of its own; the chosen one with its form. */
export function ShelfCards({ draft, shelf, answer, store, addTo, within }: Props) {
  const { placements, chosen } = useStore(store.api);
  const [over, setOver] = useState<string | null>(null);
  const standing = new Map(shelf.placements.map((one) => [one.id, one]));
  const pieces = new Map(answer.pieces.map((one) => [one.name, one]));
  const before = new Set(shelf.placements.map(({ id }) => id));
  // What was just put here is listed at once, though nobody has told how it stands.
  const here = placements.filter(
    (one) =>
      one.shelf === shelf.name &&
      (before.has(one.id) || (one.id === chosen && belongsTo(one, answer))) &&
      !gone(one, standing),
  );
  const shown = shelf.placements.filter(({ why }) => why === null).length;
  const drop = (id: string, to: string | null) => {
    setOver(null);
    if (id !== to) store.move(id, shelf.name, to);
  };
  const target = (id: string | null) => ({
    onDragOver: (event: React.DragEvent) => {
      if (!event.dataTransfer.types.includes(dragType)) return;
      event.preventDefault();
      event.stopPropagation();
      setOver(id ?? '');
    },
    onDragLeave: () => setOver(null),
    onDrop: (event: React.DragEvent) => {
      event.stopPropagation();
      drop(event.dataTransfer.getData(dragType), id);
    },
  });
  const called = within ? `${within}: ${shelf.label}` : shelf.label;
  const Heading = within ? 'h4' : 'h3';
  return (
    <section className="shelf" aria-label={called}>
      <header>
        <Heading>{shelf.label}</Heading>
        <span className="quiet">
          {shelf.most === null ? `${shown} shown` : `${shown} of at most ${shelf.most} shown`}
          {shelf.least !== null && shown < shelf.least && `; fewer than ${shelf.least} show nothing`}
        </span>
      </header>
      {shelf.help && <p className="quiet">{shelf.help}</p>}
      <ol {...target(null)}>
        {here.map((one, at) => (
          <li key={one.id} {...target(one.id)} data-over={over === one.id || undefined}>
            <Card
              {...{ draft, one, answer, addTo }}
              piece={pieces.get(one.piece)}
              why={whyNot(standing.get(one.id) ?? null, pieces.get(one.piece))}
              chosen={chosen === one.id}
              store={store}
              before={here[at - 1]?.id ?? null}
              after={here[at + 2]?.id ?? null}
              last={at === here.length - 1}
            />
          </li>
        ))}
        {!here.length && <li className="shelf-empty">Empty: put a piece here</li>}
      </ol>
      <AddPiece
        {...{ draft, shelf, called, pieces }}
        asked={addTo?.shelf === shelf.name ? addTo : null}
        // Within another placement it stands wherever that does.
        onAdd={(piece) => store.add(shelf.name, piece, within ? {} : whereHere(answer))}
      />
    </section>
  );
}

/** One of a layer below that the shop removed is not listed: undo, or its layer, brings it back. */
const gone = (one: Placed, standing: ReadonlyMap<string | null, { why: string | null }>): boolean =>
  one.hidden === true && standing.get(one.id)?.why !== 'hidden';

interface CardProps {
  draft: string;
  one: Placed;
  piece: PieceItem | undefined;
  answer: ArrangeAnswer;
  why: string | null;
  chosen: boolean;
  addTo: Props['addTo'];
  store: ArrangeStore;
  before: string | null;
  /** The one before which it comes when it goes down; null: last. */
  after: string | null;
  last: boolean;
}

function Card({ draft, one, piece, answer, why, chosen, addTo, store, before, after, last }: CardProps) {
  const [copying, setCopying] = useState(false);
  const { message } = App.useApp();
  const label = piece?.label ?? one.piece;
  const up = () => before !== null && store.move(one.id, one.shelf, before);
  const down = () => !last && store.move(one.id, one.shelf, after);
  const keys = (event: KeyboardEvent) => {
    if (event.altKey && event.key === 'ArrowUp') up();
    else if (event.altKey && event.key === 'ArrowDown') down();
    else if (event.key === 'Delete') store.remove(one.id);
    else return;
    event.preventDefault();
  };
  const inside = withinPlacement(store.now.placements, one.id);
  const isInside = (name: string) => inside.has(placementOfShelf(name)?.id ?? '');
  const items = [
    { key: 'up', label: 'Move up (Alt ↑)', disabled: before === null, onClick: up },
    { key: 'down', label: 'Move down (Alt ↓)', disabled: last, onClick: down },
    ...answer.shelves
      .filter(({ name, pieces }) => name !== one.shelf && pieces.includes(one.piece) && !isInside(name))
      .map((to) => ({
        key: `to ${to.name}`,
        label: `Move to “${shelfLabel(to, store.now.placements, answer)}”`,
        onClick: () => store.move(one.id, to.name, null),
      })),
    { key: 'copy', label: 'Duplicate', onClick: () => store.duplicate(one.id) },
    { key: 'copy-to', label: 'Copy to another page…', onClick: () => setCopying(true) },
    {
      key: 'hide',
      label: one.hidden ? 'Show' : 'Hide',
      onClick: () => store.set(one.id, { hidden: one.hidden ? undefined : true }),
    },
    { key: 'away', label: 'Remove (Delete)', danger: true, onClick: () => store.remove(one.id) },
  ];
  return (
    <article className="placement" data-chosen={chosen || undefined} data-why={why ? '' : undefined}>
      <div className="placement-head" draggable onDragStart={(event) => event.dataTransfer.setData(dragType, one.id)}>
        <HolderOutlined aria-hidden className="placement-handle" />
        <button
          type="button"
          className="placement-open"
          aria-expanded={chosen}
          onClick={() => store.choose(chosen ? null : one.id)}
          onKeyDown={keys}
        >
          <strong>{label}</strong>
          <span className="quiet">{gist(one, piece, answer)}</span>
        </button>
        <span className="placement-state">{why ?? standsWhen(one) ?? 'shown'}</span>
        <Dropdown menu={{ items }} autoFocus trigger={['click']} placement="bottomRight">
          <Button
            size="small"
            type="text"
            icon={<EllipsisOutlined aria-hidden />}
            aria-label={`What to do with ${label}`}
          />
        </Dropdown>
      </div>
      <Modal
        title={`Copy “${label}” to another page`}
        open={copying}
        footer={null}
        onCancel={() => setCopying(false)}
        destroyOnHidden
      >
        <SubjectField
          label="The page that it is copied to"
          value={null}
          onPick={(subject) => {
            setCopying(false);
            store.copyTo(one.id, pathOf(subject).slice(1));
            void message.success(`It stands on the page of ${subject.name} too, on the same shelf. Save to keep it.`);
          }}
        />
      </Modal>
      {chosen && <PieceForm {...{ draft, one, piece, answer, store }} />}
      {answer.shelves
        .filter(({ name }) => placementOfShelf(name)?.id === one.id)
        .map((shelf) => (
          <ShelfCards key={shelf.name} {...{ draft, shelf, answer, store, addTo }} within={label} />
        ))}
    </article>
  );
}

function AddPiece({
  draft,
  shelf,
  called,
  pieces,
  asked,
  onAdd,
}: {
  draft: string;
  shelf: ShelfItem;
  /** The shelf with what it is in. */
  called: string;
  pieces: ReadonlyMap<string, PieceItem>;
  asked: object | null;
  onAdd: (piece: string) => void;
}) {
  const { base } = useDraftSite(draft);
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const [heard, setHeard] = useState<object | null>(asked);
  if (asked && asked !== heard) {
    setHeard(asked);
    setOpen(true);
  }
  useEffect(() => {
    if (open && asked) button.current?.scrollIntoView({ block: 'nearest' });
  }, [asked, open]);
  const put = (name: string) => {
    setOpen(false);
    onAdd(name);
  };
  const fitting = shelf.pieces.flatMap((name) => pieces.get(name) ?? []).sort((a, b) => a.label.localeCompare(b.label));
  if (!fitting.length)
    return <p className="quiet">No piece is offered for this shelf: a developer offers one with &lt;placeable&gt;.</p>;
  const close = () => {
    setOpen(false);
    button.current?.focus();
  };
  const list = <PieceList {...{ fitting, base, called }} onPut={put} onClose={close} />;
  return (
    <Popover trigger="click" placement="bottomLeft" destroyOnHidden open={open} onOpenChange={setOpen} content={list}>
      <Button ref={button} size="small" icon={<PlusOutlined aria-hidden />}>
        Add a piece…
      </Button>
    </Popover>
  );
}

/** The pieces that fit a shelf, each with a picture of itself. */
function PieceList({
  fitting,
  base,
  called,
  onPut,
  onClose,
}: {
  fitting: readonly PieceItem[];
  base: string;
  called: string;
  onPut: (piece: string) => void;
  onClose: () => void;
}) {
  const list = useRef<HTMLUListElement>(null);
  // Who came by keyboard goes on here.
  useEffect(() => list.current?.querySelector('button')?.focus({ preventScroll: true }), []);
  const keys = (event: KeyboardEvent<HTMLUListElement>) => {
    const buttons = [...event.currentTarget.querySelectorAll('button')];
    const at = buttons.findIndex((one) => one === document.activeElement);
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: buttons.length - 1 }[event.key];
    if (event.key === 'Escape') onClose();
    else if (to !== undefined) buttons[Math.max(0, Math.min(buttons.length - 1, to))]?.focus();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <ul className="piece-list" aria-label={`Pieces for ${called}`} ref={list} onKeyDown={keys}>
      {fitting.map(({ name, label, help }) => (
        <li key={name}>
          <button type="button" onClick={() => onPut(name)}>
            <span className="piece-picture" aria-hidden="true">
              <iframe
                src={`${base}/picture/${name}?sample`}
                // Of the draft’s own origin, for its fonts; nothing runs in it.
                sandbox="allow-same-origin"
                loading="lazy"
                tabIndex={-1}
                title={`${label}, small`}
              />
            </span>
            <strong>{label}</strong>
            <span className="quiet">{help}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
