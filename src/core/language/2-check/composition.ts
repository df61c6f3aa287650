import { isName } from '../1-parse/expression';
import type { Attribute, ElementNode, Take, Template, TemplateNode } from '../1-parse/nodes';
import type { Source } from '../1-parse/source';
import { nearestOf } from '../nearest';
import { problem, type Problem } from '../problems';
import {
  fits,
  flag,
  html,
  inWords,
  listOf,
  any,
  number,
  objectOf,
  readType,
  sureNumber,
  text,
  type Type,
} from '../types/types';
import type { ThemeFacts } from './facts';
import { fixOf, type Report } from './infer';
import { eachElement, fixedName, gapsOf } from './walk';

/** The kinds of input that a `<takes>` may declare, besides the types of the catalogue (`Product`, `List of Tag`). */
export const inputTypes = new Set(
  'text html number boolean choice colour link picture product category content list'.split(' '),
);
const catalogueType = /^(?:List of )?[A-Z]\w*$/;

/** The type of the value that a declared input holds. */
export function inputType(take: Take): Type {
  switch (take.type) {
    case 'html':
      return html;
    case 'number':
      return take.required || take.default !== null ? sureNumber : number;
    case 'boolean':
      return flag;
    case 'choice':
      return take.options.length ? { ...text, options: take.options } : text;
    case 'picture':
      return objectOf('Media');
    case 'product':
      return objectOf('Product');
    case 'category':
      return objectOf('Category');
    case 'content':
      return objectOf('Content');
    case 'list':
      return listOf(any);
    default:
      return catalogueType.test(take.type) ? readType(take.type) : text;
  }
}

/** The declarations themselves: names, types, defaults that can be read. */
export function checkTakes(template: Template, theme: ThemeFacts, reportIn: (source: Source) => Report): void {
  const names = new Set<string>();
  for (const take of template.takes) {
    const report = reportIn(take.source);
    if (!isName(take.name) || take.name === 'name')
      report('takes', take, { text: `“${take.name}” cannot name an input: letters, digits and _, and not “name”` });
    else if (names.has(take.name)) report('takes', take, { text: `The input “${take.name}” is declared twice` });
    names.add(take.name);
    const item = take.type.replace(/^List of /, '');
    const known =
      inputTypes.has(take.type) ||
      (catalogueType.test(take.type) &&
        (!theme.types ||
          theme.types.fields(item) !== null ||
          /^(?:Text|Number|Flag|Money|Day|Html|Record|Any)$/.test(item)));
    if (!known) {
      const near = nearestOf(take.type, [...inputTypes, ...(theme.types?.objects ?? [])]);
      report('takes', take, {
        text: `There is no input type “${take.type}”${near ? `; did you mean “${near.name}”?` : ''}`,
      });
    }
    if (take.default !== null && take.default !== '' && cannotRead(take, take.default))
      report('takes', take, { text: `The default “${take.default}” cannot be read as ${take.type}` });
  }
}

