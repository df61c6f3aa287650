import { existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { pack } from './data-folder';
import { Shop } from './shop';

/** So many release files stay: a render node may still read the one before, or a copy be on its way. */
const kept = 3;

/** A folder in which there is always a release file of the shop as it is live: for render nodes to go over to. */
export class ReleaseFolder {
  readonly #shop: Shop;
  #packed = '';

  constructor(
    readonly folder: string,
    readonly out: string,
  ) {
    this.#shop = new Shop(folder, { readOnly: true });
    // What a pack left that was ended in the middle.
    if (existsSync(out))
      for (const name of readdirSync(out))
        if (name.startsWith('.pack-')) rmSync(join(out, name), { recursive: true, force: true });
  }

  /**
   * Writes a release file where another release is live, or the goods are others, than when this was last asked; gives its path. Null: all is as it was, or
   * nothing is live.
   *
   * @throws DataFolderError when it cannot be written; it is tried again when it is asked again
   */
  look(): string | null {
    const live = this.#shop.themes.live();
    if (!live) return null;
    const now = `${live.id} ${live.revision} ${this.#shop.catalogue().revision}`;
    if (now === this.#packed) return null;
    mkdirSync(this.out, { recursive: true });
    const { file } = pack(this.folder, 'live', this.out);
    this.#packed = now;
    this.#removeOlder();
    return file;
  }

  #removeOlder(): void {
    const files = readdirSync(this.out)
      .filter((name) => name.endsWith('.release'))
      .map((name) => ({ name, at: statSync(join(this.out, name)).mtimeMs }))
      .sort((a, b) => b.at - a.at);
    for (const { name } of files.slice(kept)) rmSync(join(this.out, name), { force: true });
  }

  close(): void {
    this.#shop.sql.db.close();
  }
}
