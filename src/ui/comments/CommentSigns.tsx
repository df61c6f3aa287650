'use client';
import { useEffect } from 'react';
import { useNow, useSoon, useWorkspace } from '@/ui/workspace';
import { useComments } from './useComments';

/** Keeps the signs of open comments on the page, where it is at the moment. */
export function CommentSigns() {
  const workspace = useWorkspace();
  const { comments } = useComments(workspace.draft);
  const painted = useNow(workspace, (now) => now.painted);
  const { table } = useSoon(workspace.spot);
  useEffect(() => workspace.comments.show(comments), [workspace, comments, painted, table]);
  return null;
}
