import type { Span } from '../1-parse/source';
import type { Type } from '../types/types';

/** A name in reach, as the checker knows it. */
export interface Known {
  type: Type;
  used: boolean;
  /** Where do:let gave it; null for what comes otherwise. */
  given: Span | null;
  /** Of a name for a field: the name it is a field of, and the fields. */
  path: { root: Known; fields: string[] } | null;
  /** Of a loop's position: whether do:when leaves out some of the items that it counts. */
  filtered: boolean;
}

export function known(type: Type, more: Partial<Known> = {}): Known {
  return { type, used: false, given: null, path: null, filtered: false, ...more };
}

/** Names and what they are, innermost first; and the fields that a condition around has asked for. */
export class TypeScope {
  readonly #names = new Map<string, Known>();
  readonly #asked = new Map<Known, Set<string>>();

  constructor(readonly outer: TypeScope | null) {}

  inner(): TypeScope {
    return new TypeScope(this);
  }

  set(name: string, made: Known): Known {
    this.#names.set(name, made);
    return made;
  }

  find(name: string): Known | null {
    return this.#names.get(name) ?? this.outer?.find(name) ?? null;
  }

  names(): Set<string> {
    return new Set([...this.#names.keys(), ...(this.outer?.names() ?? [])]);
  }

  ask(root: Known, fields: readonly string[]): void {
    const asked = this.#asked.get(root) ?? new Set();
    asked.add(fields.join('.'));
    this.#asked.set(root, asked);
  }

  /** Whether a condition around asked for this field, or for one on the way to it. */
  asks(root: Known, fields: readonly string[]): boolean {
    const asked = this.#asked.get(root);
    if (asked && fields.some((_, at) => asked.has(fields.slice(0, at + 1).join('.')))) return true;
    return this.outer?.asks(root, fields) ?? false;
  }
}
