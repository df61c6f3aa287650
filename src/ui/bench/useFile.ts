'use client';
import { startTransition, useCallback, useEffect, useRef, useState } from 'react';
import { fileEndpoints, type FileAnswer } from '@/contract/files';
import type { ProblemItem } from '@/contract/shared';
import { call, ApiError, messageOf } from '@/ui/shared';
import { dropUnsaved, keepUnsaved, readUnsaved } from './unsaved';

/** A file as it is now, when it changed under the text here. */
export interface Conflict {
  text: string;
  /** Null: it was removed. */
  hash: string | null;
  message: string;
  /** The text that both began with; null: it is not known any more. */
  base: string | null;
}

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
  conflict: Conflict | null;
  notice: string | null;
  saving: boolean;
}

/** By which windows of the workbench tell each other what was saved. */
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('last:saved');

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
  /** Saving was asked for while an earlier text was on its way: it is done once that has arrived. */
  const again = useRef<{ together?: string } | null>(null);
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
      const saved = await call(fileEndpoints.open, { draft, path, layer: layer ?? undefined });
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
                base: null,
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

  /** Checks whether the file was saved or removed elsewhere, and takes over what is newer where nothing is typed. */
  const look = useCallback(async () => {
    const now = latest.current;
    if (!now || now.saving || now.conflict || now.layer !== null) return;
    let fresh: FileAnswer | null = null;
    try {
      fresh = await call(fileEndpoints.open, { draft, path: now.path });
    } catch (error) {
      if (!(error instanceof ApiError) || error.status !== 404) return;
    }
    const then = latest.current;
    if (then?.path !== now.path || then.saving || then.conflict || (fresh && fresh.hash === then.saved.hash)) return;
    const dirty = then.text !== then.saved.text;
    if (!fresh || (then.saved.hash !== null && fresh.hash === null)) {
      const message = `“${then.path}” was taken out of the shop’s layer elsewhere. Its text is kept here: save it again, or leave it.`;
      change({ ...then, conflict: { text: fresh?.text ?? '', hash: null, base: then.saved.text, message } });
    } else if (dirty) {
      const message = `“${then.path}” was saved from elsewhere meanwhile. Your text is kept here: merge both, or choose.`;
      change({ ...then, conflict: { text: fresh.text, hash: fresh.hash, base: then.saved.text, message } });
    } else {
      change({
        ...then,
        saved: fresh,
        text: fresh.text,
        writable: fresh.hash !== null || then.writable,
        version: then.version + 1,
      });
      onText(then.path);
    }
  }, [draft, change, onText]);

  useEffect(() => {
    const seen = () => document.visibilityState === 'visible' && void look();
    const heard = ({ data }: MessageEvent<{ draft: string; path: string }>) => {
      if (data.draft === draft && data.path === latest.current?.path) void look();
    };
    window.addEventListener('focus', seen);
    document.addEventListener('visibilitychange', seen);
    channel?.addEventListener('message', heard);
    return () => {
      window.removeEventListener('focus', seen);
      document.removeEventListener('visibilitychange', seen);
      channel?.removeEventListener('message', heard);
    };
  }, [draft, look]);

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
        startTransition(() => setFile(latest.current));
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

  const saveOnce = useCallback(
    async (over?: { expected: string | null }, together?: string) => {
      const now = latest.current;
      if (!now?.writable || (now.conflict && !over)) return;
      keep();
      change({ ...now, saving: true, notice: null });
      const { text } = now;
      try {
        const expected = over ? over.expected : now.saved.hash;
        const {
          hash,
          layer: own,
          problems,
        } = await call(
          fileEndpoints.save,
          { draft },
          {
            path: now.path,
            text,
            expected,
            together,
          },
        );
        const after = latest.current;
        if (after?.path !== now.path) return;
        const saved = { ...after.saved, text, hash, layer: own, problems };
        change({ ...after, saved, saving: false, conflict: null, restored: null });
        if (after.text === text) dropUnsaved(draft, now.path);
        else keep();
        channel?.postMessage({ draft, path: now.path });
        onSaved(now.path, problems);
      } catch (error) {
        const after = latest.current;
        if (after?.path !== now.path) return;
        const body = error instanceof ApiError ? error.body : null;
        if (body?.code === 'changed' && body.now) {
          const base = after.saved.text;
          change({ ...after, saving: false, conflict: { ...body.now, base, message: body.message } });
        } else
          change({
            ...after,
            saving: false,
            notice: `Not saved. ${messageOf(error)} Your text is kept in this browser.`,
          });
      }
    },
    [draft, change, keep, onSaved],
  );

  const save = useCallback(
    async (over?: { expected: string | null }, together?: string) => {
      if (latest.current?.saving) {
        again.current = { together };
        return;
      }
      again.current = null;
      await saveOnce(over, together);
      while (again.current) {
        const next: { together?: string } = again.current;
        again.current = null;
        const now = latest.current;
        if (now && now.text !== now.saved.text) await saveOnce(undefined, next.together);
      }
    },
    [saveOnce],
  );

  /** Puts a text in, as one change that can be undone. */
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

  /** Ends a conflict with a text that holds both: it goes on from the file as it is now. */
  const settle = useCallback(
    (text: string) => {
      const now = latest.current;
      if (!now?.conflict) return;
      const { text: theirs, hash } = now.conflict;
      change({ ...now, text, saved: { ...now.saved, text: theirs, hash }, conflict: null, version: now.version + 1 });
      keep();
      onText(now.path);
    },
    [change, keep, onText],
  );

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
      await call(fileEndpoints.revert, { draft }, { path: now.path, expected: now.saved.hash });
      dropUnsaved(draft, now.path);
      channel?.postMessage({ draft, path: now.path });
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
    settle,
    save,
    override,
    dropTyped,
    revert,
    reload: load,
  };
}

/** Name of the layer that a text is in: the shop's once it is the shop's, or has been begun to be. */
export function layerOfText(file: OpenFile, shopLayer: string): string {
  return file.writable && file.text !== file.saved.text ? shopLayer : file.saved.layer.name;
}
