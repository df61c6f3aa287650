import type { FactsAnswer } from '@/contract/catalogue';
import type { ProblemItem } from '@/contract/shared';
import type { ThemeAnswer } from '@/contract/bench';
import {
  complete,
  completeJson,
  type Suggestions,
  formatTemplate,
  hoverAt,
  hoverJson,
  type Hover,
  definitionOf,
  lineAt,
  renaming,
  thingAt,
  usesIn,
  usesOf,
  type FileEdits,
  type Thing,
  type Use,
} from '@/core/editing';
import { KnownFacts, type FieldDefinition } from '@/core/catalogue';
import { parseTemplate } from '@/core/language';
import { checkDeclaration, Theme, withPhrase, withPhrases, wordsOf, type Layer, type WordRow } from '@/core/theme';

/** Where something is asked about: a file of a layer with its text as it stands, and an offset. */
export interface Spot {
  file: string;
  layer: string;
  text: string;
  offset: number;
}

/** A match of a text that was looked for in every file. */
export interface Found {
  file: string;
  layer: string;
  from: number;
  line: number;
  text: string;
}

/** What the language answers, by what it is asked. */
export interface Answers {
  load: { ask: ThemeAnswer; answer: null };
  /** Texts that are not saved, all of them. */
  texts: { ask: { path: string; text: string }[]; answer: null };
  learn: { ask: { fields: { object: string; path: string[] }[]; facts: FactsAnswer }; answer: null };
  /** Problems of these templates; `wanted`: fields whose emptiness is not known yet. */
  check: { ask: string[]; answer: { problems: ProblemItem[]; wanted: { object: string; path: string[] }[] } };
  complete: { ask: Spot; answer: Suggestions | null };
  hover: { ask: Spot; answer: Hover | null };
  thing: { ask: Spot; answer: Use | null };
  definition: { ask: Thing; answer: { file: string; layer: string; from: number } | null };
  uses: { ask: Thing; answer: Use[] };
  rename: { ask: { thing: Thing; name: string }; answer: FileEdits[] };
  find: { ask: { words: string; capitals: boolean }; answer: Found[] };
  format: { ask: { file: string; text: string }; answer: string | null };
  /** The shop’s files of words with further phrases, in each of its languages. */
  phrases: { ask: { key: string; text: string }[]; answer: { path: string; text: string }[] };
  /** The phrases that a stretch of a file names. */
  named: { ask: { file: string; layer: string; from: number; to: number }; answer: string[] };
  /** The phrases of a file of words as all layers have them together. */
  words: { ask: Spot; answer: WordRow[] };
  /** A file of words with one more phrase. */
  word: { ask: { text: string; key: string; phrase: WordRow['phrase'] }; answer: string };
  /** What is wrong with a declaration of a style; null: nothing. */
  declaration: { ask: { property: string; value: string }; answer: string | null };
}

type Answered<K extends keyof Answers> = Answers[K]['answer'] | Promise<Answers[K]['answer']>;

/** The theme of a draft as it is saved, with what is typed over it, and all that an editor asks of it. */
export class LanguageService {
  #layers: Layer[] = [];
  #locale = 'en-GB';
  #definitions: ThemeAnswer['definitions'] = { product: [], category: [], content: [], article: [] };
  #facts: KnownFacts | null = null;
  #typed = new Map<string, string>();
  #theme: Theme | null = null;

  /** Answers one thing; long work looks at `signal` between its parts. */
  answer<K extends keyof Answers>(kind: K, ask: Answers[K]['ask'], signal?: AbortSignal): Answered<K> {
    return this.#answers[kind](ask, signal);
  }

