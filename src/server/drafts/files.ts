import { fieldSubjects, type FieldDefinition, type FieldSubject } from '@/core/catalogue';
import { maxTextBytes, type LayerItem } from '@/contract/shared';
import type { FileAnswer, FileItem, SaveAnswer } from '@/contract/files';
import type { ThemeAnswer } from '@/contract/bench';
import { amendmentOf, type Layer, type Theme, readLook, wrongListings, unmarked, readWords } from '@/core/theme';
import { parseTemplate } from '@/core/language';
import { readAlternates, saidWrong } from '@/core/alternates';
import type { ChangedMeanwhile, FileWrite, LayerRow, StateRow } from '@/store';
import { madeNow, refuse } from '@/server/http';
import { draftOf, type Shop } from '@/server/shop';

export function layerItem({ kind, name, version }: LayerItem): LayerItem {
  return { kind, name, version };
}

export function listFiles(shop: Shop, draft: StateRow): FileItem[] {
  const { theme } = shop.theme(draft);
  return theme.paths().map((path) => {
    const everywhere = theme.everywhere(path);
    return {
      path,
      layer: layerItem((everywhere[everywhere.length - 1] as { layer: Layer }).layer),
      below: everywhere.length > 1,
      own: everywhere.find((one) => one.layer.kind === 'shop')?.hash ?? null,
    };
  });
}

/** A file as it serves, or as a layer has it: `layer` is its name, '' the shop's own. */
export function openFile(shop: Shop, draft: StateRow, path: string, layer: string | null = null): FileAnswer {
  return shop.sql.snapshot(() => fileAt(shop, shop.themes.state(draft.id) ?? draft, path, layer));
}

function fileAt(shop: Shop, draft: StateRow, path: string, layer: string | null): FileAnswer {
  const { theme } = shop.theme(draft);
  const everywhere = theme.everywhere(path);
  const topmost = everywhere[everywhere.length - 1] ?? refuse(404, 'file', `There is no file “${path}” in this theme.`);
  const serving = layer === null ? topmost : (everywhere.find((one) => one.layer.name === layer) ?? topmost);
  if (serving.text === null) refuse(415, 'file', `“${path}” holds no text.`);
  const below = serving.layer.kind === 'shop' ? everywhere[everywhere.length - 2] : serving;
  return {
    path,
    text: serving.text ?? '',
    hash: shop.themes.ownHash(draft.id, path),
    layer: layerItem(serving.layer),
    below: below ? layerItem(below.layer) : null,
    problems: serving === topmost ? problemsOf(theme, path) : [],
    amends: serving.path.endsWith('.html') && isAmendment(serving.text ?? ''),
  };
}

const isAmendment = (text: string): boolean => amendmentOf(parseTemplate('', text)) !== null;

/** Problems of the file that serves at a path, not those of the files that it amends. */
function problemsOf(theme: Theme, path: string) {
  const layer = theme.file(path)?.layer.name;
  return theme.checkFile(path).filter((one) => one.layer === layer);
}

/** Where files of a theme may stand. */
export const folders =
  /^(?:(?:layouts|home|product|category|listing|content|article|articles|cart|not-found|error|pieces|words|assets|checks)\/.+|(?:about|look|alternates|shelves)\.json)$/;

/** What keeps a text from being saved at a path: a sentence, or null. A template with mistakes may be saved; a file that nothing could read may not. */
export function wrongText(path: string, text: string): string | null {
  if (!folders.test(path))
    return `“${path}” has no place in a theme: the folders are layouts, home, product, category, listing, content, article, articles, cart, not-found, error, pieces, words, assets and checks.`;
  const size = Buffer.byteLength(text);
  if (size > maxTextBytes)
    return `“${path}” would be ${(size / 1e6).toFixed(1)} MB; a file of text may have ${maxTextBytes / 1e6} MB.`;
  const json = unmarked(text);
  try {
    if (path.startsWith('words/')) readWords(json);
    else if (path === 'look.json') {
      readLook(json);
      const wrong = wrongListings(json);
      if (wrong) return `look.json: ${wrong}`;
    } else if (path === 'alternates.json') {
      // A mistake in an entry leaves that entry out and is told as a problem; invalid JSON would leave out all.
      const broken = readAlternates(json).wrong.find(({ path }) => path === '');
      if (broken) return `${saidWrong(broken)} (line ${broken.line})`;
    } else if (path.endsWith('.json')) JSON.parse(json);
  } catch (error) {
    return `“${path}” cannot be read as JSON: ${(error as Error).message}`;
  }
  return null;
}

/** Writes a file into the draft's own layer. Refused when it was changed meanwhile, with the file as it is now. */
export function writeText(
  shop: Shop,
  draft: StateRow,
  path: string,
  text: string,
  expected: string | null,
  by = '',
  together?: string,
): Omit<SaveAnswer, 'problems'> {
  const wrong = wrongText(path, text);
  if (wrong) refuse(Buffer.byteLength(text) > maxTextBytes ? 413 : 422, 'text', wrong);
  const [hash = null] = writeFiles(shop, draft, [{ path, bytes: Buffer.from(text), expected }], path, by, { together });
  const { kind, name, version } = shop.themes.layers(draft.id).at(-1) as LayerRow;
  return { hash, layer: { kind, name, version } };
}

/** The same, with what is wrong with it. */
export function saveFile(shop: Shop, draft: StateRow, path: string, ...rest: Written): SaveAnswer {
  const saved = writeText(shop, draft, path, ...rest);
  const { theme } = shop.theme(draftOf(shop, draft.slug ?? ''));
  return { ...saved, problems: problemsOf(theme, path) };
}

type Written = Parameters<typeof writeText> extends [unknown, unknown, unknown, ...infer Rest] ? Rest : never;

