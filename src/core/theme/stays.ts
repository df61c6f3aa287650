import {
  eachElement,
  eachExpression,
  expressionsOf,
  fixedName,
  problem,
  type Expression,
  type Problem,
  type Template,
} from '@/core/language';
import { amendmentOf, amendsOther } from './amendment';

/** What the data for search engines says of a product (`product | structured`), by the field that a template prints it from. */
const alsoInData: Record<string, string> = { price: 'The price', stock: 'Whether it is in stock' };

/** Pieces that are drawn one in another are followed so far. */
const deepest = 12;

/** Whether an expression begins with one of these names: `product`, `product.variant`, `product.media | first`. */
function beginsWith(one: Expression, roots: ReadonlySet<string>): boolean {
  if (one.kind === 'name') return roots.has(one.name);
  return (one.kind === 'field' || one.kind === 'filter') && beginsWith(one.of, roots);
}

/**
 * Fields of a page's own product that its template asks for, with what it draws of it: other products, which loops go through, do not count. `structured`
 * stands for its data for search engines.
 */
class Mentions {
  readonly #of = new Map<string, ReadonlySet<string>>();

  constructor(readonly theme: { template(name: string): Template | null }) {}

  of(name: string, given: ReadonlySet<string> = new Set(['product']), depth = 0): ReadonlySet<string> {
    const key = `${name} ${[...given].sort().join()}`;
    const known = this.#of.get(key);
    if (known || depth > deepest) return known ?? new Set();
    const found = new Set<string>();
    this.#of.set(key, found);
    const roots = new Set(given);
    const look = (one: Expression) => {
      if (one.kind === 'field' && beginsWith(one.of, roots)) found.add(one.name);
      else if (one.kind === 'filter' && one.name === 'structured' && one.of.kind === 'name' && roots.has(one.of.name))
        found.add('structured');
    };
    const { children = [] } = this.theme.template(name) ?? {};
    for (const node of children) if (node.type === 'value') eachExpression(node.expression, look);
    eachElement(children, (element) => {
      for (const { name: called, value } of element.directives.lets) if (beginsWith(value, roots)) roots.add(called);
      for (const one of expressionsOf(element)) eachExpression(one, look);
      for (const node of element.children) if (node.type === 'value') eachExpression(node.expression, look);
      const drawn = element.own && element.name === 'draw' ? fixedName(element) : null;
      if (!drawn) return;
      const inputs = element.attributes.filter(({ parts }) => {
        const [only] = parts?.length === 1 ? parts : [];
        return only !== undefined && typeof only !== 'string' && beginsWith(only, roots);
      });
      const handed = new Set(inputs.map((one) => one.name));
      if (handed.size) for (const one of this.of(drawn, handed, depth + 1)) found.add(one);
    });
    return found;
  }
}

/** What an alternate's amendment takes off the page of a product, while the page's data for search engines goes on saying it. */
export function staysElsewhere(
  theme: { template(name: string): Template | null },
  name: string,
  file: Template,
): Problem[] {
  const other = amendsOther(file);
  const amend = amendmentOf(file);
  if (other === null || !amend || other === name) return [];
  const mentions = new Mentions(theme);
  const [before, now] = [mentions.of(other), mentions.of(name)];
  if (!now.has('structured')) return [];
  const taking = amend.children.find((one) => one.type === 'element' && /^(?:remove|replace)$/.test(one.name));
  const at =
    taking?.type === 'element' ? { from: taking.from, to: taking.openTo } : { from: amend.from, to: amend.openTo };
  return Object.entries(alsoInData).flatMap(([field, what]) =>
    before.has(field) && !now.has(field) ? [problem('stays', file.source, at, { what })] : [],
  );
}
