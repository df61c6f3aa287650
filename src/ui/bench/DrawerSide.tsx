'use client';
import { useCallback, useMemo } from 'react';
import type { ToFrame } from '@/contract/frame';
import { problemsOf, useNow, useSoon, useWorkspace } from '@/ui/workspace';
import { CommentsHere, useComments } from '@/ui/comments';
import { Drawer } from './Drawer';
import { FileHistoryTab } from './FileHistoryTab';
import { InReach } from './InReach';
import { Styles } from './Styles';
import { Uses } from './Uses';
import { WordsHere } from './WordsHere';

/** Below the source: what is in reach, what shapes the element, what is wrong, who uses it, what it was. */
export function DrawerSide() {
  const workspace = useWorkspace();
  const { panels, spot } = workspace;
  const tab = useNow(panels, (now) => now.tab);
  const file = useSoon(workspace.file);
  const page = useSoon(workspace.page);
  const language = useSoon(workspace.language);
  const { here, elsewhere } = useMemo(() => problemsOf({ file, page, language }), [file, page, language]);
  return (
    <Drawer
      tab={tab}
      onTab={panels.showTab}
      reach={<ReachTab />}
      styles={<StylesTab />}
      uses={<UsesTab />}
      history={<HistoryTab />}
      comments={<CommentsHere />}
      open={useComments(workspace.draft).comments.filter(({ done }) => !done).length}
      problems={here}
      elsewhere={elsewhere}
      untranslated={page.answer?.page?.untranslated ?? []}
      onProblem={(one) => spot.goLine(one.file, one.line)}
    />
  );
}

function ReachTab() {
  const pageStore = useWorkspace().page;
  const { draft, file, page, spot, changes, unsaved, ...workspace } = useTab();
  const { address, tried, origin } = workspace.place;
  const { caret, view, where, layerHere } = spot;
  const asked =
    caret && file?.path.endsWith('.html') && caret.file === file.path
      ? {
          ...{ view, address, try: tried, origin, file: file.path, layer: layerHere },
          ...{ offset: caret.offset, frame: where?.frame ?? null },
        }
      : null;
  if (file && /^words\/.+\.json$/.test(file.path)) return <WordsHere file={file} />;
  return (
    <InReach
      draft={draft}
      asked={asked}
      shown={page.answer?.shown ?? ''}
      unsaved={unsaved}
      writable={file?.writable ?? false}
      onWrite={changes.write}
      onHandDown={changes.handDown}
      onChanged={() => pageStore.make()}
    />
  );
}

function StylesTab() {
  const workspace = useWorkspace();
  const { page, spot } = useTab();
  const { painted, matched } = useSoon(workspace);
  const post = useCallback((message: ToFrame) => workspace.frame?.post(message), [workspace]);
  return (
    <Styles
      draft={workspace.draft}
      assets={page.answer?.page?.assets ?? []}
      shopLayer={spot.shopLayer}
      mark={spot.mark}
      view={spot.view}
      shown={`${page.answer?.shown ?? ''} ${painted}`}
      post={post}
      matched={matched}
      onChange={({ path, text }) => workspace.changes.keepText(path, text)}
      onOpen={workspace.spot.goLine}
    />
  );
}

function UsesTab() {
  const { language, naming, spot } = useWorkspace();
  const { thing, renaming } = useSoon(naming);
  const { known } = useSoon(language);
  const { shopLayer } = useSoon(spot);
  return (
    <Uses
      ask={language.ask}
      thing={thing}
      shopLayer={shopLayer}
      renaming={renaming}
      onRenaming={naming.setRenaming}
      fresh={known}
      onGo={spot.goPlace}
      onRename={(use, name) => void naming.rename(use, name)}
      onReplace={(matches, words, by) => void naming.replaceAll(matches, words, by)}
    />
  );
}

function HistoryTab() {
  const workspace = useWorkspace();
  const { file } = useSoon(workspace.file);
  if (!file) return null;
  const { path, saved } = file;
  return <FileHistoryTab draft={workspace.draft} path={path} now={saved.hash} onRestored={workspace.restored} />;
}

/** What several tabs show. */
function useTab() {
  const workspace = useWorkspace();
  const { draft, changes, unsaved } = workspace;
  const { file } = useSoon(workspace.file);
  const { place } = useSoon(workspace);
  return { draft, changes, unsaved, file, place, page: useSoon(workspace.page), spot: useSoon(workspace.spot) };
}
