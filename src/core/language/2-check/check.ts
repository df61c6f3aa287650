import { decodeHTMLAttribute } from 'entities';
import { isName } from '../1-parse/expression';
import type { Attribute, ElementNode, Template } from '../1-parse/nodes';
import { filterTable } from '../filters/table';
import { functionTable } from '../filters/functions';
import { nearest } from '../nearest';
import { problem, type About, type Problem, type ProblemCode } from '../problems';
import { stylePlace } from '../values/style';
import { attributePlace } from './places';
import { allExpressions, eachElement, fixedName } from './walk';

/** What the checker may ask about the theme that a template stands in. */
export interface ThemeFacts {
  template(name: string): Template | null;
  templateNames(): string[];
  phraseExists(key: string): boolean;
  assetExists(path: string): boolean;
  locale: string;
}

/** The kinds of input that a `<takes>` may declare, besides the types of the catalogue (`Product`, `List of Tag`). */
export const inputTypes = new Set(
  'text html number boolean choice colour link picture product category content list'.split(' '),
);

/** What is wrong with one template: its own syntax problems, and whatever the theme around it shows. Needs no rendering. */
export function checkTemplate(template: Template, theme: ThemeFacts): Problem[] {
  const problems = [...template.problems];
  const { source } = template;
  const report = (code: ProblemCode, span: { from: number; to: number }, about: About = {}) =>
    problems.push(problem(code, source, span, about));

  allExpressions(template.children, (expression) => {
    if (expression.kind === 'filter' && !filterTable.has(expression.name)) {
      report('filter', expression.nameAt, {
        name: expression.name,
        near: nearest(expression.name, filterTable.keys()),
      });
    }
    if (expression.kind !== 'call') return;
    if (!functionTable.has(expression.name)) {
      report('function', expression, { name: expression.name, near: nearest(expression.name, functionTable.keys()) });
    }
    const first = expression.args[0]?.value;
    if (first?.kind !== 'text') return;
    if (expression.name === 't' && !theme.phraseExists(first.value)) {
      report('phrase', first, { name: first.value, locale: theme.locale });
    }
    if (expression.name === 'asset' && !theme.assetExists(first.value)) report('asset', first, { name: first.value });
  });

  eachElement(template.children, (element, around) => {
    if (element.directives.literal || around.some((outer) => outer.directives.literal)) return;
    if (element.own) checkOwn(element, around, theme, report);
    else checkPlaces(element, report);
  });

  for (const take of template.takes) {
    if (!isName(take.name) || take.name === 'name') {
      report('takes', take, { text: `“${take.name}” cannot name an input: letters, digits and _, and not “name”` });
    }
    if (!inputTypes.has(take.type) && !/^(?:List of )?[A-Z]\w*$/.test(take.type)) {
      const near = nearest(take.type, inputTypes);
      report('takes', take, {
        text: `There is no input type “${take.type}”${near ? `; did you mean “${near}”?` : ''}`,
      });
    }
  }
  problems.push(...circles(template, theme));
  return problems.sort((a, b) => a.from - b.from);
}

type Report = (code: ProblemCode, span: { from: number; to: number }, about?: About) => void;

function checkPlaces(element: ElementNode, report: Report): void {
  const type = element.attributes.find((attribute) => attribute.name === 'type');
  const refreshes = element.attributes.some((attribute) => attribute.name === 'http-equiv');
  if (element.directives.json) {
    const value = type?.value ? element.source.slice(type.value.from, type.value.to).trim() : '';
    const data = element.name === 'script' && !type?.parts && /^application\/(?:ld\+)?json$/i.test(value);
    if (!data) report('json-place', element.attributes.find((attribute) => attribute.name === 'do:json') ?? element);
  }
  for (const attribute of element.attributes) {
    if (!attribute.parts) continue;
    const place = attributePlace(element.name, attribute.name, refreshes);
    if (place === 'script') {
      report('script-attribute', attribute, {
        text: `A value cannot stand in “${attribute.name}”: it would become part of a script`,
      });
    } else if (place === 'fixed') {
      report('literal-only', attribute, { name: attribute.name, element: element.name });
    } else if (place === 'address' || place === 'loading') {
      checkScheme(attribute, report);
    } else if (place === 'style') {
      let before = '';
      for (const part of attribute.parts) {
        if (typeof part === 'string') before += decodeHTMLAttribute(part);
        else if (stylePlace(before) === 'property') report('style-property', part);
        else before += '0';
      }
    }
  }
}

