import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { Found } from './addresses';

/** The form of the file that this Last writes and reads. */
const form = 1;

/** A page as it was made the last time. */
export interface MadeBefore extends Found {
  /** What it was made from; null: that is not known. */
  from: string | null;
}

interface Written {
  form: number;
  /** What all of it depends on besides what pages were made from. */
  setup: string;
  /** What many pages have in common, each once: what they were made from of the theme, the files that they name. */
  common: string[];
  pages: Record<string, [theme: number, goods: string | null, files: number, pages: string[]]>;
  /** Names of all files. */
  files: string[];
}

const goodsBegin = '\0g';

/** What a site was made of the last time: so that only what differs is made again. */
export class Made {
  readonly pages = new Map<string, MadeBefore>();
  files: string[] = [];

  constructor(readonly setup: string) {}

  /** Reads it; one of another form or for another setup, or that cannot be read, is as if there were none. */
  static read(path: string, setup: string): Made {
    const made = new Made(setup);
    if (!existsSync(path)) return made;
    let written: Written;
    try {
      written = JSON.parse(readFileSync(path, 'utf8')) as Written;
      made.files = written.files;
      if (written.form !== form || written.setup !== setup) return made;
      for (const [address, [theme, goods, files, pages]] of Object.entries(written.pages)) {
        const from = goods === null ? null : (written.common[theme] ?? '') + goods;
        made.pages.set(address, { from, pages, files: JSON.parse(written.common[files] ?? '[]') as string[] });
      }
    } catch {
      made.pages.clear();
      made.files = [];
    }
    return made;
  }

  write(path: string): void {
    const common: string[] = [];
    const places = new Map<string, number>();
    const place = (text: string): number => {
      let at = places.get(text);
      if (at === undefined) places.set(text, (at = common.push(text) - 1));
      return at;
    };
    const pages: Written['pages'] = {};
    for (const [address, { from, files, pages: further }] of this.pages) {
      const at = from?.indexOf(goodsBegin) ?? 0;
      const [theme, goods] = from === null ? ['', null] : at < 0 ? [from, ''] : [from.slice(0, at), from.slice(at)];
      pages[address] = [place(theme), goods, place(JSON.stringify(files)), further];
    }
    writeFileSync(
      `${path}.part`,
      JSON.stringify({ form, setup: this.setup, common, pages, files: this.files } satisfies Written),
    );
    renameSync(`${path}.part`, path);
  }
}
