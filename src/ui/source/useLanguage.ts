'use client';
import { startTransition, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { catalogueEndpoints } from '@/contract/catalogue';
import type { ProblemItem } from '@/contract/shared';
import { benchEndpoints } from '@/contract/bench';
import { call } from '@/ui/shared';
import type { Answers } from './language.worker';

/** Asks the language's worker; a later answer of the same kind does not overtake. */
export type AskLanguage = <K extends keyof Answers>(kind: K, ask: Answers[K]['ask']) => Promise<Answers[K]['answer']>;

interface Given {
  draft: string;
  /** Another one when files of the draft were saved; undefined: not known yet. */
  revision: object | null | undefined;
  /** Templates that are looked at: the open one first, and those of the page. */
  paths: string[];
  /** Changes when what is typed changed. */
  typed: string;
  unsaved: () => { path: string; text: string }[];
}

/** What needs no theme; all else waits until the worker has one, or has no server to get it from. */
const anytime: ReadonlySet<keyof Answers> = new Set(['load', 'texts', 'learn', 'check', 'format']);

/** A promise that is resolved from outside. */
function gate(): { open: () => void; passed: Promise<void> } {
  let open = () => {};
  const passed = new Promise<void>((resolve) => (open = resolve));
  return { open, passed };
}

/** How long typing rests before all that is looked at is checked, in milliseconds. */
const rest = 160;

/** The language in a worker: what is wrong as one types, and whatever the editor asks. */
export function useLanguage({ draft, revision, paths, typed, unsaved }: Given) {
  const worker = useRef<Worker | null>(null);
  const waiting = useRef(new Map<number, { resolve: (answer: unknown) => void; reject: (error: Error) => void }>());
  const last = useRef(0);
  const now = useRef(unsaved);
  const [ready, setReady] = useState(0);
  const [checked, setChecked] = useState<{ paths: string; problems: ProblemItem[]; at: number } | null>(null);
  useEffect(() => {
    now.current = unsaved;
  });

  useEffect(() => {
    const made = new Worker(new URL('./language.worker.ts', import.meta.url), { type: 'module' });
    const asked = waiting.current;
    made.onmessage = ({ data }: MessageEvent<{ id: number; answer?: unknown; failed?: string }>) => {
      const one = asked.get(data.id);
      asked.delete(data.id);
      if (data.failed === undefined) one?.resolve(data.answer);
      else one?.reject(new Error(data.failed));
    };
    worker.current = made;
    return () => {
      made.terminate();
      asked.clear();
      worker.current = null;
    };
  }, []);

  const [first] = useState(gate);
  const ask = useCallback<AskLanguage>(
    async (kind, given) => {
      if (!anytime.has(kind)) await first.passed;
      return new Promise((resolve, reject) => {
        const id = ++last.current;
        waiting.current.set(id, { resolve: resolve as (answer: unknown) => void, reject });
        worker.current?.postMessage({ id, kind, ask: given });
      });
    },
    [first],
  );

  useEffect(() => {
    if (revision === undefined) return;
    let over = false;
    call(benchEndpoints.theme, { draft })
      .then((snapshot) => ask('load', snapshot))
      .then(() => !over && setReady((one) => one + 1))
      .catch(() => {
        // Without a server the worker goes on with what it has.
      })
      .finally(first.open);
    return () => {
      over = true;
    };
  }, [ask, draft, revision, first]);

  const key = paths.join('\n');
  useEffect(() => {
    let over = false;
    const check = async (again: boolean): Promise<void> => {
      await ask('texts', now.current());
      const { problems, wanted } = await ask('check', key ? key.split('\n') : []);
      if (over) return;
      startTransition(() => setChecked((before) => ({ paths: key, problems, at: (before?.at ?? 0) + 1 })));
      if (!wanted.length || !again) return;
      const facts = await call(catalogueEndpoints.emptiness, { draft }, { fields: wanted.slice(0, 200) });
      await ask('learn', { fields: wanted.slice(0, 200), facts });
      if (!over) await check(false);
    };
    const timer = setTimeout(() => void check(true).catch(() => {}), rest);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [ask, draft, key, typed, ready]);

  const problems = useMemo(() => (ready && checked?.paths === key ? checked.problems : null), [ready, checked, key]);
  /** `known` goes up when the worker has come to know what is saved and typed: what was asked before may be otherwise now. */
  return { ask, problems, known: checked?.at ?? 0 };
}
