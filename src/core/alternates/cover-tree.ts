import type { Choice } from './choose';

/** A part of the map: subjects of one group with one template. */
export interface Cell {
  group: string;
  template: string;
  because: 'pin' | 'rule' | 'default';
}

/** Groups with groups and cells in them. */
export interface CoverNode {
  key: string;
  name: string;
  /** A group has parts; a cell is subjects with one template. */
  cell: (Cell & { count: number }) | null;
  parts: CoverNode[];
  /** It holds what a group has beside the groups in it: there is nothing more to go into. */
  itself: boolean;
}

/** What was counted: groups by their parents, each with how many of its own come by each of the ways. */
export interface Counted {
  ways: readonly { template: string; because: Choice['because'] }[];
  groups: readonly {
    key: string;
    parent: string | null;
    name: string;
    counts: readonly (readonly [way: number, count: number])[];
  }[];
}

/**
 * Groups and their cells as a tree; groups in which there is nothing are left out. What a group has beside the groups in it
 * stands in a part of its own, so that it is not taken for theirs. Cells are in the order of `templates`.
 */
export function coverTree({ groups, ways }: Counted, templates: readonly string[]): CoverNode {
  const children = new Map<string | null, Counted['groups'][number][]>();
  for (const group of groups) {
    const list = children.get(group.parent);
    if (list) list.push(group);
    else children.set(group.parent, [group]);
  }
  const cellsOf = (group: Counted['groups'][number]): CoverNode[] => {
    const cells = new Map<string, Cell & { count: number }>();
    for (const [at, count] of group.counts) {
      const way = ways[at];
      if (!way || !count) continue;
      const because = way.because === 'tried' ? 'default' : way.because;
      const key = `${group.key} ${way.template} ${because}`;
      const known = cells.get(key);
      if (known) known.count += count;
      else cells.set(key, { group: group.key, template: way.template, because, count });
    }
    return [...cells.entries()]
      .sort(([, a], [, b]) => templates.indexOf(a.template) - templates.indexOf(b.template))
      .map(([key, cell]) => ({ ...node(key, '', []), cell }));
  };
  const make = (group: Counted['groups'][number]): CoverNode => {
    const own = cellsOf(group);
    const below = (children.get(group.key) ?? []).map(make).filter(({ parts }) => parts.length);
    if (!below.length || !own.length) return node(group.key, group.name, [...below, ...own]);
    const itself = { ...node(`${group.key} itself`, `${group.name} itself`, own), itself: true };
    return node(group.key, group.name, [...below, itself]);
  };
  const parts = (children.get(null) ?? []).map(make).filter((one) => one.parts.length);
  const [first] = parts;
  // One group that holds all the others says nothing.
  const opened = parts.length === 1 && first?.parts.every(({ cell }) => cell === null) ? first.parts : parts;
  return node('', '', opened);
}

/** The groups from the outermost to one, that one included; none: it is not in the tree. */
export function wayTo(tree: CoverNode, key: string): CoverNode[] {
  for (const part of tree.parts) {
    if (part.cell) continue;
    if (part.key === key) return [part];
    const way = wayTo(part, key);
    if (way.length) return [part, ...way];
  }
  return [];
}

const node = (key: string, name: string, parts: CoverNode[]): CoverNode => ({
  ...{ key, name, parts },
  cell: null,
  itself: false,
});
