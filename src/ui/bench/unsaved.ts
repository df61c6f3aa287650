/** Text that was typed and not saved, kept in this browser until it is: it outlives reloads, errors and a stopped server. */
export interface Unsaved {
  text: string;
  /** Hash that the text started from; null: the shop had no file of its own. */
  from: string | null;
  at: string;
  /** It was written by a change at a place of the page, not in an earlier visit. */
  made?: boolean;
}

const key = (draft: string, path: string) => `last:unsaved:${draft}:${path}`;

/** False when the browser has no room. */
export function keepUnsaved(draft: string, path: string, unsaved: Unsaved): boolean {
  try {
    localStorage.setItem(key(draft, path), JSON.stringify(unsaved));
    return true;
  } catch {
    return false;
  }
}

export function readUnsaved(draft: string, path: string): Unsaved | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key(draft, path)) ?? 'null') as Unsaved | null;
    return kept && typeof kept.text === 'string' ? kept : null;
  } catch {
    return null;
  }
}

export function dropUnsaved(draft: string, path: string): void {
  localStorage.removeItem(key(draft, path));
}

/** All texts of a draft that are kept here, with their paths. */
export function allUnsaved(draft: string): { path: string; text: string }[] {
  const prefix = key(draft, '');
  const found: { path: string; text: string }[] = [];
  for (let at = 0; at < localStorage.length; at++) {
    const name = localStorage.key(at);
    if (!name?.startsWith(prefix)) continue;
    const path = name.slice(prefix.length);
    const kept = readUnsaved(draft, path);
    if (kept) found.push({ path, text: kept.text });
  }
  return found.sort((a, b) => (a.path < b.path ? -1 : 1));
}
