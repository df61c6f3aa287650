import type { LayersAnswer } from '@/contract/layers';

type Row = LayersAnswer['rows'][number];

const filters = ['all', 'own', 'drifted', 'problems'] as const;
/** Which files are listed. */
export type Filter = (typeof filters)[number];

/** A filter as the address names it; all files for any other name. */
export const filterOf = (name: string | null | undefined): Filter => filters.find((one) => one === name) ?? 'all';

/** The files of a theme that are seen first, with counts over all of them. */
export interface FirstSight {
  table: LayersAnswer;
  own: number;
  drifted: number;
}

/** More rows than fit on a screen. */
const enough = 45;

/** Files of the whole theme first, then folder by folder. */
export const inFolders = (rows: readonly Row[]): Row[] =>
  [...rows].sort((a, b) => compare(splitPath(a.path)[0], splitPath(b.path)[0]));

export const isOwn = ({ standing }: Row): boolean => standing !== null;
export const isDrifted = ({ standing }: Row): boolean => standing === 'drifted';

/** The rows that come into sight first, and the one that is chosen. */
export function firstSight(table: LayersAnswer, filter: Filter, chosen: string | null): FirstSight {
  const listed: Record<Filter, (row: Row) => boolean> = {
    ...{ all: () => true, own: isOwn, drifted: isDrifted },
    // Which files have problems is not known yet.
    problems: () => false,
  };
  const wanted = inFolders(table.rows.filter(listed[filter]));
  const rows = wanted.filter((row, at) => at < enough || row.path === chosen);
  if (chosen !== null && !rows.some(({ path }) => path === chosen))
    rows.push(...table.rows.filter(({ path }) => path === chosen));
  return {
    table: { ...table, rows },
    own: table.rows.filter(isOwn).length,
    drifted: table.rows.filter(isDrifted).length,
  };
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** A path as its folder, '' for none, and its name. */
export function splitPath(path: string): [folder: string, name: string] {
  const at = path.indexOf('/');
  return at < 0 ? ['', path] : [path.slice(0, at), path.slice(at + 1)];
}
