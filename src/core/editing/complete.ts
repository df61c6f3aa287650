import { objectSchema } from '@/core/catalogue';
import {
  parseTemplate,
  elementAround,
  typeOf,
  understand,
  type ElementNode,
  type Template,
  type TypeScope,
  fixedName,
  gapsOf,
  filterTable,
  functionTable,
  amendElements,
  ownElements,
  ownVoid,
  filterSignatures,
  inWords,
  type Type,
} from '@/core/language';
import { Theme } from '@/core/theme';
import { bareDirectives, directiveSays, elementSays, inputTypes } from './spelling';

/** Something that can be written at the caret. */
export interface Suggestion {
  label: string;
  kind: 'name' | 'field' | 'filter' | 'function' | 'piece' | 'input' | 'directive' | 'element' | 'text';
  /** Its type, or where it is from. */
  detail: string;
  says: string;
  /** What is written; `|` is the caret afterwards. */
  writes: string;
  /** Larger ones come first. */
  rank: number;
}

export interface Suggestions {
  /** Where what is written so far begins. */
  from: number;
  options: Suggestion[];
}

const suggestion = (label: string, kind: Suggestion['kind'], more: Partial<Suggestion> = {}): Suggestion => ({
  label,
  kind,
  detail: '',
  says: '',
  writes: label,
  rank: 0,
  ...more,
});

/** What can be written at an offset of a template's text; null: nothing of the language. */
export function complete(theme: Theme, file: string, text: string, offset: number): Suggestions | null {
  const name = file.replace(/\.html$/, '');
  const template = theme.template(name) ?? parseTemplate(file, text);
  const before = text.slice(0, offset);
  const place = placeOf(before);
  if (!place) return null;
  const around =
    elementAround(template, file, shopName(theme), offset) ??
    elementAround(template, file, template.source.layer, offset);
  const scope = understand(template, theme).scopes.get(around) ?? understand(template, theme).scopes.get(null);
  if (place.kind === 'expression') return scope ? inExpression(theme, template, scope, place.text, offset) : null;
  if (place.kind === 'tag') return { from: offset - place.text.length, options: elements(file, before) };
  if (place.kind === 'attribute')
    return { from: offset - place.text.length, options: attributes(theme, place.element, place.tag) };
  return inValue(theme, file, template, place, offset, around);
}

const shopName = (theme: Theme): string => theme.layers[theme.layers.length - 1]?.name ?? '';

/** Whether anything of the language can be written after this text: a quick look, before a worker is asked. */
export const takesSuggestions = (before: string): boolean => placeOf(before) !== null;

type At =
  | { kind: 'expression'; text: string }
  | { kind: 'tag'; text: string }
  | { kind: 'attribute'; text: string; element: string; tag: string }
  | { kind: 'value'; text: string; element: string; attribute: string; tag: string };

/** What the text before the caret says about its place. */
function placeOf(before: string): At | null {
  const open = before.lastIndexOf('<');
  const tag = before.slice(open);
  const inTag = open >= 0 && /^<[A-Za-z]/.test(tag) && !closes(tag);
  if (!inTag) {
    if (open >= 0 && /^<[a-z]*$/i.test(tag)) return { kind: 'tag', text: tag.slice(1) };
    const brace = openBrace(before.slice(Math.max(0, before.length - 2000)));
    return brace === null ? null : { kind: 'expression', text: brace };
  }
  const element = (/^<([\w-]+)/.exec(tag)?.[1] ?? '').toLowerCase();
  const value = /([\w:@.-]+)\s*=\s*(?:"([^"]*)|'([^']*))$/.exec(tag);
  if (value) {
    const attribute = (value[1] ?? '').toLowerCase();
    const written = value[2] ?? value[3] ?? '';
    if (attribute.startsWith('do:') && attribute !== 'do:mark')
      return { kind: 'expression', text: afterName(attribute, written) };
    const brace = openBrace(written);
    if (brace !== null) return { kind: 'expression', text: brace };
    return { kind: 'value', text: written, element, attribute, tag };
  }
  if (/^<[\w-]+$/.test(tag)) return { kind: 'tag', text: tag.slice(1) };
  const name = /\s([\w:-]*)$/.exec(tag);
  return name ? { kind: 'attribute', text: name[1] ?? '', element, tag } : null;
}

