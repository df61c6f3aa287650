'use client';
import { DeleteOutlined, EditOutlined, HolderOutlined } from '@ant-design/icons';
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { restrictToVerticalAxis } from '@dnd-kit/modifiers';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { Button, Tooltip } from 'antd';
import type { KeyboardEvent } from 'react';
import type { AlternatesTarget, CoverageItem, RuleItem } from '@/contract/alternates';
import { Sign } from './Sign';

interface Props {
  item: AlternatesTarget;
  coverage: CoverageItem | null;
  chosen: string | null;
  onChoose: (rule: string | null) => void;
  onPins: (template: string) => void;
  onEdit: (rule: RuleItem) => void;
  onRemove: (rule: RuleItem) => void;
  onOrder: (names: string[], seen: string[]) => void;
}

/** The assignments in the order in which they are tried: pins, then the rules, then default. Rules are dragged, or moved by Alt and the arrows. */
export function Assignments({ item, coverage, chosen, onChoose, onPins, onEdit, onRemove, onOrder }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = item.rules.map(({ id }) => id);
  const signs = new Map(item.templates.map((one, at) => [one.name, { at, label: one.label }]));
  const move = (id: string, to: number) => {
    const from = ids.indexOf(id);
    if (from < 0 || to < 0 || to >= ids.length || from === to) return;
    onOrder(arrayMove(ids, from, to), ids);
  };
  const ended = ({ active, over }: DragEndEvent) => {
    if (over) move(String(active.id), ids.indexOf(String(over.id)));
  };
  const pinned = new Map<string, AlternatesTarget['pins']>();
  for (const pin of item.pins) pinned.set(pin.alternate, [...(pinned.get(pin.alternate) ?? []), pin]);
  const defaults = coverage?.ways.filter((way) => way.because === 'default').reduce((sum, way) => sum + way.count, 0);
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      modifiers={[restrictToVerticalAxis]}
      onDragEnd={ended}
    >
      <ol className="assignments">
        {[...pinned].map(([alternate, pins]) => (
          <li key={`pin ${alternate}`} className="assignment">
            <span />
            <Sign at={signs.get(alternate)?.at ?? 0} size={16} />
            <button type="button" className="assignment-says" onClick={() => onPins(alternate)}>
              <strong>Pin</strong>{' '}
              {pins
                .slice(0, 3)
                .map(({ name }) => (name.length > 34 ? `${name.slice(0, 33)}…` : name))
                .join(', ')}
              {pins.length > 3 && ` and ${pins.length - 3} more`}
            </button>
            <span className="assignment-count">{pins.length}</span>
          </li>
        ))}
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          {item.rules.map((rule, at) => (
            <RuleRow
              key={rule.id}
              rule={rule}
              number={at + 1}
              sign={signs.get(rule.alternate)?.at ?? 0}
              label={signs.get(rule.alternate)?.label ?? rule.alternate}
              count={coverage?.rules.find((one) => one.id === rule.id) ?? null}
              chosen={chosen === rule.id}
              onChoose={() => onChoose(chosen === rule.id ? null : rule.id)}
              onEdit={() => onEdit(rule)}
              onRemove={() => onRemove(rule)}
              onMove={(step) => move(rule.id, at + step)}
            />
          ))}
        </SortableContext>
        <li className="assignment">
          <span />
          <Sign at={0} size={16} />
          <span className="assignment-says quiet">default: whatever is left</span>
          <span className="assignment-count">{defaults ?? ''}</span>
        </li>
      </ol>
    </DndContext>
  );
}

interface RowProps {
  rule: RuleItem;
  number: number;
  sign: number;
  label: string;
  count: CoverageItem['rules'][number] | null;
  chosen: boolean;
  onChoose: () => void;
  onEdit: () => void;
  onRemove: () => void;
  onMove: (step: number) => void;
}

function RuleRow({ rule, number, sign, label, count, chosen, onChoose, onEdit, onRemove, onMove }: RowProps) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: rule.id });
  const style = transform ? { transform: `translate3d(0, ${transform.y}px, 0)`, transition } : { transition };
  const keys = (event: KeyboardEvent) => {
    const step = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0;
    if (!event.altKey || !step) return;
    event.preventDefault();
    event.stopPropagation();
    onMove(step);
  };
  const aside = count
    ? count.wrong !== null
      ? `left out: ${count.wrong}`
      : count.idle
        ? `not now; holds for ${count.holds}`
        : count.holds === 0
          ? 'holds for nothing'
          : count.decides === 0
            ? `never decides: all ${count.holds} are taken before it`
            : count.decides < count.holds
              ? `${count.holds} hold, ${count.holds - count.decides} taken before it`
              : ''
    : '';
  const bad = count !== null && !count.idle && (count.wrong !== null || count.decides === 0);
  return (
    <li
      ref={setNodeRef}
      style={style}
      className="assignment"
      data-dragging={isDragging || undefined}
      data-chosen={chosen || undefined}
      aria-label={`Rule ${number}`}
      onKeyDown={keys}
    >
      <Tooltip title="Drag it, or move it by Alt and the arrows" mouseEnterDelay={0.8}>
        <button
          type="button"
          className="assignment-handle"
          {...attributes}
          {...listeners}
          aria-label={`Move rule ${number}`}
        >
          <HolderOutlined aria-hidden />
        </button>
      </Tooltip>
      <Sign at={sign} size={16} />
      <button
        type="button"
        className="assignment-says"
        aria-pressed={chosen}
        onClick={onChoose}
        title="Show whom it gives its template"
      >
        <strong>{number}</strong> {rule.says} <small>→ {label}</small>
        {rule.days && <small className="assignment-days">{rule.days}</small>}
        {aside && <small className={bad ? 'is-wrong' : ''}>{bad ? `● ${aside}` : aside}</small>}
      </button>
      <span className="assignment-count">{count?.decides ?? ''}</span>
      <span className="assignment-acts">
        <Button
          size="small"
          type="text"
          icon={<EditOutlined />}
          aria-label={`Change rule ${number}`}
          title="Change it"
          onClick={onEdit}
        />
        <Button
          size="small"
          type="text"
          icon={<DeleteOutlined />}
          aria-label={`Take rule ${number} away`}
          title="Remove it"
          onClick={onRemove}
        />
      </span>
    </li>
  );
}
