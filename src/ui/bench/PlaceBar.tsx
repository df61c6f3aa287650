'use client';
import { DownOutlined } from '@ant-design/icons';
import { Button, Dropdown, Space, Tooltip } from 'antd';
import { useEffect, useRef, type ReactNode } from 'react';
import type { ChangeRequest } from '@/contract/bench';
import type { Level } from '@/core/inspect';
import { labelOf, layerName, type SpotState, type Told } from '@/ui/workspace';

type Action = ChangeRequest['action'];
type Target = ChangeRequest['target'];

interface Props {
  spot: SpotState;
  /** Scrolls the page to the place. */
  onShow: () => void;
  pointing: boolean;
  /** The place that is being moved; null: none. */
  moving: Level | null;
  /** Where it may go to, once that was pointed at. */
  goal: Level[] | null;
  told: Told | null;
  open: boolean;
  onOpen: (open: boolean) => void;
  onDo: (target: Target, action: Action) => void;
  onMove: (level: Level | null) => void;
  onStyles: () => void;
  onComment: () => void;
  onUntold: () => void;
  /** What changes the value that is printed there. */
  value: ReactNode;
}

const targetOf = ({ file, layer, from }: Level): Target => ({ file, layer, from });

/** What is put beside an element, or into it, to begin with. */
function beginning(name: string, inside: boolean): string {
  const within = inside ? name : '';
  if (inside ? /^(?:ul|ol|menu)$/.test(within) : name === 'li') return '<li></li>';
  if (inside && /^(?:p|span|a|h[1-6]|strong|em|small|button|label|td|th|li|dt|dd)$/.test(within))
    return '<span></span>';
  if (!inside && /^(?:span|a|strong|em|small|b|i|img)$/.test(name)) return '<span></span>';
  if (!inside && /^(?:td|th|dt|dd|option)$/.test(name)) return `<${name}></${name}>`;
  return '<p></p>';
}

/** Below the page: what is pointed at, or what the caret's element is on it, and what can be done there. */
export function PlaceBar(props: Props) {
  const { spot, pointing, moving, goal, told, onDo, onMove } = props;
  const first = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (goal) first.current?.focus();
  }, [goal]);
  const { open } = props;
  useEffect(() => {
    if (!open) return;
    // Opened by its key the menu takes the focus, as it would by the pointer: as soon as it is there and can take it.
    let frame = requestAnimationFrame(function take() {
      const list = document.querySelector<HTMLElement>('.place-menu [role=menu]');
      list?.focus();
      if (!list || document.activeElement !== list) frame = requestAnimationFrame(take);
    });
    return () => cancelAnimationFrame(frame);
  }, [open]);
  if (moving && goal) {
    const to = goal.find((one) => one.file === moving.file) ?? goal[0];
    const put = (where: 'before' | 'after' | 'into') => {
      if (to) onDo(targetOf(moving), { kind: 'move', where, to: targetOf(to) });
    };
    return (
      <div className="place-bar" role="group" aria-label="Where to">
        <span className="place-what">
          <code>{labelOf(moving.place)}</code> goes to <code>{to ? labelOf(to.place) : ''}</code> {to?.file}, line{' '}
          {to?.line}
        </span>
        <Space size={6}>
          <Button size="small" ref={first} onClick={() => put('before')}>
            Before it
          </Button>
          <Button size="small" onClick={() => put('after')}>
            After it
          </Button>
          <Button size="small" onClick={() => put('into')}>
            Inside it
          </Button>
          <Button size="small" type="text" onClick={() => onMove(null)}>
            Stay
          </Button>
        </Space>
      </div>
    );
  }
  if (moving) {
    return (
      <div className="place-bar">
        <span className="place-what" role="status">
          Point at the new place for <code>{labelOf(moving.place)}</code>
          {spot.pointed && (
            <>
              : <code>{labelOf(spot.pointed.place)}</code>
            </>
          )}
        </span>
        <Button size="small" onClick={() => onMove(null)}>
          Stay
        </Button>
      </div>
    );
  }
  const where = spot.pointed ?? spot.where;
  const notice = told && (
    <p className={`place-told${told.wrong ? ' is-wrong' : ''}`} role="status">
      {told.text}
      <Button size="small" type="text" aria-label="Close this" onClick={props.onUntold}>
        ✕
      </Button>
    </p>
  );
  if (!where) {
    return (
      <div className="place-bar quiet" role="status">
        {pointing
          ? 'Move over the page, or walk it with the arrow keys; click or Enter goes to the source.'
          : 'Point at something on the page to see which file it comes from: Ctrl . or hold Alt.'}
        {notice}
      </div>
    );
  }
  const { levels } = spot;
  const put = (level: Level, kind: 'before' | 'after' | 'append' | 'prepend') =>
    onDo(targetOf(level), { kind, text: beginning(level.place.text, kind === 'append' || kind === 'prepend') });
  const menu = levels.map((level, at) => {
    const key = (name: string) => `${at} ${name}`;
    const item = (name: string, label: string, run: () => void, danger = false) => ({
      key: key(name),
      label,
      danger,
      onClick: run,
    });
    const inside = level.place.kind === 'element';
    return {
      key: String(at),
      type: 'group' as const,
      label: `${labelOf(level.place)} in ${level.file}, line ${level.line}`,
      children: [
        item('before', 'Put something before it', () => put(level, 'before')),
        item('after', 'Put something after it', () => put(level, 'after')),
        ...(inside ? [item('inside', 'Put something inside it', () => put(level, 'append'))] : []),
        item('replace', 'Replace it', () => onDo(targetOf(level), { kind: 'replace', text: '' })),
        item('move', 'Move it elsewhere…', () => onMove(level)),
        item('remove', 'Remove it', () => onDo(targetOf(level), { kind: 'remove' }), true),
      ],
    };
  });
  const [top] = levels;
  if (top && top.layer !== spot.shopLayer) {
    menu.push({
      key: 'file',
      type: 'group',
      label: top.file,
      children: [
        {
          key: 'override',
          label: 'Copy the file for the shop',
          danger: false,
          onClick: () => onDo(targetOf(top), { kind: 'override' }),
        },
      ],
    });
  }
  return (
    <div className="place-bar">
      {notice}
      <span className="place-what" role="status">
        <code>{labelOf(where.place)}</code> {where.file}, line {where.place.line} <em>{layerName(where.layer)}</em>
        {where.item && <small>item {where.item} </small>}
        {!spot.pointed && (
          <small>
            {where.count === 0
              ? 'not on this page'
              : where.count === 1
                ? 'once on this page'
                : `${where.count} times on this page`}
          </small>
        )}
      </span>
      {!spot.pointed && (
        <Space size={6}>
          {where.count > 0 && (
            <Tooltip title="Scroll the page to it (Ctrl I)">
              <Button size="small" onClick={props.onShow}>
                Show
              </Button>
            </Tooltip>
          )}
          {props.value}
          {where.count > 0 && (
            <Button size="small" onClick={props.onStyles}>
              Styles
            </Button>
          )}
          <Button size="small" onClick={props.onComment}>
            Comment…
          </Button>
          <Dropdown
            menu={{ items: menu }}
            trigger={['click']}
            open={props.open}
            onOpenChange={props.onOpen}
            placement="topRight"
            classNames={{ root: 'place-menu' }}
          >
            <Button size="small" type="primary" ghost title="Change something here (Ctrl Enter)">
              Change here <DownOutlined aria-hidden />
            </Button>
          </Dropdown>
        </Space>
      )}
    </div>
  );
}
