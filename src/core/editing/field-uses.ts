import { eachExpression, expressionsOf, parseTemplate, type Expression, type TemplateNode } from '@/core/language';
import { isFieldSubject, type FieldSubject } from '@/core/catalogue';
import type { Theme } from '@/core/theme';
import { lineAt } from './things';

/** A place of a template that reads a custom field; `key` null: it takes all of them at once. */
export interface FieldUse {
  key: string | null;
  /** Whose field it is, as far as the source says it. */
  subject: FieldSubject | null;
  file: string;
  layer: string;
  line: number;
  /** The line, as written. */
  text: string;
}

/** What `….fields` is read of. */
function subjectOf(holder: Expression): FieldUse['subject'] {
  const name = holder.kind === 'name' || holder.kind === 'field' ? holder.name : '';
  if (name === 'parent') return 'category';
  return isFieldSubject(name) ? name : null;
}

/** Every place of the templates that serve which reads custom fields, amendments among them. */
export function fieldUses(theme: Theme): FieldUse[] {
  const found: FieldUse[] = [];
  const seen = new Set<string>();
  for (const path of theme.paths()) {
    if (!path.endsWith('.html')) continue;
    for (const part of theme.parts(path.replace(/\.html$/, ''))) {
      const { text, layer } = part;
      const here = `${layer.name}\n${part.path}`;
      if (text === null || seen.has(here) || !text.includes('fields')) continue;
      seen.add(here);
      const add = (key: string | null, holder: Expression, from: number) =>
        found.push({ key, subject: subjectOf(holder), file: part.path, layer: layer.name, ...lineAt(text, from) });
      const read = (given: Expression) => {
        const parents = new Set<Expression>();
        eachExpression(given, (one) => {
          const inner = one.kind === 'field' || one.kind === 'item' ? one.of : null;
          if (inner?.kind !== 'field' || inner.name !== 'fields') return;
          const key =
            one.kind === 'field' ? one.name : one.kind === 'item' && one.key.kind === 'text' ? one.key.value : null;
          parents.add(inner);
          add(key, inner.of, inner.from);
        });
        eachExpression(given, (one) => {
          if (one.kind === 'field' && one.name === 'fields' && !parents.has(one)) add(null, one.of, one.from);
        });
      };
      const walk = (nodes: readonly TemplateNode[]): void => {
        for (const node of nodes) {
          if (node.type === 'value') read(node.expression);
          if (node.type !== 'element') continue;
          for (const one of expressionsOf(node)) read(one);
          walk(node.children);
        }
      };
      walk(parseTemplate(part.path, text, layer.name).children);
    }
  }
  return found;
}
