import { findNodeAtLocation, parseTree, type Node } from 'jsonc-parser';
import {
  attributesOf,
  expressionsOf,
  fixedName,
  parseTemplate,
  partsOf,
  type ElementNode,
  type Expression,
  type TemplateNode,
} from '@/core/language';
import type { Layer, Theme } from '@/core/theme';
import { lineAt } from './things';

/** What of a catalogue a theme names by a text of its own: by slug, of a type and an attribute by what they are called. */
export const namedThings = [
  'product',
  'category',
  'content',
  'article',
  'tag',
  'brand',
  'menu',
  'type',
  'option',
  'attribute',
] as const;
export type NamedThing = (typeof namedThings)[number];

/** A place of a theme that names something of the catalogue. Offsets are those of the name alone, so that another can take its place. */
export interface ValueUse {
  of: NamedThing;
  value: string;
  where: 'template' | 'pin' | 'rule' | 'alternate' | 'shelf' | 'look';
  file: string;
  layer: string;
  from: number;
  to: number;
  line: number;
  /** The line, as written. */
  text: string;
}

/** What a value called this is, when its slug or name is asked. */
const holders: Record<string, NamedThing> = {
  product: 'product',
  category: 'category',
  parent: 'category',
  content: 'content',
  article: 'article',
  tag: 'tag',
  brand: 'brand',
  option: 'option',
  attribute: 'attribute',
};
/** What lists of these names hold. */
const lists: Record<string, NamedThing> = {
  products: 'product',
  related: 'product',
  members: 'product',
  categories: 'category',
  children: 'category',
  path: 'category',
  articles: 'article',
  tags: 'tag',
  options: 'option',
  attributes: 'attribute',
};
/** Fields of what is named that hold its name. */
const nameFields: Record<string, readonly NamedThing[]> = {
  slug: ['product', 'category', 'content', 'article', 'tag', 'brand', 'option'],
  name: ['attribute'],
  type: ['product'],
};
/** Functions that are given a name first, and arguments of others that are one. */
const calls: Record<string, NamedThing> = {
  content: 'content',
  category: 'category',
  product: 'product',
  menu: 'menu',
};
const callArguments: Record<string, NamedThing> = { category: 'category', tag: 'tag', type: 'type' };