/** Whether a tag is closed within this text: a `>` outside of quotes and braces. */
function closes(tag: string): boolean {
  let quote = '';
  for (const sign of tag) {
    if (quote) {
      if (sign === quote) quote = '';
    } else if (sign === '"' || sign === "'") quote = sign;
    else if (sign === '>') return true;
  }
  return false;
}

/** The text after the last brace that is not closed; null: there is none. */
function openBrace(text: string): string | null {
  const at = text.lastIndexOf('{');
  if (at < 0) return null;
  const inside = text.slice(at + 1);
  let quote = '';
  for (const sign of inside) {
    if (quote) {
      if (sign === quote) quote = '';
    } else if (sign === "'" || sign === '"') quote = sign;
    else if (sign === '}') return null;
  }
  return inside;
}

/** Of `do:each="x in e"` and `do:let="a = e; b = e"`: the expression that is being written. */
function afterName(attribute: string, written: string): string {
  if (attribute === 'do:each') return /\bin\s+([^]*)$/.exec(written)?.[1] ?? '';
  if (attribute === 'do:let') return written.slice(written.lastIndexOf(';') + 1).replace(/^\s*\w+\s*=\s*/, '');
  return written;
}

function inExpression(
  theme: Theme,
  template: Template,
  scope: TypeScope,
  text: string,
  offset: number,
): Suggestions | null {
  const call = /\b(t|asset|icon|content|menu|fragment|filled)\(\s*(['"])([^'"]*)$/.exec(text);
  if (call) {
    const [, of = '', , written = ''] = call;
    return { from: offset - written.length, options: named(theme, template, of) };
  }
  if (((text.match(/'/g) ?? []).length & 1) === 1) return null;
  const filter = /\|\s*([A-Za-z_]*)$/.exec(text);
  if (filter)
    return {
      from: offset - (filter[1] ?? '').length,
      options: filters(pipedType(theme, template, scope, text.slice(0, filter.index))),
    };
  const path = /((?:[A-Za-z_]\w*|\)|\])(?:\[[^\]]*\])?(?:\.[A-Za-z_]\w*(?:\[\d+\])?)*)\.([A-Za-z_]*)$/.exec(text);
  if (path) {
    const [, of = '', written = ''] = path;
    const type = /^[A-Za-z_]/.test(of) ? typeWithIt(theme, template, scope, of, text) : null;
    return { from: offset - written.length, options: type ? fieldsOf(theme, type) : [] };
  }
  const word = /([A-Za-z_]\w*)?$/.exec(text)?.[1] ?? '';
  if (/\d$/.test(text) && !word) return null;
  return { from: offset - word.length, options: [...names(theme, scope, text), ...functions()] };
}

/** The type of a path; `it` is the item of the list that the filter around works on. */
function typeWithIt(theme: Theme, template: Template, scope: TypeScope, path: string, text: string): Type | null {
  if (!/^it\b/.test(path)) return typeOf(path, scope, template, theme);
  const list = /([\w.[\]]+)\s*\|\s*\w+\([^)]*$/.exec(text)?.[1];
  const type = list ? typeOf(list, scope, template, theme) : null;
  const item = type?.of ?? null;
  if (!item) return null;
  return path
    .split('.')
    .slice(1)
    .reduce<Type | null>((of, field) => (of ? (fieldTypes(theme, of)?.get(field) ?? null) : null), item);
}

function pipedType(theme: Theme, template: Template, scope: TypeScope, text: string): Type | null {
  const from = Math.max(text.lastIndexOf('('), text.lastIndexOf(','), text.lastIndexOf('?'), text.lastIndexOf(':')) + 1;
  return typeOf(text.slice(from).trim(), scope, template, theme) ?? typeOf(text.trim(), scope, template, theme);
}

function fieldTypes(theme: Theme, type: Type): ReadonlyMap<string, Type> | null {
  const object = type.object ?? (type.kind === 'Day' ? 'Day' : undefined);
  return (object ? theme.types?.fields(object) : type.fields) ?? null;
}

function fieldsOf(theme: Theme, type: Type): Suggestion[] {
  const schema = type.object ? objectSchema[type.object] : undefined;
  return [...(fieldTypes(theme, type) ?? [])].map(([name, of]) =>
    suggestion(name, 'field', {
      detail: inWords(of) + (of.empty === 'perhaps' && of.kind !== 'Flag' ? ', can be empty' : ''),
      says: schema?.[name]?.says ?? '',
    }),
  );
}

function names(theme: Theme, scope: TypeScope, text: string): Suggestion[] {
  const found = [...scope.names()].map((name) => {
    const type = scope.find(name)?.type;
    const global = name === 'shop' || name === 'look' || name === 'visit';
    return suggestion(name, 'name', { detail: type ? inWords(type) : '', rank: global ? 1 : 3 });
  });
  if (/\|\s*\w+\([^)]*$/.test(text)) found.push(suggestion('it', 'name', { detail: 'the item', rank: 4 }));
  return found;
}

const functions = (): Suggestion[] =>
  [...functionTable].map(([name, { signature, says }]) =>
    suggestion(name, 'function', { detail: signature, says, writes: `${name}(|)` }),
  );

function filters(of: Type | null): Suggestion[] {
  return [...filterTable].map(([name, { signature, says }]) => {
    const on = filterSignatures[name]?.on ?? [];
    const fits = of !== null && of.kind !== 'Any' && on.includes(of.kind);
    const takes = signature.includes('(');
    return suggestion(name, 'filter', {
      detail: signature,
      says,
      writes: takes ? `${name}(|)` : name,
      rank: fits ? (on.length < 3 ? 3 : 2) : 0,
    });
  });
}

/** What the text given to a function names: a phrase, a file, a page of content. */
function named(theme: Theme, template: Template, of: string): Suggestion[] {
  const list = (values: Iterable<string>, detail: (value: string) => string = () => '') =>
    [...values].map((value) => suggestion(value, 'text', { detail: detail(value) }));
  switch (of) {
    case 't':
      return list(theme.phraseKeys(), (key) => {
        const phrase = theme.phrase(key);
        return typeof phrase === 'string' ? phrase : (phrase?.other ?? '');
      });
    case 'asset':
      return list(theme.assetPaths());
    case 'icon':
      return list([...theme.assetPaths()].flatMap((path) => /^icons\/(.+)\.svg$/.exec(path)?.[1] ?? []));
    case 'content':
      return list(theme.site?.contents ?? []);
    case 'menu':
      return list(theme.site?.menus ?? []);
    case 'fragment':
      return list(theme.names().filter((name) => theme.template(name)?.takes.some((take) => take.served)));
    case 'filled':
      return list([...gapsOf(template)].filter(Boolean));
    default:
      return [];
  }
}

function elements(file: string, before: string): Suggestion[] {
  const amending = /<amend\b/.test(before);
  const own = [...ownElements, ...(amending ? amendElements : [])];
  return own.map((name) =>
    suggestion(name, 'element', {
      says: elementSays[name] ?? '',
      detail: 'of the language',
      rank: 1,
      writes: startOf(name),
    }),
  );
}

function startOf(name: string): string {
  if (name === 'draw') return 'draw name="|"/>';
  if (name === 'takes') return 'takes name="|" type="text">';
  if (name === 'placeable') return 'placeable label="|">';
  if (name === 'shelf') return 'shelf name="|" label=""></shelf>';
  if (ownVoid.has(name)) return name === 'kept' ? 'kept>' : `${name} mark="|">`;
  if (name === 'gap' || name === 'group' || name === 'amend') return `${name}>|</${name}>`;
  if (amendElements.has(name)) return `${name} mark="|"></${name}>`;
  return name === 'fill' ? 'fill gap="|"></fill>' : `${name} name="|"></${name}>`;
}

function attributes(theme: Theme, element: string, tag: string): Suggestion[] {
  const written = new Set([...tag.matchAll(/\s([\w:-]+)\s*=/g)].map(([, name]) => name));
  const directives = Object.entries(directiveSays).map(([name, says]) =>
    suggestion(name, 'directive', { says, writes: bareDirectives.has(name) ? name : `${name}="|"` }),
  );
  if (element !== 'draw') return directives.filter(({ label }) => !written.has(label));
  const drawn = /\sname\s*=\s*["']([^"']*)/.exec(tag)?.[1];
  const takes = drawn === undefined ? [] : (theme.template(drawn)?.takes ?? []);
  const inputs = takes.map(({ name, type, required, help }) =>
    suggestion(name, 'input', {
      detail: `${type}${required ? ', required' : ''}`,
      says: help ?? '',
      writes: /^(?:text|choice|link|colour)$/.test(type) ? `${name}="|"` : `${name}="{|}"`,
      rank: required ? 4 : 3,
    }),
  );
  const all = [
    ...(drawn === undefined ? [suggestion('name', 'input', { writes: 'name="|"', rank: 5 })] : []),
    ...inputs,
    ...directives,
  ];
  return all.filter(({ label }) => !written.has(label));
}

function inValue(
  theme: Theme,
  file: string,
  within: Template,
  place: At & { kind: 'value' },
  offset: number,
  around: ElementNode | null,
): Suggestions | null {
  const { element, attribute, text } = place;
  const from = offset - text.length;
  const list = (
    values: Iterable<string>,
    kind: Suggestion['kind'],
    detail: (value: string) => string = () => '',
  ): Suggestions => ({
    from,
    options: [...values].map((value) => suggestion(value, kind, { detail: detail(value) })),
  });
  if (element === 'draw' && attribute === 'name')
    return list(
      theme.names().filter((name) => /^(?:pieces|layouts)\//.test(name)),
      'piece',
      (name) =>
        theme
          .template(name)
          ?.takes.map((take) => take.name)
          .join(', ') ?? '',
    );
  if (element === 'fill' && attribute === 'gap') {
    const drawn = around && drawAround(within.children, around);
    const template = drawn === null ? null : theme.template(drawn);
    return template ? list([...gapsOf(template)].filter(Boolean), 'text') : null;
  }
  if (element === 'takes' && attribute === 'type')
    return list([...inputTypes, ...(theme.types?.objects ?? [])], 'text');
  if (amendElements.has(element) && ['mark', 'before', 'after', 'into'].includes(attribute)) {
    const name = file.replace(/\.html$/, '');
    // An alternate may have nothing below: then it amends another template.
    const other =
      theme
        .parts(name)
        .at(-2)
        ?.path.replace(/\.html$/, '') ?? name;
    const below =
      other === name
        ? new Theme(theme.layers.slice(0, -1), theme.locale, theme.surroundings).template(name)
        : theme.template(other);
    return below ? list(marksIn(below), 'text') : null;
  }
  if (element === 'amend' && attribute === 'of')
    return list(
      theme.names().filter((name) => `${name}.html` !== file),
      'piece',
    );
  return null;
}

/** The piece that the draw around a fill draws. */
function drawAround(nodes: Template['children'], fill: ElementNode): string | null {
  for (const node of nodes) {
    if (node.type !== 'element') continue;
    if (node.own && node.name === 'draw' && node.children.includes(fill)) return fixedName(node);
    const inner = drawAround(node.children, fill);
    if (inner !== null) return inner;
  }
  return null;
}

/** Marks of a template, in its order. */
export function marksIn(template: Template): string[] {
  const marks: string[] = [];
  const walk = (nodes: Template['children']): void => {
    for (const node of nodes) {
      if (node.type !== 'element') continue;
      if (node.directives.mark) marks.push(node.directives.mark);
      walk(node.children);
    }
  };
  walk(template.children);
  return [...new Set(marks)];
}
