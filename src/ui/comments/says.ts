import type { CommentItem } from '@/contract/comments';

/** Where a comment stands, in words: as far as whoever reads it may know. */
export function placeSays({ place, page, shows, gone }: CommentItem): string {
  const on = page === null ? '' : `on ${page.split('?')[0]}`;
  if (gone) return [shows, on, 'what it stood at is gone'].filter(Boolean).join(', ');
  if (place?.file) return `${place.file}, line ${place.line}${place.same ? '' : ', changed since'}`;
  return [shows, on].filter(Boolean).join(' ') || 'the draft';
}
