'use client';
import { Splitter } from 'antd';
import { useSyncExternalStore } from 'react';
import { MakeAlternate } from '@/ui/alternates';
import { usePlace, useStored } from '@/ui/shared';
import { shelvesFile, useNow, useSoon, useWorkspace, WorkspaceContext } from '@/ui/workspace';
import { CommandList, KeySheet } from './Commands';
import { DrawerSide } from './DrawerSide';
import { PageSide } from './PageSide';
import { SourceHere, TrailHere } from './SourceSide';
import { useBenchCommands } from './useBenchCommands';
import { useBenchWorkspace } from './useBenchWorkspace';

const never = () => () => {};

/** The main place: the page left, its source right. Made in the browser, which keeps its sizes and its unsaved texts. */
export function Bench() {
  const here = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  const { draft } = usePlace();
  return here ? <Workplace key={draft} /> : <main className="bench" />;
}

/** Lays the Bench out; what is worked on is in the workspace. */
function Workplace() {
  const workspace = useBenchWorkspace();
  const { get } = usePlace();
  const { may } = workspace;
  const arranging = !may.source || (get('file') === shelvesFile && get('source') !== shelvesFile);
  const [split, setSplit] = useStored('split', 54);
  const [drawerSize, setDrawerSize] = useStored('drawer', 34);
  // Who only looks has the page alone.
  if (!may.arrange)
    return (
      <WorkspaceContext value={workspace}>
        <main className="bench">
          <PageSide />
        </main>
      </WorkspaceContext>
    );
  return (
    <WorkspaceContext value={workspace}>
      <main className="bench">
        <Splitter onResizeEnd={([left, right]) => left && right && setSplit((left / (left + right)) * 100)}>
          <Splitter.Panel defaultSize={`${split}%`} min={380}>
            <PageSide />
          </Splitter.Panel>
          <Splitter.Panel min={360}>
            <section className="bench-source" aria-label={may.source ? 'Source' : 'Arrange'}>
              {may.source && <TrailHere />}
              <Splitter
                orientation="vertical"
                onResizeEnd={([top, bottom]) => top && bottom && setDrawerSize((bottom / (top + bottom)) * 100)}
              >
                <Splitter.Panel min={120}>
                  <SourceHere />
                </Splitter.Panel>
                {!arranging && (
                  <Splitter.Panel defaultSize={`${drawerSize}%`} min={34}>
                    <DrawerSide />
                  </Splitter.Panel>
                )}
              </Splitter>
            </section>
          </Splitter.Panel>
        </Splitter>
        <Commands />
        {may.source && <NewAlternate />}
      </main>
    </WorkspaceContext>
  );
}

/** All that can be done, by its keys, from the list and from the sheet of keys. */
function Commands() {
  const workspace = useWorkspace();
  const list = useNow(workspace.panels, (panels) => panels.list);
  const commands = useBenchCommands(workspace);
  const close = () => workspace.panels.open({ list: null });
  return (
    <>
      <CommandList open={list === 'commands'} commands={commands} onClose={close} />
      <KeySheet open={list === 'keys'} commands={commands} onClose={close} />
    </>
  );
}

/** Makes another template for the page that is shown. */
function NewAlternate() {
  const workspace = useWorkspace();
  const { go } = usePlace();
  const making = useNow(workspace.panels, (panels) => panels.making);
  const report = useSoon(workspace.page).answer?.page;
  if (!report) return null;
  return (
    <MakeAlternate
      draft={workspace.draft}
      target={{ kind: report.subject?.kind ?? 'product' }}
      from={report.template.split('/')[1] ?? 'default'}
      open={making}
      onClose={() => workspace.panels.open({ making: false })}
      onMade={(name) => go({ try: name, file: null, layer: null })}
    />
  );
}
