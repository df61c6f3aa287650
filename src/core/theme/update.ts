import { mergeFile, type Content } from './merge-files';
import { parseTemplate, type ElementNode, type Problem, type Template, type TemplateNode } from '@/core/language';
import { amendmentOf, pathTo } from './amendment';
import { followPlaces, type FollowedPlace } from './follow-places';
import { layered } from './layered';
import { TreeMatch } from './match';
import { parsedFile, Theme, type Layer } from './theme';

/** A file of the shop's own layer, with what it was taken from below; null: there was nothing. */
export interface OwnFile extends Content {
  origin: Content | null;
}

/** What an update of the layers below does to a file of the shop's own. */
export interface Touched {
  path: string;
  outcome:
    /** The shop's changes and the update's were merged. */
    | 'merged'
    /** Both changed the same places: the shop's stands until someone has looked. */
    | 'conflict'
    /** What is below is now what the shop had made of it: its own file is needless. */
    | 'needless'
    /** The update no longer has the file: the shop's serves by itself. */
    | 'alone'
    /** The update brings a file of a name that the shop had for itself: the shop's goes on serving. */
    | 'covers'
    /** It amends a file that the update changed, and still finds its places. */
    | 'fits'
    /** The same; the paths to some of its places are others now, and are written so. */
    | 'moved'
    /** The same; for some of its places something else may be meant as well. */
    | 'unsure'
    /** It amends a file that the update changed, and some of its places are gone. */
    | 'lost'
    /** It names something that the update removes: a piece, an input, a gap, a phrase, a setting. */
    | 'breaks';
  /** In a few words. */
  says: string;
  /** With `merged` and `moved`, and with `unsure` and `lost` where a path is another: the file as it would be. */
  text?: string;
  /** With `lost`: a problem for each mark that is gone, with the nearest one as its fix. */
  lost?: Problem[];
  /** Places by path that are not where they were. */
  places?: FollowedPlace[];
  /** Problems that it has with the update and had not before. */
  breaks?: Problem[];
}

export interface UpdatePlan {
  /** Files of the layers below that the update changes, by what serves there. */
  files: { path: string; change: 'added' | 'changed' | 'removed' }[];
  touched: Touched[];
}

/** What serves at each path of some layers. */
function serving(layers: readonly Layer[]): Map<string, Content> {
  const served = new Map<string, Content>();
  for (const layer of layers) for (const [path, { hash, text }] of layer.files) served.set(path, { hash, text });
  return served;
}

export const isAmendment = (path: string, text: string | null): boolean =>
  text !== null && path.endsWith('.html') && amendmentOf(parseTemplate(path, text)) !== null;

/**
 * What changes when other layers come to stand below a shop's own: which of their files, and
 * what that does to each file of the shop. Nothing is written; the same layers and files give the same plan.
 */
export function planUpdate(
  before: readonly Layer[],
  after: readonly Layer[],
  own: ReadonlyMap<string, OwnFile>,
  /** What is known of the shop; null: nothing, and any name and field may exist. */
  shop: Pick<Theme, 'locale' | 'surroundings'> | null = null,
): UpdatePlan {
  const was = serving(before);
  const is = serving(after);
  const files: UpdatePlan['files'] = [];
  for (const path of [...new Set([...was.keys(), ...is.keys()])].sort()) {
    const [old, now] = [was.get(path), is.get(path)];
    if (old?.hash === now?.hash) continue;
    files.push({ path, change: !old ? 'added' : !now ? 'removed' : 'changed' });
  }
  const touched = new Map<string, Touched>();
  const amending: [path: string, file: OwnFile][] = [];
  const updated = new Map<string, Content>(own);
  const note = (one: Touched | null) => {
    if (!one) return;
    touched.set(one.path, one);
    if (one.outcome === 'needless') updated.delete(one.path);
    else if (one.text !== undefined) updated.set(one.path, { hash: `updated ${one.text}`, text: one.text });
  };
  for (const [path, file] of own) {
    if (layered(path)) continue;
    if (isAmendment(path, file.text)) amending.push([path, file]);
    else note(overrideTouched(path, file, was.get(path) ?? null, is.get(path) ?? null));
  }
  const themeOf = (layers: readonly Layer[], files: ReadonlyMap<string, Content>) =>
    new Theme([...layers, { ...ownLayer, files }], shop?.locale, shop?.surroundings);
  // What an amendment changes may be a file of the shop's own, as the update leaves it.
  const [old, now] = [themeOf(before, own), themeOf(after, updated)];
  const matches = new Map<Template, TreeMatch>();
  for (const [path, file] of amending) note(amendmentTouched(path, file, old, now, matches));
  const changed = files.flatMap(({ path, change }) => (change === 'removed' ? [] : [path]));
  for (const [path, breaks] of broken(
    old,
    themeOf(after, updated),
    new Theme(after, shop?.locale, shop?.surroundings),
    [...own.keys(), ...changed],
  )) {
    const one = touched.get(path);
    const left = one ? breaks.filter(({ code }) => !placeCodes.has(code)) : breaks;
    if (!left.length) continue;
    if (one) one.breaks = left;
    else
      touched.set(path, {
        path,
        outcome: 'breaks',
        says: own.has(path)
          ? `what it names is not in the update as it was: ${counted(left.length, 'problem')}`
          : `what the update brings does not fit the shop’s own files: ${counted(left.length, 'problem')}`,
        breaks: left,
      });
  }
  return { files, touched: [...touched.values()].sort((a, b) => (a.path < b.path ? -1 : 1)) };
}

