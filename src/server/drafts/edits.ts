import type { FileWrite, StateRow } from '@/store';
import { writeChange } from './files';
import { draftOf } from '@/server/shop';
import type { Shop } from '@/server/shop';

/** What an edit comes to: files of a draft's own layer to write as one change. `revision`: of the draft that it was planned on. */
export interface Edit {
  revision: number;
  files: FileWrite[];
  title: string;
}

export interface Edited {
  /** The change that can be undone; null: nothing differed. */
  change: number | null;
  /** Paths that were written. */
  paths: string[];
}

/** Writes a planned edit. */
export function applyEdit(shop: Shop, draft: StateRow, { files, title }: Edit, by: string): Edited {
  const paths = files.map(({ path }) => path);
  if (!files.length) return { change: null, paths };
  return { change: writeChange(shop, draft, files.map(asBuffer), title, by).change, paths };
}

/** Bytes that come from a thread are a plain array: the store takes a buffer. */
export const asBuffer = (one: FileWrite): FileWrite => ({ ...one, bytes: one.bytes && Buffer.from(one.bytes) });

/** Plans an edit where it is asked for, and writes it in the same transaction. */
export const applied = (shop: Shop, slug: string, plan: (draft: StateRow) => Edit, by: string): Edited =>
  shop.themes.transaction(() => {
    const draft = draftOf(shop, slug);
    return applyEdit(shop, draft, plan(draft), by);
  });
