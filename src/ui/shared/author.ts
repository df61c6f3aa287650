'use client';
import { useSyncExternalStore } from 'react';

const key = 'last:author';
const changed = 'last:author';

/** How whoever works in this browser calls themselves; '' when they have not said. */
export function authorName(): string {
  try {
    return localStorage.getItem(key) ?? '';
  } catch {
    return '';
  }
}

export function setAuthorName(name: string): void {
  try {
    localStorage.setItem(key, name);
  } catch {
    // A browser without room knows no name: changes are kept without one.
  }
  window.dispatchEvent(new Event(changed));
}

function watch(heard: () => void): () => void {
  window.addEventListener(changed, heard);
  window.addEventListener('storage', heard);
  return () => {
    window.removeEventListener(changed, heard);
    window.removeEventListener('storage', heard);
  };
}

export const useAuthor = (): string => useSyncExternalStore(watch, authorName, () => '');
