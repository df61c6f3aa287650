'use client';
import { Alert, Button } from 'antd';
import { useState, type Ref } from 'react';
import type { FromFrame } from '@/contract/frame';
import { draftAddress } from '@/core/address';
import { useDraftSite, tellsFramed } from '@/ui/shared';
import { PageFrame, type FrameHandle } from '@/ui/shared';

interface Props {
  ref: Ref<FrameHandle>;
  draft: string;
  /** Path and query of the page in the shop. */
  address: string;
  tried: string | null;
  /** The day that it is seen on; null: today. */
  on: string | null;
  revision: number;
  width: number;
  hidden: boolean;
  stale: string | null;
  onSaid: (message: FromFrame, attended: boolean) => void;
}

/** A browser has ended a page's process so long after the page is removed, in milliseconds. */
const goneAfter = 700;

/** The page in its frame. One whose scripts never end can be shown without them. */
export function PageRoom({ ref, draft, address, tried, on, revision, width, hidden, stale, onSaid }: Props) {
  const { base, origin } = useDraftSite(draft);
  const [bare, setBare] = useState(false);
  const [stuck, setStuck] = useState(false);
  const [absent, setAbsent] = useState(false);
  const withoutScripts = () => {
    setBare(true);
    setStuck(false);
    // The page that hangs is removed first: another of the same site would share its process, and hang with it.
    setAbsent(true);
    setTimeout(() => setAbsent(false), goneAfter);
  };
  return (
    <>
      {stuck && (
        <Alert
          type="warning"
          showIcon
          title="The page does not answer: one of its scripts may be going round without end."
          action={
            <Button size="small" onClick={withoutScripts}>
              Show it without scripts
            </Button>
          }
        />
      )}
      {bare && (
        <Alert
          type="info"
          showIcon
          title="The theme’s scripts do not run."
          action={
            <Button size="small" onClick={() => setBare(false)}>
              Let them run
            </Button>
          }
        />
      )}
      <div className="frame-keeper" hidden={hidden}>
        {!absent && (
          <PageFrame
            ref={ref}
            origin={origin}
            address={draftAddress(base, address, { try: tried, on, bare, framed: tellsFramed() }).slice(origin.length)}
            revision={revision}
            width={width}
            onSaid={onSaid}
            onStuck={setStuck}
            stale={stale}
          />
        )}
      </div>
    </>
  );
}