  readonly #answers: { [K in keyof Answers]: (ask: Answers[K]['ask'], signal?: AbortSignal) => Answered<K> } = {
    load: (snapshot) => {
      this.#layers = snapshot.layers.map((layer) => ({
        ...layer,
        files: new Map(layer.files.map(({ path, hash, text }) => [path, { hash, text }])),
      }));
      this.#locale = snapshot.locale;
      this.#definitions = snapshot.definitions;
      this.#facts = new KnownFacts(snapshot.facts);
      this.#theme = null;
      return null;
    },
    texts: (texts) => {
      const typed = new Map(texts.map(({ path, text }) => [path, text]));
      // A theme is made once for a keystroke, whichever request brings it first.
      if (!isSame(typed, this.#typed)) this.#theme = null;
      this.#typed = typed;
      return null;
    },
    learn: ({ fields, facts }) => {
      fields.forEach(({ object, path }, at) => this.#facts?.learn(object, path, facts[at] ?? null));
      return null;
    },
    check: (paths, signal) => this.#check(paths, signal),
    complete: (spot) =>
      (spot.file.endsWith('.json') ? completeJson : complete)(this.#with(spot), spot.file, spot.text, spot.offset),
    hover: (spot) =>
      spot.file.endsWith('.json')
        ? hoverJson(spot.file, spot.text, spot.offset)
        : hoverAt(this.#with(spot), spot.file, spot.layer, spot.text, spot.offset),
    thing: (spot) => thingAt(this.#with(spot), spot.file, spot.layer, spot.text, spot.offset),
    definition: (thing) => definitionOf(this.#now(), thing),
    uses: (thing) => usesOf(this.#now(), thing),
    rename: ({ thing, name }) => renaming(this.#now(), thing, name),
    find: ({ words, capitals }) => this.#find(words, capitals),
    format: ({ file, text }) => (file.endsWith('.html') ? formatTemplate(text) : formatOther(file, text)),
    phrases: (phrases) => withPhrases(this.#now(), this.#facts?.locales ?? [], phrases),
    named: (stretch) => this.#named(stretch),
    words: (spot) => wordsOf(this.#with(spot), spot.file),
    word: ({ text, key, phrase }) => withPhrase(text, key, phrase),
    declaration: ({ property, value }) => checkDeclaration(property, value, this.#now().styleNames)[0]?.message ?? null,
  };

  #now(): Theme {
    if (this.#theme) return this.#theme;
    const top = this.#layers[this.#layers.length - 1];
    const files = new Map(top?.files);
    for (const [path, text] of this.#typed) files.set(path, { hash: `typed ${hashOf(text)}`, text });
    const stack = top ? [...this.#layers.slice(0, -1), { ...top, files }] : this.#layers;
    return (this.#theme = new Theme(stack, this.#locale, {
      definitions: (subject) => this.#definitions[subject] as FieldDefinition[],
      site: this.#facts,
    }));
  }

  /** The theme with a text as it stands in the editor. */
  #with({ file, layer, text }: Spot): Theme {
    const top = this.#layers[this.#layers.length - 1];
    const known = this.#typed.get(file) ?? top?.files.get(file)?.text;
    if (layer === top?.name && known !== text) {
      this.#typed.set(file, text);
      this.#theme = null;
    }
    return this.#now();
  }

  async #check(paths: string[], signal?: AbortSignal): Promise<Answers['check']['answer']> {
    const problems: ProblemItem[] = [];
    let rested = performance.now();
    for (const path of paths) {
      const text = this.#typed.get(path);
      if (this.#layers.length) problems.push(...this.#now().checkFile(path));
      else if (text !== undefined && path.endsWith('.html')) problems.push(...parseTemplate(path, text).problems);
      if (performance.now() - rested < slice) continue;
      // What was asked meanwhile may make the rest needless.
      await breath();
      signal?.throwIfAborted();
      rested = performance.now();
    }
    return { problems, wanted: [...(this.#facts?.wanted.values() ?? [])] };
  }

  #find(words: string, capitals: boolean): Found[] {
    const found: Found[] = [];
    const wanted = capitals ? words : words.toLowerCase();
    for (const layer of this.#now().layers)
      for (const [file, { text }] of layer.files) {
        if (text === null || !wanted) continue;
        const held = capitals ? text : text.toLowerCase();
        for (let at = held.indexOf(wanted); at >= 0; at = held.indexOf(wanted, at + wanted.length)) {
          if (found.length >= maxMatches) return found;
          found.push({ file, layer: layer.name, from: at, ...lineAt(text, at) });
        }
      }
    return found;
  }

  #named({ file, layer, from, to }: Answers['named']['ask']): string[] {
    const theme = this.#now();
    const text = theme.everywhere(file).find((one) => one.layer.name === layer)?.text ?? '';
    const uses = usesIn(file, layer, text, theme).filter(
      (one) => one.thing.kind === 'phrase' && one.from >= from && one.to <= to,
    );
    return [...new Set(uses.map(({ thing }) => thing.name))];
  }
}

/** How long a check goes on before it lets other requests in, in milliseconds. */
const slice = 12;

/** Lets what waits at the door in. */
export const breath = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

const isSame = (a: ReadonlyMap<string, string>, b: ReadonlyMap<string, string>): boolean =>
  a.size === b.size && [...a].every(([path, text]) => b.get(path) === text);

/** Two 32-bit FNV-1a hashes and the length: texts with the same are taken for the same. */
function hashOf(text: string): string {
  let a = 0x811c9dc5;
  let b = 0xcbf29ce4;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    a = Math.imul(a ^ code, 0x01000193);
    b = Math.imul(b ^ (code + at), 0x01000193);
  }
  return `${text.length} ${a >>> 0} ${b >>> 0}`;
}

/** Style sheets, scripts and JSON, as prettier writes them; null for what it cannot read. Loaded when it is first asked for. */
async function formatOther(file: string, text: string): Promise<string | null> {
  const parser = { css: 'postcss', js: 'babel', json: 'json' }[file.split('.').pop() ?? ''];
  if (!parser) return null;
  const [{ format }, postcss, babel, estree] = await Promise.all([
    import('prettier/standalone'),
    import('prettier/plugins/postcss'),
    import('prettier/plugins/babel'),
    import('prettier/plugins/estree'),
  ]);
  const estreePlugin = estree as unknown as typeof babel;
  try {
    return await format(text, { parser, plugins: [postcss, babel, estreePlugin], printWidth: 110, singleQuote: true });
  } catch {
    return null;
  }
}

/** Most matches of a search. */
const maxMatches = 500;
