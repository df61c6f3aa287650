import { createHmac, randomBytes } from 'node:crypto';
import type { CommentItem } from '@/contract/comments';
import { inThread, type Shop } from '@/server/shop';
import { type CommentRow, Comments, type StateRow } from '@/store';
import { commentJobs, type Standing } from './jobs';

const key = randomBytes(32);

/** A file of a layer by a name that says nothing of either: the same as long as this process runs. */
export const sourceWithoutName = ({
  file,
  layer,
}: {
  file: string;
  layer: string;
}): { file: string; layer: string } => ({
  file: '',
  layer: createHmac('sha256', key).update(`${layer}\n${file}`).digest('hex').slice(0, 16),
});

/** What is said in a draft, each where its place is now. `source`: for whom the source is to be seen. */
export async function commentsOf(shop: Shop, draft: StateRow, source: boolean): Promise<CommentItem[]> {
  const rows = new Comments(shop.sql).of(draft.id);
  const firsts = rows.filter(({ parent }) => parent === null);
  if (!firsts.length) return [];
  const places = firsts.map(({ path, start, exact, prefix, suffix, placement }) => ({
    ...{ path, placement },
    anchor: { start, exact, prefix, suffix },
  }));
  const where = await inThread(shop, commentJobs.standings.lane, commentJobs.standings, draft, places);
  return firsts.map((row, at) => itemOf(row, at, where[at] as Standing, rows, source));
}

function itemOf(
  { id, by, at, text, page, placement, shows, path, start, exact, prefix, suffix, doneBy, doneAt }: CommentRow,
  turn: number,
  { place, gone }: Standing,
  rows: readonly CommentRow[],
  source: boolean,
): CommentItem {
  const anchor = { start, exact, prefix, suffix };
  return {
    ...{ id, number: turn + 1, by, at, text, page, placement, gone },
    // What stands there is source, where it is not the name of a piece.
    shows: source || path === null ? shows : '',
    place: place && {
      ...place,
      ...(source ? { anchor } : { ...sourceWithoutName(place), line: 0, anchor: null }),
    },
    done: doneBy === null || doneAt === null ? null : { by: doneBy, at: doneAt },
    answers: rows
      .filter(({ parent }) => parent === id)
      .map((one) => ({ id: one.id, by: one.by, at: one.at, text: one.text })),
  };
}

type Said = Pick<CommentRow, 'by' | 'text'> & Partial<CommentRow>;

/** Says something, at a place or in answer. */
export function say(shop: Shop, draft: StateRow, said: Said): void {
  new Comments(shop.sql).add(draft.id, {
    ...{
      parent: null,
      page: null,
      placement: null,
      shows: '',
      path: null,
      start: 0,
      exact: '',
      prefix: '',
      suffix: '',
    },
    at: new Date().toISOString(),
    ...said,
  });
}
