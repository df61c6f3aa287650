'use client';
import { Segmented } from 'antd';
import { useState, type RefObject } from 'react';
import type { FactsAnswer } from '@/contract/catalogue';
import type { ProblemItem } from '@/contract/shared';
import type { LineFacts } from '@/core/inspect';
import { FileBanner } from './FileBanner';
import { LookForm } from './LookForm';
import { SourceEditor, type EditorHandle } from '@/ui/source';
import { UnsavedFiles } from './UnsavedFiles';
import type { useActing } from './useActing';
import type { OpenFile, useFile } from './useFile';
import type { useNaming } from './useNaming';

interface Props {
  draft: string;
  file: OpenFile;
  /** What can be done with the file. */
  does: Omit<ReturnType<typeof useFile>, 'file'>;
  acts: ReturnType<typeof useActing>;
  aid: ReturnType<typeof useNaming>['aid'];
  editor: RefObject<EditorHandle | null>;
  problems: ProblemItem[];
  /** Why each line is on the page or not, by its number. */
  facts: Map<number, LineFacts>;
  counted: (object: string, fields: string[]) => Promise<FactsAnswer[number] | null>;
  onOpen: (path: string) => void;
  onSaveAll: () => void;
  onCaret: (offset: number, typing: boolean) => void;
}

/** The open file: what there is to say of it, and its source. The look is changed by a form, until its source is asked for. */
export function SourceRoom(props: Props) {
  const { draft, file, does, acts, aid, editor, problems, facts, counted, onOpen, onSaveAll, onCaret } = props;
  const [asForm, setAsForm] = useState(true);
  const isLook = file.path === 'look.json' && file.layer === null;
  const formed = asForm && isLook;
  return (
    <div className="source-room">
      {(!formed || file.writable) && (
        <FileBanner
          file={file}
          onOverride={does.override}
          onSave={(over) => void does.save(over)}
          onDrop={does.dropTyped}
          onRevert={() => void does.revert()}
          onOwn={() => onOpen(file.path)}
          onMerged={does.settle}
        />
      )}
      <UnsavedFiles paths={acts.others} saving={acts.savingAll} onOpen={onOpen} onSaveAll={onSaveAll} />
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
            if (!file.writable) does.override();
            does.type(text);
          }}
        />
      ) : (
        <SourceEditor
          ref={editor}
          draft={`${draft} ${file.layer ?? ''}`}
          path={file.path}
          text={file.text}
          version={file.version}
          readOnly={!file.writable}
          problems={problems}
          facts={facts}
          asks={{ counted, showPage: (outcome, held) => void acts.showPage(outcome, held) }}
          aid={aid}
          onType={does.type}
          onSave={() => void does.save()}
          onCaret={onCaret}
        />
      )}
    </div>
  );
}
