import type { Workspace } from './workspace';

/** By which windows of the workbench tell each other what was saved. */
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('last:saved');

export const announce = (saved: { draft: string; path: string }): void => channel?.postMessage(saved);

/** Lets a workspace hear when its window is come back to or left, and when another saved; gives what ends that. */
export function listenToWindows({ file }: Workspace): () => void {
  const seen = () => {
    if (document.visibilityState === 'visible') void file.look();
  };
  const heard = ({ data }: MessageEvent<{ draft: string; path: string }>) => file.heard(data);
  window.addEventListener('focus', seen);
  window.addEventListener('pagehide', file.rest);
  document.addEventListener('visibilitychange', seen);
  channel?.addEventListener('message', heard);
  return () => {
    window.removeEventListener('focus', seen);
    window.removeEventListener('pagehide', file.rest);
    document.removeEventListener('visibilitychange', seen);
    channel?.removeEventListener('message', heard);
  };
}
