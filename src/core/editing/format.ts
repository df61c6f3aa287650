import { parseTemplate, type TemplateNode, rawElements, Source } from '@/core/language';

/** Elements whose white space is seen as it is written. */
const keepsSpace = new Set(['pre', 'textarea']);

/**
 * A template with its lines indented by how deep they stand, two spaces a level. Nothing but white space at the beginning and
 * end of lines changes; what stands in `pre`, `textarea`, scripts, styles and `do:as-written` stays. Null for a text that cannot be read.
 */
export function formatTemplate(text: string): string | null {
  const { children, problems } = parseTemplate('', text);
  if (problems.some(({ severity, code }) => severity === 'error' && code !== 'takes')) return null;
  const source = new Source('', text);
  const lines = text.split('\n');
  const lineOf = (offset: number): number => source.place(offset).line - 1;
  const depths = new Array<number>(lines.length).fill(0);
  const frozen = new Set<number>();
  const walk = (nodes: readonly TemplateNode[]): void => {
    for (const node of nodes) {
      if (node.type !== 'element') {
        if (node.type === 'comment') freeze(lineOf(node.from) + 1, lineOf(node.to - 1));
        continue;
      }
      const first = lineOf(node.from);
      const opened = lineOf(Math.max(node.from, node.openTo - 1));
      // The further lines of a start tag stand two levels in.
      for (let line = first + 1; line <= opened; line++) depths[line] = (depths[line] ?? 0) + 2;
      const inside = opened + 1;
      const closed = lineOf(node.closeFrom);
      if (keepsSpace.has(node.name) || rawElements.has(node.name) || node.directives.asWritten) {
        freeze(inside, closed);
        continue;
      }
      // A line that begins with the end tag stands with its start.
      const before = text.slice(text.lastIndexOf('\n', node.closeFrom - 1) + 1, node.closeFrom);
      const last = /\S/.test(before) || node.closeFrom >= node.to ? closed : closed - 1;
      for (let line = inside; line <= last; line++) depths[line] = (depths[line] ?? 0) + 1;
      walk(node.children);
    }
  };
  const freeze = (from: number, to: number): void => {
    for (let line = from; line <= to; line++) frozen.add(line);
  };
  walk(children);
  return lines
    .map((written, line) => {
      if (frozen.has(line)) return written;
      const bare = written.trim();
      return bare ? '  '.repeat(depths[line] ?? 0) + bare : '';
    })
    .join('\n');
}
