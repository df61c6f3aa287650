import { lexer, parse } from 'css-tree';
import { LRUCache } from 'lru-cache';
import postcss, { type AtRule, CssSyntaxError, type Declaration, type Rule } from 'postcss';
import { nearestOf, rewrite, type Fix, type Near, type ProblemCode } from '@/core/language';
import { unclosedBlock } from './unclosed';
import { wrongDeclaration } from './values';

/** Something wrong in a style sheet by itself, whatever the theme holds. Offsets of its text. */
export interface Fault {
  code: ProblemCode & ('css' | 'css-property' | 'css-value');
  from: number;
  to: number;
  says: string;
  near: Near | null;
  fix?: Fix;
}

/** A name that a sheet uses, and something else must give. */
export interface Use {
  of: 'property' | 'font' | 'address';
  name: string;
  from: number;
  to: number;
}

/** A style sheet, or the declarations of an attribute, as they were read. */
export interface Sheet {
  faults: Fault[];
  uses: Use[];
  /** Custom properties that it sets. */
  properties: ReadonlySet<string>;
  /** Fonts that it makes known. */
  fonts: ReadonlySet<string>;
}

const sheets = new LRUCache<string, Sheet>({ max: 2000 });

/** Stands in a text in place of a value that only a page knows. */
export const unknownValue = '\uE000';

/** Reads a style sheet; what is read once is kept. */
export function readSheet(text: string): Sheet {
  let sheet = sheets.get(text);
  if (!sheet) sheets.set(text, (sheet = new Reading(text).sheet()));
  return sheet;
}

class Reading {
  readonly #faults: Fault[] = [];
  readonly #uses: Use[] = [];
  readonly #properties = new Set<string>();
  readonly #fonts = new Set<string>();

  constructor(readonly text: string) {}

