'use client';
import { Alert, Button } from 'antd';
import { PinHere } from '@/ui/alternates';
import { usePlace, useStored } from '@/ui/shared';
import { shelvesFile, useNow, useSoon, useWorkspace, type Workspace } from '@/ui/workspace';
import { CommentSigns } from '@/ui/comments';
import { AwkwardPages } from './AwkwardPages';
import { PageRoom } from './PageRoom';
import { PageTools } from './PageTools';
import { PhraseHere } from './PhraseHere';
import { PlaceBar } from './PlaceBar';
import { ValueHere } from './ValueHere';

/** The page, what is above it, and what can be done at the place that is meant. */
export function PageSide() {
  const workspace = useWorkspace();
  const { draft, panels, setFrame } = workspace;
  const { go } = usePlace();
  const [width, setWidth] = useStored('width', 1280);
  const { address, tried, on, file } = useNow(workspace, ({ place }) => place);
  const revision = useNow(workspace, (now) => now.revision);
  const { pointing, finding, awkward, acting } = useNow(panels, (now) => now);
  const view = useSoon(workspace.page);
  const report = view.answer?.page ?? null;
  return (
    <section className="bench-page" aria-label="Page">
      <PageTools
        report={report}
        address={address}
        tried={tried}
        width={width}
        pointing={pointing}
        finding={finding}
        onFinding={(open) => panels.open({ finding: open })}
        onPick={workspace.goToPage}
        onTry={(value) => go({ try: value, file: null, layer: null })}
        onMake={() => panels.open({ making: true })}
        onLanguage={(to) => go({ page: to })}
        onWidth={setWidth}
        onPoint={workspace.point}
        awkward={awkward}
        onAwkward={(open) => panels.open({ awkward: open })}
        may={workspace.may}
        arranging={file === shelvesFile}
        onArrange={workspace.arrange}
      />
      {report && workspace.may.source && (
        <PinHere draft={draft} report={report} tried={tried} onChanged={() => go({ try: null })} />
      )}
      {on && (
        <p className="pin-here">
          <span>
            As of <strong>{on}</strong>: what rules give on that day.
          </span>
          <Button size="small" onClick={() => go({ on: null })}>
            Today
          </Button>
        </p>
      )}
      {view.failure && !view.offline && <Alert type="error" showIcon title={view.failure} />}
      {awkward && <Awkward />}
      <PageRoom
        ref={setFrame}
        draft={draft}
        address={address}
        tried={tried}
        on={on}
        revision={revision}
        width={width}
        hidden={awkward}
        stale={staleness(view)}
        onSaid={workspace.heard}
      />
      {workspace.may.arrange && <CommentSigns />}
      {workspace.may.source && <Here acting={acting} pointing={pointing} />}
    </section>
  );
}

/** Why the page that is shown is not the newest; null: it is. */
function staleness({ offline, answer }: Workspace['page']['now']): string | null {
  if (offline)
    return 'The server does not answer. Go on typing: nothing is lost, and the page follows when it is back.';
  const broken = answer?.broken;
  if (!broken) return null;
  const full = /[.?!]$/.test(broken.message) ? '' : '.';
  return `The page shows the last version that worked. ${broken.file}, line ${broken.line}: ${broken.message}${full}`;
}

function Awkward() {
  const workspace = useWorkspace();
  const { go } = usePlace();
  const { place, path, edits } = useSoon(workspace);
  const report = useSoon(workspace.page).answer?.page;
  return (
    <AwkwardPages
      draft={workspace.draft}
      address={place.address}
      tried={place.tried}
      prefix={report?.languages.find((one) => one.current)?.prefix ?? ''}
      file={path}
      edits={edits}
      unsaved={workspace.unsaved}
      onPage={(to) => {
        workspace.panels.open({ awkward: false });
        go({ page: to });
      }}
      onLine={workspace.spot.goLine}
    />
  );
}

/** What is pointed at, or what the caret's element is, and what can be done there. */
function Here({ acting, pointing }: { acting: boolean; pointing: boolean }) {
  const { spot, changes, panels } = useWorkspace();
  const { moving, goal, told } = useSoon(changes);
  return (
    <PlaceBar
      spot={useSoon(spot)}
      pointing={pointing}
      moving={moving}
      goal={goal}
      told={told}
      open={acting}
      onOpen={(open) => panels.open({ acting: open })}
      onShow={spot.scrollTo}
      onDo={(target, action) => void changes.doAt(target, action)}
      onMove={changes.move}
      onStyles={() => panels.showTab('styles')}
      onComment={() => {
        panels.showTab('comments');
        setTimeout(() => document.getElementById('comment-text')?.focus(), 60);
      }}
      onUntold={changes.clear}
      value={
        <>
          <ValueHere />
          <PhraseHere />
        </>
      }
    />
  );
}
