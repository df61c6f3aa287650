import { openForReading, Statements, StoredThemes } from '@/store';

/** What the command line does with a data folder as a whole. */
export { backUp, restore } from '@/store';
export { takeFolder } from '@/store';

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