const address = /^\/(product|category|content|article|listing\/tag|listing\/brand)\/([a-z0-9-]+)(?=[/?#]|$)/;

/** What an address of the site names, and where in it. */
function inAddress(text: string): { of: NamedThing; value: string; at: number } | null {
  const found = address.exec(text);
  const [, kind = '', value = ''] = found ?? [];
  return found ? { of: kind.replace('listing/', '') as NamedThing, value, at: kind.length + 2 } : null;
}

/** The last name of an expression: of `product.brand` it is `brand`. */
const lastName = (one: Expression): string =>
  one.kind === 'name' || one.kind === 'field' ? one.name : one.kind === 'filter' ? lastName(one.of) : '';

type Bound = Readonly<Record<string, NamedThing>>;
type Found = (of: NamedThing, value: string, from: number, to: number) => void;

/** Finds what an expression names. `bound`: what names that loops give stand for. `given`: what a name stands for that is passed on. */
function readExpression(given: Expression, bound: Bound, found: Found, passed: (name: string, of: NamedThing) => void) {
  const names = (one: Expression | undefined, of: NamedThing): void => {
    if (one?.kind === 'text') found(of, one.value, one.from + 1, one.to - 1);
    else if (one?.kind === 'name') passed(one.name, of);
    else if (one?.kind === 'list') for (const item of one.items) names(item, of);
    else if (one?.kind === 'filter') names(one.of, of);
  };
  /** What the texts are that an expression is compared with. */
  const comparedAs = (one: Expression, inside: Bound): NamedThing | null => {
    if (one.kind !== 'field') return null;
    const of = inside[lastName(one.of)] ?? holders[lastName(one.of)];
    if (!of || !nameFields[one.name]?.includes(of)) return null;
    return one.name === 'type' ? 'type' : of;
  };
  const walk = (one: Expression, inside: Bound): void => {
    if (one.kind === 'text') {
      const link = inAddress(one.value);
      if (link) found(link.of, link.value, one.from + 1 + link.at, one.from + 1 + link.at + link.value.length);
    }
    if (one.kind === 'call') {
      const of = calls[one.name];
      if (of) names(one.args.find(({ name }) => name === null)?.value, of);
      if (one.name === 'products')
        for (const { name, value } of one.args) {
          const as = callArguments[name ?? ''];
          if (as) names(value, as);
        }
    }
    if (one.kind === 'filter' && one.name === 'split_by') names(one.args[0]?.value, 'option');
    if (one.kind === 'binary' && ['==', '!=', 'in', 'not in'].includes(one.operator)) {
      const { left, right } = one;
      const held = lists[lastName(right)];
      if (one.operator.endsWith('in') && held) names(left, held);
      for (const [a, b] of [
        [left, right],
        [right, left],
      ] as const) {
        const of = comparedAs(a, inside);
        if (of) names(b, of);
      }
    }
    if (one.kind === 'filter') {
      const held = lists[lastName(one.of)];
      walk(one.of, inside);
      for (const { value } of one.args) walk(value, held ? { ...inside, it: held } : inside);
      return;
    }
    for (const part of partsOf(one)) walk(part, inside);
  };
  walk(given, bound);
}

/** What a template names, and what its inputs are that it passes on as names. */
function readTemplate(
  nodes: readonly TemplateNode[],
  found: Found,
  passed: (name: string, of: NamedThing) => void,
  inputOf: (piece: string, input: string) => NamedThing | null,
): void {
  const element = (node: ElementNode): void => {
    const piece = node.own && node.name === 'draw' ? fixedName(node) : null;
    for (const attribute of attributesOf(node)) {
      const handed = attribute.parts?.find((part) => typeof part !== 'string');
      const name = handed ? lastName(handed) : '';
      const stands = piece !== null && name ? inputOf(piece, attribute.name) : null;
      if (stands) passed(name, stands);
      if (!attribute.value || attribute.parts || attribute.source) continue;
      const { from, to } = attribute.value;
      const text = node.source.slice(from, to);
      const link = inAddress(text);
      if (link) found(link.of, link.value, from + link.at, from + link.at + link.value.length);
      const of = piece === null ? null : inputOf(piece, attribute.name);
      if (of) found(of, text, from, to);
    }
  };
  const walk = (some: readonly TemplateNode[], bound: Bound): void => {
    for (const node of some) {
      if (node.type === 'value') readExpression(node.expression, bound, found, passed);
      if (node.type !== 'element') continue;
      const { each } = node.directives;
      const held = each && lists[lastName(each.list)];
      const inside = each && held ? { ...bound, [each.item]: held } : bound;
      element(node);
      for (const one of expressionsOf(node)) readExpression(one, inside, found, passed);
      walk(node.children, inside);
    }
  };
  walk(nodes, {});
}

/** What the inputs of each piece stand for, as far as the piece asks the catalogue for what they name. */
class PieceInputs {
  readonly #known = new Map<string, ReadonlyMap<string, NamedThing>>();

  constructor(readonly theme: Theme) {}

  of(piece: string, input: string): NamedThing | null {
    let known = this.#known.get(piece);
    if (!known) {
      const inputs = new Map<string, NamedThing>();
      this.#known.set(piece, inputs);
      const template = this.theme.template(piece);
      const takes = new Set(template?.takes.map(({ name }) => name));
      const passed = (name: string, of: NamedThing) => void (takes.has(name) && inputs.set(name, of));
      readTemplate(
        template?.children ?? [],
        () => {},
        passed,
        (inner, name) => this.of(inner, name),
      );
      known = inputs;
    }
    return known.get(input) ?? null;
  }
}

const factThings: Record<string, NamedThing> = {
  tag: 'tag',
  type: 'type',
  category: 'category',
  below: 'category',
  brand: 'brand',
};

const textOf = (node: Node | undefined): string | null =>
  node?.type === 'string' && typeof node.value === 'string' ? node.value : null;
const at = (node: Node, ...path: (string | number)[]): Node | undefined => findNodeAtLocation(node, path);
const itemsOf = (node: Node | undefined): readonly Node[] => (node?.type === 'array' ? (node.children ?? []) : []);

type FoundIn = (where: ValueUse['where'], of: NamedThing, value: string, from: number) => void;

/** A text of a JSON file that is a name as a whole, or (of a listing) after what it lists. */
function readName(node: Node | undefined, kind: string | null, where: ValueUse['where'], found: FoundIn): void {
  const value = textOf(node);
  if (!node || value === null || kind === null) return;
  const [by = '', rest] = value.split('/');
  if (kind === 'listing') {
    if (rest && (by === 'tag' || by === 'brand')) found(where, by, rest, node.offset + 1 + by.length + 1);
  } else if ((namedThings as readonly string[]).includes(kind))
    found(where, kind as NamedThing, value, node.offset + 1);
}

/** What a condition of a rule asks for. */
function readCondition(node: Node | undefined, kind: string | null, found: FoundIn): void {
  if (!node) return;
  for (const group of ['all', 'any', 'not'])
    for (const part of itemsOf(at(node, group))) readCondition(part, kind, found);
  const fact = textOf(at(node, 'fact'));
  if (fact === null) return;
  if (fact === 'attribute') return readName(at(node, 'name'), 'attribute', 'rule', found);
  const of = fact === 'slug' ? kind : (factThings[fact] ?? null);
  const value = at(node, 'value');
  for (const one of value?.type === 'array' ? itemsOf(value) : [value]) readName(one, of, 'rule', found);
}

function readAssignments(root: Node, found: FoundIn): void {
  for (const pin of itemsOf(at(root, 'pins'))) readName(at(pin, 'slug'), textOf(at(pin, 'kind')), 'pin', found);
  for (const rule of itemsOf(at(root, 'rules'))) readCondition(at(rule, 'when'), textOf(at(rule, 'kind')), found);
  for (const one of itemsOf(at(root, 'alternates')))
    for (const type of itemsOf(at(one, 'types'))) readName(type, 'type', 'alternate', found);
}

function readShelves(root: Node, inputs: PieceInputs, pieceOf: (id: string) => string | null, found: FoundIn): void {
  for (const placement of itemsOf(at(root, 'placements'))) {
    const subject = at(placement, 'subject');
    const [kind = '', ...slug] = (textOf(subject) ?? '').split('/');
    if (subject && slug.length) {
      const [by = '', rest] = slug;
      const before = subject.offset + 1 + kind.length + 1;
      if (kind === 'listing' && rest) found('shelf', by as NamedThing, rest, before + by.length + 1);
      else if ((namedThings as readonly string[]).includes(kind))
        found('shelf', kind as NamedThing, slug.join('/'), before);
    }
    readCondition(at(placement, 'when'), textOf(at(placement, 'kind')), (_, ...named) => found('shelf', ...named));
    const piece = textOf(at(placement, 'piece')) ?? pieceOf(textOf(at(placement, 'id')) ?? '');
    for (const property of at(placement, 'inputs')?.children ?? []) {
      const [name, value] = property.children ?? [];
      const of = piece === null ? null : inputs.of(piece, textOf(name) ?? '');
      for (const one of value?.type === 'array' ? itemsOf(value) : [value]) if (of) readName(one, of, 'shelf', found);
    }
  }
}

/** Every place of the files that serve which names something of the catalogue: templates, pins, rules, alternates' types, shelves, the look. */
export function valueUses(theme: Theme): ValueUse[] {
  const uses: ValueUse[] = [];
  const inputs = new PieceInputs(theme);
  const seen = new Set<string>();
  const put = (file: string, layer: Layer, text: string) => {
    const lines = new Map<number, { line: number; text: string }>();
    return (where: ValueUse['where'], of: NamedThing, value: string, from: number, to = from + value.length) => {
      const line = lines.get(from) ?? lineAt(text, from);
      lines.set(from, line);
      uses.push({ of, value, where, file, layer: layer.name, from, to, ...line });
    };
  };
  for (const path of theme.paths()) {
    if (!path.endsWith('.html')) continue;
    for (const { path: own, layer, text } of theme.parts(path.replace(/\.html$/, ''))) {
      const here = `${layer.name}\n${own}`;
      if (text === null || seen.has(here)) continue;
      seen.add(here);
      const found = put(own, layer, text);
      readTemplate(
        parseTemplate(own, text, layer.name).children,
        (of, value, from, to) => found('template', of, value, from, to),
        () => {},
        (piece, input) => inputs.of(piece, input),
      );
    }
  }
  const assignments = theme.file('alternates.json');
  const json = (text: string | null | undefined): Node | undefined => (text ? parseTree(text) : undefined);
  const assigned = json(assignments?.text);
  if (assignments?.text && assigned)
    readAssignments(assigned, put('alternates.json', assignments.layer, assignments.text));
  const pieceOf = (id: string) => theme.shelves.find((one) => one.id === id)?.piece ?? null;
  for (const layer of theme.layers) {
    const shelves = layer.files.get('shelves.json')?.text;
    const root = json(shelves);
    if (shelves && root) readShelves(root, inputs, pieceOf, put('shelves.json', layer, shelves));
    const look = layer.files.get('look.json')?.text;
    const settings = json(look);
    if (!look || !settings) continue;
    for (const property of at(settings, 'listings')?.children ?? []) {
      const [, listing] = property.children ?? [];
      const found = put('look.json', layer, look);
      if (listing) readName(at(listing, 'split_by'), 'option', 'look', found);
      for (const own of (listing && at(listing, 'values_of')?.children) ?? [])
        readName(own.children?.[0], 'product', 'look', found);
    }
  }
  return uses;
}

/** The files of a layer with another name in place of one, at all its uses; only those that change. */
export function renamedUses(
  { name: layer, files }: Layer,
  uses: readonly ValueUse[],
  { of, value }: Pick<ValueUse, 'of' | 'value'>,
  to: string,
): Map<string, string> {
  const texts = new Map<string, string>();
  const own = uses.filter((use) => use.layer === layer && use.of === of && use.value === value);
  // From the end, so that the offsets before stay true; a place that is found twice is written once.
  for (const use of own.sort((a, b) => b.from - a.from)) {
    const text = texts.get(use.file) ?? files.get(use.file)?.text ?? '';
    if (text.slice(use.from, use.to) !== value) continue;
    texts.set(use.file, text.slice(0, use.from) + to + text.slice(use.to));
  }
  return texts;
}
