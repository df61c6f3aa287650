import { partsOf, type Expression } from '../1-parse/expression';
import { attributesOf, sourceOf, type ElementNode, type Template, type TemplateNode } from '../1-parse/nodes';

/** Calls `visit` for every element below these nodes, outer before inner; `around` are the elements it stands in, outermost first. */
export function eachElement(
  nodes: readonly TemplateNode[],
  visit: (element: ElementNode, around: readonly ElementNode[]) => void,
  around: ElementNode[] = [],
): void {
  for (const node of nodes) {
    if (node.type !== 'element') continue;
    visit(node, around);
    around.push(node);
    eachElement(node.children, visit, around);
    around.pop();
  }
}

/** Every expression that an element's own tag holds: attributes and directives, not its children. */
export function expressionsOf(element: ElementNode): Expression[] {
  const found: Expression[] = [];
  for (const attribute of attributesOf(element)) {
    for (const part of attribute.parts ?? []) if (typeof part !== 'string') found.push(part);
    if (attribute.given) found.push(attribute.given.when);
  }
  const { gate, each, lets, when, wrapWhen, attributes, json } = element.directives;
  if (gate?.kind === 'or-when') found.push(gate.test);
  if (each) found.push(each.list);
  for (const name of lets) found.push(name.value);
  for (const one of [when, wrapWhen, attributes, json]) if (one) found.push(one);
  return found;
}

/** Calls `visit` for an expression and every one inside it. */
export function eachExpression(expression: Expression, visit: (inner: Expression) => void): void {
  visit(expression);
  for (const part of partsOf(expression)) eachExpression(part, visit);
}

/** Every expression of a template: in text, in attributes and in directives. */
export function allExpressions(
  nodes: readonly TemplateNode[],
  visit: (expression: Expression, node: TemplateNode) => void,
): void {
  for (const node of nodes) {
    if (node.type === 'value') eachExpression(node.expression, (inner) => visit(inner, node));
    if (node.type !== 'element' || node.directives.asWritten) continue;
    for (const expression of expressionsOf(node)) eachExpression(expression, (inner) => visit(inner, node));
    allExpressions(node.children, visit);
  }
}

/** The written-out value of an element's attribute (`name` unless another is meant); null when it holds a value or is not there. */
export function fixedName(element: ElementNode, attribute = 'name'): string | null {
  const at = element.attributes.find((one) => one.name === attribute);
  return at?.value && !at.parts && !at.given ? sourceOf(element, at).slice(at.value.from, at.value.to) : null;
}

/** The gaps of a template by name; the unnamed one is ''. */
export function gapsOf(template: Template): Set<string> {
  const names = new Set<string>();
  eachElement(template.children, (element) => {
    if (element.own && element.name === 'gap') names.add(fixedName(element) ?? '');
  });
  return names;
}

/** Whether an element is a script that holds data and no code: the only one that `do:json` may fill. */
export function holdsData(element: ElementNode): boolean {
  const type = fixedName(element, 'type')?.trim() ?? '';
  return element.name === 'script' && /^application\/(?:ld\+)?json$/i.test(type);
}

/** The innermost element of a template whose tags or contents hold an offset of a file; null: none, the root. */
export function elementAround(template: Template, file: string, layer: string, offset: number): ElementNode | null {
  let found: ElementNode | null = null;
  const walk = (nodes: readonly TemplateNode[]): void => {
    for (const node of nodes) {
      if (node.type !== 'element') continue;
      const { source } = node;
      if (source.file === file && source.layer === layer && node.from < offset && offset < node.to) {
        if (!found || node.to - node.from <= found.to - found.from) found = node;
      }
      walk(node.children);
    }
  };
  walk(template.children);
  return found;
}
