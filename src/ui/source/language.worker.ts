import type { FactsAnswer } from '@/contract/catalogue';
import type { ProblemItem } from '@/contract/shared';
import type { ThemeAnswer } from '@/contract/bench';
import {
  complete,
  type Suggestions,
  formatTemplate,
  hoverAt,
  type Hover,
  definitionOf,
  lineAt,
  renaming,
  thingAt,
  usesOf,
  type FileEdits,
  type Thing,
  type Use,
} from '@/core/editing';
import { KnownFacts, type FieldDefinition } from '@/core/catalogue';
import { parseTemplate } from '@/core/language';
import { Theme, type Layer } from '@/core/theme';

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

/** What the worker answers, by what it is asked. */
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
}

export type Asked = { [K in keyof Answers]: { id: number; kind: K; ask: Answers[K]['ask'] } }[keyof Answers];

let layers: Layer[] = [];
let locale = 'en-GB';
let definitions: ThemeAnswer['definitions'] = { product: [], category: [] };
let facts: KnownFacts | null = null;
let typed = new Map<string, string>();
let made: Theme | null = null;

/** The theme as it is saved, with what is typed over it. */
function theme(): Theme {
  if (made) return made;
  const top = layers[layers.length - 1];
  const files = new Map(top?.files);
  for (const [path, text] of typed) files.set(path, { hash: `typed ${hashOf(text)}`, text });
  const stack = top ? [...layers.slice(0, -1), { ...top, files }] : layers;
  return (made = new Theme(stack, locale, {
    definitions: (subject) => definitions[subject] as FieldDefinition[],
    site: facts,
  }));
}

function withText({ file, layer, text }: Spot): Theme {
  const own = layers[layers.length - 1]?.name;
  if (layer === own && typed.get(file) !== text) {
    typed.set(file, text);
    made = null;
  }
  return theme();
}

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

const answers: {
  [K in keyof Answers]: (ask: Answers[K]['ask']) => Answers[K]['answer'] | Promise<Answers[K]['answer']>;
} = {
  load: (snapshot) => {
    layers = snapshot.layers.map((layer) => ({
      ...layer,
      files: new Map(layer.files.map(({ path, hash, text }) => [path, { hash, text }])),
    }));
    locale = snapshot.locale;
    definitions = snapshot.definitions;
    facts = new KnownFacts(snapshot.facts);
    made = null;
    return null;
  },
  texts: (texts) => {
    typed = new Map(texts.map(({ path, text }) => [path, text]));
    made = null;
    return null;
  },
  learn: ({ fields, facts: found }) => {
    fields.forEach(({ object, path }, at) => facts?.learn(object, path, found[at] ?? null));
    return null;
  },
  check: (paths) => {
    const now = theme();
    const problems = paths.flatMap((path): ProblemItem[] => {
      if (!path.endsWith('.html')) return [];
      const text = typed.get(path);
      if (!layers.length) return text === undefined ? [] : parseTemplate(path, text).problems;
      return now.check(path.slice(0, -5));
    });
    return { problems, wanted: [...(facts?.wanted.values() ?? [])] };
  },
  complete: (spot) => complete(withText(spot), spot.file, spot.text, spot.offset),
  hover: (spot) => hoverAt(withText(spot), spot.file, spot.layer, spot.text, spot.offset),
  thing: (spot) => thingAt(withText(spot), spot.file, spot.layer, spot.text, spot.offset),
  definition: (thing) => definitionOf(theme(), thing),
  uses: (thing) => usesOf(theme(), thing),
  rename: ({ thing, name }) => renaming(theme(), thing, name),
  find: ({ words, capitals }) => {
    const found: Found[] = [];
    const wanted = capitals ? words : words.toLowerCase();
    for (const layer of theme().layers)
      for (const [file, { text }] of layer.files) {
        if (text === null || !wanted) continue;
        const held = capitals ? text : text.toLowerCase();
        for (let at = held.indexOf(wanted); at >= 0; at = held.indexOf(wanted, at + wanted.length)) {
          if (found.length >= maxMatches) return found;
          found.push({ file, layer: layer.name, from: at, ...lineAt(text, at) });
        }
      }
    return found;
  },
  format: ({ file, text }) => (file.endsWith('.html') ? formatTemplate(text) : formatOther(file, text)),
};

/** Answers the editor from the same core as the server, away from the keyboard's thread. */
self.onmessage = async ({ data }: MessageEvent<Asked>) => {
  const answer = answers[data.kind] as (ask: unknown) => unknown;
  try {
    self.postMessage({ id: data.id, answer: await answer(data.ask) });
  } catch (error) {
    self.postMessage({ id: data.id, failed: (error as Error).message });
  }
};
