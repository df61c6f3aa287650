import {
  isEmpty,
  isRecord,
  type ElementNode,
  type SiteFacts,
  type Template,
  type Trace,
  type Value,
  understand,
  inWords,
  type ObjectTypes,
  type Type,
  type LocaleFormat,
} from '@/core/language';
import type { Theme } from '@/core/theme';
import { recordPlace, type RecordPlace, type ValueStep } from './record-place';
import { shownValue, type Shown } from './shown';

/** A value in reach of a place: its path, its type, what it is on this page, and how often it is empty over the catalogue. */
export interface Reached {
  path: string;
  /** The last step of the path. */
  name: string;
  depth: number;
  type: string;
  /** What it is here; null where the place was not rendered on this page. */
  shown: Shown | null;
  /** It can be empty, and so wants a condition. */
  perhaps: boolean;
  counted: { empty: number; total: number } | null;
  /** It has fields or items to show. */
  opens: boolean;
  open: boolean;
  /** Of a custom field: its unit. */
  unit: string;
  /** What writes it into text: `{product.name}`, a picture's element, a loop. */
  writes: string;
  /** Where it stands in the catalogue, to be changed there; null: it is worked out, or not the catalogue's. */
  record: RecordPlace | null;
}

/** A name that the page has and a place does not see, and the templates on the way down to it. */
export interface OutOfReach {
  name: string;
  type: string;
  shown: Shown | null;
  /** The template that has it. */
  from: string;
}

export interface ReachAsk {
  theme: Theme;
  template: Template;
  /** The element that the place is inside of; null: the file's root. */
  at: ElementNode | null;
  trace: Trace;
  /** Which rendering of the place is meant: its frame; null: the first. */
  frame: number | null;
  globals: Record<string, Value>;
  format: LocaleFormat;
  /** Paths whose fields or items are shown. */
  open: ReadonlySet<string>;
  /** Words that a name or a shown value must hold: then found paths are given instead of the tree. */
  search: string;
  site: SiteFacts | null;
  /** What is printed at the place: the steps of its path. */
  printed: readonly string[] | null;
  /** What the page shows. */
  subject: { kind: string; slug: string } | null;
  /** Units of custom fields, by `product.lead_time`. */
  units: ReadonlyMap<string, string>;
}

export interface Reach {
  rows: Reached[];
  /** How often the place was come by on this page. */
  times: number;
  out: OutOfReach[];
  /** The value that is printed at the place, where it stands in the catalogue. */
  printed: { path: string; record: RecordPlace } | null;
}

/** Most items of a list that are shown, and most values that a search looks at. */
const maxItems = 12;
const maxSearched = 6000;
const maxRows = 40;
const deepest = 5;

/** Every value in reach of a place, with what it is on this page. */
export function reachOf(ask: ReachAsk): Reach {
  const { theme, template, at, trace, frame, globals } = ask;
  const { scopes } = understand(template, theme);
  const scope = scopes.get(at) ?? scopes.get(null);
  const probe = trace.probes.find((one) => one.frame === frame) ?? trace.probes[0] ?? null;
  const valueOf = (name: string): Value | undefined => {
    if (!probe) return Object.hasOwn(globals, name) ? globals[name] : undefined;
    if (Object.hasOwn(probe.names, name)) return probe.names[name];
    const given = probe.given[`$${name}`];
    return given ?? (Object.hasOwn(globals, name) ? globals[name] : given);
  };
  const last = ['look', 'shop', 'visit'];
  const names = [...(scope?.names() ?? [])].sort((a, b) => last.indexOf(a) - last.indexOf(b));
  const roots = names.map((name) => ({ name, value: valueOf(name), type: scope?.find(name)?.type ?? null }));
  const walker = new Walker(ask, probe !== null);
  const rows = ask.search.trim() ? walker.found(roots) : walker.tree(roots);
  return {
    rows,
    times: trace.probes.length,
    out: outOf(ask, new Set(names), probe?.frame ?? null),
    printed: printedAt(ask, valueOf),
  };
}

