/** What was made from the catalogue, kept until its revision changes: indexes, and the lists that every page needs. */
export class Kept {
  #revision = -1;
  readonly #made = new Map<string, unknown>();

  /** Tells the revision that the catalogue has now; what was made from another is dropped. */
  at(revision: number): void {
    if (revision === this.#revision) return;
    this.#revision = revision;
    this.#made.clear();
  }

  of<T>(key: string, make: () => T): T {
    if (!this.#made.has(key)) {
      // Splits and languages are few; more would be someone trying addresses.
      if (this.#made.size > 500) this.#made.clear();
      this.#made.set(key, make());
    }
    return this.#made.get(key) as T;
  }
}
