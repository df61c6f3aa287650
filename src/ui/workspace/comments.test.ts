import { afterEach, describe, expect, it } from 'vitest';
import type { CommentItem } from '@/contract/comments';
import { anchorOf } from '@/core/inspect';
import { benchOf } from './testing/bench-of';

let bench: ReturnType<typeof benchOf>;
afterEach(() => bench.stop());

const path = 'pieces/price.html';
async function opened() {
  bench = benchOf({ file: path });
  await bench.list();
  await bench.until(() => bench.workspace.spot.now.table !== null && bench.workspace.file.now.file !== null);
  return bench;
}

/** A comment at a part of the open file, as the server finds it there. */
function commentAt(part: string, more: Partial<CommentItem> = {}): CommentItem {
  const text = bench.editor.text();
  const from = text.indexOf(part);
  const { saved } = bench.workspace.file.now.file ?? expect.fail('No file is open.');
  const anchor = anchorOf(text, from, from + part.length);
  return {
    ...{ id: 7, number: 3, by: 'Kim', at: '2026-11-30T09:00:00.000Z', text: 'Larger', page: '/product/deck-oil' },
    ...{ placement: null, shows: '', gone: false, done: null, answers: [] },
    place: { file: path, layer: saved.layer.name, from, to: from + part.length, line: 1, same: true, anchor },
    ...more,
  };
}
const signs = () => {
  const told = bench.posts.findLast(({ kind }) => kind === 'comments');
  return (told as { comments: { id: number; mark: string; label: string }[] } | undefined)?.comments;
};

describe('comments on the page', () => {
  it('have signs where they stand, while they are open', async () => {
    const { workspace } = await opened();
    const one = commentAt('<strong');
    workspace.comments.show([one]);
    expect(signs()).toMatchObject([{ id: 7, label: '3' }]);
    expect(signs()?.[0]?.mark).toMatch(/^\d+\.\d+$/);
    workspace.comments.show([{ ...one, done: { by: 'Ash', at: one.at } }]);
    expect(signs()).toEqual([]);
    workspace.comments.show([{ ...one, place: null, gone: true }]);
    expect(signs()).toEqual([]);
  });

  it('move with what is typed above them', async () => {
    const { workspace, editor, until } = await opened();
    const one = commentAt('<strong');
    workspace.comments.show([one]);
    const [before] = signs() ?? [];
    workspace.file.override();
    editor.change([{ from: 0, to: 0, text: '<p class="typed">New</p>\n' }]);
    // The page is made with the shop's own copy, which nothing is saved of.
    const isOwn = () =>
      workspace.spot.now.table?.sources.some(({ file, layer }) => file === path && layer === 'Withy Quay') ?? false;
    await until(isOwn);
    workspace.comments.show([one]);
    expect(before?.mark).toMatch(/^\d/);
    expect(signs()).toMatchObject([{ id: 7 }]);
    const { table } = workspace.spot.now;
    const [frame, place] = (signs()?.[0]?.mark ?? '').split('.').map(Number);
    expect(table?.templates[table.templateOf[frame ?? 0] ?? 0]?.places[place ?? 0]?.text).toBe('strong');
  });

  it('are chosen by their signs by whoever is at the page, and lead to their place', async () => {
    const { workspace, editor, until } = await opened();
    workspace.heard({ kind: 'commented', id: 7 }, false);
    expect(workspace.comments.now.chosen).toBeNull();
    workspace.heard({ kind: 'commented', id: 7 }, true);
    expect([workspace.comments.now.chosen, workspace.panels.now.tab]).toEqual([7, 'comments']);
    const one = commentAt('<strong');
    workspace.open('product/default.html');
    await until(() => workspace.file.now.file?.path === 'product/default.html');
    workspace.comments.goTo(one);
    await until(() => workspace.file.now.file?.path === path);
    await until(() => editor.text().startsWith('<strong', editor.caret()));
    workspace.comments.goTo({ ...one, place: null, placement: 'care', page: '/' });
    expect(workspace.now.placed).toEqual({ placement: 'care' });
    await until(() => workspace.now.place.address === '/' && workspace.now.path === 'shelves.json');
  });
});
