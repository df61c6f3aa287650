'use client';
import { Alert, Button, Popconfirm, Space } from 'antd';
import { useState } from 'react';
import { useMay } from '@/ui/shared';
import { MergeDialog } from '@/ui/source';
import { bothOf, type OpenFile } from '@/ui/workspace';

interface Props {
  file: OpenFile;
  onOverride: () => void;
  onSave: (over?: { expected: string | null }) => void;
  onDrop: () => void;
  onRevert: () => void;
  /** Opens the shop's own file of this path. */
  onOwn: () => void;
  /** Both texts were merged. */
  onMerged: (text: string) => void;
}

const clock = (at: string) => new Date(at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });

/** What there is to say about the open file, and what to do about it. */
export function FileBanner({ file, onOverride, onSave, onDrop, onRevert, onOwn, onMerged }: Props) {
  const { saved, conflict, restored, notice } = file;
  const [merging, setMerging] = useState(false);
  const dirty = file.text !== saved.text;
  const both = bothOf(file);
  const source = useMay('source');
  return (
    <div className="banner">
      {conflict && (
        <Alert
          type="warning"
          title={conflict.message}
          description={
            <Space wrap>
              {both && (
                <>
                  <span>Both changed {both.clashes.join(', ')}. All else is put together.</span>
                  <Button size="small" type="primary" onClick={() => onMerged(both.mine)}>
                    Put together, with mine of it
                  </Button>
                  <Button size="small" onClick={() => onMerged(both.theirs)}>
                    Put together, with theirs of it
                  </Button>
                </>
              )}
              {source && conflict.hash !== null && (
                <Button size="small" {...(both ? {} : { type: 'primary' })} onClick={() => setMerging(true)}>
                  Look at both and merge
                </Button>
              )}
              <Button
                size="small"
                type={conflict.hash === null ? 'primary' : 'default'}
                onClick={() => onSave({ expected: conflict.hash })}
              >
                {conflict.hash === null ? 'Save mine again' : 'Save mine over it'}
              </Button>
              <Popconfirm
                title="Leave what you typed?"
                description="Your text is dropped for the other one."
                okText="Leave mine"
                cancelText="Keep it"
                onConfirm={onDrop}
              >
                <Button size="small">{conflict.hash === null ? 'Leave it' : 'Take the other'}</Button>
              </Popconfirm>
            </Space>
          }
        />
      )}
      {conflict && merging && (
        <MergeDialog
          path={file.path}
          base={conflict.base}
          mine={file.text}
          theirs={conflict.text}
          onClose={() => setMerging(false)}
          onMerged={(text) => {
            setMerging(false);
            onMerged(text);
          }}
        />
      )}
      {notice && <Alert type="error" title={notice} showIcon />}
      {!file.writable && (
        <div className="banner-line">
          <span>
            {file.begun
              ? `The ${saved.layer.kind === 'base' ? 'base theme’s' : 'add-on’s'} file: the shop has its own above it.`
              : `This file is the ${saved.layer.kind === 'base' ? 'base theme’s' : 'add-on’s'}: an update would wipe out changes in it.`}
          </span>
          {file.begun ? (
            <Button size="small" onClick={onOwn}>
              Open the shop’s
            </Button>
          ) : (
            <Button size="small" type="primary" onClick={onOverride} title="Change this for the shop">
              Change this for the shop
            </Button>
          )}
        </div>
      )}
      {file.writable && !conflict && (
        <div className="banner-line">
          <span role="status">
            {file.saving
              ? 'Saving…'
              : restored && dirty
                ? `Unsaved text from ${clock(restored)} is back.`
                : dirty
                  ? 'Not saved yet.'
                  : saved.hash === null
                    ? 'The shop gets its own copy with the first save.'
                    : 'Saved.'}
          </span>
          <Space>
            {dirty && (
              <Popconfirm title="Drop what is not saved?" okText="Drop it" cancelText="Keep it" onConfirm={onDrop}>
                <Button size="small">Drop changes</Button>
              </Popconfirm>
            )}
            {source && saved.hash !== null && saved.below && (
              <Popconfirm
                title={`Go back to the ${saved.below.kind}’s file?`}
                description="The shop’s own version is taken out of this draft."
                okText="Go back"
                cancelText="Keep ours"
                onConfirm={onRevert}
              >
                <Button size="small">Go back to {saved.below.kind}</Button>
              </Popconfirm>
            )}
            <Button
              size="small"
              type="primary"
              disabled={!dirty}
              loading={file.saving}
              onClick={() => onSave()}
              title="Save (Ctrl S)"
            >
              Save
            </Button>
          </Space>
        </div>
      )}
    </div>
  );
}