/** Whether fixed text cannot be what the input declares. */
export function cannotRead(take: Take, written: string): boolean {
  switch (take.type) {
    case 'number':
      return !/^\s*-?\d+(?:\.\d+)?\s*$/.test(written);
    case 'boolean':
      return !/^(?:true|false|)$/.test(written.trim());
    case 'choice':
      return take.options.length > 0 && !take.options.includes(written);
    case 'colour':
      return !/^(?:#(?:[0-9a-f]{3,4}){1,2}|[a-z]+)$/i.test(written.trim());
    case 'text':
    case 'html':
    case 'link':
    case 'list':
    case 'content':
    case 'product':
    case 'category':
    case 'picture':
      return false;
    default:
      return catalogueType.test(take.type);
  }
}

/** Holds a draw against what is drawn: its name, its gaps, its inputs. `given` gives the type of an input's value. */
export function checkDraw(
  element: ElementNode,
  theme: ThemeFacts,
  report: Report,
  given: (attribute: Attribute) => Type,
): void {
  const at = element.attributes.find((attribute) => attribute.name === 'name');
  if (!at?.value) {
    report('element', element, { text: '<draw> needs the name of a template: <draw name="pieces/…">' });
    return;
  }
  const name = fixedName(element);
  const drawn = name === null ? null : theme.template(name);
  if (name !== null && !drawn) {
    const near = nearestOf(name, theme.templateNames());
    report('missing', at, { name, near: near?.name ?? '' }, fixOf(near, at.value));
  }
  checkFills(element, name, drawn ? gapsOf(drawn) : null, report);
  if (!drawn) return;
  for (const take of drawn.takes) {
    const attribute = element.attributes.find((one) => nameOf(element, one) === take.name);
    if (!attribute) {
      if (take.required && take.default === null)
        report('takes', element, { text: `“${name}” requires the input “${take.name}”` });
    } else if (!attribute.parts) {
      const written = attribute.value ? element.source.slice(attribute.value.from, attribute.value.to) : 'true';
      if (!cannotRead(take, written)) continue;
      const near = take.type === 'choice' ? nearestOf(written, take.options) : null;
      report(
        'takes',
        attribute,
        {
          text: `“${written}” cannot be read as ${take.type} for “${take.name}”${near ? `; did you mean “${near.name}”?` : ''}`,
        },
        attribute.value ? fixOf(near, attribute.value) : undefined,
      );
    } else {
      const type = given(attribute);
      const wanted = inputType(take);
      if (!fits(type, wanted))
        report('input', attribute, {
          text: `“${take.name}” of “${name}” is ${inWords(wanted)}; this is ${inWords(type)}`,
        });
    }
  }
  if (!theme.types) return;
  const declared = drawn.takes.map((take) => take.name);
  for (const attribute of element.attributes) {
    const key = nameOf(element, attribute);
    if (key === 'name' || key.startsWith('do:') || declared.includes(key)) continue;
    const near = nearestOf(key, declared);
    const span = { from: attribute.from, to: attribute.from + key.length };
    report(
      'input',
      span,
      { text: `“${name}” takes no input “${key}”${near ? `; did you mean “${near.name}”?` : ''}` },
      fixOf(near, span),
    );
  }
}

/** An attribute's name with its capitals: inputs have them. */
const nameOf = (element: ElementNode, attribute: Attribute): string =>
  element.source.slice(attribute.from, attribute.from + attribute.name.length);

function checkFills(element: ElementNode, name: string | null, gaps: Set<string> | null, report: Report): void {
  const filled = new Map<string, number>();
  for (const child of element.children) {
    if (child.type !== 'element' || !child.own || child.name !== 'fill') continue;
    const gap = fixedName(child, 'gap') ?? '';
    const before = filled.get(gap);
    if (before !== undefined && (before < 0 || before !== child.chain))
      report('gap', child, {
        text: `The gap “${gap}” is filled twice here: of several, tied by do:or-when and do:otherwise, one fills it`,
      });
    filled.set(gap, child.chain);
    if (!gaps || gaps.has(gap)) continue;
    const near = nearestOf(gap, gaps);
    const at = child.attributes.find((one) => one.name === 'gap')?.value;
    report(
      'gap',
      child,
      { text: `“${name}” has no gap “${gap}”${near ? `; did you mean “${near.name}”?` : ''}` },
      at ? fixOf(near, at) : undefined,
    );
  }
  const isFill = (node: TemplateNode) => node.type === 'element' && node.own && node.name === 'fill';
  const bare = element.children.find((child) => {
    if (child.type === 'text') return /\S/.test(child.text) && !child.blank;
    // A fill in a group is reported by itself.
    return child.type === 'value' || (child.type === 'element' && !isFill(child) && !child.children.some(isFill));
  });
  if (bare && gaps && !gaps.has(''))
    report('gap', bare.type === 'element' ? { from: bare.from, to: bare.nameTo } : bare, {
      text: `“${name}” has no unnamed gap: what stands here is never printed`,
    });
}

interface Draw {
  to: string;
  element: ElementNode;
  conditional: boolean;
}

/** A layout is looked at for each page that draws it. */
const drawsKnown = new WeakMap<Template, Draw[]>();

/** The templates that this one draws by a written-out name. */
export function drawsOf(template: Template): readonly Draw[] {
  const draws: Draw[] = drawsKnown.get(template) ?? [];
  if (drawsKnown.has(template)) return draws;
  drawsKnown.set(template, draws);
  eachElement(template.children, (element, around) => {
    if (!element.own || (element.name !== 'draw' && element.name !== 'ask')) return;
    const to = element.name === 'ask' ? `pieces/ask/${fixedName(element, 'type') ?? 'text'}` : fixedName(element);
    if (to === null) return;
    const conditional = [...around, element].some(({ directives, own, name }) => {
      return directives.when || directives.each || directives.gate || (own && (name === 'gap' || name === 'shelf'));
    });
    draws.push({ to, element, conditional });
  });
  return draws;
}

/** Circles through this template in which no draw stands under a condition or in a loop. */
export function circles(template: Template, theme: ThemeFacts): Problem[] {
  const start = template.source.file.replace(/\.html$/, '');
  const seen = new Set<string>();
  const path: string[] = [start];
  let found: Problem | null = null;
  const follow = (from: Template, first: ElementNode | null): void => {
    for (const draw of drawsOf(from)) {
      if (found || draw.conditional) continue;
      const origin = first ?? draw.element;
      if (draw.to === start) {
        const about = { path: [...path, start].join(' → ') };
        found = problem('circle', origin.source, { from: origin.from, to: origin.openTo }, about);
        return;
      }
      const next = seen.has(draw.to) ? null : theme.template(draw.to);
      seen.add(draw.to);
      if (!next) continue;
      path.push(draw.to);
      follow(next, origin);
      path.pop();
    }
  };
  follow(template, null);
  return found ? [found] : [];
}

/** Pieces that nothing draws, serves or places. `placed` are those on shelves. */
export function unusedPieces(theme: ThemeFacts, placed: Iterable<string>): Problem[] {
  const used = new Set(placed);
  let open = false;
  const names = theme.templateNames();
  for (const name of names) {
    const template = theme.template(name);
    if (!template) continue;
    for (const { to } of drawsOf(template)) used.add(to);
    eachElement(template.children, (element) => {
      // A draw whose name is a value may draw any piece.
      if (element.own && element.name === 'draw' && element.attributes.some((one) => one.name === 'name' && one.parts))
        open = true;
    });
  }
  if (open) return [];
  return names.flatMap((name) => {
    const template = theme.template(name);
    const piece = (name.startsWith('pieces/') && !name.startsWith('pieces/ask/')) || name.startsWith('layouts/');
    if (!template || !piece || used.has(name) || template.takes.some((take) => take.served)) return [];
    return [problem('unused-piece', template.source, { from: 0, to: 0 }, { name })];
  });
}
