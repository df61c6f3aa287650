import { parseTemplate, type ElementNode, type Template, type TemplateNode } from '@/core/language';
import { amendmentOf, amendsOther, pathTo, Theme, type Layer } from '@/core/theme';
import { lineOf, indented, caretIn, shiftedBy, outdented } from './lines';

/** An element of a file of a layer, by where its start tag begins. */
export interface Target {
  file: string;
  layer: string;
  from: number;
}

/** What is to be done at a place of the page. */
export type Action =
  /** `replace` without a text begins with the element as it is. */
  | { kind: 'before' | 'after' | 'prepend' | 'append' | 'replace'; text: string }
  | { kind: 'remove' }
  | { kind: 'move'; where: 'before' | 'after' | 'into'; to: Target }
  | { kind: 'override' };

/** How a change is written: into the shop's own file, as an amendment by mark or by place, or as the shop's own copy. */
export type Way = 'edit' | 'mark' | 'place' | 'copy';

/** A file of the shop's layer as it would be. */
export interface FileChange {
  path: string;
  text: string;
  way: Way;
  /** Where the caret goes: to what was put in. */
  caret: number;
}

export interface Change {
  changes: FileChange[];
  /** What is written, in a sentence. */
  says: string;
}

/** A change that cannot be made: a sentence that says why and what to do. */
export class NoChange extends Error {}

/**
 * The smallest change of the shop's layer that does this to an element: in the shop's own file where the element is the
 * shop's; else an amendment, by the element's mark, by its place, or, where neither can name it, the shop's own copy of the file.
 * `into` is the page's own template: where that is the shop's amendment of the element's file, the change goes there alone,
 * unless only the file itself can name the element.
 */
export function changeFor(theme: Theme, target: Target, action: Action, into: string | null = null): Change {
  const shop = shopLayer(theme);
  if (action.kind === 'override') return overriding(theme, target.file, null);
  if (action.kind === 'move') return moving(theme, target, action, into);
  const alternate = amendsFile(theme, into, target.file) ? into : null;
  if (target.layer === shop.name && !(alternate && named(theme, target))) return editing(theme, target, action);
  return amending(theme, target, action, alternate);
}

/** Whether a file is the shop's amendment of another template. */
function amendsFile(theme: Theme, into: string | null, file: string): boolean {
  const text = into === null || into === file ? undefined : shopLayer(theme).files.get(into)?.text;
  return typeof text === 'string' && amendsOther(parseTemplate(into as string, text)) === nameOf(file);
}

const shopLayer = (theme: Theme): Layer => theme.layers[theme.layers.length - 1] as Layer;
const nameOf = (file: string): string => file.replace(/\.html$/, '');

function textOf(theme: Theme, file: string, layer: string): string {
  const text = theme.layers.find((one) => one.name === layer)?.files.get(file)?.text;
  if (text === undefined || text === null) throw new NoChange(`“${file}” is not there any more: load the page again.`);
  return text;
}

/** The element of a file that begins at an offset, in the file as it is written. */
function elementIn(template: Template, from: number): ElementNode {
  let found: ElementNode | null = null;
  const walk = (nodes: readonly TemplateNode[]): void => {
    for (const node of nodes) {
      if (node.type !== 'element') continue;
      if (node.from === from) found ??= node;
      walk(node.children);
    }
  };
  walk(template.children);
  if (!found) throw new NoChange('The file was changed meanwhile: load the page again, and point once more.');
  return found;
}

// In the shop's own file.

function editing(theme: Theme, target: Target, action: Exclude<Action, { kind: 'move' | 'override' }>): Change {
  const text = textOf(theme, target.file, target.layer);
  const element = elementIn(parseTemplate(target.file, text), target.from);
  if (action.kind === 'replace' && !action.text)
    return {
      changes: [{ path: target.file, way: 'edit', text, caret: element.from }],
      says: 'This is the shop’s own: change it in the source.',
    };
  const change = edited(text, element, action);
  return {
    changes: [{ path: target.file, way: 'edit', ...change }],
    says: `Written into the shop’s own ${target.file}.`,
  };
}