/** Saves several files of the draft's own layer together: one that cannot be saved keeps all from it. */
export function saveFiles(
  shop: Shop,
  draft: StateRow,
  files: readonly { path: string; text: string | null; expected: string | null }[],
  title = '',
  by = '',
  together?: string,
): void {
  for (const { path, text } of files) {
    const wrong = text === null ? null : wrongText(path, text);
    if (wrong) refuse(422, 'text', wrong);
  }
  const writes = files.map(({ path, text, expected }) => ({
    path,
    bytes: text === null ? null : Buffer.from(text),
    expected,
  }));
  writeFiles(shop, draft, writes, title || titleOf(files.map(({ path }) => path)), by, { together });
}

/** Names a change by its files. */
export function titleOf(paths: readonly string[]): string {
  const [first = 'nothing', second, ...more] = paths;
  if (second === undefined) return first;
  return more.length ? `${first}, ${second} and ${more.length} more` : `${first} and ${second}`;
}

/** Names that differ only in capitals are one on many disks: refused, unless the other goes with the same change. */
function refuseTwins(shop: Shop, draft: StateRow, files: readonly FileWrite[]): void {
  const written = new Set(files.map(({ path }) => path));
  const known = new Map<string, string>();
  for (const { id } of shop.themes.layers(draft.id))
    for (const path of shop.themes.hashes(id).keys()) if (!written.has(path)) known.set(path.toLowerCase(), path);
  for (const { path, bytes } of files) {
    if (bytes === null) continue;
    const twin = known.get(path.toLowerCase());
    if (twin !== undefined) refuse(409, 'name', `“${twin}” is there already, and differs only in capitals.`);
    known.set(path.toLowerCase(), path);
  }
}

/** A theme as it is saved, with what of the shop the checker asks for. */
export function themeSnapshot(shop: Shop, draft: StateRow): ThemeAnswer {
  const { theme } = shop.theme(draft);
  const source = shop.catalogue();
  const named = (rows: readonly { slug: string; name: string }[]) => rows.flatMap(({ slug, name }) => [slug, name]);
  const paths = (before: string, rows: readonly { slug: string }[]) => rows.map(({ slug }) => `${before}/${slug}`);
  return {
    revision: draft.revision,
    locale: theme.locale,
    layers: theme.layers.map(({ kind, name, version, files }) => ({
      kind,
      name,
      version,
      files: [...files].map(([path, { hash, text }]) => ({ path, hash, text })),
    })),
    definitions: Object.fromEntries(
      fieldSubjects.map((subject) => [subject, source.fieldDefinitions(subject)]),
    ) as Record<FieldSubject, FieldDefinition[]>,
    facts: {
      locales: source.shop().locales,
      contents: source.contents().map(({ slug }) => slug),
      menus: source.menus().map(({ slug }) => slug),
      named: {
        Tag: named(source.allTags()),
        Category: named(source.categories()),
        Brand: named(source.brands()),
        Type: source.productTypes(),
        Option: source.optionSlugs(),
        Value: source.facetValues().map(({ option, value }) => `${option}/${value}`),
      },
      paths: [
        '/listing/all',
        '/listing/offer',
        '/listing/search',
        ...paths('/category', source.categories()),
        ...paths('/content', source.contents()),
        ...paths('/article', source.articles()),
        ...paths('/listing/tag', source.allTags()),
        ...paths('/listing/brand', source.brands()),
      ],
    },
  };
}

/** Takes the shop's own file away, so that the one below serves again; tells whether there is one. */
export function dropFile(shop: Shop, draft: StateRow, path: string, expected: string, by = ''): boolean {
  if (path === 'alternates.json') refuse(422, 'file', 'alternates.json is changed on the Alternates screen.');
  writeFiles(shop, draft, [{ path, bytes: null, expected }], `${path} removed`, by);
  return shop.theme(draftOf(shop, draft.slug ?? '')).theme.file(path) !== null;
}

/** The same, with the file that serves then. */
export function revertFile(shop: Shop, draft: StateRow, path: string, expected: string, by = ''): FileAnswer | null {
  return dropFile(shop, draft, path, expected, by) ? openFile(shop, draftOf(shop, draft.slug ?? ''), path) : null;
}

/** Writes files of the draft's own layer as one change; refused, with the file as it is now, when one was changed meanwhile. */
export const writeFiles = (...asked: Parameters<typeof writeChange>): (string | null)[] => writeChange(...asked).hashes;

/** The same, with the number of the change; null where nothing differed. */
export function writeChange(
  shop: Shop,
  draft: StateRow,
  files: readonly FileWrite[],
  title: string,
  by: string,
  { together, ...more }: { below?: number[]; undoes?: number; together?: string | undefined } = {},
): { hashes: (string | null)[]; change: number | null } {
  refuseTwins(shop, draft, files);
  try {
    const { hashes, change } = shop.themes.save(draft.id, files, { ...madeNow(title, by), together }, more);
    if (together && change) shop.themes.retitle(change, titleOf(shop.themes.saves(change).map(({ path }) => path)));
    return { hashes, change };
  } catch (error) {
    if ((error as Error).name !== 'ChangedMeanwhile') throw error;
    const { path, hash } = error as ChangedMeanwhile;
    const text = hash === null ? '' : (shop.themes.bytes(hash)?.toString('utf8') ?? '');
    const message =
      hash === null
        ? `“${path}” was taken out of the shop’s layer meanwhile. Your text is kept here: save it again as a new file, or leave it.`
        : `“${path}” was saved from elsewhere meanwhile. Your text is kept here: look at both, then choose.`;
    return refuse(409, 'changed', message, { now: { text, hash } });
  }
}
