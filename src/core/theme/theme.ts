import { LRUCache } from 'lru-cache';
import {
  checkTemplate,
  compileTemplate,
  parseTemplate,
  type Compiled,
  Source,
  unusedPieces,
  type Problem,
  type RecordValue,
  type SiteFacts,
  type Template,
  type TemplateLookup,
  type ThemeFacts,
  type ObjectTypes,
} from '@/core/language';
import { objectTypes, type FieldDefinition, type FieldSubject } from '@/core/catalogue';
import {
  checkAlternates,
  followed,
  readAlternates,
  templateOf,
  type ReadAlternates,
  type SlugNow,
} from '@/core/alternates';
import { amended } from './amend';
import { amendmentOf, amendsOther } from './amendment';
import { unmarked } from './mark';
import { checkSheet, checkTemplateStyles, StyleNames } from './css';
import { fontSheet, fontsOf } from './fonts';
import { spriteVersion, versionOfText } from './icons';
import { PageIds } from './ids';
import { lookOf } from './look';
import {
  checkShelfElements,
  checkShelves,
  piecesForShelves,
  readShelves,
  type Shelf,
  shelvesFollowed,
  shelvesIn,
  shelvesOf,
  type ShelfEntry,
} from './shelves';
import { aboutOf, type About } from './about';
import { checkDataFiles } from './data-files';
import { phraseValueProblems } from './phrase-values';
import { Phrases } from './phrases';
import { staysElsewhere } from './stays';
import { type Phrase } from './words';

/** The shop that a theme is checked for: its custom fields (null: not known, so that any may exist), and what it holds. */
export interface Surroundings {
  definitions: ((subject: FieldSubject) => readonly FieldDefinition[]) | null;
  site: SiteFacts | null;
  /** What things are called now that a file may name by an earlier slug; none: nothing was renamed. */
  slugNow?: SlugNow | null;
}

export type LayerKind = 'base' | 'add-on' | 'shop';

/** One file of a layer. `text` is null for what is not text (pictures, fonts). */
export interface LayerFile {
  /** Hash of its bytes: files with one hash are the same. */
  hash: string;
  text: string | null;
}

export interface Layer {
  kind: LayerKind;
  name: string;
  version: string;
  files: ReadonlyMap<string, LayerFile>;
}

/** A file as it serves: from the topmost layer that has it. */
export interface ServedFile extends LayerFile {
  path: string;
  layer: Layer;
}

/** A template as its layers make it, with the topmost file, the key that it is cached by, and whether anything of styles stands in it. */
interface Made {
  template: Template;
  top: Template;
  key: string;
  styled: boolean;
}

const served = (path: string, { hash, text }: LayerFile, layer: Layer): ServedFile => ({
  hash,
  text: text !== null && path.endsWith('.json') ? unmarked(text) : text,
  path,
  layer,
});

/** Trees and compiled forms that are cached, of each kind: those of some themes of a thousand files. */
const max = 4000;
const parsed = new LRUCache<string, Template>({ max });
const composed = new LRUCache<string, Template>({ max });
const compiled = new LRUCache<string, Compiled>({ max });
const compiledTraced = new LRUCache<string, Compiled>({ max });

function cached<T extends object>(cache: LRUCache<string, T>, key: string, make: () => T): T {
  let value = cache.get(key);
  if (value === undefined) cache.set(key, (value = make()));
  return value;
}

const keyOf = ({ layer, path, hash }: ServedFile): string => `${layer.name} ${path} ${hash}`;

export const parsedFile = (file: ServedFile): Template =>
  cached(parsed, keyOf(file), () => parseTemplate(file.path, file.text ?? '', file.layer.name));

/**
 * A stack of layers as one theme: which file serves, parsed and compiled. Trees and compiled forms are kept by content,
 * and shared between all themes that hold the same file. Longer than most files: all that a theme is asked stands here, each answer in
 * a few lines.
 */
