import type { ToFrame } from '@/contract/frame';
import type { call, callForLines } from '@/ui/shared';
import type { EditorHandle, LanguagePort } from '@/ui/source';

/** Unsaved text of a file. */
export interface Text {
  path: string;
  text: string;
}

/** What the workspace needs from outside: in the workbench the browser's, in tests what a test says. */
export interface Ports {
  call: typeof call;
  callForLines: typeof callForLines;
  /** Starts the language's worker. */
  language: () => LanguagePort;
  /** Changes parts of the address; null removes one. `replace`: without a step in the browser's history. */
  go: (change: Record<string, string | null>, replace?: boolean) => void;
  /** Answers about the draft's files that are on the screen are asked for again. */
  draftChanged: () => void;
  /** Tells other windows that a file was saved. */
  announce: (saved: { draft: string; path: string }) => void;
  /** Short messages to the person who works here. */
  say: {
    success: (text: string) => void;
    info: (text: string) => void;
    error: (text: string) => void;
    /** Gives what ends it. */
    loading: (text: string) => () => void;
  };
}

/** The page in its frame, while there is one. */
export interface Frame {
  post: (message: ToFrame) => void;
  focus: () => void;
}

/** The editor, while there is one. */
export type Editor = EditorHandle;
