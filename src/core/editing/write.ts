import { parseTemplate, type ElementNode, type TemplateNode } from '@/core/language';

/** A change of a text: a stretch, and what takes its place. */
export interface Edit {
  from: number;
  to: number;
  text: string;
}

export interface Writing {
  edits: Edit[];
  /** Where the caret stands afterwards. */
  caret: number;
}

/** What is to be written: the path, what writes it in text, and its unit. */
export interface Written {
  path: string;
  writes: string;
  unit: string;
}

/**
 * Writes a value at the caret: a bare path inside an expression, a value in an attribute, what shows it in text. With a
 * condition, an element that holds nothing else gets it; else a group is put around.
 */
export function writeAt(text: string, offset: number, { path, writes, unit }: Written, condition: boolean): Writing {
  const put = (given: string): Writing => ({
    edits: [{ from: offset, to: offset, text: given }],
    caret: offset + given.length,
  });
  if (inExpression(text, offset)) return put(path);
  const around = around_(parseTemplate('', text).children, offset);
  if (around && offset > around.from && offset < around.openTo) return put(`{${path}}`);
  const shown = unit && writes === `{${path}}` ? `${writes} ${unit}` : writes;
  if (!condition || writes.includes('do:when=')) return put(shown);
  if (writes.startsWith('<')) return put(writes.replace(/^<([\w-]+)/, `<$1 do:when="${path}"`));
  const empty = around && !around.own && !/\S/.test(text.slice(around.openTo, around.closeFrom));
  if (around && empty && !around.directives.when) {
    const gate = ` do:when="${path}"`;
    return {
      edits: [
        { from: around.tailFrom, to: around.tailFrom, text: gate },
        { from: offset, to: offset, text: shown },
      ],
      caret: offset + gate.length + shown.length,
    };
  }
  return put(`<group do:when="${path}">${shown}</group>`);
}

/** Between braces that are not closed yet, on the caret's line. */
function inExpression(text: string, offset: number): boolean {
  const before = text.slice(text.lastIndexOf('\n', offset - 1) + 1, offset);
  return before.lastIndexOf('{') > before.lastIndexOf('}');
}

function around_(nodes: readonly TemplateNode[], offset: number): ElementNode | null {
  for (const node of nodes) {
    if (node.type !== 'element' || offset <= node.from || offset >= node.to) continue;
    return around_(node.children, offset) ?? node;
  }
  return null;
}