/** A scheme that is written out and not one of the allowed may not take a value. */
function checkScheme(attribute: Attribute, report: Report): void {
  const first = attribute.parts?.[0];
  if (typeof first !== 'string') return;
  const written = decodeHTMLAttribute(first).replace(/[\u0000-\u0020]/g, '');
  const scheme = /^([a-zA-Z][a-zA-Z0-9+.-]*):/.exec(written)?.[1];
  if (scheme && !/^(?:https?|mailto|tel|sms)$/i.test(scheme)) {
    report('script-attribute', attribute, { text: `A value cannot stand in an address that begins with “${scheme}:”` });
  }
}

function checkOwn(element: ElementNode, around: readonly ElementNode[], theme: ThemeFacts, report: Report): void {
  const outer = around[around.length - 1];
  if (element.name === 'draw') checkDraw(element, theme, report);
  else if (element.name === 'fill') {
    if (!(outer?.own && outer.name === 'draw')) {
      const text = outer
        ? `<fill> stands in <${outer.name}>: it belongs directly inside a <draw>`
        : '<fill> belongs directly inside a <draw>';
      report('gap', element, { text });
    }
  } else if (element.name === 'takes' && around.length) {
    report('takes', element, { text: '<takes> stands at the top of a file, outside every element' });
  }
}

function checkDraw(element: ElementNode, theme: ThemeFacts, report: Report): void {
  const name = fixedName(element);
  const at = element.attributes.find((attribute) => attribute.name === 'name');
  if (!at?.value) {
    report('element', element, { text: '<draw> needs the name of a template: <draw name="pieces/…">' });
    return;
  }
  const drawn = name === null ? null : theme.template(name);
  if (name !== null && !drawn) report('missing', at, { name, near: nearest(name, theme.templateNames()) });
  const gaps = drawn ? gapsOf(drawn) : null;
  const filled = new Set<string>();
  for (const child of element.children) {
    if (child.type !== 'element' || !child.own || child.name !== 'fill') continue;
    const gap = fixedName(child, 'gap') ?? '';
    if (filled.has(gap)) report('gap', child, { text: `The gap “${gap}” is filled twice here` });
    filled.add(gap);
    if (gaps && !gaps.has(gap)) {
      const near = nearest(gap, gaps);
      report('gap', child, { text: `“${name}” has no gap “${gap}”${near ? `; did you mean “${near}”?` : ''}` });
    }
  }
  if (!drawn) return;
  for (const take of drawn.takes) {
    const given = element.attributes.find((attribute) => attribute.name === take.name);
    if (take.required && !given) report('takes', element, { text: `“${name}” requires the input “${take.name}”` });
    if (!given || given.parts) continue;
    const text = given.value ? element.source.slice(given.value.from, given.value.to) : 'true';
    const wrong =
      (take.type === 'number' && !/^\s*-?\d+(?:\.\d+)?\s*$/.test(text)) ||
      (take.type === 'boolean' && !/^(?:true|false|)$/.test(text.trim())) ||
      (take.type === 'choice' && take.options.length > 0 && !take.options.includes(text));
    if (wrong) report('takes', given, { text: `“${text}” cannot be read as ${take.type} for “${take.name}”` });
  }
}

/** The gaps of a template by name; the unnamed one is ''. */
export function gapsOf(template: Template): Set<string> {
  const names = new Set<string>();
  eachElement(template.children, (element) => {
    if (element.own && element.name === 'gap') names.add(fixedName(element) ?? '');
  });
  return names;
}

interface Draw {
  to: string;
  element: ElementNode;
  conditional: boolean;
}

/** The templates that this one draws by a written-out name. */
export function drawsOf(template: Template): Draw[] {
  const draws: Draw[] = [];
  eachElement(template.children, (element, around) => {
    if (!element.own || element.name !== 'draw') return;
    const to = fixedName(element);
    if (to === null) return;
    const conditional = [...around, element].some(({ directives, own, name }) => {
      return directives.when || directives.each || directives.gate || (own && (name === 'gap' || name === 'shelf'));
    });
    draws.push({ to, element, conditional });
  });
  return draws;
}

/** Circles through this template in which no draw stands under a condition or in a loop. */
function circles(template: Template, theme: ThemeFacts): Problem[] {
  const start = template.source.file.replace(/\.html$/, '');
  const seen = new Set<string>();
  const path: string[] = [start];
  let found: Problem | null = null;
  const follow = (from: Template, first: ElementNode | null): void => {
    for (const draw of drawsOf(from)) {
      if (found || draw.conditional) continue;
      const origin = first ?? draw.element;
      if (draw.to === start) {
        found = problem(
          'circle',
          template.source,
          { from: origin.from, to: origin.openTo },
          { path: [...path, start].join(' → ') },
        );
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
