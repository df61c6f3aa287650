'use client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { App } from 'antd';
import type { PinRequest } from '@/contract/alternates';
import { api, messageOf } from '../shared/api';

/** Pins subjects to an alternate, or takes their pins away (null), with a way back. */
export function usePins(draft: string) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  return useMutation({
    mutationFn: (asked: PinRequest) => api('PUT', `/api/drafts/${draft}/pins`, asked),
    onSuccess: () => queries.invalidateQueries(),
    onError: (error) => void message.error(messageOf(error)),
  });
}
