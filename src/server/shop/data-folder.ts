import { openForReading, type Packed, packRelease, type StateRow, Statements, StoredThemes } from '@/store';
import { refuse } from '@/server/http';

/** What the command line does with a data folder as a whole. */
export { backUp, restore } from '@/store';
export { releaseFault, takeFolder } from '@/store';

/** The revision of a draft as it stands in a data folder; -1 while that cannot be read. */
export function revisionIn(folder: string, draft: string): number {
  try {
    const db = openForReading(folder);
    try {
      return new StoredThemes(new Statements(db)).draft(draft)?.revision ?? -1;
    } finally {
      db.close();
    }
  } catch {
    return -1;
  }
}

/**
 * Writes a state (`live`, `release/3`, `draft/spring`) as one release file, into a folder or under a name.
 *
 * @throws Refused when there is no such state; DataFolderError when the file cannot be written
 */
export function pack(folder: string, name: string, to: string): Packed {
  const find = (themes: StoredThemes): StateRow => {
    const [kind, which = ''] = name.split('/');
    if (kind === 'live') return themes.live() ?? refuse(404, 'release', 'Nothing is live yet.');
    const state = kind === 'draft' ? themes.draft(which) : kind === 'release' ? themes.release(Number(which)) : null;
    return state ?? refuse(404, 'state', `There is no ${name}: it is live, release/… or draft/….`);
  };
  return packRelease(folder, find, to);
}
