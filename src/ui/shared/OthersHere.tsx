'use client';
import { TeamOutlined } from '@ant-design/icons';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Tooltip } from 'antd';
import { useEffect, useSyncExternalStore } from 'react';
import { commentEndpoints } from '@/contract/comments';
import { call } from './api';
import { useMay, useMe } from './me';

/** What this window has open in its draft: a file by its path, a shelf or piece in words. */
interface Open {
  file: string | null;
  shelf: string | null;
}

const nothing: Open = { file: null, shelf: null };
let open = nothing;
const watchers = new Set<() => void>();

/** Says what is open now, which others in the draft are told; null: nothing in particular. */
export function tellOpen(now: Open | null): void {
  if (open.file === (now?.file ?? null) && open.shelf === (now?.shelf ?? null)) return;
  open = now ?? nothing;
  watchers.forEach((changed) => changed());
}

const watch = (changed: () => void) => {
  watchers.add(changed);
  return () => watchers.delete(changed);
};

/** So often it is said again, in milliseconds; the server forgets who says nothing for 50 seconds. */
const beat = 20_000;
let name = '';
const windowName = (): string => (name ||= Math.random().toString(36).slice(2, 12).padEnd(4, '0'));

/** Who else has the draft open, and what in it. Nothing where nobody has. */
export function OthersHere({ draft }: { draft: string }) {
  const { signedIn } = useMe();
  const works = useMay('arrange');
  const now = useSyncExternalStore(
    watch,
    () => open,
    () => nothing,
  );
  const enabled = signedIn && works && draft !== '';
  const { data } = useQuery({
    enabled,
    queryKey: ['here', draft, now.file, now.shelf],
    queryFn: () => call(commentEndpoints.here, { draft }, { window: windowName(), ...now }),
    refetchInterval: beat,
    placeholderData: keepPreviousData,
    retry: false,
  });
  useEffect(() => {
    if (!enabled) return;
    const leave = () => {
      void call(commentEndpoints.here, { draft }, { window: windowName(), ...nothing, open: false }).catch(() => {});
    };
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [enabled, draft]);
  const others = data?.others ?? [];
  const [first] = others;
  if (!first) return null;
  const says = ({ called, at }: (typeof others)[number]) => (at ? `${called}: ${at}` : called);
  const more = others.length - 1;
  return (
    <Tooltip
      title={others.map((one, at) => (
        <div key={at}>{says(one)}</div>
      ))}
    >
      <span className="bar-others" role="status">
        <TeamOutlined aria-hidden /> <span className="unseen">Also here: </span>
        {says(first)}
        {more > 0 && ` and ${more} more`}
      </span>
    </Tooltip>
  );
}