/** What is printed at the place, where that stands in the catalogue. */
function printedAt({ printed, subject }: ReachAsk, valueOf: (name: string) => Value | undefined): Reach['printed'] {
  const [root, ...inner] = printed ?? [];
  if (root === undefined) return null;
  const steps: ValueStep[] = [{ name: root, value: valueOf(root) }];
  for (const name of inner) {
    const around = steps.at(-1)?.value;
    steps.push({ name, value: isRecord(around) ? (around[name] as Value) : undefined });
  }
  const record = recordPlace(steps, subject);
  return record && { path: steps.map(({ name }) => name).join('.'), record };
}

interface Node {
  name: string;
  value: Value | undefined;
  type: Type | null;
  /** The value that it is a part of. */
  around?: Node;
}

/** The way to a value, from its root. */
function stepsTo(node: Node): ValueStep[] {
  const steps: ValueStep[] = [];
  for (let one: Node | undefined = node; one; one = one.around) steps.unshift({ name: one.name, value: one.value });
  return steps;
}

class Walker {
  readonly #types: ObjectTypes | null;

  constructor(
    readonly ask: ReachAsk,
    readonly rendered: boolean,
  ) {
    this.#types = ask.theme.types;
  }

  tree(roots: Node[]): Reached[] {
    const rows: Reached[] = [];
    const add = (node: Node, path: string, depth: number, around: Node | null): void => {
      const row = this.#row(node, path, depth, around);
      rows.push(row);
      if (row.open) for (const [inner, step] of this.#inside(node)) add(inner, path + step, depth + 1, node);
    };
    for (const root of roots) add(root, root.name, 0, null);
    return rows;
  }

  /** The shortest paths whose name or value holds the words, nearest first. */
  found(roots: Node[]): Reached[] {
    const words = this.ask.search.toLowerCase().trim();
    const rows: Reached[] = [];
    const seen = new Set<Value>();
    let level: { node: Node; path: string; around: Node | null }[] = roots.map((node) => ({
      node,
      path: node.name,
      around: null,
    }));
    let looked = 0;
    for (let depth = 0; depth < deepest && level.length; depth++) {
      const next: typeof level = [];
      for (const { node, path, around } of level) {
        if (++looked > maxSearched || rows.length >= maxRows) return rows;
        const texts = [node.name, depth === 0 ? '' : path, wholeText(node.value, this.ask.format)];
        if (texts.some((text) => text.toLowerCase().includes(words)))
          rows.push({ ...this.#row(node, path, 0, around), open: false });
        if (node.value !== null && typeof node.value === 'object') {
          if (seen.has(node.value)) continue;
          seen.add(node.value);
        }
        for (const [inner, step] of this.#inside(node)) next.push({ node: inner, path: path + step, around: node });
      }
      level = next;
    }
    return rows;
  }

  /** Fields of a record, items of a list. */
  *#inside(around: Node): Iterable<[Node, string]> {
    const { value, type } = around;
    if (Array.isArray(value)) {
      for (const [index, item] of value.slice(0, maxItems).entries())
        yield [{ name: `[${index}]`, value: item, type: type?.of ?? null, around }, `[${index}]`];
      return;
    }
    const fields = this.#fields(type);
    if (fields) {
      for (const [name, of] of fields)
        yield [
          {
            ...{ name, type: of, around },
            value: isRecord(value) ? (value[name] as Value) : value === undefined ? undefined : null,
          },
          `.${name}`,
        ];
    } else if (isRecord(value)) {
      for (const name of Object.keys(value))
        yield [{ name, value: value[name] as Value, type: null, around }, stepOf(name)];
    }
  }

  #fields(type: Type | null): ReadonlyMap<string, Type> | null {
    if (type?.kind !== 'Record') return null;
    return (type.object ? this.#types?.fields(type.object) : type.fields) ?? null;
  }

  #row(node: Node, path: string, depth: number, around: Node | null): Reached {
    const { name, value, type } = node;
    const { format, open, units } = this.ask;
    const counted = around?.type?.object ? this.#counted(around.type.object, name) : null;
    const custom =
      around?.type?.object === 'ProductFields'
        ? 'product'
        : around?.type?.object === 'CategoryFields'
          ? 'category'
          : null;
    const customCounted =
      custom && path.includes('.fields.')
        ? this.ask.site?.emptiness(custom === 'product' ? 'Product' : 'Category', ['fields', name])
        : null;
    const facts = counted ?? customCounted ?? null;
    const opens = Array.isArray(value)
      ? value.length > 0
      : isRecord(value) || (value === undefined && type?.kind === 'Record');
    return {
      path,
      name,
      depth,
      type: type ? inWords(type) : kindOf(value),
      shown:
        this.rendered && value !== undefined
          ? shownValue(value, format)
          : this.rendered && value === undefined
            ? shownValue(null, format)
            : null,
      perhaps: type ? type.empty !== 'no' : isEmpty(value),
      counted: facts && { empty: facts.empty, total: facts.total },
      opens,
      open: opens && open.has(path),
      unit: (custom && units.get(`${custom}.${name}`)) || '',
      writes: writesOf(path, value, type),
      record: this.rendered ? recordPlace(stepsTo(node), this.ask.subject) : null,
    };
  }

  #counted(object: string, field: string) {
    const { site } = this.ask;
    return site && ['Product', 'Category', 'Content', 'Article'].includes(object)
      ? site.emptiness(object, [field])
      : null;
  }
}

const stepOf = (name: string): string =>
  /^[A-Za-z_]\w*$/.test(name) ? `.${name}` : `['${name.replace(/'/g, "\\'")}']`;

function kindOf(value: Value | undefined): string {
  if (Array.isArray(value)) return 'a list';
  if (isRecord(value)) return 'a record';
  return typeof value === 'string'
    ? 'Text'
    : typeof value === 'number'
      ? 'Number'
      : typeof value === 'boolean'
        ? 'Flag'
        : 'a value';
}

/** What a search looks at: the whole text, not as it is shortened. */
function wholeText(value: Value | undefined, format: LocaleFormat): string {
  if (typeof value === 'string') return value.length < 4000 ? value : value.slice(0, 4000);
  if (value === null || value === undefined || isRecord(value) || Array.isArray(value)) return '';
  return shownValue(value, format).text;
}

/** What writes a value into text. */
function writesOf(path: string, value: Value | undefined, type: Type | null): string {
  if (type?.object === 'Media' || (isRecord(value) && value.kind === 'image'))
    return `<img src="{${path} | sized(320)}" alt="{${path}.alt}">`;
  if (type?.kind === 'List' || Array.isArray(value)) {
    const item = (/([A-Za-z]+)$/.exec(path)?.[1] ?? 'item').replace(/ies$/, 'y').replace(/s$/, '') || 'item';
    const name = item === path || ['in', 'and', 'or', 'not'].includes(item) ? 'item' : item;
    const of = type?.of;
    const prints = of?.kind === 'Record' || isRecord((value as Value[] | undefined)?.[0]) ? `${name}.name` : name;
    return `<ul do:when="${path}">\n  <li do:each="${name} in ${path}">{${prints}}</li>\n</ul>`;
  }
  if (type?.kind === 'Record' || isRecord(value)) return `{${path}.name}`;
  return `{${path}}`;
}

/** What the templates around have and this one does not see. */
function outOf(
  { theme, template, trace, format }: ReachAsk,
  inReach: ReadonlySet<string>,
  frame: number | null,
): OutOfReach[] {
  const own = template.source.file.replace(/\.html$/, '');
  const out: OutOfReach[] = [];
  const known = new Set(inReach);
  let at = frame ?? trace.templateOf.findIndex((number) => trace.templates[number]?.name === own);
  while (at >= 0) {
    const parent = trace.parents[at] ?? -1;
    const site = parent < 0 ? null : trace.site(parent, trace.madeAt[at] as number);
    if (site?.kind === 'draw' && site.element) {
      const drawer = trace.templates[trace.templateOf[parent] as number];
      const scope = drawer && understand(drawer.template, theme).scopes.get(site.element);
      for (const name of scope?.names() ?? []) {
        if (known.has(name)) continue;
        known.add(name);
        const top = trace.parents[parent] === -1;
        const value = top ? trace.page?.[`$${name}`] : undefined;
        const type = scope?.find(name)?.type;
        out.push({
          name,
          type: type ? inWords(type) : 'a value',
          shown: value === undefined ? null : shownValue(value, format),
          from: drawer?.name ?? '',
        });
      }
    }
    at = parent;
  }
  return out;
}
