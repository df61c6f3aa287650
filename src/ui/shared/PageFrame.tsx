'use client';
import { useCallback, useEffect, useImperativeHandle, useLayoutEffect, useRef, useState, type Ref } from 'react';
import type { FromFrame, ToFrame } from '@/contract/frame';
import { parseFrameMessage } from '@/contract/from-frame';

/** What the Bench asks of the page that is shown. */
export interface FrameHandle {
  post: (message: ToFrame) => void;
  focus: () => void;
}

interface Props {
  /** Scheme, host and port of the pages: not the workbench's, so that a theme's scripts can do nothing to it. */
  origin: string;
  /** Address of the page to show: path and query. */
  address: string;
  /** Goes up when the page is to be loaded again. */
  revision: number;
  /** Width of the window that the page believes in, in CSS pixels. */
  width: number;
  /** What the page that is shown says; `attended`: someone is at it, with the focus or the pointer. */
  onSaid: (message: FromFrame, attended: boolean) => void;
  /** Why the page is not the newest; it is dimmed. */
  stale: string | null;
  /** The page is not answering: a script may be going round without end. */
  onStuck: (stuck: boolean) => void;
  ref: Ref<FrameHandle>;
}

/** A page that has not said that it is there after so long is shown as far as it came; in milliseconds. */
const loadTimeoutMs = 6000;
/** The focus is in the page so long after it was sent there, in milliseconds. */
const focusGraceMs = 500;
/** What is said of someone at the page: heard too while a newer one is on its way. */
const attends = new Set<FromFrame['kind']>(['pointing', 'pointed', 'picked', 'key']);
/** A page is asked so often whether it is alive, and must answer before it is asked again; in milliseconds. */
const heartbeatMs = 2500;

/**
 * The page as customers see it, in a frame with an origin of its own. A newer page is loaded behind the one shown, put at
 * the same scroll position, and then takes its place: nothing blinks, nothing jumps.
 */
