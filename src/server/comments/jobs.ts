import { type Anchor, findAnchor } from '@/core/inspect';
import { lineAt } from '@/core/editing';
import { type Shop, shopJobs } from '@/server/shop';
import type { StateRow } from '@/store';

/** What a comment stands at: a place of a file, or a piece on a shelf. */
export interface Commented {
  path: string | null;
  anchor: Anchor;
  placement: string | null;
}

/** Where that is now. `gone`: nowhere. */
export interface Standing {
  place: { file: string; layer: string; from: number; to: number; line: number; same: boolean } | null;
  gone: boolean;
}

/** Finds where comments stand in a draft as it is saved: in their own file first, as it serves and as layers below have it, then in all others. */
function standings(shop: Shop, draft: StateRow, commented: readonly Commented[]): Standing[] {
  const layers = [...shop.theme(draft).theme.layers].reverse();
  const files = layers.flatMap((layer) =>
    [...layer.files].flatMap(([path, { text }]) => (text === null ? [] : [{ layer: layer.name, path, text }])),
  );
  const shelves = files.filter(({ path }) => path === 'shelves.json');
  return commented.map(({ path, anchor, placement }) => {
    const isThere = placement === null || shelves.some(({ text }) => text.includes(JSON.stringify(placement)));
    if (path === null) return { place: null, gone: !isThere };
    const texts = files.map((one) => ({ text: one.text, own: one.path === path }));
    const found = findAnchor(anchor, texts);
    const file = found && files[found.at];
    if (!file) return { place: null, gone: true };
    const { from, to, same } = found;
    return {
      place: { ...{ file: file.path, layer: file.layer, from, to, same }, line: lineAt(file.text, from).line },
      gone: !isThere,
    };
  });
}

export const commentJobs = shopJobs('comments', { standings });
