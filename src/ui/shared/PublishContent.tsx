'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Input, Modal } from 'antd';
import { useState } from 'react';
import { draftEndpoints, type ContentAnswer } from '@/contract/drafts';
import { call, messageOf } from './api';

/** So many changes are listed. */
const most = 60;
const kinds = { piece: 'Piece', phrase: 'Phrase', file: 'File' };

/** The way to publish for staff, where an owner lets them and nothing but pieces and words differs. */
export function PublishContent({ draft }: { draft: string }) {
  const [open, setOpen] = useState(false);
  const { data } = useQuery({
    enabled: draft !== '',
    queryKey: ['content-changes', draft],
    queryFn: () => call(draftEndpoints.content, { draft }),
  });
  if (!data?.allowed || !data.only || !data.changes.length) return null;
  return (
    <>
      <button type="button" className="bar-publish" onClick={() => setOpen(true)}>
        Publish…
      </button>
      {open && <PublishDialog {...{ draft, content: data }} onClose={() => setOpen(false)} />}
    </>
  );
}

function PublishDialog({ draft, content, onClose }: { draft: string; content: ContentAnswer; onClose: () => void }) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const [note, setNote] = useState('');
  const { changes, turn, revision } = content;
  const publish = useMutation({
    mutationFn: () => call(draftEndpoints.publishContent, { draft }, { note, turn, revision }),
    onSuccess: ({ number }) => {
      void message.success(`Release ${number} is live`);
      onClose();
    },
    // What is live now may be another than was looked at; what differs is shown as it is then.
    onSettled: () => void queries.invalidateQueries(),
  });
  return (
    <Modal
      open
      title="Publish this draft"
      okText="Publish"
      okButtonProps={{ loading: publish.isPending }}
      onOk={() => publish.mutate()}
      onCancel={onClose}
    >
      <div className="review-form">
        <p>Customers get all of it at once, from their next page on:</p>
        <ul className="content-changes" aria-label="What changes">
          {changes.slice(0, most).map(({ kind, name, change }, at) => (
            <li key={at}>
              {kinds[kind]} <strong>{name}</strong> <small>{change}</small>
            </li>
          ))}
          {changes.length > most && <li>and {changes.length - most} more</li>}
        </ul>
        <label>
          What this release is for
          <Input maxLength={500} value={note} onChange={({ target }) => setNote(target.value)} />
        </label>
        {publish.error && <Alert type="error" showIcon title={messageOf(publish.error)} />}
      </div>
    </Modal>
  );
}