export function PageFrame({ origin, address, revision, width, onSaid, stale, onStuck, ref }: Props) {
  const frames = useRef<[HTMLIFrameElement | null, HTMLIFrameElement | null]>([null, null]);
  const [front, setFront] = useState(0);
  const frontNow = useRef(0);
  const shown = useRef({ address: '', revision: -1, x: 0, y: 0 });
  const coming = useRef<{ address: string; revision: number; frame: number; ready: FromFrame | null } | null>(null);
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [loading, setLoading] = useState(true);
  const calls = useRef({ onSaid, onStuck });
  const answered = useRef(true);
  useEffect(() => {
    calls.current = { onSaid, onStuck };
  });

  const post = useCallback(
    (message: ToFrame, frame = frontNow.current) => {
      frames.current[frame]?.contentWindow?.postMessage({ ...message, last: true }, origin);
    },
    [origin],
  );
  /** When the focus was last sent into the page, by a command or by Tab; milliseconds of this window. */
  const sent = useRef(0);
  // A frame of another origin keeps what the pointer does in it to itself: the veil above it feels the pointer come, and is
  // gone until the pointer, or a key, is somewhere else.
  const veil = useRef<HTMLDivElement>(null);
  const isOver = () => veil.current?.hidden === true;
  useEffect(() => {
    const elsewhere = ({ target }: Event) => {
      if (veil.current && target !== veil.current) veil.current.hidden = false;
    };
    const kinds = ['pointermove', 'pointerdown', 'keydown'];
    for (const kind of kinds) document.addEventListener(kind, elsewhere, true);
    return () => kinds.forEach((kind) => document.removeEventListener(kind, elsewhere, true));
  }, []);

  useImperativeHandle(
    ref,
    () => ({
      post,
      focus: () => {
        sent.current = performance.now();
        frames.current[frontNow.current]?.focus();
      },
    }),
    [post],
  );

  // A page's script may take the focus: what is being typed would go into the page. It goes back to where it was.
  const entered = useRef(false);
  /** Whether someone is in the page: went there by a key, a command or the pointer, and has not left it. */
  const isIn = useCallback(() => {
    const there = frames.current.includes(document.activeElement as HTMLIFrameElement);
    const asked = performance.now() - sent.current < focusGraceMs;
    entered.current = there && (entered.current || asked || isOver());
    return entered.current;
  }, []);
  useEffect(() => {
    let before: HTMLElement | null = null;
    const isFrame = (element: Element | null) => frames.current.includes(element as HTMLIFrameElement);
    const moved = ({ target }: FocusEvent) => {
      if (!(target instanceof HTMLElement) || isFrame(target)) return;
      before = target;
      entered.current = false;
    };
    // A key that something used for itself, as the editor does to indent, leads nowhere: that is known once all have heard of it.
    const tabbed = (event: KeyboardEvent) => {
      if (event.key === 'Tab') setTimeout(() => event.defaultPrevented || (sent.current = performance.now()), 0);
    };
    const look = () => {
      if (isFrame(document.activeElement) && !isIn() && before?.isConnected) before.focus();
    };
    // Which element has it is known once it has moved: given back sooner, it would move on all the same.
    const left = () => setTimeout(look, 0);
    document.addEventListener('focusin', moved);
    document.addEventListener('focusout', left);
    window.addEventListener('keydown', tabbed, true);
    window.addEventListener('blur', left);
    window.addEventListener('focus', isIn);
    return () => {
      document.removeEventListener('focusin', moved);
      document.removeEventListener('focusout', left);
      window.removeEventListener('keydown', tabbed, true);
      window.removeEventListener('blur', left);
      window.removeEventListener('focus', isIn);
    };
  }, [isIn]);

  // Who was in the page is in the newer one, as soon as that is seen: one that is hidden takes no focus.
  const stays = useRef(false);
  useLayoutEffect(() => {
    if (!stays.current) return;
    stays.current = false;
    // Unless they have gone elsewhere meanwhile.
    const at = document.activeElement as HTMLIFrameElement;
    if (at !== document.body && !frames.current.includes(at)) return;
    sent.current = performance.now();
    frames.current[front]?.focus();
  }, [front]);

  const swap = useCallback(() => {
    const next = coming.current;
    if (!next) return;
    coming.current = null;
    const { x, y, address: before } = shown.current;
    const same = next.address === before;
    shown.current = { address: next.address, revision: next.revision, x: same ? x : 0, y: same ? y : 0 };
    stays.current = isIn() && document.activeElement === frames.current[frontNow.current];
    frontNow.current = next.frame;
    answered.current = true;
    setFront(next.frame);
    setLoading(false);
    if (next.ready) calls.current.onSaid(next.ready, true);
  }, [isIn]);

  useEffect(() => {
    const now = shown.current;
    if (now.address === address && now.revision === revision && !coming.current) return;
    const back = 1 - frontNow.current;
    const frame = frames.current[back];
    if (!frame?.contentWindow) return;
    coming.current = { address, revision, frame: back, ready: null };
    setLoading(true);
    // replace: pages that are made again leave no steps in the browser's history.
    frame.contentWindow.location.replace(origin + address);
    const late = setTimeout(swap, loadTimeoutMs);
    return () => clearTimeout(late);
  }, [origin, address, revision, swap]);

  useEffect(() => {
    const hear = (event: MessageEvent<unknown>) => {
      const at = frames.current.findIndex((frame) => frame?.contentWindow === event.source);
      const data = at < 0 || event.origin !== origin ? null : parseFrameMessage(event.data);
      if (!data) return;
      const next = coming.current?.frame === at ? coming.current : null;
      if (data.kind === 'alive') answered.current = true;
      if (data.kind === 'placed' && next) swap();
      else if (data.kind === 'ready' && next) {
        next.ready = data;
        const { x, y, address: before } = shown.current;
        if (before === next.address && (x || y)) post({ kind: 'scroll', x, y }, at);
        else swap();
      } else if (at === frontNow.current && (!coming.current || attends.has(data.kind))) {
        if (data.kind === 'scroll') shown.current = { ...shown.current, x: data.x, y: data.y };
        else if (data.kind === 'moved') shown.current = { ...shown.current, address: data.address };
        else if (data.kind === 'ready') {
          // It went there by itself: a link was followed, a form sent.
          answered.current = true;
          shown.current = { ...shown.current, address: data.address, x: 0, y: 0 };
        }
        calls.current.onSaid(data, isOver() || (isIn() && document.activeElement === frames.current[at]));
      }
    };
    window.addEventListener('message', hear);
    return () => window.removeEventListener('message', hear);
  }, [origin, post, swap, isIn]);

  useEffect(() => {
    const timer = setInterval(() => {
      if (document.hidden || coming.current || !shown.current.address) return;
      calls.current.onStuck(!answered.current);
      answered.current = false;
      post({ kind: 'alive' });
    }, heartbeatMs);
    return () => clearInterval(timer);
  }, [post]);

  useEffect(() => {
    if (!room.current) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(room.current);
    return () => observer.disconnect();
  }, []);

  const scale = size.width ? Math.min(1, size.width / width) : 1;
  useEffect(() => {
    for (const at of [0, 1]) post({ kind: 'scale', scale }, at);
  }, [scale, front, loading, post]);
  const style = {
    width,
    height: size.height / scale,
    transform: `scale(${scale})`,
    left: Math.max(0, (size.width - width * scale) / 2),
  };
  return (
    <div className="frame-room" ref={room} aria-busy={loading} data-stale={stale !== null}>
      {[0, 1].map((at) => (
        <iframe
          key={at}
          ref={(frame) => {
            frames.current[at] = frame;
          }}
          title={at === front ? 'The page' : 'The next page'}
          aria-hidden={at !== front}
          tabIndex={at === front ? 0 : -1}
          data-front={at === front}
          // Of an origin of its own: what it may do within itself (cookies, forms) reaches nothing of the workbench's.
          sandbox="allow-scripts allow-forms allow-same-origin"
          style={style}
        />
      ))}
      <div
        ref={veil}
        className="frame-veil"
        onPointerMove={({ buttons, currentTarget }) => {
          if (!buttons) currentTarget.hidden = true;
        }}
        onPointerDown={({ currentTarget }) => (currentTarget.hidden = true)}
        onWheel={({ currentTarget }) => (currentTarget.hidden = true)}
      />
      {stale !== null && (
        <p className="frame-stale" role="status">
          {stale}
        </p>
      )}
    </div>
  );
}
