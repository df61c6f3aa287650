import type { Expression } from '../1-parse/expression';

/** Where the value of a name comes from, for whoever follows it back to the data. */
export type Binding =
  | { kind: 'item'; loop: number; list: Expression }
  | { kind: 'position'; loop: number }
  | { kind: 'let'; value: Expression }
  | { kind: 'it'; list: Expression }
  | { kind: 'outside' };

/** A name inside a template, as generated code knows it. */
export interface Name {
  /** The JavaScript variable that holds its value. */
  variable: string;
  /** The variable that holds it as a record (the empty record where it is none); null where none was made. */
  record: string | null;
  /** Of a loop's position: its fields are worked out in place. */
  position: { list: string; at: string } | null;
  /** Fields of it that are read more than once, by their path: the variables that keep them. Null where there is no place for them. */
  kept: Kept | null;
  binding: Binding;
}

/** The variables that keep fields after they were read once, by path: see `Analysis.repeated`. */
export type Kept = ReadonlyMap<string, string>;

/** The names in reach at one place of a template, innermost first. */
export class Scope {
  readonly #names = new Map<string, Name>();

  constructor(readonly outer: Scope | null) {}

  set(name: string, made: Name): void {
    this.#names.set(name, made);
  }

  /** Names in reach, inner ones once. */
  names(): Set<string> {
    return new Set([...this.#names.keys(), ...(this.outer?.names() ?? [])]);
  }

  find(name: string): Name | null {
    return this.#names.get(name) ?? this.outer?.find(name) ?? null;
  }
}
