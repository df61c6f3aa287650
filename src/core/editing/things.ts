import {
  parseTemplate,
  type ElementNode,
  type TemplateNode,
  type Expression,
  eachExpression,
  expressionsOf,
  fixedName,
  amendElements,
} from '@/core/language';
import { namedInShelves, type Theme } from '@/core/theme';

/** Something of a theme that sources name: equal things have equal keys. */
export interface Thing {
  kind: 'piece' | 'input' | 'mark' | 'gap' | 'phrase' | 'asset' | 'icon' | 'content' | 'menu';
  /** A piece's, phrase's, file's name; an input's, mark's or gap's own name. */
  name: string;
  /** Of an input, mark or gap: the template that it belongs to. */
  of: string;
}

/** A place where a thing is named. `defines`: it is made there. Offsets are those of the name itself. */
export interface Use {
  thing: Thing;
  file: string;
  layer: string;
  from: number;
  to: number;
  line: number;
  /** The line, as written. */
  text: string;
  defines: boolean;
}

type Names = ReadonlySet<string>;

export const keyOfThing = ({ kind, name, of }: Thing): string => `${kind} ${of} ${name}`;

/** What each kind is called. */
export const thingWords: Record<Thing['kind'], string> = {
  piece: 'template',
  input: 'input',
  mark: 'mark',
  gap: 'gap',
  phrase: 'phrase',
  asset: 'file',
  icon: 'icon',
  content: 'content page',
  menu: 'menu',
};

const calls: Record<string, Thing['kind']> = {
  t: 'phrase',
  asset: 'asset',
  icon: 'icon',
  content: 'content',
  menu: 'menu',
  fragment: 'piece',
};

/** Everything that a file names, in its order. */
export function usesIn(file: string, layer: string, text: string, theme: Theme): Use[] {
  if (!namesThings(file)) return [];
  if (file === 'shelves.json')
    return namedInShelves(text).map(({ kind, name, from, to }) => ({
      ...{ thing: { kind, name, of: '' }, file, layer, from, to, defines: false },
      ...lineAt(text, from),
    }));
  const template = parseTemplate(file, text, layer);
  const own = file.replace(/\.html$/, '');
  const inputs = new Set((theme.template(own) ?? template).takes.map((take) => take.name));
  const uses: Use[] = [];
  const add = (thing: Thing, from: number, to: number, defines = false): void => {
    uses.push({ thing, file, layer, from, to, ...lineAt(text, from), defines });
  };
  const expression = (given: Expression, bound: Names): void =>
    eachExpression(given, (inner) => {
      if (inner.kind === 'name' && inputs.has(inner.name) && !bound.has(inner.name))
        add({ kind: 'input', name: inner.name, of: own }, inner.from, inner.to);
      if (inner.kind !== 'call' || !calls[inner.name]) return;
      const [first] = inner.args;
      if (first?.name !== null || first.value.kind !== 'text') return;
      add(
        { kind: calls[inner.name] as Thing['kind'], name: first.value.value, of: '' },
        first.value.from + 1,
        first.value.to - 1,
      );
    });
  const element = (node: ElementNode, bound: Names, reach: ReadonlyMap<Expression, Names>): void => {
    const drawn = node.own && node.name === 'draw' ? fixedName(node) : null;
    for (const attribute of node.attributes) {
      const { name, value, parts, from } = attribute;
      const fixed = value && !parts ? node.source.slice(value.from, value.to) : null;
      const put = (kind: Thing['kind'], of: string, defines = false) => {
        if (value && fixed) add({ kind, name: fixed, of }, value.from, value.to, defines);
      };
      if (name === 'do:mark') put('mark', own, true);
      if (!node.own) continue;
      if ((node.name === 'draw' && name === 'name') || (node.name === 'amend' && name === 'of')) put('piece', '');
      else if (drawn !== null && !name.startsWith('do:'))
        add({ kind: 'input', name: written(node, attribute), of: drawn }, from, from + name.length);
      else if (node.name === 'shelf' && name === 'takes' && value && fixed)
        for (const one of fixed.matchAll(/[^\s,]+/g))
          add({ kind: 'piece', name: one[0], of: '' }, value.from + one.index, value.from + one.index + one[0].length);
      else if (node.name === 'takes' && name === 'name') put('input', own, true);
      else if (node.name === 'gap' && name === 'name') put('gap', own, true);
      else if (amendElements.has(node.name) && ['mark', 'before', 'after', 'into'].includes(name))
        put('mark', fixed ? ownerOf(theme, own, fixed) : own);
    }
    for (const one of expressionsOf(node)) expression(one, reach.get(one) ?? bound);
  };
  const walk = (nodes: readonly TemplateNode[], bound: Names, drawn: string | null): void => {
    for (const node of nodes) {
      if (node.type === 'value') expression(node.expression, bound);
      if (node.type !== 'element') continue;
      const { each, lets, gate } = node.directives;
      // What a directive works on does not see the names that it gives.
      const reach = new Map<Expression, Names>();
      if (gate?.kind === 'or-when') reach.set(gate.test, bound);
      if (each) reach.set(each.list, bound);
      let inner: Names = each ? new Set([...bound, each.item, ...(each.at === null ? [] : [each.at])]) : bound;
      for (const { name, value } of lets) {
        reach.set(value, inner);
        inner = new Set([...inner, name]);
      }
      element(node, inner, reach);
      const gap =
        node.own && node.name === 'fill' && drawn !== null ? node.attributes.find((one) => one.name === 'gap') : null;
      if (gap?.value)
        add(
          { kind: 'gap', name: node.source.slice(gap.value.from, gap.value.to), of: drawn as string },
          gap.value.from,
          gap.value.to,
        );
      walk(node.children, inner, node.own && node.name === 'draw' ? fixedName(node) : null);
    }
  };
  walk(template.children, new Set(), null);
  return uses.sort((a, b) => a.from - b.from);
}

