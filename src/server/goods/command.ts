import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { z } from 'zod';
import type { GoodsEffects } from '@/contract/goods';
import { picturePath } from '@/core/exchange';
import { filesOfFolder, filesOfZip, takePictures, type PictureOutcome } from '@/server/pictures';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import { GoodsHistory, Staging } from '@/store';
import { formatOf } from './uploads';
import { goodsWork } from './work';

/** What `last import` is given. Paths are whole ones of this machine. */
export const importGiven = z.object({
  /** null: pictures only. */
  file: z.string().nullable(),
  /** A folder or ZIP of pictures. */
  pictures: z.string().nullable(),
  mode: z.enum(['merge', 'replace']),
  /** Only look: nothing is imported. */
  dry: z.boolean(),
  /** Import what can be taken, though other records cannot. */
  partly: z.boolean(),
  columns: z.record(z.string(), z.string().nullable()),
  encoding: z.enum(['utf-8', 'utf-16le', 'utf-16be', 'windows-1252']).nullable(),
  delimiter: z.string().length(1).nullable(),
});
export type ImportGiven = z.output<typeof importGiven>;

/** Issues that are printed; the rest is counted. */
const maxPrinted = 50;

const many = (count: number, one: string, several = `${one}s`) =>
  `${count.toLocaleString('en')} ${count === 1 ? one : several}`;

/** What an import would do, in lines. */
function summary(staging: Staging): string[] {
  const counts = staging.counts();
  const called: Record<string, string> = { field: 'custom field', category: 'category', content: 'content page' };
  const lines = counts.map(
    ({ kind, what, count }) =>
      `  ${what}: ${many(count, called[kind] ?? kind, kind === 'category' ? 'categories' : undefined)}`,
  );
  const issues = staging.issues(0, maxPrinted);
  /** Those of one kind below a line that says what they are. What is about no one line of the file has none. */
  const told = (severity: 'error' | 'warning', called: (all: number) => string): string[] => {
    const all = staging.issueCount(severity);
    const printed = issues.filter((one) => one.severity === severity);
    return [
      ...(all ? [called(all)] : []),
      ...printed.map(
        ({ line, column, message }) =>
          `  ${[line ? `line ${line}` : '', column].filter(Boolean).join(', ')}: ${message}`,
      ),
      ...(all > printed.length ? [`  … and ${all - printed.length} more`] : []),
    ];
  };
  return [
    ...(lines.length ? ['It would change:', ...lines] : ['It would change nothing.']),
    ...told('error', (all) => `${many(all, 'thing')} cannot be taken as ${all === 1 ? 'it is' : 'they are'}:`),
    ...told('warning', (all) => `${many(all, 'thing')} to know:`),
    ...effectLines(staging.noted<GoodsEffects>('effects')),
  ];
}

/** What an import would do to pages, in lines. */
function effectLines(effects: GoodsEffects | null): string[] {
  if (!effects) return [];
  const { rehearsed, of, templates, assignments, pages, problems } = effects;
  return [
    `Rehearsed${rehearsed < of ? ` with ${rehearsed.toLocaleString('en')} of its records` : ''}, on ${many(pages, 'page')}: ${problems.length ? `${many(problems.length, 'problem')} that ${problems.length === 1 ? 'is' : 'are'} not there now:` : 'no problem that is not there now.'}`,
    ...problems.map(({ page, file, line, message }) => `  ${page}: ${file}:${line}: ${message}`),
    ...templates.map(
      ({ from, to, count, examples }) =>
        `  ${many(count, 'product')} would get “${to}”${from ? ` instead of “${from}”` : ''}: ${examples.join(', ')}${count > examples.length ? ', …' : ''}`,
    ),
    ...assignments.map((says) => `  ${says}`),
  ];
}

/** Takes the pictures of a folder or ZIP, and says what became of them. */
async function bringPictures(
  shop: Shop,
  path: string,
  now: string,
  dry: boolean,
): Promise<{ change: number | null; says: string[] }> {
  const counts = new Map<PictureOutcome['what'], number>();
  const lines: string[] = [];
  const change = await takePictures(
    shop,
    picturesAt(path),
    { replace: true, change: null, at: now, by: 'command line', dry },
    ({ path: name, what, why }) => {
      counts.set(what, (counts.get(what) ?? 0) + 1);
      if (what === 'left' && lines.push(`  “${name}” is left out: ${why}.`) > maxPrinted) lines.pop();
    },
  );
  const count = (what: PictureOutcome['what']) => counts.get(what) ?? 0;
  const left = count('left');
  const says = [
    `Pictures: ${count('added')} added, ${count('replaced')} replaced, ${count('same')} there already${left ? `, ${left} left out:` : '.'}`,
    ...lines,
    ...(left > lines.length ? [`  … and ${left - lines.length} more`] : []),
  ];
  return { change, says };
}

