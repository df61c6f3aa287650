import { pieceName, templateOf, type Alternates, followedIn } from '@/core/alternates';
import type { Theme } from '@/core/theme';
import { renaming, withEdits, type Thing } from './things';

/** One of the shop's own files as another file gets a new path. `was`: the path that it had; `text` null: its content stays. */
export interface RenamedFile {
  was: string;
  path: string;
  text: string | null;
}

/**
 * What becomes of the shop's own files when one of them gets another path, so that every page comes out as before: a
 * piece's alternates move with it, and what names them (templates, shelves, alternates) takes over the new names. What a layer below
 * has at the old path stays there: an amendment of it goes on amending it, and an alternate of which the shop has no file
 * gets an amendment.
 */
export function renamedFiles(theme: Theme, path: string, to: string): RenamedFile[] {
  const own = theme.layers[theme.layers.length - 1];
  if (!own) return [];
  const moves = movesOf(theme.assignments.alternates, path, to);
  const edits = new Map<string, { from: number; to: number; text: string }[]>();
  for (const [was, will] of moves)
    for (const [thing, name] of namesOf(was, will))
      for (const one of renaming(theme, thing, name))
        if (one.layer === own.name) edits.set(one.file, [...(edits.get(one.file) ?? []), ...one.edits]);

  const assigned = theme.file(list)?.text ?? null;
  const follows = assigned === null || !path.endsWith('.html') ? null : followedIn(assigned, nameOf(path), nameOf(to));
  const touched = new Set([...moves.keys(), ...edits.keys(), ...(follows === null ? [] : [list])]);
  return [...touched].flatMap((was): RenamedFile[] => {
    if (was === list && follows !== null) return [{ was, path: was, text: follows }];
    const will = moves.get(was) ?? was;
    const below = theme.everywhere(was).some((file) => file.layer !== own && file.text !== null);
    if (!own.files.has(was)) return below ? [{ was: will, path: will, text: amending(emptyAmendment, was, will) }] : [];
    const text = own.files.get(was)?.text ?? null;
    const named = text === null ? null : withEdits(text, edits.get(was) ?? []);
    const now = named !== null && below && will !== was ? amending(named, was, will) : named;
    return [{ was, path: will, text: now === text ? null : now }];
  });
}

const list = 'alternates.json';
const emptyAmendment = '<amend>\n</amend>\n';
const nameOf = (path: string): string => path.replace(/\.html$/, '');

/** The paths that change, by what they were: the file's, and those of the alternates of a piece. */
function movesOf({ alternates }: Alternates, path: string, to: string): Map<string, string> {
  const moves = new Map([[path, to]]);
  if (!to.endsWith('.html') || !pieceName.safeParse(nameOf(to)).success) return moves;
  for (const one of alternates)
    if (one.piece !== undefined && `${one.piece}.html` === path)
      moves.set(
        `${templateOf(one, one.name)}.html`,
        `${templateOf({ kind: one.kind, piece: nameOf(to) }, one.name)}.html`,
      );
  return moves;
}

/** The things that a file is named as, with their names after it. */
function namesOf(path: string, to: string): [Thing, string][] {
  const thing = (kind: Thing['kind'], name: string): Thing => ({ kind, name, of: '' });
  if (path.endsWith('.html') && to.endsWith('.html')) return [[thing('piece', nameOf(path)), nameOf(to)]];
  const inside = (folder: string, end = '') =>
    [path, to].every((one) => one.startsWith(folder) && one.endsWith(end))
      ? ([path, to].map((one) => one.slice(folder.length, one.length - end.length)) as [string, string])
      : null;
  const asset = inside('assets/');
  const icon = inside('assets/icons/', '.svg');
  return [
    ...(asset ? ([[thing('asset', asset[0]), asset[1]]] as [Thing, string][]) : []),
    ...(icon ? ([[thing('icon', icon[0]), icon[1]]] as [Thing, string][]) : []),
  ];
}

/** A template that moves away from the one below it: what amended that by its place names it now. */
function amending(text: string, was: string, will: string): string {
  return text.replace(/<amend(?:\s+of="([^"]*)")?/, (written, of?: string) =>
    of === undefined || of === nameOf(will) ? `<amend of="${nameOf(was)}"` : written,
  );
}
