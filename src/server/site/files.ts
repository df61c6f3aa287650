import { mkdir, readdir, rename, rm, rmdir, writeFile } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { encodings, shorter } from '@/server/storefront';

/** Endings of files that are texts: they are kept shorter beside themselves, as web servers look for them. */
const text = /\.(?:html|css|js|mjs|json|svg|xml|txt|webmanifest)$/;
/** A text shorter than this gains nothing; in bytes. */
const worthwhile = 500;

/** Endings of texts that were made shorter, as web servers know them. */
const endings = { br: 'br', gzip: 'gz' } as const;
/** Each is made once and sent often. */
const quality = { br: 6, gzip: 9 } as const;

/** Files of a site below a folder; each takes its name once it is whole. */
export class SiteFiles {
  /** Every file of this time, by its name. */
  readonly named = new Set<string>();
  written = 0;
  bytes = 0;

  constructor(readonly root: string) {}

  has(name: string): boolean {
    return existsSync(join(this.root, name));
  }

  /** Says that a file is there as it should be. */
  keep(name: string): void {
    this.named.add(name);
  }

  async write(name: string, bytes: Uint8Array): Promise<void> {
    this.named.add(name);
    this.written++;
    this.bytes += bytes.length;
    await this.#put(name, bytes);
    if (!text.test(name) || bytes.length < worthwhile) return;
    for (const one of encodings) await this.#put(`${name}.${endings[one]}`, await shorter[one](bytes, quality[one]));
  }

  async #put(name: string, bytes: Uint8Array): Promise<void> {
    const path = join(this.root, name);
    await mkdir(dirname(path), { recursive: true });
    await writeFile(`${path}.part`, bytes);
    await rename(`${path}.part`, path);
  }

  /** Removes what neither this time nor `also` names, and folders that are empty then; gives how many files. */
  async prune(also: ReadonlySet<string>): Promise<number> {
    let removed = 0;
    const visit = async (folder: string): Promise<boolean> => {
      let isEmpty = true;
      for (const entry of await readdir(join(this.root, folder), { withFileTypes: true })) {
        const name = folder ? `${folder}/${entry.name}` : entry.name;
        const plain = name.replace(/\.(?:gz|br)$/, '');
        if (entry.isDirectory()) {
          if (await visit(name)) await rmdir(join(this.root, name));
          else isEmpty = false;
        } else if (![name, plain].some((one) => this.named.has(one) || also.has(one))) {
          await rm(join(this.root, name));
          removed++;
        } else isEmpty = false;
      }
      return isEmpty;
    };
    await visit('');
    return removed;
  }
}
