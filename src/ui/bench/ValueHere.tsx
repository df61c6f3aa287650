'use client';
import { skipToken, useQuery } from '@tanstack/react-query';
import { Button } from 'antd';
import { useState } from 'react';
import { benchEndpoints, type RecordPlaceItem } from '@/contract/bench';
import { ValueEditor } from '@/ui/catalogue';
import { call, useLater } from '@/ui/shared';
import { useSoon, useWorkspace } from '@/ui/workspace';

/** Changes the value that is printed where one is, in the catalogue: where it comes from there. */
export function ValueHere() {
  const workspace = useWorkspace();
  const { draft, unsaved, page } = workspace;
  const spot = useSoon(workspace.spot);
  const { address, tried, origin } = useSoon(workspace).place;
  const [place, setPlace] = useState<RecordPlaceItem | null>(null);
  const { where, view } = spot;
  const shown = useSoon(page).answer?.shown ?? '';
  // As the caret and the text come to rest: each answer takes a page to be made.
  const at = useLater(where, 300);
  const fresh = useLater(shown, 400);
  const asked =
    (at?.place.kind === 'value' || at?.place.kind === 'element') && at.count > 0
      ? { view, address, try: tried, origin, file: at.file, layer: at.layer, offset: at.place.from + 1 }
      : null;
  const { data } = useQuery({
    queryKey: ['printed', draft, asked, at?.frame, fresh],
    queryFn: asked
      ? () =>
          call(
            benchEndpoints.reach,
            { draft },
            { ...asked, frame: at?.frame ?? null, unsaved: unsaved(), open: [], search: '' },
          )
      : skipToken,
    placeholderData: (before) => before,
  });
  const isHere = at?.file === where?.file && at?.place.from === where?.place.from;
  const record = asked && isHere ? (data?.printed?.record ?? null) : null;
  return (
    <>
      {record && (
        <Button
          size="small"
          title={`Change what ${data?.printed?.path} is, in the catalogue`}
          onClick={() => setPlace(record)}
        >
          Change its value…
        </Button>
      )}
      {place && <ValueEditor place={place} onClose={() => setPlace(null)} onSaved={() => page.make()} />}
    </>
  );
}
