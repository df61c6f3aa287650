import { statSync } from 'node:fs';

/** The database's file is not what it was: what is read may be wrong, and what is written would be lost. */
export class DataLost extends Error {
  override readonly name = 'DataLost';
}

/** Checks whether a database that is in use is still the same file: not replaced, removed or cut short. */
export class FileWatch {
  readonly #file: string;
  readonly #id: string;
  #size: number;
  /** What happened to it; once lost it stays so until the process starts again. */
  lost: string | null = null;

  constructor(file: string) {
    this.#file = file;
    const { dev, ino, size } = statSync(file);
    this.#id = `${dev} ${ino}`;
    this.#size = size;
  }

  /** @throws DataLost when it is not */
  check(): void {
    this.lost ??= this.#look();
    if (this.lost) throw new DataLost(this.lost);
  }

  #look(): string | null {
    const then = 'Nothing more is written. Stop Last, look at the data folder, and restore a backup if need be.';
    let now;
    try {
      now = statSync(this.#file);
    } catch {
      return `The database ${this.#file} was removed while Last was running. ${then}`;
    }
    if (`${now.dev} ${now.ino}` !== this.#id)
      return `The database ${this.#file} was replaced by another file while Last was running. ${then}`;
    // SQLite makes it larger only: nothing here shrinks it.
    if (now.size < this.#size) return `The database ${this.#file} was cut short while Last was running. ${then}`;
    this.#size = now.size;
    return null;
  }
}
