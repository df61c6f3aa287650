'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { FileAnswer, ProblemItem, SaveAnswer } from '@/contract/api';
import { api, ApiError, messageOf } from '../shared/api';
import { dropUnsaved, keepUnsaved, readUnsaved } from './unsaved';

export interface OpenFile {
  path: string;
  /** Name of the layer that was asked for; null: the one that serves. */
  layer: string | null;
  /** As the server has it. */
  saved: FileAnswer;
  text: string;
  /** Goes up when the text was replaced from outside the editor. */
  version: number;
  /** The shop may write it: it has the file, or the developer said to change it for the shop. */
  writable: boolean;
  /** Of a file below: the shop has its own already, or an unsaved beginning of one. */
  begun: boolean;
  /** Text of an earlier visit that was put back. */
  restored: string | null;
  /** The file as it is now, when it changed under the text here. */
  conflict: { text: string; hash: string | null; message: string } | null;
  notice: string | null;
  saving: boolean;
}

/** One file of a draft in the editor: loaded, typed in, kept, saved; nothing typed is ever dropped but by word. */
export function useFile(
  draft: string,
  path: string | null,
  /** Name of the layer whose file it is; null: the one that serves. */
  layer: string | null,
  onSaved: (path: string, problems: ProblemItem[]) => void,
  /** Called at once with every change of the text, before React hears of it. */
  onText: (path: string) => void,
) {
  const [file, setFile] = useState<OpenFile | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const latest = useRef<OpenFile | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const change = useCallback((next: OpenFile | null) => {
    latest.current = next;
    setFile(next);
  }, []);

  const keep = useCallback(() => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    const now = latest.current;
    if (!now || !now.writable) return;
    if (now.text === now.saved.text && !now.conflict) {
      dropUnsaved(draft, now.path);
      return;
    }
    const kept = keepUnsaved(draft, now.path, { text: now.text, from: now.saved.hash, at: new Date().toISOString() });
    if (!kept && !now.notice) {
      change({ ...now, notice: 'This browser has no room to keep the unsaved text over a reload: save it soon.' });
    }
  }, [draft, change]);

  const load = useCallback(async () => {
    if (!path) return;
    setFailure(null);
    try {
      const query = new URLSearchParams({ path, ...(layer === null ? {} : { layer }) });
      const saved = await api<FileAnswer>('GET', `/api/drafts/${draft}/file?${query}`);
      // A file below is only looked at: what the shop has, or has begun, is another text.
      const below = layer !== null;
      const unsaved = below ? null : readUnsaved(draft, path);
      const base = { path, layer, saved, version: Date.now(), notice: null, saving: false };
      if (below) {
        const begun = saved.hash !== null || readUnsaved(draft, path) !== null;
        change({ ...base, text: saved.text, writable: false, begun, restored: null, conflict: null });
        return;
      }
      if (!unsaved || unsaved.text === saved.text) {
        if (unsaved) dropUnsaved(draft, path);
        change({
          ...base,
          text: saved.text,
          writable: saved.hash !== null,
          begun: false,
          restored: null,
          conflict: null,
        });
      } else {
        const conflict =
          unsaved.from === saved.hash
            ? null
            : {
                text: saved.text,
                hash: saved.hash,
                message: `“${path}” was saved from elsewhere since you typed this. Your text is kept here: look at both, then choose.`,
              };
        change({
          ...base,
          text: unsaved.text,
          writable: true,
          begun: false,
          restored: unsaved.made ? null : unsaved.at,
          conflict,
        });
      }
    } catch (error) {
      change(null);
      setFailure(messageOf(error));
    }
  }, [draft, path, layer, change]);

  useEffect(() => {
    // eslint-disable-next-line react-hooks/set-state-in-effect -- the file is outside React: loading it is what this effect is for
    void load();
    return keep;
  }, [load, keep]);

  useEffect(() => {
    window.addEventListener('pagehide', keep);
    return () => window.removeEventListener('pagehide', keep);
  }, [keep]);

  const type = useCallback(
    (text: string) => {
      const now = latest.current;
      if (!now || now.text === text) return;
      const wasChanged = now.text !== now.saved.text;
      latest.current = { ...now, text };
      onText(now.path);
      // The page around the editor is drawn again when typing rests, and when it becomes an unsaved text.
      if (wasChanged !== (text !== now.saved.text)) setFile(latest.current);
      if (timer.current) clearTimeout(timer.current);
      timer.current = setTimeout(() => {
        setFile(latest.current);
        keep();
      }, 150);
    },
    [keep, onText],
  );

  /** The text of the open file as it stands this moment; null where it is the saved one. */
  const typed = useCallback((): { path: string; text: string } | null => {
    const now = latest.current;
    return now?.writable && now.text !== now.saved.text ? { path: now.path, text: now.text } : null;
  }, []);

  const save = useCallback(
    async (over?: { expected: string | null }) => {
      const now = latest.current;
      if (!now?.writable || now.saving || (now.conflict && !over)) return;
      keep();
      change({ ...now, saving: true, notice: null });
      const { text } = now;
      try {
        const expected = over ? over.expected : now.saved.hash;
        const {
          hash,
          layer: own,
          problems,
        } = await api<SaveAnswer>('PUT', `/api/drafts/${draft}/file`, {
          path: now.path,
          text,
          expected,
        });
        const after = latest.current;
        if (after?.path !== now.path) return;
        const saved = { ...after.saved, text, hash, layer: own, problems };
        change({ ...after, saved, saving: false, conflict: null, restored: null });
        if (after.text === text) dropUnsaved(draft, now.path);
        else keep();
        onSaved(now.path, problems);
      } catch (error) {
        const after = latest.current;
        if (after?.path !== now.path) return;
        const body = error instanceof ApiError ? error.body : null;
        if (body?.code === 'changed' && body.now)
          change({ ...after, saving: false, conflict: { ...body.now, message: body.message } });
        else
          change({
            ...after,
            saving: false,
            notice: `Not saved. ${messageOf(error)} Your text is kept in this browser.`,
          });
      }
    },
    [draft, change, keep, onSaved],
  );

  /** Puts a text in, as one change that can be taken back. */
  const put = useCallback(
    (text: string, restored: string | null = null) => {
      const now = latest.current;
      if (now) change({ ...now, text, writable: true, restored, version: now.version + 1 });
    },
    [change],
  );

  /** Makes the file below changeable: the shop gets its own at the first save. */
  const override = useCallback(() => {
    const now = latest.current;
    if (now) change({ ...now, writable: true });
  }, [change]);

  /** Leaves what was typed, for the file as the server has it. */
  const dropTyped = useCallback(() => {
    const now = latest.current;
    if (!now) return;
    dropUnsaved(draft, now.path);
    latest.current = { ...now, text: now.saved.text, conflict: null };
    void load();
  }, [draft, load]);

  const revert = useCallback(async () => {
    const now = latest.current;
    if (!now?.saved.hash) return;
    try {
      await api('DELETE', `/api/drafts/${draft}/file`, { path: now.path, expected: now.saved.hash });
      dropUnsaved(draft, now.path);
      latest.current = { ...now, text: now.saved.text };
      onSaved(now.path, []);
      await load();
    } catch (error) {
      change({ ...now, notice: messageOf(error) });
    }
  }, [draft, change, load, onSaved]);

  return {
    file: file?.path === path && file.layer === layer ? file : null,
    failure,
    type,
    typed,
    put,
    save,
    override,
    dropTyped,
    revert,
    reload: load,
  };
}
