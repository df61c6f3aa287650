import { existsSync, statSync, writeFileSync } from 'node:fs';
import { basename, join, resolve } from 'node:path';
import { CatalogueFacts } from '@/core/catalogue';
import { applyFix, type Problem, type Trace, writeExpression } from '@/core/language';
import { makePage, type Page } from '@/core/storefront';
import { readLocale } from '@/core/address';
import { Theme, type Layer } from '@/core/theme';
import { hashOf, StoredCatalogue } from '@/store';
import { openCatalogueFile } from '@/server/catalogue';
import { readFolder, textual } from '@/server/shop';

/** A sentence about a folder that holds no theme. */
export class ThemeFolderError extends Error {}

/** Folders as the layers of one theme, lowest first; checked for the catalogue of a file when one is given. */
export class ThemeFolders {
  readonly theme: Theme;
  readonly source: StoredCatalogue | null;
  readonly #folders: Map<string, string>;

  constructor(folders: readonly string[], catalogue: string | null) {
    this.#folders = new Map();
    const layers = folders.map((folder, at): Layer => {
      if (!existsSync(folder) || !statSync(folder).isDirectory())
        throw new ThemeFolderError(`There is no folder ${folder}.`);
      const files = readFolder(folder).filter(([path]) => !/(?:^|\/)\./.test(path));
      if (!files.some(([path]) => path.endsWith('.html')))
        throw new ThemeFolderError(
          `${folder} holds no template: a theme's folder has layouts/, product/, pieces/ and so on.`,
        );
      const short = basename(resolve(folder));
      const name = this.#folders.has(short) ? folder : short;
      this.#folders.set(name, folder);
      return {
        kind: at === 0 ? 'base' : at === folders.length - 1 ? 'shop' : 'add-on',
        name,
        version: '',
        files: new Map(
          files.map(([path, bytes]) => [
            path,
            {
              hash: hashOf(bytes),
              text: textual.test(path) ? bytes.toString('utf8') : null,
            },
          ]),
        ),
      };
    });
    const source = catalogue === null ? null : openCatalogueFile(catalogue);
    this.source = source;
    this.theme = new Theme(layers, source?.shop().locale, {
      definitions: source && ((subject) => source.fieldDefinitions(subject)),
      site: source && new CatalogueFacts(source),
    });
  }

  #inLanguage(locale: string): StoredCatalogue {
    const { sql } = this.source as StoredCatalogue;
    return new StoredCatalogue(sql, locale);
  }

  check(): Problem[] {
    return [...this.theme.checkAll()];
  }

  /** Applies the fixes that are certain, where they do not meet; gives those that were applied. */
  applyFixes(problems: readonly Problem[]): Problem[] {
    const byFile = new Map<string, Problem[]>();
    for (const one of problems) {
      // Whether a text becomes a phrase is for someone to say.
      if (!one.fix || one.fix.phrases) continue;
      const key = `${one.layer}\n${one.file}`;
      byFile.set(key, [...(byFile.get(key) ?? []), one]);
    }
    const fixed: Problem[] = [];
    for (const [key, found] of byFile) {
      const [layer = '', file = ''] = key.split('\n');
      const folder = this.#folders.get(layer);
      const text = this.theme.layers.find((one) => one.name === layer)?.files.get(file)?.text;
      if (folder === undefined || text === null || text === undefined) continue;
      const taken: Problem[] = [];
      for (const one of found) if (!taken.some((other) => meet(one, other))) taken.push(one);
      const edits = taken.flatMap((one) => one.fix?.edits ?? []);
      writeFileSync(join(folder, file), applyFix(text, { title: '', edits }));
      fixed.push(...taken);
    }
    return fixed;
  }

  page(address: string, today: string, tried: string | null, traced: boolean): Page {
    const url = new URL(address, 'http://shop.invalid');
    const { locale, path } = readLocale(url.pathname, this.source?.shop().locales ?? []);
    return makePage({
      theme: this.theme,
      alternates: this.theme.assignments.alternates,
      source: this.#inLanguage(locale),
      path,
      query: Object.fromEntries(url.searchParams),
      prefix: '',
      today,
      tried,
      traced,
    });
  }
}

function meet(a: Problem, b: Problem): boolean {
  return (a.fix?.edits ?? []).some((one) =>
    (b.fix?.edits ?? []).some((other) => one.from < other.to && other.from < one.to),
  );
}

/** A problem as a line for a terminal: place, severity, code, message, and the fix that is certain. */
export function problemLine(problem: Problem, withLayer: boolean): string {
  const { file, line, column, severity, code, message, layer, fix } = problem;
  const where = withLayer && layer ? `${layer}: ` : '';
  return `${where}${file}:${line}:${column} ${severity} ${code}: ${message}${fix ? ` [${fix.title}]` : ''}`;
}

/** A trace as plain JSON: the sites that marks speak of, with file, line, layer and data path, and how conditions and loops came out. */
export function traceTable(trace: Trace, say: (value: unknown) => string) {
  const site = (frame: number, number: number) => {
    const { kind, source, from, expression } = trace.site(frame, number);
    const { line, column } = source.place(from);
    const path = expression ? trace.path(frame, expression) : null;
    return { kind, file: source.file, layer: source.layer, line, column, path };
  };
  const frames = trace.parents.map((parent, frame) => ({
    template: trace.templates[trace.templateOf[frame] as number]?.name ?? '',
    parent,
    item: (trace.indexes[frame] as number) < 0 ? null : trace.indexes[frame],
    sites: Object.fromEntries(
      (trace.templates[trace.templateOf[frame] as number]?.sites ?? []).flatMap(({ kind }, number) =>
        kind === 'element' || kind === 'value' ? [[`${frame}.${number}`, site(frame, number)]] : [],
      ),
    ),
  }));
  const conditions = trace.decided.map((decided, at) => {
    const [frame, number, held, part] = trace.conditions.slice(at * 4, at * 4 + 4) as [number, number, number, number];
    const deciding = trace.site(frame, number).parts[part];
    return {
      ...site(frame, number),
      frame,
      held: held === 1,
      decidedBy: deciding ? writeExpression(deciding) : null,
      value: Array.isArray(decided) && deciding?.kind === 'binary' ? decided.map(say) : say(decided),
    };
  });
  const loops = Array.from({ length: trace.loops.length / 3 }, (_, at) => {
    const [frame, number, count] = trace.loops.slice(at * 3, at * 3 + 3) as [number, number, number];
    return { ...site(frame, number), frame, count };
  });
  return { frames, conditions, loops };
}
