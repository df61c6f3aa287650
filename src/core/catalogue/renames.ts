import { pathOf, readPath } from '@/core/address';
import { grouped } from './grouped';

/** An address that leads to another now. `path` is one of this site, its language aside; `target` one too, or a whole address. */
export interface Redirect {
  path: string;
  target: string;
}

/** What has an address of its own, and may get another slug. */
export const addressedKinds = ['product', 'category', 'content', 'article', 'tag', 'brand'] as const;
export type AddressedKind = (typeof addressedKinds)[number];

/** Whether what is of that kind has an address of its own. */
export const isAddressed = (kind: string): kind is AddressedKind =>
  (addressedKinds as readonly string[]).includes(kind);

/** The address of what has one. */
export const addressOf = (kind: AddressedKind, slug: string): string =>
  kind === 'tag' || kind === 'brand' ? pathOf({ kind: 'listing', slug: `${kind}/${slug}` }) : pathOf({ kind, slug });

const none: readonly string[] = [];

/** Redirects in a row that are followed, at most: more are a ring. */
const maxSteps = 10;

/** Where addresses lead that are no page's any more, and what things were called before. */
export class Redirects {
  readonly #targets: ReadonlyMap<string, string>;
  #sources: ReadonlyMap<string | null, string[]> | null = null;

  constructor(rows: readonly Redirect[]) {
    this.#targets = new Map(rows.map(({ path, target }) => [path, target]));
  }

  get size(): number {
    return this.#targets.size;
  }

  /** Paths with where each leads next. */
  get all(): [path: string, target: string][] {
    return [...this.#targets];
  }

  /** Where a path leads in the end; null: nowhere else, or round in a ring. */
  targetOf(path: string): string | null {
    let target = this.#targets.get(path);
    if (target === undefined) return null;
    for (let step = 0; step < maxSteps; step++) {
      const next = this.#targets.get(target);
      if (next === undefined) return target;
      target = next;
    }
    return null;
  }

  /** Slugs that something had before. */
  earlier(kind: AddressedKind, slug: string): readonly string[] {
    if (!this.#targets.size) return none;
    this.#sources ??= grouped([...this.#targets.keys()], (path) => this.targetOf(path));
    return (this.#sources.get(addressOf(kind, slug)) ?? none).flatMap((path) => {
      const was = path.slice(path.lastIndexOf('/') + 1);
      return addressOf(kind, was) === path ? [was] : [];
    });
  }

  /** The slug that something has now of which this one was an earlier one; null: it has none other. */
  slugOf(kind: AddressedKind, slug: string): string | null {
    if (!this.#targets.size) return null;
    const target = this.targetOf(addressOf(kind, slug));
    const subject = target === null ? null : readPath(target);
    if (!subject) return null;
    if (kind !== 'tag' && kind !== 'brand') return subject.kind === kind ? subject.slug : null;
    const [by, name] = subject.kind === 'listing' ? subject.slug.split('/') : [];
    return by === kind && name ? name : null;
  }
}

/**
 * Redirects as they are to be once something has another slug: the earlier address leads to the new one, those that led to the earlier one do
 * too, and the new address leads nowhere else.
 */
export function redirectsRenamed(rows: readonly Redirect[], from: string, to: string): Redirect[] {
  return [
    ...rows
      .filter(({ path }) => path !== to && path !== from)
      .map(({ path, target }) => ({ path, target: target === from ? to : target })),
    { path: from, target: to },
  ];
}
