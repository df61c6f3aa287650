'use client';
import { Segmented } from 'antd';
import { useEffect, useState, type ComponentProps } from 'react';
import { SourceEditor } from '@/ui/source';
import { useWorkspace, type OpenFile } from '@/ui/workspace';
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

/** The open file: what there is to say of it, and its source. The look is changed by a form, until its source is asked for. */
export function SourceRoom({ file, layerHere, others, savingAll, aid, problems, facts, counted }: Props) {
  const workspace = useWorkspace();
  const { draft, file: store, changes, spot, setEditor } = workspace;
  const [asForm, setAsForm] = useState(true);
  const isLook = file.path === 'look.json' && file.layer === null;
  const formed = asForm && isLook;
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
      {isLook && (
        <Segmented
          className="look-switch"
          size="small"
          aria-label="How the look is changed"
          options={['Form', 'Source']}
          value={asForm ? 'Form' : 'Source'}
          onChange={(value) => setAsForm(value === 'Form')}
        />
      )}
      {formed ? (
        <LookForm
          draft={draft}
          own={file.writable ? file.text : null}
          version={file.version}
          onText={(text) => {
            if (!file.writable) store.override();
            store.type(text);
          }}
        />
      ) : (
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