  sheet(): Sheet {
    try {
      postcss.parse(this.text).walk((node) => {
        if (node.type === 'decl') this.#declaration(node);
        else if (node.type === 'rule') this.#rule(node);
        else if (node.type === 'atrule') this.#atRule(node);
      });
    } catch (error) {
      if (!(error instanceof CssSyntaxError)) throw error;
      this.#broken(error);
    }
    return { faults: this.#faults, uses: this.#uses, properties: this.#properties, fonts: this.#fonts };
  }

  #declaration(node: Declaration): void {
    const { prop, value: read } = node;
    const from = node.source?.start?.offset ?? 0;
    const raw = (node.raws.value as { raw?: string } | undefined)?.raw ?? read;
    const valueFrom = from + prop.length + (node.raws.between ?? ':').length;
    const rule = node.parent?.type === 'atrule' ? (node.parent as AtRule).name.toLowerCase() : '';
    if (prop.startsWith('--')) this.#properties.add(prop);
    if (prop.includes(unknownValue)) return;
    const font = prop.toLowerCase() === 'font-family' || prop.toLowerCase() === 'font';
    if (rule === 'font-face' && font) this.#fonts.add(unquoted(read));
    else if (font) this.#families(raw, valueFrom, prop.toLowerCase() === 'font');
    this.#values(raw, valueFrom);
    const wrong = raw.includes(unknownValue)
      ? wrongDeclaration(prop, 'inherit', rule)
      : wrongDeclaration(prop, raw, rule);
    if (!wrong) return;
    const at = wrong.at === 'property' ? from : valueFrom;
    this.#faults.push({
      code: wrong.at === 'property' ? 'css-property' : 'css-value',
      ...{ from: at + wrong.from, to: Math.max(at + wrong.to, at + wrong.from + 1) },
      ...{ says: wrong.says, near: wrong.near },
    });
  }

  /** What a value takes from elsewhere: custom properties that need one, and addresses. */
  #values(value: string, from: number): void {
    if (value.includes('--'))
      for (const { index, 0: call, 1: name = '' } of value.matchAll(/\bvar\(\s*(--[\w-]+)\s*\)/g)) {
        const at = from + index + call.indexOf(name);
        this.#uses.push({ of: 'property', name, from: at, to: at + name.length });
      }
    if (value.includes('url('))
      for (const { index, 0: call, 1: address = '' } of value.matchAll(
        /\burl\(\s*(?:"[^"]*"|'[^']*'|([^"')\s]*))\s*\)/g,
      )) {
        const quoted = /["']([^"']*)["']/.exec(call);
        const name = quoted?.[1] ?? address;
        this.#address(name, from + index + call.indexOf(name, 4));
      }
  }

  #address(name: string, from: number): void {
    if (name && !name.includes(unknownValue)) this.#uses.push({ of: 'address', name, from, to: from + name.length });
  }

  #families(value: string, from: number, shorthand: boolean): void {
    let at = 0;
    const parts = value.split(/,(?![^(]*\))/);
    // One word alone is a keyword: `font: inherit`.
    if (shorthand && parts.length === 1 && !/\s/.test(value.trim())) return;
    parts.forEach((part, index) => {
      // Before the first of a `font` stand its size and the like.
      const own = shorthand && index === 0 ? (/(?:"[^"]*"|'[^']*'|\S+)\s*$/.exec(part)?.[0] ?? '') : part;
      const name = unquoted(own);
      const start = from + at + part.lastIndexOf(own) + own.indexOf(name);
      at += part.length + 1;
      if (name && !/[()!/\uE000]/.test(name))
        this.#uses.push({ of: 'font', name, from: start, to: start + name.length });
    });
  }

  #rule(node: Rule): void {
    const { selector } = node;
    const around = node.parent?.type === 'atrule' ? (node.parent as AtRule).name : '';
    // Stops of an animation are no selectors; a rule in a rule may begin with how it is related.
    if (/keyframes$/i.test(around) || /^[>+~&]/.test(selector) || selector.includes(unknownValue)) return;
    if (!/^,|,$/.test(selector.trim()) && !cannotBeRead(selector, { context: 'selectorList' })) return;
    const from = node.source?.start?.offset ?? 0;
    this.#fault('css', from, from + selector.length, `“${selector}” is no selector: no rule of it holds`);
  }

  #atRule(node: AtRule): void {
    const name = node.name.toLowerCase();
    const from = node.source?.start?.offset ?? 0;
    const outer = node.parent?.type === 'atrule' ? (node.parent as AtRule).name : '';
    if (name === 'property') this.#properties.add(node.params.trim());
    if (name === 'import') {
      const [, address = ''] = /^\s*(?:url\(\s*)?["']?([^"')\s]+)/.exec(node.params) ?? [];
      const at = this.text.indexOf(address, from);
      if (address && at >= 0) this.#address(address, at);
    }
    // Boxes of a printed page, and the sets of a font's features, have names of their own.
    if (/^(?:page|font-feature-values)$/i.test(outer)) return;
    if (!lexer.getAtrule(name)) {
      const near = nearestOf(name, atRules);
      const span = { from: from + 1, to: from + 1 + node.name.length };
      this.#faults.push({ code: 'css-property', ...span, says: `There is no @${node.name}`, near });
    } else if (conditional.has(name)) {
      const { params } = node;
      const sound = name !== 'media' || !cannotBeRead(params, { context: 'atrulePrelude', atrule: name });
      if (params && sound && isBalanced(params)) return;
      const at = from + 1 + node.name.length;
      this.#fault('css', from, at + params.length + 1, `The condition of @${name} cannot be read`);
    }
  }

  #fault(code: Fault['code'], from: number, to: number, says: string, fix?: Fix): void {
    this.#faults.push({ code, from, to, says, near: null, ...(fix && { fix }) });
  }

  /** What no rule can be read from: the first such place alone, as what comes after it is anybody's guess. */
  #broken({ reason, line = 1, column = 1 }: CssSyntaxError): void {
    let from = column - 1;
    for (const one of this.text.split('\n').slice(0, line - 1)) from += one.length + 1;
    this.#faults.length = 0;
    for (const [, name = ''] of this.text.matchAll(/(--[\w-]+)\s*:/g)) this.#properties.add(name);
    for (const [, name = ''] of this.text.matchAll(/@font-face[^}]*?font-family:\s*([^;}]+)/g))
      this.#fonts.add(unquoted(name));
    if (/^unclosed block/i.test(reason)) {
      const block = unclosedBlock(this.text);
      const head = this.text.slice(block.from, block.to).trim().replace(/\s+/g, ' ');
      this.#fault('css', block.from, block.to, `“${head} {” is never closed: its “}” is missing`);
      return;
    }
    if (/^missed semicolon/i.test(reason)) {
      const fix = rewrite('Write the semicolon', { from, to: from }, ';');
      this.#fault('css', Math.max(0, from - 1), from, 'A semicolon is missing here, before the next declaration', fix);
      return;
    }
    const says = sentences.find(([pattern]) => pattern.test(reason))?.[1];
    const lineEnd = this.text.indexOf('\n', from);
    const rest = this.text.slice(from, lineEnd < 0 ? undefined : lineEnd);
    const word = (/^[^;{}]*/.exec(rest)?.[0] ?? '').trim() || rest.slice(0, 1);
    this.#fault(
      'css',
      from,
      from + word.length,
      says ?? `“${word}” is no declaration: write a name, a colon and a value`,
    );
  }
}

const sentences: [RegExp, string][] = [
  [/^unclosed (?:string|quote)/i, 'This text in quotes has no end'],
  [/^unclosed comment/i, 'This comment has no end: everything after it is passed over'],
  [/^unclosed bracket/i, 'This bracket has no end'],
  [/^unexpected }/i, 'This “}” closes nothing: no block is open here'],
  [/^double colon/i, 'A declaration has one colon'],
  [/^at-rule without name/i, 'A rule’s name is missing after “@”'],
];

/** Rules whose condition can be held against a grammar: `@media` by the parser, the others by their brackets. */
const conditional = new Set(['media', 'supports', 'container']);

const isBalanced = (text: string): boolean => text.split('(').length === text.split(')').length;

const atRules = Object.keys((lexer as unknown as { atrules: object }).atrules);

const unquoted = (text: string): string => text.trim().replace(/^["']|["']$/g, '');

function cannotBeRead(text: string, options: { context: string; atrule?: string }): boolean {
  let broken = false;
  try {
    parse(text, { ...options, onParseError: () => (broken = true) });
  } catch {
    return true;
  }
  return broken;
}
