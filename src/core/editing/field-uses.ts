import {
  eachElement,
  eachExpression,
  expressionsOf,
  understand,
  type Expression,
  type Template,
  type Type,
} from '@/core/language';
import type { Theme } from '@/core/theme';
import { lineAt } from './things';

/** A place of a template that reads a field of an object of the catalogue: `Product` and `summary`, `ProductFields` and `lead_time`. */
export interface FieldUse {
  /** As the schema calls it; null: the source does not say whose field it is. */
  object: string | null;
  /** null: it takes all of them at once. */
  field: string | null;
  file: string;
  layer: string;
  line: number;
  /** The line, as written. */
  text: string;
}

/** What names mostly hold, where the checker does not know it. */
const byName: Record<string, string> = {
  ...{ product: 'Product', variant: 'Variant', category: 'Category', parent: 'Category', content: 'Content' },
  ...{ article: 'Article', brand: 'Brand', tag: 'Tag', shop: 'Shop' },
};

/** Filters that read all that an object has. */
const whole = new Set(['json', 'entries', 'structured']);

/** The object that a value is; null: it may be any. undefined: it is none of the catalogue's. */
function objectOf(value: Expression, types: ReadonlyMap<Expression, Type>): string | null | undefined {
  const type = types.get(value);
  if (type && type.kind !== 'Any') return type.kind === 'Record' ? type.object : undefined;
  if (value.kind === 'field' && value.name === 'fields') {
    const holder = objectOf(value.of, types);
    return holder ? `${holder}Fields` : null;
  }
  return value.kind === 'name' || value.kind === 'field' ? (byName[value.name] ?? null) : null;
}

/** The objects that a list holds, or the one that a value is. */
function objectIn(value: Expression, types: ReadonlyMap<Expression, Type>): string | null | undefined {
  const type = types.get(value);
  return type?.kind === 'List' ? type.of?.object : objectOf(value, types);
}

const known = new WeakMap<Theme, readonly FieldUse[]>();

/** Every place of the templates that serve which reads fields of the catalogue's objects, amendments among them. Worked out once for a theme. */
export function fieldUses(theme: Theme): readonly FieldUse[] {
  let found = known.get(theme);
  if (!found) {
    const uses = new Map<string, FieldUse>();
    for (const name of theme.templateNames()) {
      const template = theme.template(name);
      if (!template) continue;
      for (const use of usesIn(template, theme))
        uses.set(`${use.layer}\n${use.file}\n${use.line} ${use.object} ${use.field}`, use);
    }
    known.set(theme, (found = [...uses.values()]));
  }
  return found;
}

function* usesIn(template: Template, theme: Theme): Generator<FieldUse> {
  const { types } = understand(template, theme);
  const found: FieldUse[] = [];
  const read = (given: Expression, source: Template['source'], eachOf = false) => {
    const add = (object: string | null | undefined, field: string | null, from: number) => {
      if (object === undefined) return;
      found.push({ object, field, file: source.file, layer: source.layer, ...lineAt(source.text, from) });
    };
    if (eachOf && types.get(given)?.kind !== 'List') add(objectOf(given, types), null, given.from);
    eachExpression(given, (one) => {
      if (one.kind === 'field') add(objectOf(one.of, types), one.name, one.from);
      if (one.kind === 'item') {
        const { key } = one;
        if (types.get(one.of)?.kind !== 'List')
          add(objectOf(one.of, types), key.kind === 'text' ? key.value : null, one.from);
      }
      if (one.kind === 'filter' && whole.has(one.name)) add(objectIn(one.of, types), null, one.from);
    });
  };
  const nodes = [...template.children, ...(template.unplaced ?? [])];
  eachElement(nodes, (element) => {
    const { each, json } = element.directives;
    for (const one of expressionsOf(element)) read(one, element.source, one === each?.list || one === json);
  });
  eachValue(nodes, (expression, source) => read(expression, source));
  yield* found;
}

function eachValue(
  nodes: Template['children'],
  visit: (expression: Expression, source: Template['source']) => void,
): void {
  for (const node of nodes) {
    if (node.type === 'value') visit(node.expression, node.source);
    if (node.type === 'element') eachValue(node.children, visit);
  }
}
