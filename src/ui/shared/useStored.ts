'use client';
import { useCallback, useState } from 'react';

type Wide<T> = T extends string ? string : T extends number ? number : boolean;

/** A setting of the workbench that this browser keeps: sizes, the open tab. */
export function useStored<T extends string | number | boolean>(
  name: string,
  initial: T,
): [Wide<T>, (value: Wide<T>) => void] {
  const usual = initial as unknown as Wide<T>;
  const key = `last:kept:${name}`;
  const [value, setValue] = useState<Wide<T>>(() => {
    if (typeof window === 'undefined') return usual;
    try {
      const stored = JSON.parse(localStorage.getItem(key) ?? 'null') as unknown;
      return typeof stored === typeof usual ? (stored as Wide<T>) : usual;
    } catch {
      return usual;
    }
  });
  const change = useCallback(
    (next: Wide<T>) => {
      setValue(next);
      try {
        localStorage.setItem(key, JSON.stringify(next));
      } catch {
        // A browser without room keeps no sizes; nothing else is lost.
      }
    },
    [key],
  );
  return [value, change];
}
