import { openForReading } from '@/store/database';
import { Statements } from '@/store/statements';
import { StoredThemes } from '@/store/themes';

/** What the command line does with a data folder as a whole. */
export { backUp, restore } from '@/store/backup';
export { takeFolder } from '@/store/owner';

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
