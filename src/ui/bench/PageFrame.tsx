'use client';
import { useCallback, useEffect, useRef, useState } from 'react';

interface Props {
  /** Address of the page to show. */
  address: string;
  /** Goes up when the page is to be made again. */
  revision: number;
  /** Width of the window that the page believes in, in CSS pixels. */
  width: number;
  /** The page went elsewhere by itself: a link was followed. */
  onWent: (address: string) => void;
  onGoTo: () => void;
  /** Why the page is not the newest; it is dimmed. */
  stale: string | null;
}

interface Said {
  last?: boolean;
  kind?: string;
  address?: string;
  x?: number;
  y?: number;
}

/**
 * The page as customers see it, in a frame with an origin of its own. A newer page is loaded behind the one shown, put at
 * the same scroll position, and then takes its place: nothing blinks, nothing jumps.
 */
export function PageFrame({ address, revision, width, onWent, onGoTo, stale }: Props) {
  const frames = useRef<[HTMLIFrameElement | null, HTMLIFrameElement | null]>([null, null]);
  const [front, setFront] = useState(0);
  const frontNow = useRef(0);
  const shown = useRef({ address: '', x: 0, y: 0 });
  const coming = useRef<{ address: string; frame: number } | null>(null);
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [loading, setLoading] = useState(true);
  const calls = useRef({ onWent, onGoTo });
  useEffect(() => {
    calls.current = { onWent, onGoTo };
  });

  const swap = useCallback(() => {
    const next = coming.current;
    if (!next) return;
    coming.current = null;
    if (next.address !== shown.current.address) shown.current = { address: next.address, x: 0, y: 0 };
    frontNow.current = next.frame;
    setFront(next.frame);
    setLoading(false);
  }, []);

  useEffect(() => {
    const back = 1 - frontNow.current;
    const frame = frames.current[back];
    if (!frame?.contentWindow) return;
    if (shown.current.address === address && revision === 0 && !coming.current) return;
    coming.current = { address, frame: back };
    setLoading(true);
    // replace: pages that are made again leave no steps in the browser's history.
    frame.contentWindow.location.replace(new URL(address, window.location.origin).href);
    const late = setTimeout(swap, 4000);
    return () => clearTimeout(late);
  }, [address, revision, swap]);

  useEffect(() => {
    const hear = (event: MessageEvent<Said>) => {
      const at = frames.current.findIndex((frame) => frame?.contentWindow === event.source);
      const { data } = event;
      if (at < 0 || !data?.last) return;
      const isFront = at === frontNow.current;
      if (data.kind === 'go') calls.current.onGoTo();
      else if (data.kind === 'scroll' && isFront && !coming.current) {
        shown.current = { ...shown.current, x: data.x ?? 0, y: data.y ?? 0 };
      } else if (data.kind === 'placed' && coming.current?.frame === at) swap();
      else if (data.kind === 'ready' && coming.current?.frame === at) {
        const { x, y, address: before } = shown.current;
        if (before === coming.current.address && (x || y)) {
          frames.current[at]?.contentWindow?.postMessage({ last: true, kind: 'scroll', x, y }, '*');
        } else swap();
      } else if (data.kind === 'ready' && isFront && typeof data.address === 'string') {
        if (data.address === shown.current.address) return;
        shown.current = { address: data.address, x: 0, y: 0 };
        calls.current.onWent(data.address);
      }
    };
    window.addEventListener('message', hear);
    return () => window.removeEventListener('message', hear);
  }, [swap]);

  useEffect(() => {
    if (!room.current) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(room.current);
    return () => observer.disconnect();
  }, []);

  const scale = size.width ? Math.min(1, size.width / width) : 1;
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
          sandbox="allow-scripts allow-forms allow-popups"
          style={style}
        />
      ))}
      {stale !== null && (
        <p className="frame-stale" role="status">
          {stale}
        </p>
      )}
    </div>
  );
}
