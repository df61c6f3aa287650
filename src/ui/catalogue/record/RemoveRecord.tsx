'use client';
import { DeleteOutlined } from '@ant-design/icons';
import { useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Modal } from 'antd';
import { useState } from 'react';
import { recordEndpoints, type RecordKindName } from '@/contract/records';
import { call, messageOf } from '@/ui/shared';
import { nameOfRecord, viewOfKind } from '../kinds';
import type { Fields } from './record-store';

interface Props {
  kind: RecordKindName;
  slug: string;
  record: Fields;
  onGone: () => void;
}

/** Removes a record, once that is meant. */
export function RemoveRecord({ kind, slug, record, onGone }: Props) {
  const queries = useQueryClient();
  const [asking, setAsking] = useState(false);
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState<string | null>(null);
  const { one } = viewOfKind(kind);
  const called = nameOfRecord(record, slug);
  const remove = async () => {
    setBusy(true);
    try {
      await call(
        recordEndpoints.save,
        {},
        { changes: [{ kind, slug, before: {}, after: null }], title: `Remove the ${one} ${called}` },
      );
      setAsking(false);
      onGone();
      await queries.invalidateQueries();
    } catch (error) {
      setFailed(messageOf(error));
    }
    setBusy(false);
  };
  return (
    <>
      <Button
        size="small"
        type="text"
        aria-label={`Remove this ${one}`}
        title={`Remove this ${one}`}
        icon={<DeleteOutlined aria-hidden />}
        onClick={() => {
          setFailed(null);
          setAsking(true);
        }}
      />
      <Modal
        title={`Remove “${called}”?`}
        open={asking}
        onCancel={() => setAsking(false)}
        okText="Remove it"
        cancelText="Keep it"
        okButtonProps={{ loading: busy, danger: true }}
        onOk={() => void remove()}
        destroyOnHidden
      >
        <p>It is gone from live pages at once. Undo stands in the history.</p>
        {failed && <Alert type="error" showIcon title={failed} />}
      </Modal>
    </>
  );
}
