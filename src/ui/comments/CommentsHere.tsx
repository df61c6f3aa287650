'use client';
import { anchorOf } from '@/core/inspect';
import { labelOf, useSoon, useWorkspace, type Workspace } from '@/ui/workspace';
import { Comments, type CommentTarget } from './Comments';

/** Comments beside the source: what is said now is said of the caret’s element, or of its line. */
export function CommentsHere() {
  const workspace = useWorkspace();
  useSoon(workspace);
  const file = useSoon(workspace.file).file;
  const spot = useSoon(workspace.spot);
  return <Comments draft={workspace.draft} target={targetOf({ file, spot, page: workspace.now.place.address })} />;
}

function targetOf({
  file,
  spot: { caret, where, table },
  page,
}: {
  file: Workspace['file']['now']['file'];
  spot: Workspace['spot']['now'];
  page: string;
}): CommentTarget | null {
  if (!file || caret?.file !== file.path) return null;
  const { path, text } = file;
  if (where?.file === path && table) {
    const { from, to, line } = where.place;
    const shows = labelOf(where.place);
    const placement = placementAround(table, where.frame);
    return {
      says: `${shows} in ${path}, line ${line}`,
      given: { page, placement, shows: shows.slice(0, 120), place: { path, anchor: anchorOf(text, from, to) } },
    };
  }
  const from = text.lastIndexOf('\n', caret.offset - 1) + 1;
  const end = text.indexOf('\n', caret.offset);
  const line = text.slice(0, from).split('\n').length;
  const anchor = anchorOf(text, from, end < 0 ? text.length : end);
  return { says: `${path}, line ${line}`, given: { page, shows: '', place: { path, anchor } } };
}

/** The piece on a shelf that something was rendered in; null: in none. */
function placementAround(table: NonNullable<Workspace['spot']['now']['table']>, frame: number): string | null {
  const placed = new Map(table.placed);
  for (let at = frame; at >= 0; at = table.parents[at] ?? -1) {
    const id = placed.get(at);
    if (id !== undefined) return id;
  }
  return null;
}
