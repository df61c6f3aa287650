import { applyEdits, modify, parse } from 'jsonc-parser';
import { type FileWrite, type LayerRow, type StateRow, hashOf } from '@/store';
import type { DropAnswer, OnTaken } from '@/contract/files';
import { layerItem, titleOf, writeChange, writeFiles } from './files';
import { draftJobs } from './jobs';
import { inThread, type Shop } from '@/server/shop';
import { refuse } from '@/server/http';
import { wrongFile, type TravelFile } from './travel';

/** The files of one layer of a draft (null: the shop's own), as they travel, with a name for a ZIP or a folder. */
export function takeTheme(shop: Shop, draft: StateRow, layer: string | null): { name: string; files: TravelFile[] } {
  const layers = shop.themes.layers(draft.id);
  const row = layer === null ? layers.at(-1) : layers.find(({ name }) => name === layer);
  if (!row) return refuse(404, 'layer', `There is no layer “${layer}” in this draft.`);
  const files: TravelFile[] = shop.themes.files(row.id).map(({ path, bytes }) => ({ path, bytes }));
  const own = files.find(({ path }) => path === 'about.json');
  const bytes = withKind(own?.bytes.toString('utf8') ?? null, row);
  if (own) own.bytes = bytes;
  else files.push({ path: 'about.json', bytes });
  const plain = `${row.name} ${row.kind === 'shop' ? (draft.slug ?? '') : row.version}`
    .toLowerCase()
    .replace(/[^a-z0-9.]+/g, '-')
    .replace(/^-+|-+$/g, '');
  return { name: plain || 'theme', files: files.sort((a, b) => (a.path < b.path ? -1 : 1)) };
}

/** `about.json` that says what its layer is; everything else in it stays as it is written. */
function withKind(text: string | null, { name, version, kind }: LayerRow): Buffer {
  const plain = { name, version: version || '1.0', kind };
  if (text === null) return Buffer.from(`${JSON.stringify(plain, null, 2)}\n`);
  const kindSaid = (parse(text) as { kind?: unknown } | undefined)?.kind;
  if (kindSaid === kind) return Buffer.from(text);
  const formattingOptions = { insertSpaces: true, tabSize: 2 };
  return Buffer.from(applyEdits(text, modify(text, ['kind'], kind, { formattingOptions })));
}

/** Puts files in the place of the shop's own, as one change; those that are not among them are removed. */
export function putTheme(shop: Shop, draft: StateRow, files: readonly TravelFile[], by: string): { changed: number } {
  const own = shop.themes.hashes(shop.themes.layers(draft.id).at(-1)?.id ?? 0);
  const coming = new Set(files.map(({ path }) => path));
  const writes: FileWrite[] = [
    ...files.map(({ path, bytes }) => ({ path, bytes })),
    ...[...own.keys()].filter((path) => !coming.has(path)).map((path) => ({ path, bytes: null })),
  ];
  const differ = writes.filter(({ path, bytes }) => (bytes && hashOf(bytes)) !== own.get(path)?.hash);
  writeFiles(shop, draft, writes, `Theme brought in: ${files.length} files`, by);
  return { changed: differ.length };
}

/** Where a file that is dropped in goes, by what it is. */
function folderFor(name: string): string | null {
  const end = name.slice(name.lastIndexOf('.') + 1).toLowerCase();
  if (end === 'css') return 'assets/css';
  if (end === 'js' || end === 'mjs') return 'assets/js';
  if (['woff2', 'woff', 'ttf', 'otf'].includes(end)) return 'assets/fonts';
  if (['png', 'jpg', 'jpeg', 'webp', 'gif', 'avif', 'svg'].includes(end)) return 'assets/img';
  return null;
}

/** The path of a dropped file: below the folder, or where its kind belongs. */
function pathFor(name: string, folder: string): string {
  const plain = name
    .replace(/^.*[/\\]/, '')
    .replace(/[^A-Za-z0-9._-]+/g, '-')
    .replace(/^\.+/, '');
  const into = folder || folderFor(plain);
  if (into) return `${into.replace(/\/+$/, '')}/${plain}`;
  const message = `“${name}” belongs to no folder of itself: open the folder it should go to, and drop it there.`;
  return refuse(422, 'name', message);
}

/**
 * Puts dropped files into the shop's own layer, as one change. SVG below `assets/icons` is cleaned. Where a file of the shop's
 * or of a layer below has the place already, `taken` says what becomes of it: `ask` refuses, and names them.
 */
export async function dropFiles(
  shop: Shop,
  draft: StateRow,
  given: readonly { name: string; bytes: Buffer }[],
  { folder = '', by = '', taken = 'ask' as OnTaken } = {},
): Promise<DropAnswer> {
  if (!given.length) refuse(400, 'body', 'No file came.');
  const coming = new Map<string, Buffer>();
  for (const { name, bytes } of given) {
    const path = pathFor(name, folder);
    const wrong = wrongFile(path, bytes);
    if (wrong) refuse(422, 'file', `Nothing was taken: ${wrong}`);
    if (coming.has(path)) refuse(422, 'name', `Nothing was taken: two of the files would be “${path}”.`);
    const icon = /^assets\/icons\/.+\.svg$/i.test(path);
    coming.set(
      path,
      icon ? Buffer.from(await inThread(shop, 'preview', draftJobs.icon, path, bytes.toString('utf8'))) : bytes,
    );
  }
  const layers = shop.themes.layers(draft.id).map((layer) => ({ layer, files: shop.themes.hashes(layer.id) }));
  const own = layers.at(-1)?.files;
  const there = [...coming].flatMap(([path, bytes]) => {
    const found = layers.findLast(({ files }) => files.has(path));
    if (!found || found.files.get(path)?.hash === hashOf(bytes)) return [];
    return [{ path, layer: layerItem(found.layer) }];
  });
  if (there.length && taken === 'ask') {
    const paths = titleOf(there.map(({ path }) => path));
    refuse(409, 'there', `Nothing was taken yet: ${paths} ${there.length === 1 ? 'is' : 'are'} there already.`, {
      there,
    });
  }
  const skipped = new Set(taken === 'skip' ? there.map(({ path }) => path) : []);
  const writes = [...coming].flatMap(([path, bytes]) =>
    skipped.has(path) ? [] : [{ path, bytes, expected: own?.get(path)?.hash ?? null }],
  );
  const paths = writes.map(({ path }) => path);
  if (!paths.length) return { paths, change: null };
  const { change } = writeChange(shop, draft, writes, `${titleOf(paths)} dropped in`, by);
  return { paths, change };
}
