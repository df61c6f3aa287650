'use client';
import { useEffect, useRef, useState } from 'react';
import type { ProblemItem } from '@/contract/api';

/** Syntax problems of a template's text as it stands, a moment after the last keystroke. Null until the first answer. */
export function useSyntax(file: string, text: string): ProblemItem[] | null {
  const worker = useRef<Worker | null>(null);
  const asked = useRef(0);
  const [answer, setAnswer] = useState<{ file: string; problems: ProblemItem[] } | null>(null);
  const template = file.endsWith('.html');
  useEffect(() => {
    if (!template) return;
    const made = new Worker(new URL('./language.worker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    return () => {
      made.terminate();
      worker.current = null;
    };
  }, [template]);
  useEffect(() => {
    if (!template) return;
    const id = ++asked.current;
    const timer = setTimeout(() => {
      const current = worker.current;
      if (!current) return;
      current.onmessage = ({ data }: MessageEvent<{ id: number; problems: ProblemItem[] }>) => {
        if (data.id === asked.current) setAnswer({ file, problems: data.problems });
      };
      current.postMessage({ id, file, text });
    }, 150);
    return () => clearTimeout(timer);
  }, [file, text, template]);
  return answer?.file === file ? answer.problems : null;
}
