import { createWriteStream, mkdirSync, readdirSync, renameSync, rmSync, statSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import { listName } from '@/server/shop';

/** A list comes within so long, and a file within this, in milliseconds. */
const within = { list: 10_000, file: 600_000 };
/** A list longer than this is not read. */
const maxListBytes = 1_000_000;
const releaseName = /^[0-9a-f]{16}\.release$/;
const deltaName = /^[0-9a-f]{16}-[0-9a-f]{8}-\d{6,}\.delta$/;
/** So many release files stay, as in the folder that they come from. */
const kept = 3;

interface Listed {
  name: string;
  size: number;
}

/**
 * Fetches release and delta files from where a workbench’s folder of them is served, into a folder here that a node serves from. What is in force there
 * stands in `now.json`.
 */
export class Following {
  readonly #url: URL;
  #tag: string | null = null;

  /** @throws RangeError when the text is no address of a folder */
  constructor(
    text: string,
    readonly folder: string,
  ) {
    const url = URL.canParse(text) ? new URL(text.endsWith('/') ? text : `${text}/`) : null;
    if (!url || !/^https?:$/.test(url.protocol) || url.search)
      throw new RangeError(
        `“${text}” is no address of a folder of release files: it is like http://10.0.0.2/releases/.`,
      );
    this.#url = url;
    mkdirSync(folder, { recursive: true });
  }

  /**
   * Fetches what is in force and is not here. Whether anything came.
   *
   * @throws Error that says what is wrong; what is here stays
   */
  async look(): Promise<boolean> {
    const headers: Record<string, string> = this.#tag === null ? {} : { 'If-None-Match': this.#tag };
    const answer = await this.#ask(listName, within.list, headers);
    if (answer.status === 304) return false;
    const files = listed(await textOf(answer));
    if (!files) throw new Error(`${this.#at(listName)} is not a list of release files.`);
    const [release, ...deltas] = files as [Listed, ...Listed[]];
    const here = new Set(readdirSync(this.folder));
    // Those of a chain that has ended would stand in the way of the one that comes.
    const own = `${release.name.slice(0, 16)}-`;
    const wanted = new Set(files.map(({ name }) => name));
    for (const name of here)
      if (name.endsWith('.part') || (name.startsWith(own) && !wanted.has(name))) rmSync(join(this.folder, name));
    let came = false;
    for (const one of deltas) came = (await this.#fetch(one)) || came;
    came = (await this.#fetch(release)) || came;
    this.#last(release);
    this.#tag = answer.headers.get('etag');
    return came;
  }

  /** Has a release file be the newest here, and older ones go. */
  #last({ name }: Listed): void {
    const releases = readdirSync(this.folder)
      .filter((one) => releaseName.test(one))
      .map((one) => ({ one, at: statSync(join(this.folder, one)).mtimeMs }))
      .sort((a, b) => b.at - a.at);
    const newest = releases[0];
    if (newest && newest.one !== name) {
      const at = Math.max(Date.now(), newest.at + 1) / 1000;
      utimesSync(join(this.folder, name), at, at);
    }
    const old = releases.filter(({ one }) => one !== name).slice(kept - 1);
    for (const { one } of old)
      for (const file of readdirSync(this.folder))
        if (file === one || file.startsWith(`${one.slice(0, 16)}-`)) rmSync(join(this.folder, file), { force: true });
  }

  /** Fetches a file that is not here; it takes its name once it is whole. */
  async #fetch({ name, size }: Listed): Promise<boolean> {
    const file = join(this.folder, name);
    if (statSync(file, { throwIfNoEntry: false })?.size === size) return false;
    const part = `${file}.part`;
    try {
      const answer = await this.#ask(name, within.file);
      if (!answer.body) throw new Error(`${this.#at(name)} is empty.`);
      await pipeline(Readable.fromWeb(answer.body as ReadableStream), createWriteStream(part));
      const came = statSync(part).size;
      if (came !== size) throw new Error(`${this.#at(name)} came with ${came} of its ${size} bytes.`);
      renameSync(part, file);
      return true;
    } finally {
      rmSync(part, { force: true });
    }
  }

  #at(name: string): string {
    return new URL(name, this.#url).href;
  }

  async #ask(name: string, ms: number, headers: Record<string, string> = {}): Promise<Response> {
    const at = this.#at(name);
    let answer: Response;
    try {
      answer = await fetch(at, { headers, signal: AbortSignal.timeout(ms) });
    } catch (error) {
      const { cause, message } = error as Error;
      throw new Error(`${at} does not answer: ${cause instanceof Error ? cause.message : message}.`);
    }
    if (answer.ok || answer.status === 304) return answer;
    throw new Error(
      `${at} answers ${answer.status}: is it a folder of release files, as LAST_RELEASES has it written?`,
    );
  }
}

async function textOf(answer: Response): Promise<string> {
  const bytes = await answer.arrayBuffer();
  return bytes.byteLength > maxListBytes ? '' : new TextDecoder().decode(bytes);
}

/** The files of a list, the release first; null: it is none. Names lead to no other folder. */
function listed(text: string): Listed[] | null {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return null;
  }
  const files = (read as { files?: unknown } | null)?.files;
  if (!Array.isArray(files) || !files.length) return null;
  const right = files.every((one: unknown, at) => {
    const { name, size } = (one ?? {}) as Partial<Listed>;
    return typeof name === 'string' && Number.isInteger(size) && (at ? deltaName : releaseName).test(name);
  });
  return right ? (files as Listed[]) : null;
}
