import { groupOf, sayLeaf, type Condition, type Leaf, type Wording } from '@/core/alternates';
import { minorDigits } from '@/core/language';
import type { ColumnItem } from '@/contract/records';

/** The questions of a filter that all must hold: what its chips show. A group of another kind is one of them. */
export function partsOf(where: Condition | null): Condition[] {
  if (!where) return [];
  const group = groupOf(where);
  return group?.name === 'all' ? group.parts : [where];
}

const ofParts = (parts: Condition[]): Condition | null => (parts.length > 1 ? { all: parts } : (parts[0] ?? null));

const sameFact = (a: Condition, b: Leaf): boolean =>
  !groupOf(a) && (a as Leaf).fact === b.fact && (a as Leaf).name === b.name;

/** A filter with one more question; another of the same kind about the same goes. */
export function withLeaf(where: Condition | null, leaf: Leaf): Condition | null {
  const asks = (one: Condition) => sameFact(one, leaf) && ['empty', 'filled'].includes((one as Leaf).test);
  return ofParts([...partsOf(where).filter((one) => !asks(one)), leaf]);
}

export const without = (where: Condition | null, at: number): Condition | null =>
  ofParts(partsOf(where).filter((_, place) => place !== at));

/** A question in words, by what the table's columns are called. */
export function sayPart(part: Condition, columns: readonly ColumnItem[], currency: string): string {
  const group = groupOf(part);
  if (group) {
    const said = group.parts.map((one) => sayPart(one, columns, currency));
    if (group.name === 'not') return `not ${said.join(' or ')}`;
    return said.join(group.name === 'all' ? ' and ' : ' or ');
  }
  const leaf = part as Leaf;
  const column = columns.find(({ fact }) => fact?.fact === leaf.fact && fact.name === leaf.name);
  const words: Wording = {
    money: (minor) =>
      new Intl.NumberFormat('en', { style: 'currency', currency }).format(minor / 10 ** minorDigits(currency)),
    day: (iso) => iso,
    name: (_, slug) => slug,
    definitions: () => [],
  };
  const said = sayLeaf('product', leaf, words);
  const bare = leaf.name ? `${leaf.fact} ${leaf.name}` : leaf.fact;
  return column && said.startsWith(bare) ? `${column.label}${said.slice(bare.length)}` : said;
}
