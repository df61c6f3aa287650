import { mergeFile, type Content } from './merge-files';
import { parseTemplate, type ElementNode, type Problem, type TemplateNode } from '@/core/language';
import { amendmentOf, elementAt, pathTo } from './amendment';
import { layered } from './layered';
import { Theme, type Layer } from './theme';

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
    /** It amends a file that the update changed, and some of its places are gone. */
    | 'lost';
  /** In a few words. */
  says: string;
  /** With `merged`: the file as it would be. */
  text?: string;
  /** With `lost`: a problem for each place that is gone, with the nearest one as its fix. */
  lost?: Problem[];
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
): UpdatePlan {
  const was = serving(before);
  const is = serving(after);
  const files: UpdatePlan['files'] = [];
  for (const path of [...new Set([...was.keys(), ...is.keys()])].sort()) {
    const [old, now] = [was.get(path), is.get(path)];
    if (old?.hash === now?.hash) continue;
    files.push({ path, change: !old ? 'added' : !now ? 'removed' : 'changed' });
  }
  const touched: Touched[] = [];
  const lookups = { before: new Theme(before), after: new Theme(after) };
  for (const [path, file] of [...own].sort(([a], [b]) => (a < b ? -1 : 1))) {
    if (layered(path)) continue;
    const one = isAmendment(path, file.text)
      ? amendmentTouched(path, file, lookups.before, lookups.after)
      : overrideTouched(path, file, was.get(path) ?? null, is.get(path) ?? null);
    if (one) touched.push(one);
  }
  return { files, touched };
}

function overrideTouched(path: string, file: OwnFile, was: Content | null, is: Content | null): Touched | null {
  if (was?.hash === is?.hash) return null;
  if (!was)
    return { path, outcome: 'covers', says: 'the update brings a file of this name; the shop’s own goes on serving' };
  if (!is) return { path, outcome: 'alone', says: 'the update has this file no more; the shop’s own serves by itself' };
  if (file.hash === is.hash)
    return { path, outcome: 'needless', says: 'the update is now what the shop had made: its own file can go' };
  const merged = mergeFile(file.origin ?? was, file, is);
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

function amendmentTouched(path: string, file: OwnFile, before: Theme, after: Theme): Touched | null {
  const name = path.slice(0, -'.html'.length);
  const [old, now] = [before, after].map((theme) =>
    theme
      .parts(name)
      .map(({ hash }) => hash)
      .join(' '),
  ) as [string, string];
  if (old === now) return null;
  if (!now) return { path, outcome: 'lost', says: 'the update has the file no more that this amends', lost: [] };
  const lost = placesLost(path, file, before, after);
  return lost.length
    ? { path, outcome: 'lost', says: `${lost.length} of its places ${lost.length === 1 ? 'is' : 'are'} gone`, lost }
    : { path, outcome: 'fits', says: 'what it amends was changed; all its places are still there' };
}

/**
 * A lost place with the nearest one as its fix: what now stands where the marked element stood, by the path of elements to
 * it; where that has no mark, the path itself.
 */
function withNearest(problem: Problem, text: string, name: string, before: Theme, after: Theme): Problem {
  if (problem.fix) return problem;
  const [old, now] = [before.template(name), after.template(name)];
  const written = text.slice(problem.from, problem.to);
  const mark = /^[\w-]+$/.test(written)
    ? written
    : (/\b(?:mark|before|after|into)="([\w-]+)"/.exec(written)?.[1] ?? null);
  const stood = mark === null || !old ? null : marked(old.children, mark);
  const path = stood && old && pathTo(old.children, stood);
  const stands = path && now ? elementAt(now.children, path).element : null;
  if (!stands || !mark) return problem;
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

/**
 * The places of an amendment that are not in the layers below any more, each with the nearest one as its fix. `before` is
 * what it was written for, `after` the layers below as they are, both without the shop's own.
 */
function placesLost(path: string, file: Content, before: Theme, after: Theme): Problem[] {
  const name = path.slice(0, -'.html'.length);
  const own: Layer = { kind: 'shop', name: 'own', version: '', files: new Map([[path, file]]) };
  const template = new Theme([...after.layers, own], after.locale).template(name);
  return (template?.problems ?? [])
    .filter((one) => one.layer === 'own' && one.code === 'mark')
    .map((one) => withNearest(one, file.text ?? '', name, before, after));
}

/** The places that an amendment of the shop's has lost since it was taken from what was below it then. */
export function placesLostSince(path: string, file: OwnFile, below: readonly Layer[]): Problem[] {
  const files = new Map(file.origin ? [[path, file.origin]] : []);
  return placesLost(path, file, new Theme([{ kind: 'base', name: '', version: '', files }]), new Theme(below));
}
