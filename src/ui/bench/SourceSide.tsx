'use client';
import { useQueryClient } from '@tanstack/react-query';
import { Alert, Button } from 'antd';
import { useCallback, useMemo } from 'react';
import { catalogueEndpoints } from '@/contract/catalogue';
import type { ProblemItem } from '@/contract/shared';
import { linesOf, type LineFacts } from '@/core/inspect';
import { call } from '@/ui/shared';
import { languageAid } from '@/ui/source';
import { problemsOf, useNow, useSoon, useWorkspace, type Workspace } from '@/ui/workspace';
import { SourceRoom } from './SourceRoom';
import { Trail } from './Trail';

const noFacts = new Map<number, LineFacts>();

/** The way to the open file, and why it cannot be shown. */
export function TrailHere() {
  const workspace = useWorkspace();
  const { file, panels, spot } = workspace;
  const open = useNow(file, (now) => now.file);
  const failure = useNow(file, (now) => now.failure);
  const picking = useNow(panels, (now) => now.picking);
  const { path, files } = useNow(workspace, (now) => now);
  const report = useSoon(workspace.page).answer?.page;
  const { trail, shopLayer, table } = useSoon(spot);
  const shops = { kind: 'shop' as const, name: shopLayer, version: '' };
  return (
    <>
      <Trail
        draft={workspace.draft}
        steps={trail}
        page={report ?? undefined}
        sources={table?.sources.map((one) => one.file) ?? []}
        path={path}
        layer={open && (open.writable ? shops : open.saved.layer)}
        paths={files}
        picking={picking}
        onPicking={(on) => panels.open({ picking: on })}
        onOpen={workspace.open}
        onStep={spot.toStep}
      />
      {failure && (
        <Alert
          type="error"
          showIcon
          title={failure}
          action={
            <Button size="small" onClick={() => void file.load()}>
              Try again
            </Button>
          }
        />
      )}
    </>
  );
}

/** The open file's source, with what is wrong in it and why each of its lines is on the page. */
export function SourceHere() {
  const workspace = useWorkspace();
  const { draft, spot, language } = workspace;
  const file = useNow(workspace.file, (now) => now.file);
  const page = useSoon(workspace.page);
  const checked = useSoon(language);
  const { table } = useSoon(spot);
  const layerHere = useNow(spot, (now) => now.layerHere);
  const { others, savingAll } = useNow(workspace.changes, (now) => now);
  const queries = useQueryClient();
  const path = file?.path ?? '';
  // The same object while it says the same: what is shown beside a problem goes when the editor is given problems.
  const problemsText = JSON.stringify(problemsOf({ file: { file, failure: null }, page, language: checked }).here);
  const here = useMemo(() => JSON.parse(problemsText) as ProblemItem[], [problemsText]);
  const facts = useMemo(() => (table && path ? linesOf(table, path, layerHere) : noFacts), [table, layerHere, path]);
  const counted = useCallback(
    (object: string, fields: string[]) =>
      queries.fetchQuery({
        queryKey: ['fact', object, ...fields],
        queryFn: async () => {
          const asked = { fields: [{ object, path: fields }] };
          return (await call(catalogueEndpoints.emptiness, { draft }, asked))[0] ?? null;
        },
        staleTime: 60_000,
      }),
    [queries, draft],
  );
  // Made again for another file only: an editor that is given another aid asks again for the suggestions that it shows.
  const aid = useMemo(() => aidOf(workspace, path, layerHere), [workspace, path, layerHere]);
  if (!file) return null;
  return (
    <SourceRoom
      file={file}
      layerHere={layerHere}
      others={others}
      savingAll={savingAll}
      aid={aid}
      problems={here}
      facts={facts}
      counted={counted}
    />
  );
}

const aidOf = ({ language, naming }: Workspace, file: string, layer: string) =>
  languageAid({
    ...{ file, layer, ask: language.ask },
    onDefinition: (use) => void naming.goToDefinition(use),
    onUses: naming.showUses,
    onRename: naming.askName,
  });
