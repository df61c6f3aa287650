import type { z } from 'zod';
import type { renameFileRequest } from '@/contract/files';
import { renamedFiles, type RenamedFile } from '@/core/editing';
import type { Theme } from '@/core/theme';
import type { FileWrite, StateRow } from '@/store';
import { applied, type Edit } from './edits';
import { folders, wrongText } from './files';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';

/**
 * Gives a file of the shop's own another path, as one change with all that names it. Texts that are not saved count, and
 * those that the change touches are saved with it.
 */
export function planFileRename(
  shop: Shop,
  draft: StateRow,
  { path, to, expected, unsaved = [] }: z.input<typeof renameFileRequest>,
): Edit {
  if (!folders.test(to)) refuse(422, 'name', wrongText(to, '') ?? `“${to}” has no place in a theme.`);
  const { theme } = shop.themeWith(draft, unsaved);
  const own = theme.layers[theme.layers.length - 1];
  if (!own?.files.has(path)) refuse(404, 'file', `The shop has no “${path}” of its own.`);
  const files = renamedFiles(theme, path, to);
  const taken = files.find((one) => one.was !== one.path && own?.files.has(one.path));
  if (taken) refuse(409, 'name', `The shop has “${taken.path}” already: choose another name.`);
  const seen = new Map([...unsaved.map((one) => [one.path, one.expected] as const), [path, expected]]);
  const writes = renameWrites(shop, theme, shop.theme(draft).theme, files, seen);
  for (const { path: open, text } of unsaved) {
    const wrong = writes.some((one) => one.path === open && one.bytes) ? wrongText(open, text) : null;
    if (wrong) refuse(422, 'text', wrong);
  }
  return { revision: draft.revision, files: writes, title: `${path} renamed to ${to}` };
}

/** The same, written at once; gives the paths that it touched, old and new. */
export const renameFile = (
  shop: Shop,
  draft: StateRow,
  asked: z.input<typeof renameFileRequest>,
  by: string,
): string[] => applied(shop, draft.slug ?? '', (now) => planFileRename(shop, now, asked), by).paths;

/**
 * Renamed files as they are written. `saved` is the theme as it is saved; `seen` has the hashes that files were seen with,
 * where they are other than that.
 */
export function renameWrites(
  shop: Shop,
  theme: Theme,
  saved: Theme,
  files: readonly RenamedFile[],
  seen: ReadonlyMap<string, string | null> = new Map(),
): FileWrite[] {
  const [own, before] = [theme, saved].map(({ layers }) => layers[layers.length - 1]?.files);
  return files.flatMap(({ was, path, text }): FileWrite[] => {
    const given = own?.get(was) ?? null;
    const words = text ?? given?.text ?? null;
    const bytes = words === null ? given && shop.themes.bytes(given.hash) : Buffer.from(words);
    const now = before?.get(was)?.hash ?? null;
    const asSeen = seen.get(was);
    const expected = asSeen === undefined ? now : asSeen;
    if (was === path) return text === null ? [] : [{ path, bytes, expected }];
    const away = now === null && expected === null ? [] : [{ path: was, bytes: null, expected }];
    return [...away, { path, bytes, expected: null }];
  });
}
