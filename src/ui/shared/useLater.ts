'use client';
import { useEffect, useState } from 'react';

/** A value once it has stayed the same for so many milliseconds. */
export function useLater<T>(value: T, rest: number): T {
  const [later, setLater] = useState(value);
  const key = JSON.stringify(value);
  useEffect(() => {
    const timer = setTimeout(() => setLater(JSON.parse(key) as T), rest);
    return () => clearTimeout(timer);
  }, [key, rest]);
  return later;
}
