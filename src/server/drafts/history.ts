import type { ChangeItem } from '@/contract/history';
import { mergeFile } from '@/core/theme';
import type { ChangeRow, FileWrite, StateRow } from '@/store';
import { contentOf } from './compare';
import { titleOf, writeFiles } from './files';
import { bytesBy } from './layers';
import { refuse } from '@/server/http';
import { textual, type Shop } from '@/server/shop';

function itemOf(shop: Shop, row: ChangeRow): ChangeItem {
  const files = shop.themes.saves(row.id).map(({ path, was, hash }) => ({ path, was, hash, text: textual.test(path) }));
  const { id, title, madeAt, madeBy, undoes } = row;
  const draft = shop.themes.state(row.stateId)?.name ?? '';
  return {
    id,
    title,
    madeAt,
    madeBy,
    draft,
    below: belowSaid(shop, row),
    undoes,
    undoneBy: shop.themes.undoneBy(id),
    files,
  };
}

/** What a change did to the layers below, in words; null: nothing. */
function belowSaid(shop: Shop, { belowWas, below }: ChangeRow): string | null {
  if (belowWas === null || below === null) return null;
  const versions = new Map(shop.themes.versions().map(({ id, name, version }) => [id, `${name} ${version}`.trim()]));
  const named = (list: string) => (JSON.parse(list) as number[]).map((id) => versions.get(id) ?? `layer ${id}`);
  const [was, is] = [named(belowWas), named(below)];
  const gone = was.filter((one) => !is.includes(one));
  const come = is.filter((one) => !was.includes(one));
  return [gone.join(', '), come.join(', ')].filter(Boolean).join(' → ');
}

/** Changes of a draft, the latest first. */
export function historyOf(shop: Shop, draft: StateRow): ChangeItem[] {
  return shop.themes.changes(draft.id).map((row) => itemOf(shop, row));
}

/** Changes of one path in any draft, the latest first; each with that file alone. */
export function historyOfFile(shop: Shop, path: string): ChangeItem[] {
  return shop.themes.savesOf(path).flatMap(({ id, was, hash }) => {
    const row = shop.themes.change(id);
    return row ? [{ ...itemOf(shop, row), files: [{ path, was, hash, text: textual.test(path) }] }] : [];
  });
}

export function changeOf(shop: Shop, draft: StateRow, id: number): ChangeRow {
  const row = shop.themes.change(id);
  return row?.stateId === draft.id ? row : refuse(404, 'change', 'There is no such change in this draft.');
}

/**
 * Undoes a change as a change of its own: each of its files as it was before, and what was below as well. A file that
 * was changed since is merged with what came later; where that cannot be, nothing is undone and the file is named.
 */
export function undoChange(shop: Shop, draft: StateRow, id: number, by: string): void {
  const change = changeOf(shop, draft, id);
  shop.themes.transaction(() => {
    const own = shop.themes.hashes(shop.themes.layers(draft.id).at(-1)?.id ?? 0);
    const writes: FileWrite[] = [];
    const clashes: string[] = [];
    for (const { path, was, hash, originWas, origin } of shop.themes.saves(id)) {
      const now = own.get(path);
      const contents = [hash, now?.hash ?? null, was].map((one) => contentOf(shop, path, one));
      const outcome = mergeFile(path, contents[0] ?? null, contents[1] ?? null, contents[2] ?? null);
      const taken = now && now.origin !== origin ? now.origin : originWas;
      if (outcome.kind === 'conflict') clashes.push(path);
      else if (outcome.kind === 'merged')
        writes.push({ path, bytes: Buffer.from(outcome.text), expected: now?.hash ?? null, origin: taken });
      else if (outcome.kind === 'taken')
        writes.push({
          path,
          bytes: was === null ? null : shop.themes.bytes(was),
          expected: now?.hash ?? null,
          origin: taken,
        });
    }
    if (clashes.length)
      refuse(
        409,
        'clash',
        `Not undone: ${titleOf(clashes)} ${clashes.length === 1 ? 'was' : 'were'} changed in the same place since. Undo that first, or restore the file by itself.`,
      );
    const more: { undoes: number; below?: number[] } = { undoes: id };
    if (change.belowWas !== null) {
      const now = JSON.stringify(
        shop.themes
          .layers(draft.id)
          .slice(0, -1)
          .map((layer) => layer.id),
      );
      if (now !== change.below)
        refuse(409, 'clash', 'Not undone: the layers below were changed again since. Undo that first.');
      more.below = JSON.parse(change.belowWas) as number[];
    }
    if (!writes.length && !more.below) refuse(409, 'same', 'There is nothing left of this change to undo.');
    writeFiles(shop, draft, writes, `Undone: ${change.title}`, by, more);
  });
}

/** Puts an earlier content of a file into the draft's own layer again. */
export function restoreFile(
  shop: Shop,
  draft: StateRow,
  { path, hash, expected }: { path: string; hash: string; expected: string | null },
  by: string,
): void {
  const bytes = bytesBy(shop, path, hash);
  writeFiles(shop, draft, [{ path, bytes, expected }], `${path} restored`, by);
}
