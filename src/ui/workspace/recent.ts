const maxRecent = 8;
const key = (draft: string) => `last:recent:${draft}`;

/** Files opened last in a draft, newest first. */
export function recentFiles(draft: string): string[] {
  try {
    const stored = JSON.parse(localStorage.getItem(key(draft)) ?? '[]') as unknown;
    return Array.isArray(stored) ? stored.filter((one): one is string => typeof one === 'string') : [];
  } catch {
    return [];
  }
}

export function noteRecent(draft: string, path: string): void {
  const next = [path, ...recentFiles(draft).filter((one) => one !== path)].slice(0, maxRecent);
  try {
    localStorage.setItem(key(draft), JSON.stringify(next));
  } catch {
    // Without room there is no list of recent files.
  }
}
