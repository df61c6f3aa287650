import type { MenuItemFile } from '@/contract/catalogue-file';
import type { OutlineNode, OutlinePlace } from './outline';

/** A link of a menu as an entry of its outline: its key says where it stands, `1.0` is the first below the second. */
export interface MenuNode extends OutlineNode {
  item: MenuItemFile;
}

const join = (parent: string | null, at: number): string => (parent === null ? String(at) : `${parent}.${at}`);

/** The links of a menu, one after another. */
export const menuNodes = (items: readonly MenuItemFile[], parent: string | null = null): MenuNode[] =>
  items.flatMap((item, at) => {
    const key = join(parent, at);
    return [{ key, parent, item }, ...menuNodes(item.children ?? [], key)];
  });

const withChildren = ({ children: _, ...item }: MenuItemFile, children: MenuItemFile[]): MenuItemFile =>
  children.length ? { ...item, children } : item;

/** The links with what `change` makes of the list below `parent`. */
function changed(
  items: readonly MenuItemFile[],
  parent: string | null,
  change: (list: readonly MenuItemFile[]) => MenuItemFile[],
): MenuItemFile[] {
  if (parent === null) return change(items);
  const [first = '', ...rest] = parent.split('.');
  return items.map((item, at) =>
    at === Number(first)
      ? withChildren(item, changed(item.children ?? [], rest.length ? rest.join('.') : null, change))
      : item,
  );
}

const parentOf = (key: string): [parent: string | null, at: number] => {
  const cut = key.lastIndexOf('.');
  return [cut < 0 ? null : key.slice(0, cut), Number(key.slice(cut + 1))];
};

export const itemAt = (items: readonly MenuItemFile[], key: string): MenuItemFile | undefined =>
  menuNodes(items).find((one) => one.key === key)?.item;

/** The links with one of them changed; null removes it, and what is below it. */
export function withItem(items: readonly MenuItemFile[], key: string, item: MenuItemFile | null): MenuItemFile[] {
  const [parent, at] = parentOf(key);
  return changed(items, parent, (list) => list.flatMap((one, place) => (place === at ? (item ?? []) : one)));
}

/** The links with one more, and its key. */
export function withNewItem(
  items: readonly MenuItemFile[],
  { parent, place }: OutlinePlace,
  item: MenuItemFile,
): { items: MenuItemFile[]; key: string } {
  return { items: changed(items, parent, (list) => list.toSpliced(place, 0, item)), key: join(parent, place) };
}

/** The links with one of them at another place, with what is below it, and its key there. */
export function withItemMoved(
  items: readonly MenuItemFile[],
  key: string,
  to: OutlinePlace,
): { items: MenuItemFile[]; key: string } {
  const item = itemAt(items, key);
  if (!item) return { items: [...items], key };
  const [from, at] = parentOf(key);
  // Once it is taken out, those after it, and all that is below them, have another key.
  const parent = to.parent === null ? null : afterRemoval(to.parent, from, at);
  return withNewItem(withItem(items, key, null), { parent, place: to.place }, item);
}

function afterRemoval(key: string, from: string | null, at: number): string {
  const parts = key.split('.');
  const depth = from === null ? 0 : from.split('.').length;
  const under = from === null || key === from || key.startsWith(`${from}.`);
  const own = Number(parts[depth]);
  return under && parts.length > depth && own > at ? parts.with(depth, String(own - 1)).join('.') : key;
}
