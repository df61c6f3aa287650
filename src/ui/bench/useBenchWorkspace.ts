'use client';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { App } from 'antd';
import { useEffect, useState } from 'react';
import { fileEndpoints } from '@/contract/files';
import {
  call,
  callForLines,
  draftChanged,
  tellOpen,
  tellTyped,
  useBeginning,
  useDraftSite,
  useMay,
  usePlace,
} from '@/ui/shared';
import { startLanguage } from '@/ui/source';
import { announce, listenToWindows, useNow, Workspace, type Place } from '@/ui/workspace';

/** The workspace of the draft that the address names, which hears where the address goes. */
export function useBenchWorkspace(): Workspace {
  const { draft, get, go } = usePlace();
  const beginning = useBeginning();
  const { message } = App.useApp();
  const queries = useQueryClient();
  const { base, origin } = useDraftSite(draft);
  const may = { source: useMay('source'), arrange: useMay('arrange') };
  const address = get('page') ?? beginning.page;
  const [tried, on, file, layer] = ['try', 'on', 'file', 'layer'].map(get) as (string | null)[];
  const place: Place = {
    ...{ base, origin, address },
    ...{ tried: tried ?? null, on: on ?? null, file: file ?? null, layer: layer ?? null },
  };
  const [workspace] = useState(
    () =>
      new Workspace(
        draft,
        place,
        {
          ...{ call, callForLines, announce, go },
          language: startLanguage,
          draftChanged: () => void draftChanged(queries, draft),
          say: {
            success: (text) => void message.success(text),
            info: (text) => void message.info(text),
            error: (text) => void message.error(text),
            loading: (text) => message.loading(text, 0),
          },
        },
        may,
      ),
  );
  useEffect(() => {
    const ends = [workspace.start(), listenToWindows(workspace)];
    return () => ends.forEach((end) => end());
  }, [workspace]);
  useEffect(() => {
    workspace.visit(place);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a place is what it says
  }, [workspace, base, origin, address, tried, on, file, layer]);

  // The list stays the same object while it says the same: it is another once any file of the draft is.
  const files = useQuery({
    enabled: may.source,
    queryKey: ['files', draft],
    queryFn: () => call(fileEndpoints.list, { draft }),
  });
  const list = files.data ?? (files.isError ? null : undefined);
  useEffect(() => {
    if (list !== undefined) workspace.listed(list);
  }, [workspace, list]);
  useEffect(() => {
    const tell = () => tellTyped(draft, workspace.typedProblems());
    const ends = [workspace.language, workspace.file, workspace.changes].map((store) => store.subscribe(tell));
    return () => {
      for (const end of ends) end();
      tellTyped(draft, null);
    };
  }, [workspace, draft]);
  const path = useNow(workspace, (now) => now.path);
  useEffect(() => {
    if (may.arrange) tellOpen({ file: path, shelf: null });
    return () => tellOpen(null);
  }, [may.arrange, path]);
  return workspace;
}
