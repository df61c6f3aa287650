import {
  addressOf,
  isAddressed,
  redirectsRenamed,
  type AddressedKind,
  type Redirect,
  type Redirects,
} from '@/core/catalogue';
import { sameValue } from '@/core/exchange';
import type { GoodsRecord, RecordReader } from '@/store';
import type { WantedChange } from './wanted';

/** Something with an address that gets another slug. */
export interface Renamed {
  kind: AddressedKind;
  from: string;
  to: string;
}

/** What gets another slug by these wishes. */
const renamed = (wanted: readonly WantedChange[]): Renamed[] =>
  wanted.flatMap(({ kind, slug, before, after }) =>
    isAddressed(kind) && before && typeof after?.slug === 'string' && after.slug !== slug
      ? [{ kind, from: slug, to: after.slug }]
      : [],
  );

/** A wish by the slug that its record has once it is fulfilled. */
export const settledSlug = (one: WantedChange): WantedChange =>
  one.before && typeof one.after?.slug === 'string' ? { ...one, slug: one.after.slug } : one;

type Item = Readonly<{ target: string; children?: readonly Item[] }>;

/** Links of a menu with another address in place of one; what follows it (`?page=2`, `#wash`) stays. */
const itemsRenamed = (items: readonly Item[], from: string, to: string): Item[] =>
  items.map((item) => ({
    ...item,
    target: item.target.replace(/^[^?#]*/, (path) => (path === from ? to : path)),
    ...(item.children ? { children: itemsRenamed(item.children, from, to) } : {}),
  }));

/**
 * Wishes with all that another slug brings along: the earlier address redirects, redirects that led there lead on, and links of menus are as
 * before.
 */
export function withRenames(reader: RecordReader, wanted: readonly WantedChange[]): WantedChange[] {
  const all = renamed(wanted);
  if (!all.length) return [...wanted];
  const menus = new Map(reader.all('menu'));
  const own = new Set(wanted.flatMap(({ kind, slug }) => (kind === 'menu' ? [slug] : [])));
  for (const { kind, from, to } of all) {
    const [was, is] = [addressOf(kind, from), addressOf(kind, to)];
    for (const [slug, menu] of menus) {
      // A menu that is changed by the same wishes says itself what it links.
      if (own.has(slug)) continue;
      menus.set(slug, { ...menu, items: itemsRenamed(menu.items as Item[], was, is) });
    }
  }
  const links = [...menus].flatMap(([slug, { items }]): WantedChange[] => {
    const was = reader.all('menu').get(slug)?.items;
    return sameValue(was, items) ? [] : [{ kind: 'menu', slug, before: { items: was }, after: { items } }];
  });
  return [...wanted, ...links, ...redirectChanges(reader, all)];
}

/** What becomes of redirects once things have other slugs. */
export function redirectChanges(reader: RecordReader, all: readonly Renamed[]): WantedChange[] {
  const before = [...reader.all('redirect').values()] as unknown as Redirect[];
  const after = all.reduce<Redirect[]>(
    (rows, { kind, from, to }) => redirectsRenamed(rows, addressOf(kind, from), addressOf(kind, to)),
    before,
  );
  const was = new Map(before.map(({ path, target }) => [path, target]));
  const will = new Map(after.map(({ path, target }) => [path, target]));
  const change = (slug: string, one: GoodsRecord | null, other: GoodsRecord | null): WantedChange => ({
    ...{ kind: 'redirect', slug },
    before: one,
    after: other,
  });
  return [
    ...before.filter(({ path }) => !will.has(path)).map((one) => change(one.path, { ...one }, null)),
    ...after.flatMap((one): WantedChange[] => {
      const target = was.get(one.path);
      if (target === one.target) return [];
      return [
        target === undefined
          ? change(one.path, null, { ...one })
          : change(one.path, { target }, { target: one.target }),
      ];
    }),
  ];
}

const lists: Record<string, AddressedKind> = {
  tags: 'tag',
  categories: 'category',
  related: 'product',
  members: 'product',
};
const single: Record<string, AddressedKind> = { brand: 'brand', parent: 'category' };

/** Fields of a record that name others by the slugs that these have now, whatever they were called when it was noted. */
export function namesNow(fields: GoodsRecord, redirects: Redirects): GoodsRecord {
  if (!redirects.size) return fields;
  const now = (kind: AddressedKind, slug: unknown): unknown =>
    typeof slug === 'string' ? (redirects.slugOf(kind, slug) ?? slug) : slug;
  return Object.fromEntries(
    Object.entries(fields).map(([name, value]): [string, unknown] => {
      const [list, one] = [lists[name], single[name]];
      if (list && Array.isArray(value)) return [name, value.map((slug) => now(list, slug))];
      return [name, one ? now(one, value) : value];
    }),
  );
}
