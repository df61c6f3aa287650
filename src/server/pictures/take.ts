import { picturePath } from '@/core/exchange';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import {
  copiesOf,
  GoodsHistory,
  hashOf,
  mediaFiles,
  putMedia,
  type MediaFile,
  type RecordChange,
  writeRecord,
  CatalogueWriter,
} from '@/store';
import { cleanRichText } from '@/server/catalogue';
import { isLeftOut, readPicture, type LeftOut, type ReadPicture } from './read';

/** A file as it came: by the name that it has in its folder, its bytes read when it is its turn. */
export interface GivenFile {
  name: string;
  bytes: () => Promise<Buffer | LeftOut>;
}

/**
 * What became of a file: `added`, `replaced` what was there, the `same` is there already, another is `there` (and was not replaced), or it was
 * `left` out, for `why`.
 */
export interface PictureOutcome {
  path: string;
  what: 'added' | 'replaced' | 'same' | 'there' | 'left';
  why: string;
  /** Another path that has the same content. */
  copyOf: string | null;
}

/** How pictures are taken, and by whom. `change`: the change that they are part of; null: a new one. */
export interface Taking {
  replace: boolean;
  change: number | null;
  at: string;
  by: string;
  /** Only look: nothing is written. */
  dry?: boolean;
  /** Says stop: what was written by then stays. */
  signal?: AbortSignal;
}

/** Pictures that are written at once: caches of pages go each time. */
const batch = 25;
export const takingTitle = 'Pictures brought in';

/**
 * Takes files into the catalogue, each under its name, as one change that can be undone. `heard` is told what became of each. Gives the number
 * of the change; null where nothing was written.
 */
export async function takePictures(
  shop: Shop,
  files: AsyncIterable<GivenFile> | Iterable<GivenFile>,
  taking: Taking,
  heard: (outcome: PictureOutcome) => void,
): Promise<number | null> {
  const history = new GoodsHistory(shop.sql);
  let change = changeOf(history, taking.change);
  let waiting: { path: string; read: ReadPicture }[] = [];
  const write = async () => {
    if (!waiting.length) return;
    await shop.writable();
    const outcomes = shop.themes.transaction(() =>
      waiting.map(({ path, read }) => {
        const { outcome, record } = put(shop, path, read, taking);
        if (record) {
          change ??= history.begin(takingTitle, taking.at, taking.by);
          history.put(change, record);
        }
        return outcome;
      }),
    );
    waiting = [];
    outcomes.forEach(heard);
  };
  for await (const { name, bytes } of files) {
    if (taking.signal?.aborted) break;
    const path = picturePath(name);
    const left = (why: string) => heard({ path: path ?? name, what: 'left', why, copyOf: null });
    if (path === null) {
      left('its name leads out of its folder, or is longer than 200 characters');
      continue;
    }
    const came = await bytes();
    const read = 'why' in came ? came : await readPicture(shop, path, came);
    if (isLeftOut(read)) left(read.why);
    else if (waiting.push({ path, read }) >= batch) await write();
  }
  await write();
  return change;
}

/** A change that more may be put to: it was made by bringing pictures in, and stands. */
function changeOf(history: GoodsHistory, id: number | null): number | null {
  const change = id === null ? null : history.get(id);
  return change && change.title === takingTitle && change.undoneBy === null ? change.id : null;
}

function put(
  shop: Shop,
  path: string,
  read: ReadPicture,
  { replace, dry }: Taking,
): { outcome: PictureOutcome; record: RecordChange | null } {
  const { type, bytes, width, height } = read;
  const before = mediaFiles(shop.sql, [path]).get(path);
  const hash = hashOf(bytes);
  const outcome = (what: PictureOutcome['what']) => ({
    path,
    what,
    why: '',
    copyOf: copiesOf(shop.sql, hash).find((other) => other !== path) ?? null,
  });
  if (before?.hash === hash) return { outcome: outcome('same'), record: null };
  if (before && !replace) return { outcome: outcome('there'), record: null };
  if (dry) return { outcome: outcome(before ? 'replaced' : 'added'), record: null };
  const after = putMedia(shop.sql, path, type, bytes, { width, height });
  return {
    outcome: outcome(before ? 'replaced' : 'added'),
    record: {
      ...{ kind: 'picture', slug: path, what: before ? 'changed' : 'added' },
      ...{ before: before ? { ...before } : {}, after: { ...after } },
    },
  };
}

/** Takes pictures out of the catalogue, as a change that can be undone; what names them stays, and shows a stand-in. */
export function removePictures(
  shop: Shop,
  paths: readonly string[],
  making: { at: string; by: string },
): { id: number; removed: number } {
  return shop.themes.transaction(() => {
    const there: MediaFile[] = [...mediaFiles(shop.sql, paths).values()];
    if (!there.length) refuse(404, 'picture', 'These pictures are gone already.');
    const history = new GoodsHistory(shop.sql);
    const title = there.length === 1 ? `Delete ${there[0]?.path}` : `Delete ${there.length} pictures`;
    const id = history.begin(title, making.at, making.by);
    const writer = new CatalogueWriter(shop.sql, cleanRichText);
    for (const file of there) {
      const change: RecordChange = {
        kind: 'picture',
        slug: file.path,
        what: 'removed',
        before: { ...file },
        after: {},
      };
      writeRecord(writer, change, {});
      history.put(id, change);
    }
    writer.finish(shop.catalogue().shop().locale);
    return { id, removed: there.length };
  });
}
