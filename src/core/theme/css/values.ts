import { lexer, parse, type CssNode, type DSNode, type SyntaxMatchError } from 'css-tree';
import { LRUCache } from 'lru-cache';
import { nearestOf, type Near } from '@/core/language';

/** What is wrong with a declaration: offsets of its name or of its value. */
export interface Wrong {
  at: 'property' | 'value';
  from: number;
  to: number;
  says: string;
  /** What is likely meant in place of what stands there. */
  near: Near | null;
}

/** At-rules whose declarations are descriptors of their own, not properties. */
const described = new Set([...['font-face', 'property', 'counter-style', 'view-transition', 'font-palette-values']]);

/** Properties that a browser knows (Chromium 156, by asking it) and the parser does not yet: they take anything. */
const newer = new Set(
  `app-region border-shape buffered-rendering color-interpolation color-rendering flex-line-count frame-sizing rule-overlap
  scroll-axis-lock text-fit view-transition-group view-transition-scope window-drag`.split(/\s+/),
);
const isNewer = (name: string): boolean =>
  newer.has(name) || /^(?:(?:column-|row-)?rule(?:-|$)|timeline-trigger-)/.test(name);

/** Properties that take more than the parser's grammar of them says. */
const takeMore = /^(?:-.*|position-anchor|rx|ry|speak)$/;

/** What is asked of a printed page in @page, besides properties. */
const pageDescriptors = new Set(['size', 'marks', 'bleed', 'page-orientation', 'page-margin-safety']);