const picturesAt = (path: string) => (statSync(path).isDirectory() ? filesOfFolder(path) : filesOfZip(path));

/** The paths that pictures will have. */
async function pathsOf(path: string): Promise<string[]> {
  const paths: string[] = [];
  for await (const { name } of picturesAt(path)) paths.push(picturePath(name) ?? name);
  return paths;
}

/**
 * `last import`: a dry run first, then the pictures and the import, unless only the first is asked for or something cannot be taken.
 */
export async function importCommand(shop: Shop, given: ImportGiven, now: string): Promise<string[]> {
  const { file, pictures, mode, dry, partly, columns, encoding, delimiter } = given;
  if (pictures !== null && !statSync(pictures, { throwIfNoEntry: false }))
    refuse(404, 'pictures', `There is no folder or ZIP ${pictures}.`);
  const bring = () => (pictures === null ? { change: null, says: [] } : bringPictures(shop, pictures, now, dry));
  if (file === null) {
    const { change, says } = await bring();
    return [...says, ...(change === null ? [] : [`last import --undo ${change} undoes it.`])];
  }
  if (!statSync(file, { throwIfNoEntry: false })?.isFile()) refuse(404, 'file', `There is no file ${file}.`);
  const folder = mkdtempSync(join(tmpdir(), 'last-import-'));
  const staged = join(folder, 'staging.sqlite');
  try {
    await goodsWork(shop, {
      kind: 'plan',
      staging: staged,
      ask: {
        ...{ file, format: formatOf(file), mode, columns, today: now.slice(0, 10) },
        ...(pictures === null ? {} : { coming: await pathsOf(pictures) }),
        ...(encoding ? { encoding } : {}),
        ...(delimiter ? { delimiter } : {}),
      },
    });
    if (dry) await goodsWork(shop, { kind: 'rehearse', staging: staged });
    const staging = new Staging(staged);
    const [says, errors] = [summary(staging), staging.issueCount('error')];
    staging.close();
    if (dry) return [...says, ...(await bring()).says, 'Nothing was imported: this was a dry run.'];
    if (errors && !partly)
      refuse(
        422,
        'import',
        [...says, 'Nothing was imported. Correct the file, or give --partly to leave those out.'].join('\n'),
      );
    const title = `Import of ${basename(file)}`;
    const brought = await bring();
    const made = await goodsWork(shop, {
      kind: 'apply',
      staging: staged,
      making: { title, at: now, by: 'command line', into: brought.change },
    });
    return [
      ...says,
      ...brought.says,
      `Imported: ${many(made?.records ?? 0, 'record')}. last import --undo ${made?.id} undoes it.`,
    ];
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** `last import --undo`. */
export async function undoCommand(shop: Shop, change: number, now: string): Promise<string[]> {
  const made = await goodsWork(shop, { kind: 'undo', change, making: { at: now, by: 'command line' } });
  return [
    `Undone: ${many(made?.records ?? 0, 'record')} as before. last import --undo ${made?.id} brings it back.`,
    ...(made?.left ?? []).map((one) => `  ${one}, and stays.`),
  ];
}

/** `last import --list`: the changes of goods that can be undone. */
export const listCommand = (shop: Shop): string[] => {
  const all = new GoodsHistory(shop.sql).list(50);
  return all.length
    ? all.map(
        ({ id, title, at, by, added, changed, removed, undoneBy }) =>
          `${id}  ${at.slice(0, 16).replace('T', ' ')}  ${title}, by ${by}: ${added} added, ${changed} changed, ${removed} removed${undoneBy ? ' (undone)' : ''}`,
      )
    : ['Goods were not changed yet.'];
};

/** Columns as `last import --columns` has them in a file: `{"Artikel": "sku", "Notiz": null}`. */
export function readColumns(path: string): Record<string, string | null> {
  try {
    return z.record(z.string(), z.string().nullable()).parse(JSON.parse(readFileSync(path, 'utf8')));
  } catch {
    throw new RangeError(`${path} is not a JSON object of headings and what their columns are taken for.`);
  }
}
