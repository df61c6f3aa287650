'use client';
import { Segmented } from 'antd';
import { useShallow } from 'zustand/react/shallow';
import { useEffect, useRef, type ComponentProps } from 'react';
import { usePlace } from '@/ui/shared';
import { SourceEditor } from '@/ui/source';
import { useNow, useWorkspace, type OpenFile } from '@/ui/workspace';
import { Arrange } from '@/ui/arrange';
import { FileBanner } from './FileBanner';
import { LookForm } from './LookForm';
import { UnsavedFiles } from './UnsavedFiles';

type EditorProps = ComponentProps<typeof SourceEditor>;

interface Props extends Pick<EditorProps, 'aid' | 'problems' | 'facts'> {
  file: OpenFile;
  /** The layer that its text is in, or will be. */
  layerHere: string;
  /** Files with texts that are not saved, besides the open one. */
  others: string[];
  savingAll: boolean;
  counted: EditorProps['asks']['counted'];
}

/** Files that are changed by a form, until their source is asked for. */
const forms: Record<string, { label: string; says: string }> = {
  'look.json': { label: 'Form', says: 'How the look is changed' },
  'shelves.json': { label: 'Arrange', says: 'How the shelves are filled' },
};

/** The open file: what there is to say of it, and its source. */
export function SourceRoom({ file, layerHere, others, savingAll, aid, problems, facts, counted }: Props) {
  const workspace = useWorkspace();
  const { draft, file: store, changes, spot, setEditor } = workspace;
  const { get, go } = usePlace();
  // The address says of which file the source is wanted.
  const { source } = workspace.may;
  const asForm = !source || get('source') !== file.path;
  const { address, tried, on } = useNow(workspace, ({ place }) => place);
  const { revision, placed, painted } = useNow(
    workspace,
    useShallow((now) => ({ revision: now.revision, placed: now.placed, painted: now.painted })),
  );
  const places = useNow(spot, ({ table }) => table);
  const form = file.layer === null ? forms[file.path] : undefined;
  const formed = asForm && form !== undefined;
  const own = file.writable ? file.text : null;
  const write = (text: string) => {
    if (!file.writable) store.override();
    store.type(text);
  };
  // Arrange keeps what it was given first; the file may be another by then.
  const latest = useRef(write);
  useEffect(() => {
    latest.current = write;
  });
  // After the effects of the editor within: it shows the text as it is now.
  useEffect(() => spot.shown(), [spot, file.path, file.layer, file.version, layerHere]);
  return (
    <div className="source-room">
      {(!formed || file.writable) && (
        <FileBanner
          file={file}
          onOverride={store.override}
          onSave={(over) => void store.save(over)}
          onDrop={store.dropTyped}
          onRevert={() => void store.revert()}
          onOwn={() => workspace.open(file.path)}
          onMerged={store.settle}
        />
      )}
      <UnsavedFiles
        paths={others}
        saving={savingAll}
        onOpen={workspace.open}
        onSaveAll={() => void workspace.saveAll()}
      />
      {form && source && (
        <Segmented
          className="look-switch"
          size="small"
          aria-label={form.says}
          options={[form.label, 'Source']}
          value={asForm ? form.label : 'Source'}
          onChange={(value) => go({ source: value === 'Source' ? file.path : null }, true)}
        />
      )}
      {formed && file.path === 'look.json' && (
        <LookForm draft={draft} own={own} version={file.version} onText={write} />
      )}
      {formed && file.path === 'shelves.json' && (
        <Arrange
          {...{ draft, address, tried, on, own, revision, placed, painted, places }}
          onOutline={spot.outlinePlacement}
          onEmpty={spot.showShelves}
          unsaved={workspace.unsaved}
          onText={(text) => latest.current(text)}
        />
      )}
      {!formed && (
        <SourceEditor
          ref={setEditor}
          draft={`${draft} ${file.layer ?? ''}`}
          path={file.path}
          text={file.text}
          version={file.version}
          readOnly={!file.writable}
          problems={problems}
          facts={facts}
          asks={{ counted, showPage: (outcome, held) => void changes.showPage(outcome, held) }}
          aid={aid}
          onType={store.type}
          onSave={() => void store.save()}
          onPhrases={(phrases) => void workspace.addPhrases(phrases)}
          onCaret={workspace.caretAt}
        />
      )}
    </div>
  );
}
