'use client';
import { Alert } from 'antd';
import { ApiError, messageOf } from '@/ui/shared';

/** Why phrases were not saved, with what others changed meanwhile. */
export function SaveFailed({ error }: { error: Error | null }) {
  if (!error) return null;
  const left = error instanceof ApiError ? error.body.left?.join(' ') : undefined;
  return <Alert type="error" showIcon title={messageOf(error)} description={left} />;
}