/** A text with something done at one of its elements, on lines of its own where the element stands on its own. */
function edited(
  text: string,
  element: ElementNode,
  action: Exclude<Action, { kind: 'move' | 'override' }>,
): { text: string; caret: number } {
  const line = lineOf(text, element.from, element.to);
  const put = (at: number, given: string) => ({ text: text.slice(0, at) + given + text.slice(at), at });
  switch (action.kind) {
    case 'remove': {
      const [from, to] = line ? [line.from, line.to] : [element.from, element.to];
      return { text: text.slice(0, from) + text.slice(to), caret: from };
    }
    case 'replace': {
      const given = indented(action.text, line?.indent ?? '').trimStart();
      return {
        text: text.slice(0, element.from) + given + text.slice(element.to),
        caret: element.from + caretIn(given),
      };
    }
    case 'before':
    case 'after': {
      if (!line) {
        const change = put(action.kind === 'before' ? element.from : element.to, action.text);
        return { text: change.text, caret: change.at + caretIn(action.text) };
      }
      const given = `${indented(action.text, line.indent)}\n`;
      const change = put(
        action.kind === 'before' ? line.from : line.to,
        line.last && action.kind === 'after' ? `\n${given}` : given,
      );
      return { text: change.text, caret: change.at + caretIn(given) };
    }
    case 'prepend':
    case 'append': {
      if (element.childless) throw new NoChange(`<${element.name}> has no inside: put it before or after.`);
      const inside = text.slice(element.openTo, element.closeFrom);
      const broken = /^[^\S\n]*\n/.test(inside);
      const indent = `${line?.indent ?? ''}  `;
      if (!broken) {
        const change = put(action.kind === 'prepend' ? element.openTo : element.closeFrom, action.text);
        return { text: change.text, caret: change.at + caretIn(action.text) };
      }
      const given = `${indented(action.text, indent)}\n`;
      const at =
        action.kind === 'prepend'
          ? element.openTo + (/^[^\S\n]*\n/.exec(inside) as RegExpExecArray)[0].length
          : text.lastIndexOf('\n', element.closeFrom - 1) + 1;
      const change = put(at, given);
      return { text: change.text, caret: change.at + caretIn(given) };
    }
  }
}

interface Named {
  attribute: string;
  way: 'mark' | 'place';
  shown: string;
}

/** What names an element for an amendment above its layer: its mark when no other element has it, else its place. */
function named(theme: Theme, target: Target): Named | null {
  const name = nameOf(target.file);
  const own = target.layer === shopLayer(theme).name;
  const below = own ? theme : new Theme(theme.layers.slice(0, -1), theme.locale, theme.surroundings);
  const composed = below.template(name);
  const base = below.parts(name)[0];
  if (!composed || !base) return null;
  const element = elementIn(parseTemplate(target.file, textOf(theme, target.file, target.layer)), target.from);
  const mark = element.directives.mark;
  if (mark) {
    let count = 0;
    const walk = (nodes: readonly TemplateNode[]): void => {
      for (const node of nodes) {
        if (node.type !== 'element') continue;
        if (node.directives.mark === mark) count++;
        walk(node.children);
      }
    };
    walk(composed.children);
    if (count === 1) return { attribute: `mark="${mark}"`, way: 'mark', shown: `the mark “${mark}”` };
  }
  if (base.layer.name !== target.layer) return null;
  const tree = parseTemplate(target.file, base.text ?? '');
  const path = pathTo(tree.children, elementIn(tree, target.from));
  return path ? { attribute: `at="${path}"`, way: 'place', shown: `the place ${path}` } : null;
}

const words = {
  before: 'before',
  after: 'after',
  prepend: 'first inside',
  append: 'last inside',
  replace: 'in place of',
  remove: 'away:',
};

function amending(
  theme: Theme,
  target: Target,
  given: Exclude<Action, { kind: 'move' | 'override' }>,
  into: string | null,
): Change {
  const action = given.kind === 'replace' && !given.text ? { ...given, text: ownText(theme, target) } : given;
  const name = named(theme, target);
  if (name) {
    const operation =
      action.kind === 'remove'
        ? `  <remove ${name.attribute}>\n`
        : `  <${action.kind} ${name.attribute}>\n${indented(action.text, '    ')}\n  </${action.kind}>\n`;
    const file = into ?? target.file;
    const operated = withOperation(theme, file, operation);
    if (operated) {
      const says = into
        ? `Written into ${into} by ${name.shown}: ${words[action.kind]} it. Who does not get this alternate keeps what was.`
        : `Written as an amendment by ${name.shown}: ${words[action.kind]} it. Updates of the file below go on flowing in.`;
      return { changes: [{ path: file, way: name.way, ...operated }], says };
    }
  }
  return overriding(theme, target.file, { target, action });
}

/** An element as it is written, to be changed in its place. */
function ownText(theme: Theme, target: Target): string {
  const text = textOf(theme, target.file, target.layer);
  return outdented(text, elementIn(parseTemplate(target.file, text), target.from));
}

/** The shop's amendment of a file with one more operation; null when the amended template then says that it is wrong. */
function withOperation(theme: Theme, file: string, operation: string): { text: string; caret: number } | null {
  const own = shopLayer(theme).files.get(file)?.text ?? null;
  let at: number;
  let text: string;
  if (own === null) {
    text = `<amend>\n${operation}</amend>\n`;
    at = '<amend>\n'.length;
  } else {
    const amend = amendmentOf(parseTemplate(file, own));
    if (!amend || amend.childless) return null;
    at = own.lastIndexOf('\n', amend.closeFrom - 1) + 1;
    const broken = /\S/.test(own.slice(at, amend.closeFrom));
    if (broken) at = amend.closeFrom;
    text = `${own.slice(0, at)}${broken ? '\n' : ''}${operation}${own.slice(at)}`;
  }
  const before = wrongIn(theme, file);
  const after = wrongIn(withText(theme, file, text), file);
  if (after > before) return null;
  return { text, caret: at + caretIn(operation) };
}

