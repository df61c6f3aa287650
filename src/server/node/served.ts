import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import type { Addresses } from '@/server/http';
import { Shop } from '@/server/shop';
import { pageOf, siteListener, type Elsewhere } from '@/server/storefront';
import { DataFolderError, prepareNode, readDelta, type WorkingCopy } from '@/store';
import type { InForce } from './in-force';

/** A release file that is being served, with the delta files applied so far. The one that received a request answers it, even after another took over. */
export class Served {
  readonly shop: Shop;
  readonly #listener: RequestListener;
  #open = 0;
  #ended: (() => void) | null = null;

  constructor(
    readonly file: string,
    /** What the delta files are applied to; null: none has come. */
    readonly copy: WorkingCopy | null,
    folder: string,
    addresses: Addresses,
    /** The one that it takes the place of: pages of which nothing has changed are its too. */
    before: Served | null,
    elsewhere: Elsewhere | null,
  ) {
    prepareNode(folder, file);
    this.shop = new Shop(folder, { release: file, copy: copy?.file ?? '', before: before?.shop ?? null });
    this.#listener = siteListener(() => this.shop, addresses, { shopOnly: true, elsewhere });
  }

  /** Reads what its first visitor would wait for. */
  warm(): void {
    const live = this.shop.themes.live();
    if (live) pageOf(this.shop, live, { path: '/', query: {} });
  }

  answer(request: IncomingMessage, response: ServerResponse): void {
    this.#open++;
    response.once('close', () => {
      if (--this.#open === 0) this.#ended?.();
    });
    this.#listener(request, response);
  }

  /** Whether it has the version of a file of the theme that an address names. */
  hasAsset(path: string, version: string): boolean {
    return this.shop.themes.bytesOfVersion(path, version) !== null;
  }

  /** Closes the files once nobody waits for an answer from them. */
  async end(): Promise<void> {
    if (this.#open > 0) await new Promise<void>((resolve) => (this.#ended = resolve));
    this.copy?.close();
    this.shop.carts.db.close();
    this.shop.sql.db.close();
  }
}

/**
 * Applies the delta files that have not been; how many that were.
 *
 * @throws DataFolderError when one cannot be: those before it stand
 */
export function applyNext(copy: WorkingCopy, deltas: InForce['deltas']): number {
  const { number } = copy.last();
  let applied = 0;
  for (const one of deltas) {
    if (one.number <= number) continue;
    try {
      if (copy.apply(readDelta(one.file))) applied++;
    } catch (error) {
      if (!(error instanceof DataFolderError) || error.message.startsWith(one.file)) throw error;
      throw new DataFolderError(`${one.file} cannot be used yet. ${error.message}`);
    }
  }
  return applied;
}
