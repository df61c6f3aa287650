'use client';
import { useQuery } from '@tanstack/react-query';
import { Button } from 'antd';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { useLater } from '@/ui/shared';
import { useSoon, useWorkspace } from '@/ui/workspace';

const PhraseDialog = dynamic(() => import('@/ui/phrases').then((room) => room.PhraseDialog), { ssr: false });

/** A place with more phrases than this is a stretch of the page: one of its parts is meant. */
const most = 6;

/** Changes the words that stand where one is, in every language. */
export function PhraseHere() {
  const workspace = useWorkspace();
  const { draft, language } = workspace;
  const { where } = useSoon(workspace.spot);
  const { edits } = useSoon(workspace);
  const at = useLater(where, 150);
  const [keys, setKeys] = useState<string[] | null>(null);
  const asked = at && { file: at.file, layer: at.layer, from: at.place.from, to: at.place.to };
  const { data = [] } = useQuery({
    queryKey: ['named', draft, asked, edits],
    queryFn: () => (asked ? language.ask('named', asked) : []),
    enabled: asked !== null,
  });
  const here = at?.file === where?.file && at?.place.from === where?.place.from;
  return (
    <>
      {here && data.length > 0 && data.length <= most && (
        <Button
          size="small"
          title={`Change ${data.length === 1 ? `“${data[0]}”` : 'the phrases here'} in every language`}
          onClick={() => setKeys(data)}
        >
          Change its words…
        </Button>
      )}
      {keys && <PhraseDialog draft={draft} keys={keys} onClose={() => setKeys(null)} onSaved={workspace.restored} />}
    </>
  );
}