/** Problems of a template that say that an amendment finds no place. */
function wrongIn(theme: Theme, file: string): number {
  const problems = theme.template(nameOf(file))?.problems ?? [];
  return problems.filter(({ code, severity }) => severity === 'error' && (code === 'mark' || code === 'amend')).length;
}

/** The theme with another text in the shop's layer. */
export function withText(theme: Theme, file: string, text: string): Theme {
  const top = shopLayer(theme);
  const files = new Map(top.files).set(file, { hash: `tried ${text}`, text });
  return new Theme([...theme.layers.slice(0, -1), { ...top, files }], theme.locale, theme.surroundings);
}

// As the shop's own copy.

function overriding(
  theme: Theme,
  file: string,
  edit: { target: Target; action: Exclude<Action, { kind: 'move' | 'override' }> } | null,
): Change {
  const served = theme.file(file);
  if (!served || served.text === null) throw new NoChange(`There is no text “${file}” to copy.`);
  if (served.layer === shopLayer(theme)) {
    if (!edit) throw new NoChange(`The shop has its own ${file} already.`);
    throw new NoChange(
      `The shop amends ${file}, and this element can be named neither by a mark nor by its place: give it a do:mark in the layer below, or write the shop’s own copy of the file.`,
    );
  }
  const parts = file.endsWith('.html') ? theme.parts(nameOf(file)) : [served];
  if (parts.length > 1)
    throw new NoChange(
      `${file} is put together from several layers, and this element can be named neither by a mark nor by its place: give it a do:mark where it is written.`,
    );
  const text = edit
    ? edited(served.text, elementIn(parseTemplate(file, served.text), edit.target.from), edit.action)
    : { text: served.text, caret: 0 };
  return {
    changes: [{ path: file, way: 'copy', ...text }],
    says: `Written as the shop’s own copy of ${file}: updates of the file below no longer flow in.`,
  };
}

// From one place to another.

function moving(
  theme: Theme,
  from: Target,
  { where, to }: Extract<Action, { kind: 'move' }>,
  into: string | null,
): Change {
  const shop = shopLayer(theme).name;
  const put = where === 'into' ? 'append' : where;
  if (from.file === to.file && from.from === to.from && from.layer === to.layer)
    throw new NoChange('That is the element itself: point at another place.');
  const source = textOf(theme, from.file, from.layer);
  const element = elementIn(parseTemplate(from.file, source), from.from);
  if (from.file === to.file && from.layer === to.layer && to.from > element.from && to.from < element.to)
    throw new NoChange('An element cannot be moved into itself.');
  const alternate = amendsFile(theme, into, from.file) ? into : null;
  if (from.file === to.file && (alternate || (from.layer !== shop && to.layer !== shop))) {
    const moved = named(theme, from);
    const target = named(theme, to);
    if (moved && target?.way === 'mark') {
      const at = target.attribute.replace('mark=', `${where}=`);
      const file = alternate ?? from.file;
      const operated = withOperation(theme, file, `  <move ${moved.attribute} ${at}>\n`);
      const written = alternate ? `Written into ${alternate}` : 'Written as an amendment';
      if (operated)
        return {
          changes: [{ path: file, way: moved.way, ...operated }],
          says: `${written}: ${moved.shown} moves ${where} ${target.shown}.`,
        };
    }
  }
  const text = outdented(source, element);
  const taken = changeFor(theme, from, { kind: 'remove' }, into);
  const [away] = taken.changes;
  if (!away) throw new NoChange('It cannot be taken from where it is.');
  const inPlace = from.layer === shop && away.path === from.file;
  const cleaned = inPlace ? { ...away, ...withoutEmptyOperations(away.path, away.text) } : away;
  const without = withText(theme, cleaned.path, cleaned.text);
  const shifts = inPlace && to.layer === shop && to.file === from.file;
  const shifted = shifts ? { ...to, from: shiftedBy(source, cleaned.text, to.from) } : to;
  const placed = changeFor(without, shifted, { kind: put, text }, into);
  const others = placed.changes.some((one) => one.path === cleaned.path) ? [] : [cleaned];
  return { changes: [...placed.changes, ...others], says: `${placed.says} It was taken from where it stood.` };
}

/** An amendment without operations that put nothing any more. */
function withoutEmptyOperations(file: string, text: string): { text: string; caret: number } {
  let now = text;
  for (;;) {
    const amend = amendmentOf(parseTemplate(file, now));
    const empty = amend?.children.find(
      (node): node is ElementNode =>
        node.type === 'element' &&
        ['before', 'after', 'prepend', 'append'].includes(node.name) &&
        node.children.every((child) => child.type === 'text' && child.blank),
    );
    if (!empty) return { text: now, caret: 0 };
    const line = lineOf(now, empty.from, empty.to);
    now = now.slice(0, line?.from ?? empty.from) + now.slice(line?.to ?? empty.to);
  }
}