/** What only a browser works out, or what has a grammar newer than the parser's: any property may take it. */
const workedOutLater =
  /(?:^|[\s,(/])(?:var|env|attr|if|calc-size|anchor|sibling-count|sibling-index|random|progress|inherit|circle)\(|\(\s*from\s/i;

const cache = new LRUCache<string, { wrong: Wrong | null }>({ max: 20_000 });

/**
 * Holds a declaration against the grammars of CSS; null: nothing is wrong with it. `rule`: the name of the at-rule that it
 * stands in directly. A custom property takes anything, and so does a name with a maker's prefix.
 */
export function wrongDeclaration(property: string, value: string, rule = ''): Wrong | null {
  if (property.startsWith('--')) return null;
  const within = described.has(rule) ? rule : '';
  const key = `${within} ${property}:${value}`;
  const known = cache.get(key);
  if (known) return known.wrong;
  const name = property.toLowerCase();
  if (rule === 'page' && pageDescriptors.has(name)) return null;
  const wrong = wrongName(name, within) ?? wrongValue(name, value, within);
  cache.set(key, { wrong });
  return wrong;
}

/** Whether a property is one of CSS. */
const isProperty = (name: string): boolean => isNewer(name) || lexer.getProperty(name) !== null;

/** The properties of CSS, without those of one maker. */
const properties: readonly string[] = Object.keys(
  (lexer as unknown as { properties: Record<string, unknown> }).properties,
).filter((name) => !name.startsWith('-'));

function wrongName(name: string, rule: string): Wrong | null {
  const descriptors = rule ? (lexer.getAtrule(rule)?.descriptors ?? {}) : null;
  if (descriptors ? name in descriptors : isProperty(name)) return null;
  if (name.startsWith('-')) return null;
  const near = nearestOf(name, descriptors ? Object.keys(descriptors) : properties);
  const says = rule ? `@${rule} has no “${name}”` : `There is no property “${name}”`;
  return { at: 'property', from: 0, to: name.length, says, near };
}

function wrongValue(name: string, value: string, rule: string): Wrong | null {
  const whole = { at: 'value', from: 0, to: value.length, near: null } as const;
  if (!value.trim()) return { ...whole, says: `“${name}” has no value` };
  if (workedOutLater.test(value) || (!rule && (isNewer(name) || takeMore.test(name)))) return null;
  const joined = /\bcalc\([^()]*?([\d.]+[a-z%]*[+-][\d.]+[a-z%]*)/i.exec(value)?.[1];
  if (joined) {
    const from = value.indexOf(joined);
    const says = `In calc() a space stands on both sides of “+” and “-”: “${joined}” has none`;
    return { at: 'value', from, to: from + joined.length, says, near: null };
  }
  const tree = read(value);
  if (!tree) return { ...whole, says: `“${name}” does not take “${shortened(value)}”` };
  const match = (given: CssNode | string) =>
    rule ? lexer.matchAtruleDescriptor(rule, name, given) : lexer.matchProperty(name, given);
  const { error } = match(tree);
  if (!error || !('mismatchOffset' in error)) return null;
  const { loc } = error as SyntaxMatchError;
  const at = { from: loc.start.offset, to: Math.max(loc.end.offset, loc.start.offset) };
  const word = value.slice(at.from, at.to);
  // Something is missing at its end.
  if (!word) return { ...whole, says: `“${name}” does not take “${shortened(value)}”` };
  const near = likely(word, name, rule);
  const says = `“${name}” does not take “${shortened(word)}”`;
  if (/^[-+]?(?:\d+\.?\d*|\.\d+)$/.test(word) && !match(`${value.slice(0, at.to)}px${value.slice(at.to)}`).error)
    return { at: 'value', ...at, says: `${says} without a unit, as in “${word}px”`, near: null };
  return { at: 'value', ...at, says, near };
}

/** The units of CSS Values and Units, and those of its neighbours. */
const units =
  'px em rem ex ch cap ic lh rlh vw vh vi vb vmin vmax svw svh lvw lvh dvw dvh cqw cqh cqi cqb cm mm in pt pc deg rad grad turn ms fr dpi dppx';

/** What a word that a property does not take is likely to mean: a keyword of its, or the same number with a unit. */
function likely(word: string, name: string, rule: string): Near | null {
  if (/^-?[a-z][\w-]*$/i.test(word)) return nearestOf(word.toLowerCase(), keywordsOf(name, rule));
  const [, digits = '', unit = ''] = /^([-+]?[\d.]+)([a-z]{3,})$/i.exec(word) ?? [];
  const near = unit ? nearestOf(unit.toLowerCase(), units.split(' ')) : null;
  return near && { ...near, name: digits + near.name };
}

/** A value as a tree; null: it is none. */
function read(value: string): CssNode | null {
  let broken = false;
  try {
    const tree = parse(value, { context: 'value', positions: true, onParseError: () => (broken = true) });
    return broken ? null : tree;
  } catch {
    return null;
  }
}

const shortened = (text: string): string => (text.length > 40 ? `${text.slice(0, 40)}…` : text);

const keywords = new Map<string, string[]>();

/** The keywords that a property or descriptor takes somewhere in its value. */
function keywordsOf(name: string, rule: string): string[] {
  let found = keywords.get(`${rule} ${name}`);
  if (!found) {
    const syntax = rule ? lexer.getAtruleDescriptor(rule, name)?.syntax : lexer.getProperty(name)?.syntax;
    keywords.set(`${rule} ${name}`, (found = [...(syntax ? keywordsIn(syntax) : []), 'inherit', 'initial', 'unset']));
  }
  return found;
}

function keywordsIn(syntax: DSNode): Set<string> {
  const found = new Set<string>();
  const seen = new Set<string>();
  const look = (node: DSNode): void => {
    if (node.type === 'Keyword') found.add(node.name);
    else if (node.type === 'Group') node.terms.forEach(look);
    else if (node.type === 'Multiplier') look(node.term);
    else if (node.type === 'Type' || node.type === 'Property') {
      if (seen.has(node.type + node.name)) return;
      seen.add(node.type + node.name);
      const of = node.type === 'Type' ? lexer.getType(node.name) : lexer.getProperty(node.name);
      if (of?.syntax) look(of.syntax);
    }
  };
  look(syntax);
  return found;
}
