'use client';
import { CaretDownOutlined, CaretRightOutlined } from '@ant-design/icons';
import { useId, useRef, useState, type DragEvent, type KeyboardEvent, type ReactNode } from 'react';
import { dropped, outlineRows, stepped, type OutlineNode, type OutlinePlace, type Step } from './outline';

interface Props<Node extends OutlineNode> {
  label: string;
  nodes: readonly Node[];
  /** The entry that is open. */
  chosen: string | null;
  onChoose: (key: string) => void;
  onMove: (key: string, to: OutlinePlace) => void;
  /** What a line says. */
  children: (node: Node) => ReactNode;
  onRemove?: (key: string) => void;
}

const steps: Record<string, Step> = { ArrowUp: 'up', ArrowDown: 'down', ArrowRight: 'in', ArrowLeft: 'out' };

/** Where in a line something is dropped: its upper quarter is before it, its lower quarter after, between them below it. */
function placeIn(event: DragEvent<HTMLElement>): 'before' | 'after' | 'in' {
  const { top, height } = event.currentTarget.getBoundingClientRect();
  const part = (event.clientY - top) / height;
  return part < 0.25 ? 'before' : part > 0.75 ? 'after' : 'in';
}

/**
 * An outline whose entries are moved: dragged, or with Alt and the arrow keys. A tree by WAI-ARIA's practices: arrows go, fold and unfold,
 * Enter opens.
 */
export function OutlineTree<Node extends OutlineNode>({
  label,
  nodes,
  chosen,
  onChoose,
  onMove,
  children,
  onRemove,
}: Props<Node>) {
  const id = useId();
  const tree = useRef<HTMLUListElement>(null);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [at, setAt] = useState<string | null>(null);
  const [dragging, setDragging] = useState<string | null>(null);
  const [over, setOver] = useState<{ key: string; where: 'before' | 'after' | 'in' } | null>(null);
  const rows = outlineRows(nodes, folded);
  const here = rows.find(({ node }) => node.key === (at ?? chosen)) ?? rows[0];
  const fold = (key: string, isFolded: boolean) =>
    setFolded((now) => new Set(isFolded ? [...now, key] : [...now].filter((one) => one !== key)));
  const go = (key: string | undefined) => {
    if (key === undefined) return;
    setAt(key);
    tree.current?.querySelector(`[data-key="${CSS.escape(key)}"]`)?.scrollIntoView({ block: 'nearest' });
  };
  const move = (key: string, to: OutlinePlace | null) => {
    if (!to) return;
    if (to.parent !== null) fold(to.parent, false);
    onMove(key, to);
  };
  const press = (event: KeyboardEvent) => {
    if (!here || event.ctrlKey || event.metaKey) return;
    const { key } = here.node;
    const place = rows.indexOf(here);
    const step = steps[event.key];
    const acts: Record<string, () => void> = {
      ArrowUp: () => go(rows[place - 1]?.node.key),
      ArrowDown: () => go(rows[place + 1]?.node.key),
      ArrowRight: () => (here.open === false ? fold(key, false) : here.open && go(rows[place + 1]?.node.key)),
      ArrowLeft: () => (here.open ? fold(key, true) : go(here.node.parent ?? undefined)),
      Home: () => go(rows[0]?.node.key),
      End: () => go(rows.at(-1)?.node.key),
      Enter: () => onChoose(key),
      ' ': () => onChoose(key),
      ...(onRemove ? { Delete: () => onRemove(key) } : {}),
    };
    const act = event.altKey ? step && (() => move(key, stepped(nodes, key, step))) : acts[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  };
  return (
    <ul
      ref={tree}
      className="outline"
      role="tree"
      aria-label={label}
      tabIndex={0}
      {...(here ? { 'aria-activedescendant': `${id}${here.node.key}` } : {})}
      onKeyDown={press}
    >
      {rows.map(({ node, level, number, of, open }) => (
        <li
          key={node.key}
          id={`${id}${node.key}`}
          data-key={node.key}
          role="treeitem"
          aria-level={level}
          aria-posinset={number}
          aria-setsize={of}
          aria-selected={node.key === chosen}
          {...(open === null ? {} : { 'aria-expanded': open })}
          data-here={node === here?.node || undefined}
          data-over={over?.key === node.key ? over.where : undefined}
          style={{ paddingInlineStart: 8 + (level - 1) * 18 }}
          draggable
          onClick={() => {
            go(node.key);
            onChoose(node.key);
          }}
          onDragStart={(event) => {
            event.dataTransfer.effectAllowed = 'move';
            event.dataTransfer.setData('text/plain', node.key);
            setDragging(node.key);
          }}
          onDragEnd={() => {
            setDragging(null);
            setOver(null);
          }}
          onDragOver={(event) => {
            const where = placeIn(event);
            if (dragging === null || !dropped(nodes, dragging, node.key, where)) return setOver(null);
            event.preventDefault();
            setOver({ key: node.key, where });
          }}
          onDrop={(event) => {
            event.preventDefault();
            if (dragging !== null) move(dragging, dropped(nodes, dragging, node.key, placeIn(event)));
            setOver(null);
          }}
        >
          <span
            className="outline-fold"
            aria-hidden
            onClick={(event) => {
              event.stopPropagation();
              if (open !== null) fold(node.key, open);
            }}
          >
            {open !== null && (open ? <CaretDownOutlined /> : <CaretRightOutlined />)}
          </span>
          {children(node)}
        </li>
      ))}
    </ul>
  );
}
