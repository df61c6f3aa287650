import { expect, it } from 'vitest';
import type { CommentItem } from '@/contract/comments';
import { placeSays } from './says';

const place = { file: 'pieces/stock.html', layer: 'Quay', from: 3, to: 9, line: 4, same: true, anchor: null };
it.each<[string, Partial<CommentItem>, string]>([
  ['a line of source', { place }, 'pieces/stock.html, line 4'],
  ['a line that was changed since', { place: { ...place, same: false } }, 'pieces/stock.html, line 4, changed since'],
  ['a place of the source, for who sees none', { place: { ...place, file: '', line: 0 } }, 'on /category/lamps'],
  ['a piece on a shelf', { placement: 'care', shows: 'Notice' }, 'Notice on /category/lamps'],
  ['a page', {}, 'on /category/lamps'],
  ['a page with a choice in its address', { page: '/category/lamps?sort=name' }, 'on /category/lamps'],
  ['nothing in particular', { page: null }, 'the draft'],
  ['what is gone', { gone: true, shows: 'Notice' }, 'Notice, on /category/lamps, what it stood at is gone'],
])('a comment on %s', (_, given, says) => {
  const comment: CommentItem = {
    ...{ id: 1, number: 1, by: 'Kim', at: '2026-11-30T09:00:00.000Z', text: 'x', page: '/category/lamps' },
    ...{ placement: null, shows: '', place: null, gone: false, done: null, answers: [] },
    ...given,
  };
  expect(placeSays(comment)).toBe(says);
});
