'use client';
import { useCallback, useState } from 'react';
import { benchEndpoints, type ChangeRequest } from '@/contract/bench';
import { call, messageOf } from '@/ui/shared';
import { keepUnsaved } from './unsaved';

interface Asked {
  draft: string;
  /** The page's own template: an alternate that amends another takes changes of what it amends. */
  into: string | null;
  unsaved: () => { path: string; text: string }[];
  /** Shows a file of the shop's with its caret at an offset; its text is among those that are not saved. */
  onChanged: (path: string, text: string, caret: number) => void;
}

export interface Told {
  text: string;
  wrong: boolean;
}

/** Does something at a place of the page: the files of the shop's layer get their new texts, which are shown and not saved yet. */
export function useChanges({ draft, into, unsaved, onChanged }: Asked) {
  const [told, setTold] = useState<Told | null>(null);
  const change = useCallback(
    async (target: ChangeRequest['target'], action: ChangeRequest['action']) => {
      try {
        const answer = await call(
          benchEndpoints.change,
          { draft },
          {
            target,
            action,
            into,
            unsaved: unsaved(),
          },
        );
        const at = new Date().toISOString();
        for (const { path, text, from } of answer.changes) keepUnsaved(draft, path, { text, from, at, made: true });
        const [first] = answer.changes;
        if (first) onChanged(first.path, first.text, first.caret);
        setTold({ text: `${answer.says} Save to keep it.`, wrong: false });
      } catch (error) {
        setTold({ text: messageOf(error), wrong: true });
      }
    },
    [draft, into, unsaved, onChanged],
  );
  return { told, change, clear: useCallback(() => setTold(null), []) };
}
