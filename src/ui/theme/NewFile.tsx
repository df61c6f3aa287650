'use client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Alert, Input, Modal } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { api, messageOf } from '../shared/api';

interface Props {
  draft: string;
  folder: string;
  open: boolean;
  onClose: () => void;
}

const begins = (path: string): string =>
  path.endsWith('.html') ? '<p></p>\n' : path.endsWith('.json') ? '{}\n' : path.endsWith('.css') ? '\n' : '';

/** Makes a file of the shop's own and opens it on the Bench. */
export function NewFile({ draft, folder, open, onClose }: Props) {
  const router = useRouter();
  const queries = useQueryClient();
  const [path, setPath] = useState('');
  const make = useMutation({
    mutationFn: () => api('PUT', `/api/drafts/${draft}/file`, { path, text: begins(path), expected: null }),
    onSuccess: () => {
      void queries.invalidateQueries();
      onClose();
      router.push(`/bench?${new URLSearchParams({ draft, file: path })}`);
    },
  });
  return (
    <Modal
      title="New file"
      open={open}
      onCancel={onClose}
      onOk={() => make.mutate()}
      okText="Make it"
      cancelText="Cancel"
      okButtonProps={{ disabled: !path.trim(), loading: make.isPending }}
      afterOpenChange={(now) => {
        if (!now) return;
        make.reset();
        setPath(folder ? `${folder}/` : 'pieces/');
        setTimeout(() => document.getElementById('new-file')?.focus(), 0);
      }}
    >
      <label className="field" htmlFor="new-file">
        Path
      </label>
      <Input
        id="new-file"
        value={path}
        onChange={(event) => setPath(event.target.value)}
        onPressEnter={() => make.mutate()}
        placeholder="pieces/sizes.html"
      />
      <p className="quiet">Templates end in .html; style sheets and scripts stand below assets/.</p>
      {make.isError && <Alert type="error" showIcon title={messageOf(make.error)} />}
    </Modal>
  );
}
