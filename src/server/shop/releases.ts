import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import {
  forgetChanges,
  isFew,
  lastTurn,
  newChain,
  noteChanges,
  openDatabase,
  packDelta,
  type Packed,
  StoredCatalogue,
  Statements,
  StoredThemes,
} from '@/store';
import { pack } from './data-folder';

/** So many release files stay: a render node may still read the one before, or a copy be on its way. */
const kept = 3;
/** Where more rows have changed, a release file says it better. */
const maxRows = 20_000;
/** After so many delta files, or so many bytes of them (a share of the release, but no less than this), a release file takes their place. */
const limits = { deltas: 1000, share: 0.5, bytes: 8_000_000 };

/** The list of what is in force, for nodes on other machines. */
export const listName = 'now.json';

/** What is in force: a release file, and the delta files that bring it up to date. */
interface InForce {
  release: Packed;
  chain: string;
  /** The last file's content, and the delta files' names and sizes. */
  content: string;
  deltas: { name: string; size: number }[];
}

/**
 * A folder in which there is always the shop as it is live, for render nodes to go over to: a release file, and after each change of the goods a delta
 * file beside it. `now.json` lists what is in force, in its order.
 */
export class ReleaseFolder {
  readonly #sql: Statements;
  readonly #themes: StoredThemes;
  /** State and revision of the theme that is packed, and the revision of the goods. */
  #theme = '';
  #goods = -1;
  #now: InForce | null = null;

  constructor(
    readonly folder: string,
    readonly out: string,
  ) {
    this.#sql = new Statements(openDatabase(folder));
    this.#themes = new StoredThemes(this.#sql);
    // What a pack left that was ended in the middle.
    if (existsSync(out))
      for (const name of readdirSync(out))
        if (name.startsWith('.pack-')) rmSync(join(out, name), { recursive: true, force: true });
  }

  /**
   * Writes a release file where another release is live than when this was last asked, or a delta file where the goods are others; gives its path. Null:
   * all is as it was, or nothing is live.
   *
   * @throws DataFolderError when it cannot be written; it is tried again when it is asked again
   */
  look(): string | null {
    const live = this.#themes.live();
    if (!live) return null;
    const theme = `${live.id} ${live.revision}`;
    const goods = new StoredCatalogue(this.#sql).revision;
    if (this.#now && theme === this.#theme && goods === this.#goods && this.#isThere(this.#now)) return null;
    mkdirSync(this.out, { recursive: true });
    const now = this.#now;
    const isDelta = now && theme === this.#theme && this.#isThere(now) && this.#staysSmall(now);
    const file = isDelta ? this.#writeDelta(now) : this.#writeRelease();
    [this.#theme, this.#goods] = [theme, goods];
    return file;
  }

  #isThere({ release, deltas }: InForce): boolean {
    return existsSync(release.file) && deltas.every(({ name }) => existsSync(join(this.out, name)));
  }

  #staysSmall({ release, deltas }: InForce): boolean {
    const bytes = deltas.reduce((sum, { size }) => sum + size, 0);
    return (
      deltas.length < limits.deltas &&
      bytes < Math.max(limits.bytes, release.size * limits.share) &&
      isFew(this.#sql, maxRows)
    );
  }

  #writeRelease(): string {
    // Changes up to here are in the file; later ones may be in it too, and are said once more.
    if (!this.#now) noteChanges(this.#sql);
    const upTo = lastTurn(this.#sql);
    const release = pack(this.folder, 'live', this.out);
    forgetChanges(this.#sql, upTo);
    // A shop that is as it was before has the name of that file: what followed it then is no longer in force.
    const own = basename(release.file, '.release');
    for (const name of readdirSync(this.out)) if (name.startsWith(`${own}-`)) rmSync(join(this.out, name));
    this.#now = { release, chain: newChain(), content: release.content, deltas: [] };
    this.#list(this.#now);
    this.#removeOlder();
    return release.file;
  }

  #writeDelta(now: InForce): string | null {
    if (lastTurn(this.#sql) === 0) return null;
    const { release, chain, content: follows, deltas } = now;
    const place = { release: release.content, chain, follows, number: deltas.length + 1 };
    const { file, content, size, upTo } = packDelta(this.#sql, place, this.out);
    forgetChanges(this.#sql, upTo);
    now.content = content;
    now.deltas.push({ name: basename(file), size });
    this.#list(now);
    return file;
  }

  /** Says what is in force: nodes that read the folder itself need it not. */
  #list({ release, deltas }: InForce): void {
    const files = [{ name: basename(release.file), size: release.size }, ...deltas];
    const part = join(this.out, `.${listName}`);
    writeFileSync(part, `${JSON.stringify({ files })}\n`);
    renameSync(part, join(this.out, listName));
  }

  #removeOlder(): void {
    const files = readdirSync(this.out);
    const releases = files
      .filter((name) => name.endsWith('.release'))
      .map((name) => ({ name, at: statSync(join(this.out, name)).mtimeMs }))
      .sort((a, b) => b.at - a.at)
      .slice(kept);
    for (const { name } of releases) {
      const of = `${basename(name, '.release')}-`;
      for (const file of files) if (file.startsWith(of)) rmSync(join(this.out, file), { force: true });
      rmSync(join(this.out, name), { force: true });
    }
  }

  close(): void {
    this.#sql.db.close();
  }
}