/** Files that name others: templates, and the list of what stands on shelves. */
const namesThings = (path: string): boolean => path.endsWith('.html') || path === 'shelves.json';

/** The line that an offset stands in: its number, from 1, and what is written there. */
export function lineAt(text: string, from: number): { line: number; text: string } {
  const start = text.lastIndexOf('\n', from - 1) + 1;
  const end = text.indexOf('\n', from);
  const line = text.slice(0, start).split('\n').length;
  return { line, text: text.slice(start, end < 0 ? text.length : end).trim() };
}

/** The template that a mark named in an amendment belongs to: the amended one's, where it is not its own. */
function ownerOf(theme: Theme, own: string, mark: string): string {
  const chain = theme.parts(own).map(({ path }) => path.replace(/\.html$/, ''));
  const attributeText = `do:mark="${mark}"`;
  const owner = [...new Set([own, ...chain.reverse()])].find((name) =>
    theme.everywhere(`${name}.html`).some(({ text }) => text?.includes(attributeText)),
  );
  return owner ?? own;
}

const written = (node: ElementNode, { from, name }: { from: number; name: string }): string =>
  node.source.slice(from, from + name.length);

/** What is named at an offset of a file's text; null: nothing. */
export function thingAt(theme: Theme, file: string, layer: string, text: string, offset: number): Use | null {
  const here = usesIn(file, layer, text, theme).filter(({ from, to }) => from <= offset && offset <= to);
  return here.sort((a, b) => a.to - a.from - (b.to - b.from))[0] ?? null;
}

/** Every place of the theme that names a thing, in all layers; where it is made first. */
export function usesOf(theme: Theme, thing: Thing): Use[] {
  const key = keyOfThing(thing);
  const found: Use[] = [];
  for (const layer of theme.layers)
    for (const [path, { text }] of layer.files)
      if (text !== null && namesThings(path) && text.includes(thing.name))
        found.push(...usesIn(path, layer.name, text, theme).filter((use) => keyOfThing(use.thing) === key));
  return found.sort((a, b) => Number(b.defines) - Number(a.defines));
}

/** Where a thing is made: a template's file, an input's `<takes>`, a phrase in its words. */
export function definitionOf(theme: Theme, thing: Thing): { file: string; layer: string; from: number } | null {
  const fileAt = (path: string, from = 0) => {
    const served = theme.file(path);
    return served && { file: path, layer: served.layer.name, from };
  };
  switch (thing.kind) {
    case 'piece':
      return fileAt(`${thing.name}.html`);
    case 'asset':
      return fileAt(`assets/${thing.name}`);
    case 'icon':
      return fileAt(`assets/icons/${thing.name}.svg`);
    case 'phrase':
      return phraseAt(theme, thing.name);
    case 'input':
    case 'mark':
    case 'gap': {
      const definitions = usesOf(theme, thing).filter(({ defines }) => defines);
      const last = definitions[definitions.length - 1];
      return last ? { file: last.file, layer: last.layer, from: last.from } : null;
    }
    default:
      return null;
  }
}

/** A phrase's place in the words of the shop's first language: the innermost of its key's names, in the topmost layer. */
function phraseAt(theme: Theme, key: string): { file: string; layer: string; from: number } | null {
  const language = theme.locale.split('-')[0] as string;
  for (const layer of [...theme.layers].reverse())
    for (const path of [`words/${theme.locale}.json`, `words/${language}.json`]) {
      const text = layer.files.get(path)?.text;
      if (!text) continue;
      let at = 0;
      const found = key.split('.').every((name) => {
        const match = new RegExp(`"${name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}"\\s*:`).exec(text.slice(at));
        if (!match) return false;
        at += match.index;
        return true;
      });
      if (found) return { file: path, layer: layer.name, from: at };
    }
  return null;
}

/** Stretches of files with what takes their place. */
export interface FileEdits {
  file: string;
  layer: string;
  edits: { from: number; to: number; text: string }[];
}

/** Renames an input or a piece wherever templates name it: the edits of each file of each layer. */
export function renaming(theme: Theme, thing: Thing, name: string): FileEdits[] {
  const byFile = new Map<string, FileEdits>();
  for (const { file, layer, from, to } of usesOf(theme, thing)) {
    const key = `${layer}\n${file}`;
    const edits = byFile.get(key) ?? { file, layer, edits: [] };
    byFile.set(key, edits);
    edits.edits.push({ from, to, text: name });
  }
  return [...byFile.values()];
}

/** A text with stretches of it replaced. */
export function withEdits(text: string, edits: FileEdits['edits']): string {
  return [...edits]
    .sort((a, b) => b.from - a.from)
    .reduce((now, { from, to, text: put }) => now.slice(0, from) + put + now.slice(to), text);
}
