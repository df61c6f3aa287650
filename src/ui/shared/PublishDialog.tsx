'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Input, Modal } from 'antd';
import { useState } from 'react';
import type { ChangesAnswer } from '@/contract/api';
import { api, messageOf } from './api';

const signs = { added: '+', changed: '≠', removed: '−' };

/** What would go live, what keeps it from going, and the step itself. */
export function PublishDialog({
  draft,
  name,
  open,
  onClose,
}: {
  draft: string;
  name: string;
  open: boolean;
  onClose: () => void;
}) {
  const { message } = App.useApp();
  const queries = useQueryClient();
  const [note, setNote] = useState('');
  const changes = useQuery({
    queryKey: ['changes', draft, 'dialog'],
    queryFn: () => api<ChangesAnswer>('GET', `/api/drafts/${draft}/changes`),
    enabled: open,
  });
  const publish = useMutation({
    mutationFn: () => api<{ number: number }>('POST', `/api/drafts/${draft}/publish`, { note }),
    onSuccess: ({ number }) => {
      void message.success(`Release ${number} is live`);
      setNote('');
      void queries.invalidateQueries();
      onClose();
    },
  });
  const { files = [], problems = [] } = changes.data ?? {};
  const errors = problems.filter((one) => one.severity === 'error');
  return (
    <Modal
      title={`Publish “${name}”`}
      open={open}
      onCancel={onClose}
      onOk={() => publish.mutate()}
      okText={`Publish ${files.length} ${files.length === 1 ? 'file' : 'files'}`}
      cancelText="Not now"
      okButtonProps={{ disabled: !files.length || errors.length > 0, loading: publish.isPending }}
      afterOpenChange={(now) => now && publish.reset()}
    >
      {changes.isError && <Alert type="error" showIcon title={messageOf(changes.error)} />}
      {publish.isError && <Alert type="error" showIcon title={messageOf(publish.error)} />}
      {changes.data && !files.length && <p>This draft is the same as what is live. Change something first.</p>}
      {errors.length > 0 && (
        <Alert
          type="error"
          showIcon
          title={
            errors.length === 1
              ? 'One error keeps this draft from going live'
              : `${errors.length} errors keep this draft from going live`
          }
          description={errors.slice(0, 5).map((one) => (
            <p key={`${one.file} ${one.from} ${one.code}`}>
              <code>{one.file}</code>, line {one.line}: {one.message}
            </p>
          ))}
        />
      )}
      {files.length > 0 && (
        <>
          <p>Visitors get all of it at once, from their next page on.</p>
          <ul className="change-list">
            {files.map(({ path, change }) => (
              <li key={path}>
                <span title={change}>{signs[change]}</span> <code>{path}</code> <small>{change}</small>
              </li>
            ))}
          </ul>
          <label className="field">
            Note
            <Input
              value={note}
              onChange={(event) => setNote(event.target.value)}
              placeholder="What this release is for"
              maxLength={500}
            />
          </label>
        </>
      )}
    </Modal>
  );
}
