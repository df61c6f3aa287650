'use client';
import { useCallback, useState } from 'react';

type Wide<T> = T extends string ? string : T extends number ? number : boolean;

const keyOf = (name: string) => `last:kept:${name}`;

/** A setting of the workbench that this browser keeps; `initial` where it keeps none of that kind. */
export function readStored<T extends string | number | boolean>(name: string, initial: T): Wide<T> {
  const usual = initial as unknown as Wide<T>;
  if (typeof window === 'undefined') return usual;
  try {
    const stored = JSON.parse(localStorage.getItem(keyOf(name)) ?? 'null') as unknown;
    return typeof stored === typeof usual ? (stored as Wide<T>) : usual;
  } catch {
    return usual;
  }
}

export function writeStored(name: string, value: string | number | boolean): void {
  try {
    localStorage.setItem(keyOf(name), JSON.stringify(value));
  } catch {
    // A browser without room keeps no sizes; nothing else is lost.
  }
}

/** A setting of the workbench that this browser keeps: sizes, the open tab. */
export function useStored<T extends string | number | boolean>(
  name: string,
  initial: T,
): [Wide<T>, (value: Wide<T>) => void] {
  const [value, setValue] = useState<Wide<T>>(() => readStored(name, initial));
  const change = useCallback(
    (next: Wide<T>) => {
      setValue(next);
      writeStored(name, next);
    },
    [name],
  );
  return [value, change];
}
