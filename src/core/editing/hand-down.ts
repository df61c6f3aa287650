import { parseTemplate, understand, type ElementNode, type TemplateNode, inWords } from '@/core/language';
import { amendmentOf, type Theme } from '@/core/theme';
import { changeFor, NoChange, withText, type Change, type FileChange, type Target } from './change';

/**
 * Hands a name down from the template that has it to one below: each draw on the way gives it, each template on the way takes
 * it. `way`: the draws from the outermost to the one that draws the target's file.
 */
export function handDown(
  theme: Theme,
  target: Target,
  { name, from, way }: { name: string; from: string; way: Target[] },
): Change {
  const byFile = new Map<string, FileChange>();
  let now = theme;
  const put = (changes: FileChange[]) => {
    for (const one of changes) {
      byFile.set(one.path, one);
      now = withText(now, one.path, one.text);
    }
  };
  if (!way.length) throw new NoChange(`Nothing on this page draws ${target.file} from where “${name}” is.`);
  const type = typeOf(theme, from, name);
  for (const draw of way) {
    const text = now.layers.find((one) => one.name === draw.layer)?.files.get(draw.file)?.text ?? '';
    const element = drawAt(parseTemplate(draw.file, text).children, draw.from);
    if (!element) throw new NoChange('The file was changed meanwhile: load the page again.');
    const written = text.slice(element.from, element.to);
    if (!new RegExp(`\\s${name}\\s*=`, 'i').test(text.slice(element.from, element.openTo))) {
      const at = element.tailFrom - element.from;
      const next = `${written.slice(0, at)} ${name}="{${name}}"${written.slice(at)}`;
      put(changeFor(now, draw, { kind: 'replace', text: next }).changes);
    }
  }
  // Every piece on the way takes it, the last one included.
  const files = [...way.slice(1).map((one) => one.file), target.file];
  for (const file of new Set(files)) {
    if (!now.file(file)?.text) continue;
    if (now.template(file.replace(/\.html$/, ''))?.takes.some((take) => take.name === name)) continue;
    put([withInput(now, file, `<takes name="${name}" type="${type}">`)]);
  }
  const list = [...byFile.values()].reverse();
  const copied = list.filter((one) => one.way === 'copy').map((one) => one.path);
  return {
    changes: list,
    says: `“${name}” is handed down to ${target.file}.${copied.length ? ` The shop gets its own copy of ${copied.join(' and ')}.` : ''}`,
  };
}

function drawAt(nodes: readonly TemplateNode[], from: number): ElementNode | null {
  for (const node of nodes) {
    if (node.type !== 'element') continue;
    if (node.from === from) return node;
    const inner = drawAt(node.children, from);
    if (inner) return inner;
  }
  return null;
}

/** A file that takes one more input: in the shop's own file, or by its amendment, so that updates of the one below flow in. */
function withInput(theme: Theme, file: string, input: string): FileChange {
  const own = theme.layers[theme.layers.length - 1]?.files.get(file)?.text ?? null;
  if (own === null) {
    const text = `<amend>\n  ${input}\n</amend>\n`;
    return { path: file, text, way: 'mark', caret: text.indexOf('</amend>') };
  }
  const amend = amendmentOf(parseTemplate(file, own));
  if (!amend) {
    const end = endOfTakes(own);
    const line = `${input}\n`;
    return { path: file, text: own.slice(0, end) + line + own.slice(end), way: 'edit', caret: end + line.length };
  }
  const line = `\n  ${input}`;
  const text = own.slice(0, amend.openTo) + line + own.slice(amend.openTo);
  return { path: file, text, way: 'edit', caret: amend.openTo + line.length };
}

/** Behind the last `<takes>` at the top of a file. */
function endOfTakes(text: string): number {
  let end = 0;
  for (const match of text.matchAll(/<takes\b[^>]*>[^\S\n]*\n?/g)) end = (match.index ?? 0) + match[0].length;
  return end;
}

/** A name's type as `<takes>` writes it. */
function typeOf(theme: Theme, from: string, name: string): string {
  const template = theme.template(from);
  if (!template) return 'text';
  const { scopes } = understand(template, theme);
  for (const scope of scopes.values()) {
    const type = scope.find(name)?.type;
    if (!type) continue;
    if (type.kind === 'Record') return type.object ?? 'text';
    if (type.kind === 'List') return type.of?.object ? `List of ${type.of.object}` : 'list';
    const words = inWords(type);
    return { Number: 'number', Flag: 'boolean', Html: 'html' }[words] ?? 'text';
  }
  return 'text';
}