const ownLayer: Omit<Layer, 'files'> = { kind: 'shop', name: 'own', version: '' };
const counted = (count: number, what: string) => `${count} ${what}${count === 1 ? '' : 's'}`;

/**
 * Problems that the update makes, by file: those that the shop's theme has with it, and had not before, nor has the update by itself. Only files that the
 * shop has and those that the update changed are looked at.
 */
function broken(old: Theme, now: Theme, alone: Theme, paths: readonly string[]): Map<string, Problem[]> {
  const names = [...new Set(paths.flatMap((path) => (path.endsWith('.html') ? [path.slice(0, -'.html'.length)] : [])))];
  const all = (theme: Theme) => [...names.flatMap((name) => theme.check(name)), ...theme.checkData()];
  const keyOf = ({ layer, file, code, message }: Problem) => `${layer}\n${file}\n${code}\n${message}`;
  const found = all(now).filter(({ severity }) => severity !== 'note');
  const known = found.length ? new Set([...all(old), ...all(alone)].map(keyOf)) : null;
  const by = new Map<string, Problem[]>();
  for (const one of found) {
    const key = keyOf(one);
    if (known?.has(key)) continue;
    known?.add(key);
    by.set(one.file, [...(by.get(one.file) ?? []), one]);
  }
  return by;
}

function overrideTouched(path: string, file: OwnFile, was: Content | null, is: Content | null): Touched | null {
  if (was?.hash === is?.hash) return null;
  if (!was)
    return { path, outcome: 'covers', says: 'the update brings a file of this name; the shop’s own goes on serving' };
  if (!is) return { path, outcome: 'alone', says: 'the update has this file no more; the shop’s own serves by itself' };
  if (file.hash === is.hash)
    return { path, outcome: 'needless', says: 'the update is now what the shop had made: its own file can go' };
  const merged = mergeFile(path, file.origin ?? was, file, is);
  if (merged.kind === 'merged')
    return {
      path,
      outcome: 'merged',
      says: 'changed on both sides, in different places: merged',
      text: merged.text,
    };
  if (merged.kind === 'taken')
    return { path, outcome: 'needless', says: 'the shop’s own is the old file unchanged: it can go' };
  return { path, outcome: 'conflict', says: merged.kind === 'conflict' ? merged.why : 'changed on both sides' };
}

/** The files that an amendment changes, the shop's own amendment left out. */
const changedBy = (theme: Theme, name: string) =>
  theme.parts(name).filter(({ path, layer }) => layer.kind !== 'shop' || path !== `${name}.html`);

