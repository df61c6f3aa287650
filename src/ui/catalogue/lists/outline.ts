import { grouped } from '@/core/catalogue';

/** An outline: entries below others, in an order. What is drawn of it, and where an entry goes when it is moved. */

export interface OutlineNode {
  key: string;
  /** The entry that it stands below; null: at the top. */
  parent: string | null;
}

/** An entry as a line of the tree. */
export interface OutlineRow<Node extends OutlineNode> {
  node: Node;
  /** Depth, from 1. */
  level: number;
  /** Its number among its siblings, from 1, and how many there are. */
  number: number;
  of: number;
  /** null: there is nothing below it. */
  open: boolean | null;
}

/** A place in an outline: below what, and how many of the others there come before it. */
export interface OutlinePlace {
  parent: string | null;
  place: number;
}

const below = <Node extends OutlineNode>(nodes: readonly Node[], parent: string | null): Node[] =>
  nodes.filter((one) => one.parent === parent);

/** The lines that are seen: those below a folded entry are not. */
export function outlineRows<Node extends OutlineNode>(
  nodes: readonly Node[],
  folded: ReadonlySet<string>,
): OutlineRow<Node>[] {
  const children = grouped(nodes, (node) => node.parent);
  const from = (parent: string | null, level: number): OutlineRow<Node>[] => {
    const siblings = children.get(parent) ?? [];
    return siblings.flatMap((node, at) => {
      const open = children.has(node.key) ? !folded.has(node.key) : null;
      return [{ node, level, number: at + 1, of: siblings.length, open }, ...(open ? from(node.key, level + 1) : [])];
    });
  };
  return from(null, 1);
}

/** Whether an entry is another, or stands below it at any depth. */
export function isWithin(nodes: readonly OutlineNode[], key: string | null, other: string): boolean {
  for (let at = key; at !== null; at = nodes.find((one) => one.key === at)?.parent ?? null)
    if (at === other) return true;
  return false;
}

export type Step = 'up' | 'down' | 'in' | 'out';

/**
 * Where an entry goes by a key: among its siblings, below the one before it, or after the one that it stands below. null: it cannot go
 * there.
 */
export function stepped(nodes: readonly OutlineNode[], key: string, step: Step): OutlinePlace | null {
  const node = nodes.find((one) => one.key === key);
  if (!node) return null;
  const siblings = below(nodes, node.parent);
  const at = siblings.indexOf(node);
  if (step === 'up') return at > 0 ? { parent: node.parent, place: at - 1 } : null;
  if (step === 'down') return at < siblings.length - 1 ? { parent: node.parent, place: at + 1 } : null;
  if (step === 'in') {
    const before = siblings[at - 1];
    return before ? { parent: before.key, place: below(nodes, before.key).length } : null;
  }
  const above = nodes.find((one) => one.key === node.parent);
  if (!above) return null;
  return { parent: above.parent, place: below(nodes, above.parent).indexOf(above) + 1 };
}

/** Where an entry goes when it is dropped before, after or onto another; null: onto itself, or below itself. */
export function dropped(
  nodes: readonly OutlineNode[],
  key: string,
  onto: string,
  where: 'before' | 'after' | 'in',
): OutlinePlace | null {
  const target = nodes.find((one) => one.key === onto);
  if (!target || isWithin(nodes, onto, key)) return null;
  const others = (parent: string | null) => below(nodes, parent).filter((one) => one.key !== key);
  if (where === 'in') return { parent: onto, place: others(onto).length };
  const at = others(target.parent).findIndex((one) => one.key === onto);
  return { parent: target.parent, place: where === 'before' ? at : at + 1 };
}