export class Theme implements TemplateLookup, ThemeFacts {
  readonly #served = new Map<string, ServedFile>();
  readonly #phrases: Phrases;
  readonly #templates = new Map<string, Made | null>();
  #names: string[] | null = null;
  #about: About | null = null;
  #schemes: ReadonlySet<string> | null = null;
  #look: RecordValue | null = null;
  #types: ObjectTypes | null = null;
  #iconsVersion: string | null = null;
  #checked: readonly Problem[] | null = null;
  #fonts: { text: string; version: string } | null | undefined;
  #shelves: readonly ShelfEntry[] | null = null;
  #shelfPlaces: ReadonlyMap<string, { shelf: Shelf; templates: string[] }> | null = null;
  #assignments: ReadAlternates | null = null;
  #styleNames: StyleNames | null = null;
  #ids: PageIds | null = null;

  /** `layers` from the lowest (the base) to the topmost (the shop's). */
  constructor(
    readonly layers: readonly Layer[],
    readonly locale = 'en-GB',
    /** The shop that the theme is for; null: nothing is known of it, and any name and field may exist. */
    readonly surroundings: Surroundings | null = null,
  ) {
    for (const layer of layers) {
      for (const [path, file] of layer.files) this.#served.set(path, served(path, file, layer));
    }
    this.#phrases = new Phrases(layers);
  }

  file(path: string): ServedFile | null {
    return this.#served.get(path) ?? null;
  }

  /** The same path in every layer that has it, lowest first. */
  everywhere(path: string): ServedFile[] {
    return this.layers.flatMap((layer) => {
      const file = layer.files.get(path);
      return file ? [served(path, file, layer)] : [];
    });
  }

