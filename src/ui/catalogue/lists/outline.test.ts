import { describe, expect, it } from 'vitest';
import type { MenuItemFile } from '@/contract/catalogue-file';
import { itemAt, menuNodes, withItem, withItemMoved, withNewItem } from './menu-items';
import { dropped, isWithin, outlineRows, stepped, type OutlineNode, type OutlinePlace, type Step } from './outline';

const node = (key: string, parent: string | null = null): OutlineNode => ({ key, parent });
const nodes = [node('rope'), node('braid', 'rope'), node('laid', 'rope'), node('thin', 'braid'), node('deck')];

describe('the lines of an outline', () => {
  const lines = (...folded: string[]) =>
    outlineRows(nodes, new Set(folded)).map(
      ({ node: { key }, level, number, of, open }) => `${level} ${key} ${number}/${of} ${open}`,
    );
  it('stand below one another', () =>
    expect(lines()).toEqual([
      '1 rope 1/2 true',
      '2 braid 1/2 true',
      '3 thin 1/1 null',
      '2 laid 2/2 null',
      '1 deck 2/2 null',
    ]));
  it('are not seen where they are folded away', () =>
    expect(lines('rope')).toEqual(['1 rope 1/2 false', '1 deck 2/2 null']));
  it('know what they are within', () =>
    expect(['thin', 'rope', 'deck'].map((key) => isWithin(nodes, key, 'rope'))).toEqual([true, true, false]));
});

describe('an entry that is moved', () => {
  const at = (parent: string | null, place: number): OutlinePlace => ({ parent, place });
  const steps: [key: string, step: Step, to: OutlinePlace | null][] = [
    ['rope', 'up', null],
    ['rope', 'down', at(null, 1)],
    ['deck', 'up', at(null, 0)],
    ['deck', 'in', at('rope', 2)],
    ['rope', 'in', null],
    ['laid', 'in', at('braid', 1)],
    ['laid', 'out', at(null, 1)],
    ['thin', 'out', at('rope', 1)],
    ['deck', 'out', null],
    ['gone', 'up', null],
  ];
  it.each(steps)('by a key: %s %s', (key, step, to) => expect(stepped(nodes, key, step)).toEqual(to));
  const drops: [key: string, onto: string, where: 'before' | 'after' | 'in', to: OutlinePlace | null][] = [
    ['deck', 'rope', 'before', at(null, 0)],
    ['rope', 'deck', 'after', at(null, 1)],
    ['deck', 'braid', 'in', at('braid', 1)],
    ['braid', 'laid', 'after', at('rope', 1)],
    ['rope', 'thin', 'in', null],
    ['rope', 'rope', 'after', null],
    ['rope', 'gone', 'in', null],
  ];
  it.each(drops)('by dropping: %s on %s, %s', (key, onto, where, to) =>
    expect(dropped(nodes, key, onto, where)).toEqual(to),
  );
});

describe('links of a menu', () => {
  const link = (label: string, ...children: MenuItemFile[]): MenuItemFile => ({
    label,
    target: `/${label}`,
    ...(children.length ? { children } : {}),
  });
  const items = [link('a', link('b'), link('c', link('d'))), link('e')];
  const labels = (list: readonly MenuItemFile[]): string =>
    list.map(({ label, children }) => (children ? `${label}(${labels(children)})` : label)).join(' ');
  it('have keys that say where they stand', () =>
    expect(menuNodes(items).map(({ key, parent, item }) => `${key} ${parent} ${item.label}`)).toEqual([
      '0 null a',
      '0.0 0 b',
      '0.1 0 c',
      '0.1.0 0.1 d',
      '1 null e',
    ]));
  it('are changed and removed', () => {
    expect(labels(withItem(items, '0.1.0', link('x')))).toBe('a(b c(x)) e');
    expect(labels(withItem(items, '0.1.0', null))).toBe('a(b c) e');
    expect(withItem(withItem(items, '0', null), '0', null)).toEqual([]);
  });
  it('are added', () => {
    const more = withNewItem(items, { parent: '1', place: 0 }, link('x'));
    expect([labels(more.items), more.key]).toEqual(['a(b c(d)) e(x)', '1.0']);
  });
  const moves: [key: string, to: OutlinePlace, comes: string][] = [
    ['1', { parent: null, place: 0 }, 'e a(b c(d))'],
    ['0', { parent: '1', place: 0 }, 'e(a(b c(d)))'],
    ['0.0', { parent: '0.1', place: 1 }, 'a(c(d b)) e'],
    ['0.1', { parent: null, place: 1 }, 'a(b) c(d) e'],
    ['0.1.0', { parent: '0.0', place: 0 }, 'a(b(d) c) e'],
    ['0.0', { parent: '0', place: 1 }, 'a(c(d) b) e'],
  ];
  it.each(moves)('are moved: %s to %o', (key, to, comes) => {
    const moved = withItemMoved(items, key, to);
    expect(labels(moved.items)).toBe(comes);
    expect(itemAt(moved.items, moved.key)?.label).toBe(itemAt(items, key)?.label);
  });
});
