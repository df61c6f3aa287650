import { findNodeAtLocation, parseTree, type Node } from 'jsonc-parser';
import { z } from 'zod';
import {
  fixOf,
  jsonFault,
  nearestOf,
  problem,
  shapeProblems,
  Source,
  type Problem,
  type SiteFacts,
} from '@/core/language';
import { aboutFile } from './about';
import { alternatesFile } from '@/core/alternates';
import { lookFile, settingShape } from './look';
import { shelvesFile } from './shelves';
import { renamedPhrases, wordProblems } from './words';

/** What each file of data may hold, by its path: what is checked by it is suggested by it too. */
export const fileSchemas: Readonly<Record<string, z.ZodType>> = {
  'about.json': aboutFile,
  'look.json': lookFile,
  'shelves.json': shelvesFile,
  'alternates.json': alternatesFile,
};

/** A theme, as far as its files of data are looked at. */
interface Files {
  paths(): string[];
  /** The same path in every layer that has it, lowest first. */
  everywhere(path: string): { text: string | null; layer: { name: string } }[];
  /** The shop that it is for; null where none is at hand. */
  readonly site: SiteFacts | null;
}

/**
 * Files of words and settings, in any layer: those that are not valid JSON, and what others hold that has no meaning. `shelves.json` and `alternates.json` are
 * checked where they are read.
 */
export function checkDataFiles(theme: Files): Problem[] {
  const paths = theme.paths().filter((path) => /^(?:words\/.+|about|look|stand-ins)\.json$/.test(path));
  return paths.flatMap((path) => {
    const below: string[] = [];
    return theme.everywhere(path).flatMap(({ text, layer }) => {
      const source = new Source(path, text ?? '', layer.name);
      const fault = text === null ? null : jsonFault(text);
      if (!fault) {
        const found = dataProblems(source, below, theme.site);
        below.push(source.text);
        return found;
      }
      const at = { from: fault.offset, to: fault.offset + 1 };
      return [problem('json', source, at, { text: `${path} is not valid JSON: ${fault.says}` })];
    });
  });
}

function dataProblems(source: Source, below: readonly string[], site: SiteFacts | null): Problem[] {
  if (source.file === 'about.json') return shapeProblems(source, aboutFile);
  if (source.file === 'look.json')
    return [...shapeProblems(source, lookFile), ...valueProblems(source, below), ...tileProblems(source, site)];
  return source.file.startsWith('words/') ? [...wordProblems(source), ...renamedPhrases(source)] : [];
}

const setting = z.object({ name: z.string(), ...settingShape }).partial();
type Declared = z.output<typeof setting>;

/** The settings of a `look.json`, each where it stands; those that cannot be read are left out. */
function settingsIn(text: string): { node: Node; given: Declared }[] {
  const root = parseTree(text);
  const list = (root && findNodeAtLocation(root, ['settings'])?.children) ?? [];
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return [];
  }
  const { settings } = (read ?? {}) as { settings?: unknown[] };
  return list.flatMap((node, at) => {
    const given = setting.safeParse(settings?.[at]);
    return given.success && given.data.name !== undefined ? [{ node, given: given.data }] : [];
  });
}

/** Values that a setting does not take, as it is declared here or in a layer below. */
function valueProblems(source: Source, below: readonly string[]): Problem[] {
  const declared = new Map<string, Declared>();
  const declare = (given: Declared) => declared.set(given.name ?? '', { ...declared.get(given.name ?? ''), ...given });
  for (const text of below) for (const { given } of settingsIn(text)) declare(given);
  return settingsIn(source.text).flatMap(({ node, given }) => {
    declare(given);
    const at = findNodeAtLocation(node, ['value']);
    const wrong = at && wrongValue(declared.get(given.name ?? '') ?? given, given.value);
    if (!at || !wrong) return [];
    const span = { from: at.offset, to: at.offset + at.length };
    return [problem('json-value', source, span, { text: `“${given.name}” ${wrong}` })];
  });
}

/** Options and values that listings are to make tiles of, and that no product has; products with values of their own that there are not. */
function tileProblems(source: Source, site: SiteFacts | null): Problem[] {
  const options = site?.named('Option');
  const root = options && parseTree(source.text);
  if (!site || !options || !root) return [];
  const values = [...(site.named('Value') ?? [])].map((one) => one.split('/') as [option: string, value: string]);
  const unknown = (node: Node | undefined, known: ReadonlySet<string>, says: string): Problem[] => {
    if (node?.type !== 'string' || known.has(String(node.value))) return [];
    const near = nearestOf(String(node.value), known);
    const text = `${says} “${String(node.value)}”${near ? `; did you mean “${near.name}”?` : ''}`;
    const span = { from: node.offset, to: node.offset + node.length };
    const fix = fixOf(near, { from: span.from + 1, to: span.to - 1 });
    return [{ ...problem('json-value', source, span, { text }), ...(fix && { fix }) }];
  };
  const kinds = findNodeAtLocation(root, ['listings'])?.children ?? [];
  return kinds.flatMap(({ children }) => {
    const of = children?.[1];
    if (!of) return [];
    const option = findNodeAtLocation(of, ['split_by']);
    const by = option && options.has(String(option.value)) ? String(option.value) : null;
    const known = new Set(values.filter(([slug]) => by === null || slug === by).map(([, value]) => value));
    const noValue = by === null ? 'No product has a value' : `The option “${by}” has no value`;
    const each = (list: Node | undefined) => (list?.children ?? []).flatMap((one) => unknown(one, known, noValue));
    return [
      ...unknown(option, options, 'No product has an option'),
      ...each(findNodeAtLocation(of, ['values'])),
      ...(findNodeAtLocation(of, ['values_of'])?.children ?? []).flatMap(({ children: [slug, list] = [] }) => [
        ...(slug && !site.leads(`/product/${encodeURIComponent(String(slug.value))}`)
          ? unknown(slug, new Set(), 'There is no product')
          : []),
        ...each(list),
      ]),
    ];
  });
}

/** Why a setting does not take a value, said after its name; null: it does. */
function wrongValue({ type, min, max, choices }: Declared, value: Declared['value']): string | null {
  if (value === null || value === undefined) return null;
  if (type === 'number') {
    if (typeof value !== 'number') return 'must be a number';
    if (min !== undefined && value < min) return `is ${value}: it must be at least ${min}`;
    if (max !== undefined && value > max) return `is ${value}: it must be at most ${max}`;
  }
  if (type === 'boolean' && typeof value !== 'boolean') return 'must be true or false';
  if (type === 'colour' && !(typeof value === 'string' && /^#[0-9a-f]{3,8}$/i.test(value)))
    return 'must be a colour, as in “#17324a”';
  if (type === 'choice' && choices) {
    const known = choices.map((one) => (typeof one === 'string' ? one : one.value));
    if (!known.includes(String(value))) return `must be one of ${known.map((one) => `“${one}”`).join(', ')}`;
  }
  return null;
}