  paths(): string[] {
    return [...this.#served.keys()].sort();
  }

  /** Names of all templates: their paths without `.html`. */
  names(): string[] {
    return (this.#names ??= this.paths().flatMap((path) => (path.endsWith('.html') ? [path.slice(0, -5)] : [])));
  }

  templateNames(): string[] {
    return this.names();
  }

  /** A template as it serves: the topmost full file, with the amendments of the layers above it. */
  template(name: string): Template | null {
    return this.#made(name)?.template ?? null;
  }

  compiled(name: string, traced = false): Compiled | null {
    const parts = this.#made(name);
    return (
      parts && cached(traced ? compiledTraced : compiled, parts.key, () => compileTemplate(parts.template, traced))
    );
  }

  /**
   * The files that make a template, lowest first: a full file, then those that amend it. An amendment with nothing below may
   * name another template to change.
   */
  parts(name: string, within: readonly string[] = []): ServedFile[] {
    const stack = this.everywhere(`${name}.html`).filter(({ text }) => text !== null);
    let from = stack.length - 1;
    // Down to a full file, or to an amendment that names another template to change.
    for (; from > 0; from--) {
      const template = parsedFile(stack[from] as ServedFile);
      if (!amendmentOf(template) || this.#changes(template, name) !== null) break;
    }
    const parts = stack.slice(Math.max(0, from));
    const other = parts[0] ? this.#changes(parsedFile(parts[0]), name) : null;
    if (other === null || within.includes(name)) return parts;
    return [...this.parts(other, [...within, name]), ...parts];
  }

  /** The template that an amendment changes instead of the file below; null: none, or that file itself. */
  #changes(template: Template, name: string): string | null {
    const other = amendsOther(template);
    return other === name ? null : other;
  }

  /** Whether a file changes the one below instead of replacing it. */
  amends(file: ServedFile): boolean {
    return file.text !== null && file.path.endsWith('.html') && amendmentOf(parsedFile(file)) !== null;
  }

  #made(name: string): Made | null {
    let tree = this.#templates.get(name);
    if (tree === undefined) {
      const parts = this.parts(name);
      const key = parts.map(keyOf).join('\n');
      const [first, ...rest] = parts;
      tree = first
        ? {
            key,
            top: parsedFile(rest.at(-1) ?? first),
            styled: parts.some(({ text }) => text?.includes('style')),
            template: rest.length
              ? cached(composed, key, () => amended(parsedFile(first), rest.map(parsedFile)))
              : parsedFile(first),
          }
        : null;
      this.#templates.set(name, tree);
    }
    return tree;
  }

  /** The settings of the look, those of upper layers over the lower ones'. */
  get look(): RecordValue {
    return (this.#look ??= lookOf(this.everywhere('look.json').map((file) => file.text)));
  }

  /** The objects in reach, with the settings of this theme's look. */
  get types(): ObjectTypes | null {
    if (!this.surroundings) return null;
    return (this.#types ??= objectTypes(this.surroundings.definitions, this.look));
  }

  get site(): SiteFacts | null {
    return this.surroundings?.site ?? null;
  }

  check(name: string): Problem[] {
    const made = this.#made(name);
    if (!made) return [];
    return [
      ...checkTemplate(made.template, this),
      ...(made.styled ? checkTemplateStyles(made.template, () => this.styleNames) : []),
      ...staysElsewhere(this, name, made.top),
      ...checkShelfElements(name, made.template, this, () => this.shelfPlaces),
      ...(this.#ids ??= new PageIds(this)).problems(name),
    ];
  }

  /** What its styles may name: custom properties, fonts, assets. */
  get styleNames(): StyleNames {
    return (this.#styleNames ??= new StyleNames(this));
  }

  #checkSheet(path: string): Problem[] {
    const { text, layer } = this.file(path) ?? {};
    return text && layer ? checkSheet(new Source(path, text, layer.name), this.styleNames) : [];
  }

  *fontFamilies(): Iterable<string> {
    for (const { family } of fontsOf(this)) yield family;
  }

  /** Problems of what stands at a path: a template with what amends it, a style sheet, or a file of words, settings, placements or assignments. */
  checkFile(path: string): Problem[] {
    if (path.endsWith('.html')) return this.check(path.slice(0, -'.html'.length));
    if (path.endsWith('.css')) return this.#checkSheet(path);
    return path.endsWith('.json') ? this.checkData().filter(({ file }) => file === path) : [];
  }

  /** Problems of all templates, errors first. */
  checkAll(): readonly Problem[] {
    return (this.#checked ??= this.#checkAll());
  }

  #checkAll(): readonly Problem[] {
    const rank = { error: 0, warning: 1, note: 2 };
    // A file that several templates amend is reported once.
    const once = new Map(
      this.names()
        .flatMap((name) => this.check(name))
        .map((one) => [
          `${one.layer} ${one.file} ${one.code} ${one.from} ${one.to} ${one.message} ${JSON.stringify(one.fix)}`,
          one,
        ]),
    );
    return [
      ...once.values(),
      ...this.paths().flatMap((path) => (path.endsWith('.css') ? this.#checkSheet(path) : [])),
      ...this.checkData(),
      ...unusedPieces(this, [
        ...this.shelves.map(({ piece }) => piece),
        ...piecesForShelves(this),
        // Drawn in the place of the piece that they stand beside.
        ...this.assignments.alternates.alternates.map((one) => templateOf(one, one.name)),
      ]),
    ].sort((a, b) => rank[a.severity] - rank[b.severity]);
  }

  /** Problems of words, settings, placements and assignments. */
  checkData(): Problem[] {
    return [...checkDataFiles(this), ...phraseValueProblems(this), ...this.#checkShelves(), ...this.checkAlternates()];
  }

  /** The shelves of its templates, by name, each with the templates that have it. */
  get shelfPlaces(): ReadonlyMap<string, { shelf: Shelf; templates: string[] }> {
    return (this.#shelfPlaces ??= shelvesOf(this));
  }

  /** The placements of all layers' `shelves.json`, those of upper layers over the lower ones'. */
  get shelves(): readonly ShelfEntry[] {
    if (this.#shelves) return this.#shelves;
    const read = this.everywhere('shelves.json').reduce<readonly ShelfEntry[]>(
      (below, { text }) => readShelves(text, below).entries,
      [],
    );
    const now = this.surroundings?.slugNow;
    return (this.#shelves = now ? shelvesFollowed(read, now) : read);
  }

  /** Those of one shelf, in their order. */
  placedOn(shelf: string): readonly ShelfEntry[] {
    return this.shelves.filter((one) => one.shelf === shelf);
  }

  /** Its alternates and who gets them, from the topmost layer with an `alternates.json`. */
  get assignments(): ReadAlternates {
    if (this.#assignments) return this.#assignments;
    const read = readAlternates(this.file('alternates.json')?.text ?? null);
    const now = this.surroundings?.slugNow;
    return (this.#assignments = now ? { ...read, alternates: followed(read.alternates, now) } : read);
  }

  checkAlternates(): Problem[] {
    const file = this.file('alternates.json');
    return file ? checkAlternates(file.text ?? '', file.layer.name, this.assignments.wrong) : [];
  }

  #checkShelves(): Problem[] {
    let below: readonly ShelfEntry[] = [];
    return this.everywhere('shelves.json').flatMap(({ text, layer }) => {
      const definitions = this.surroundings?.definitions ?? null;
      const around = { below, replaced: () => this.#replacedShelves(), definitions };
      const problems = checkShelves(text, layer.name, this, around);
      below = readShelves(text, below).entries;
      return problems;
    });
  }

  /** Shelves of full files that upper layers replace. */
  #replacedShelves(): ReadonlySet<string> {
    const names = new Set<string>();
    for (const name of this.names())
      for (const file of this.everywhere(`${name}.html`).slice(0, -1))
        for (const shelf of shelvesIn(parsedFile(file).children)) names.add(shelf);
    return names;
  }

  /** A phrase in the theme's locale, or else as a layer wrote it first; null where no layer has it. */
  phrase(key: string): Phrase | null {
    return this.phraseIn(this.locale, key) ?? this.firstPhrase(key);
  }

  /** A phrase in a locale (`en-GB`), then in its language (`en`); null where it has none. */
  phraseIn(locale: string, key: string): Phrase | null {
    return this.#phrases.in(locale, key);
  }

  /** A phrase in the first language of the topmost layer that has it: so a shop in another language shows no keys. */
  firstPhrase(key: string): Phrase | null {
    return this.#phrases.first(key);
  }

  phraseKeys(): Set<string> {
    return this.#phrases.keys(this.locale);
  }

  *assetPaths(): Iterable<string> {
    yield 'fonts.css';
    for (const path of this.#served.keys()) if (path.startsWith('assets/')) yield path.slice('assets/'.length);
  }

  /** Changes with any icon of the theme. */
  get iconsVersion(): string {
    return (this.#iconsVersion ??= spriteVersion(this));
  }

  /** The style sheet of the theme's own fonts, with a name for what it is; null: it has none. */
  get fonts(): { text: string; version: string } | null {
    if (this.#fonts === undefined) {
      const text = fontSheet(this);
      this.#fonts = text ? { text, version: versionOfText(text) } : null;
    }
    return this.#fonts;
  }

  /** Hosts that the `about.json` of a layer allows scripts and frames to come from. */
  get hosts(): string[] {
    return this.about.hosts;
  }

  /** Schemes that the `about.json` of a layer allows links to have. */
  get schemes(): ReadonlySet<string> {
    return (this.#schemes ??= new Set(this.about.schemes.map((one) => one.toLowerCase())));
  }

  /** Menus that the `about.json` of a layer says its templates show. */
  get menus(): readonly string[] {
    return this.about.menus;
  }

  get about(): About {
    return (this.#about ??= aboutOf(this.everywhere('about.json').map(({ text }) => text)));
  }
}
