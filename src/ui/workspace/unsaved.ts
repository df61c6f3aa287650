/** Text that was typed and not saved, kept in this browser until it is: it outlives reloads, errors and a stopped server. */
export interface Unsaved {
  text: string;
  /** Hash that the text started from; null: the shop had no file of its own. */
  from: string | null;
  at: string;
  /** It was written by a change at a place of the page, not in an earlier visit. */
  made?: boolean;
}

/**
 * A window says so often that it is open, and counts as closed when it has not for so long; in milliseconds. Browsers let the timers of a hidden window
 * run once a minute.
 */
const beat = 2000;
const silence = 75_000;

const tabKey = 'last:tab';
const aliveKey = (tab: string) => `last:alive:${tab}`;
const prefixOf = (draft: string) => `last:unsaved:${draft}:`;
const keyOf = (draft: string, path: string, tab: string) => `${prefixOf(draft)}${path}:${tab}`;

const isAlive = (tab: string): boolean => Date.now() - Number(localStorage.getItem(aliveKey(tab)) ?? 0) < silence;

let known: string | null = null;

/** The name of this window: kept over reloads, its own even where a window was made by copying another. */
function tabName(): string {
  if (known !== null) return known;
  const [entry] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
  const before = sessionStorage.getItem(tabKey);
  const copied = before !== null && entry?.type === 'navigate' && isAlive(before);
  known = before !== null && !copied ? before : Math.random().toString(36).slice(2, 10);
  sessionStorage.setItem(tabKey, known);
  const name = known;
  const live = () => {
    try {
      localStorage.setItem(aliveKey(name), String(Date.now()));
    } catch {
      // Without room a window is taken for closed: its texts are offered to the next.
    }
  };
  live();
  setInterval(live, beat);
  window.addEventListener('pagehide', () => localStorage.removeItem(aliveKey(name)));
  return known;
}

const watchers = new Set<() => void>();

/** Calls when a text of this window was kept or dropped; gives what ends that. */
export function watchUnsaved(changed: () => void): () => void {
  watchers.add(changed);
  return () => watchers.delete(changed);
}

const tell = () => watchers.forEach((changed) => changed());

/** False when the browser has no room. */
export function keepUnsaved(draft: string, path: string, unsaved: Unsaved): boolean {
  try {
    localStorage.setItem(keyOf(draft, path, tabName()), JSON.stringify(unsaved));
    tell();
    return true;
  } catch {
    return false;
  }
}

/** This window's text of a file; else that of a window that is closed, which is this one's from now on. */
export function readUnsaved(draft: string, path: string): Unsaved | null {
  const own = parsed(keyOf(draft, path, tabName()));
  if (own) return own;
  const [key, left] = leftBehind(draft, path) ?? [];
  if (!key || !left) return null;
  try {
    localStorage.setItem(keyOf(draft, path, tabName()), JSON.stringify(left));
    localStorage.removeItem(key);
  } catch {
    // Without room it stays where it is.
  }
  return left;
}

/** The text of a file that a closed window left, with its key. */
function leftBehind(draft: string, path: string): [key: string, left: Unsaved] | null {
  for (const key of keysOf(draft)) {
    const [of, tab] = split(draft, key);
    if (of !== path || tab === tabName() || isAlive(tab)) continue;
    const left = parsed(key);
    if (left) return [key, left];
  }
  return null;
}

export function dropUnsaved(draft: string, path: string): void {
  const key = keyOf(draft, path, tabName());
  if (localStorage.getItem(key) === null) return;
  localStorage.removeItem(key);
  tell();
}

/**
 * All texts of a draft that are this window's or were left by closed ones, with their paths. It takes none of them over: a window that is being reloaded
 * looks closed for a moment, and comes back for its own.
 */
export function allUnsaved(draft: string): { path: string; text: string }[] {
  const paths = new Set<string>();
  for (const key of keysOf(draft)) {
    const [path, tab] = split(draft, key);
    if (tab === tabName() || !isAlive(tab)) paths.add(path);
  }
  return [...paths].sort().flatMap((path) => {
    const unsaved = parsed(keyOf(draft, path, tabName())) ?? leftBehind(draft, path)?.[1];
    return unsaved ? [{ path, text: unsaved.text }] : [];
  });
}

function keysOf(draft: string): string[] {
  const keys: string[] = [];
  for (let at = 0; at < localStorage.length; at++) {
    const key = localStorage.key(at);
    if (key?.startsWith(prefixOf(draft))) keys.push(key);
  }
  return keys;
}

function split(draft: string, key: string): [path: string, tab: string] {
  const rest = key.slice(prefixOf(draft).length);
  const at = rest.lastIndexOf(':');
  return [rest.slice(0, at), rest.slice(at + 1)];
}

function parsed(key: string): Unsaved | null {
  try {
    const stored = JSON.parse(localStorage.getItem(key) ?? 'null') as Unsaved | null;
    return stored && typeof stored.text === 'string' ? stored : null;
  } catch {
    return null;
  }
}