function amendmentTouched(
  path: string,
  file: OwnFile,
  before: Theme,
  after: Theme,
  matches: Map<Template, TreeMatch>,
): Touched | null {
  const name = path.slice(0, -'.html'.length);
  const [was, is] = [changedBy(before, name), changedBy(after, name)];
  const same = (files: typeof was) => files.map(({ path, hash }) => `${path} ${hash}`).join('\n');
  if (same(was) === same(is) || !was[0]) return null;
  if (!is[0]) return { path, outcome: 'lost', says: 'the update has the file no more that this amends', lost: [] };
  const [old, now] = [parsedFile(was[0]), parsedFile(is[0])];
  const match = matches.get(old) ?? new TreeMatch(old.children, now.children);
  matches.set(old, match);
  const { text, places } = followPlaces(parseTemplate(path, file.text ?? ''), old, match, now);
  // What is gone by its path is among the places.
  const lost = placesLost(path, { hash: `followed ${text}`, text }, after, old, now, match).filter(
    ({ code, from }) => code === 'mark' && !text.startsWith('was=', from),
  );
  const rewritten = text === file.text ? {} : { text };
  const gone = lost.length + places.filter(({ is }) => is === null).length;
  const unsure = places.filter(({ is, certain }) => is !== null && !certain).length;
  const moved = places.length - unsure - (gone - lost.length);
  const found = places.length ? { places } : {};
  if (gone)
    return {
      path,
      outcome: 'lost',
      says: `${gone} of its places ${gone === 1 ? 'is' : 'are'} gone`,
      lost,
      ...found,
      ...rewritten,
    };
  if (unsure)
    return {
      ...{ path, outcome: 'unsure', places, ...rewritten },
      says: `${unsure} of its places may be ${unsure === 1 ? 'another' : 'others'} now`,
    };
  if (moved)
    return {
      path,
      outcome: 'moved',
      says: `what it amends was changed; ${counted(moved, 'place')} found again elsewhere`,
      places,
      ...rewritten,
    };
  return { path, outcome: 'fits', says: 'what it amends was changed; all its places are still there' };
}

/** A lost mark with the nearest one as its fix: what the marked element became; where that has no mark, the path to it. */
function withNearest(problem: Problem, text: string, old: Template, now: Template, match: TreeMatch): Problem {
  if (problem.fix) return problem;
  const written = text.slice(problem.from, problem.to);
  const mark = /^[\w-]+$/.test(written)
    ? written
    : (/\b(?:mark|before|after|into)="([\w-]+)"/.exec(written)?.[1] ?? null);
  const stood = mark === null ? null : marked(old.children, mark);
  const stands = stood && match.find(stood).element;
  const path = stands && pathTo(now.children, stands);
  if (!stands || !mark || path === null) return problem;
  const nearest = stands.directives.mark;
  if (!nearest)
    return { ...problem, message: `${problem.message}; where it stood is now <${stands.name}> at “${path}”` };
  const from = text.indexOf(`"${mark}"`, problem.from - 1) + 1;
  return {
    ...problem,
    message: `${problem.message}; where it stood is now “${nearest}”`,
    fix: { title: `Write “${nearest}”`, edits: [{ from, to: from + mark.length, text: nearest }] },
  };
}

function marked(nodes: readonly TemplateNode[], mark: string): ElementNode | null {
  for (const node of nodes) {
    if (node.type !== 'element') continue;
    if (node.directives.mark === mark) return node;
    const inner = marked(node.children, mark);
    if (inner) return inner;
  }
  return null;
}

/** What is said of places that are gone or not sure. */
const placeCodes: ReadonlySet<string> = new Set(['mark', 'place-moved']);

/** The places that an amendment names and the layers below do not have any more; of a mark with the nearest one as its fix. */
function placesLost(
  path: string,
  file: Content,
  below: Theme,
  old: Template,
  now: Template,
  match: TreeMatch,
): Problem[] {
  const name = path.slice(0, -'.html'.length);
  const layers = below.layers.filter(({ kind }) => kind !== 'shop');
  const own = below.layers.find(({ kind }) => kind === 'shop');
  const files = new Map([...(own?.files ?? []), [path, file]]);
  const template = new Theme([...layers, { ...ownLayer, files }], below.locale).template(name);
  return (template?.problems ?? [])
    .filter((one) => one.layer === ownLayer.name && one.file === path && placeCodes.has(one.code))
    .map((one) => withNearest(one, file.text ?? '', old, now, match));
}

/** The places that an amendment of the shop's has lost since it was taken from what was below it then, and those that an update left unsure. */
export function placesLostSince(path: string, file: OwnFile, below: readonly Layer[]): Problem[] {
  const now = new Theme(below).template(path.slice(0, -'.html'.length));
  if (!now) return [];
  const old = parseTemplate(path, file.origin?.text ?? '');
  return placesLost(path, file, new Theme(below), old, now, new TreeMatch(old.children, now.children));
}
