import type { Expression } from '../1-parse/expression';
import type { ElementNode, Template, TemplateNode } from '../1-parse/nodes';

/** Calls `visit` for every element below these nodes, outer before inner; `around` are the elements it stands in, outermost first. */
export function eachElement(
  nodes: TemplateNode[],
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
  for (const attribute of element.attributes) {
    for (const part of attribute.parts ?? []) if (typeof part !== 'string') found.push(part);
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
  switch (expression.kind) {
    case 'list':
      expression.items.forEach((item) => eachExpression(item, visit));
      break;
    case 'field':
    case 'minus':
    case 'not':
      eachExpression(expression.of, visit);
      break;
    case 'item':
      eachExpression(expression.of, visit);
      eachExpression(expression.key, visit);
      break;
    case 'call':
      expression.args.forEach((argument) => eachExpression(argument.value, visit));
      break;
    case 'binary':
    case 'and':
    case 'or':
      eachExpression(expression.left, visit);
      eachExpression(expression.right, visit);
      break;
    case 'choice':
      eachExpression(expression.test, visit);
      eachExpression(expression.yes, visit);
      eachExpression(expression.no, visit);
      break;
    case 'filter':
      eachExpression(expression.of, visit);
      expression.args.forEach((argument) => eachExpression(argument.value, visit));
      break;
  }
}

/** Every expression of a template: in text, in attributes and in directives. */
export function allExpressions(
  nodes: TemplateNode[],
  visit: (expression: Expression, node: TemplateNode) => void,
): void {
  for (const node of nodes) {
    if (node.type === 'value') eachExpression(node.expression, (inner) => visit(inner, node));
    if (node.type !== 'element' || node.directives.literal) continue;
    for (const expression of expressionsOf(node)) eachExpression(expression, (inner) => visit(inner, node));
    allExpressions(node.children, visit);
  }
}

/** The written-out value of an element's attribute (`name` unless another is meant); null when it holds a value or is not there. */
export function fixedName(element: ElementNode, attribute = 'name'): string | null {
  const at = element.attributes.find((one) => one.name === attribute);
  return at?.value && !at.parts ? element.source.slice(at.value.from, at.value.to) : null;
}

/** The gaps of a template by name; the unnamed one is ''. */
export function gapsOf(template: Template): Set<string> {
  const names = new Set<string>();
  eachElement(template.children, (element) => {
    if (element.own && element.name === 'gap') names.add(fixedName(element) ?? '');
  });
  return names;
}
