import { selectorSpecificity } from '@csstools/selector-specificity';
import postcss, { type AtRule, type ChildNode, type Declaration, type Rule } from 'postcss';
import selectorParser from 'postcss-selector-parser';

/** A style sheet of the theme. */
export interface Sheet {
  /** Path in the theme: `assets/css/shop.css`. */
  path: string;
  layer: string;
  /** It is the shop's: it may be written. */
  own: boolean;
  text: string;
}

/** A declaration of a rule. Offsets in UTF-16 units of its sheet. */
export interface Declared {
  property: string;
  value: string;
  important: boolean;
  from: number;
  to: number;
  valueFrom: number;
  valueTo: number;
  line: number;
}

/** A rule with the conditions around it, outermost first. */
export interface SheetRule {
  sheet: number;
  selectors: string[];
  conditions: { name: string; text: string }[];
  declarations: Declared[];
  line: number;
  from: number;
  /** Where a further declaration goes. */
  end: number;
  /** Number in the order of the page. */
  order: number;
}

/** Reads the rules of sheets in the order in which the page links them. What cannot be read of a sheet is passed over. */
export function readRules(sheets: readonly Sheet[]): SheetRule[] {
  const rules: SheetRule[] = [];
  sheets.forEach(({ text }, sheet) => {
    let root;
    try {
      root = postcss.parse(text);
    } catch {
      return;
    }
    const walk = (nodes: readonly ChildNode[], conditions: SheetRule['conditions']): void => {
      for (const node of nodes) {
        if (node.type === 'rule') rules.push(ruleOf(node, sheet, conditions, rules.length));
        else if (node.type === 'atrule' && grouping.has(node.name))
          walk(node.nodes ?? [], [...conditions, conditionOf(node)]);
      }
    };
    walk(root.nodes, []);
  });
  return rules;
}

const grouping = new Set(['media', 'supports', 'layer', 'container']);
const conditionOf = ({ name, params }: AtRule) => ({ name, text: params });

function ruleOf(rule: Rule, sheet: number, conditions: SheetRule['conditions'], order: number): SheetRule {
  const declarations = rule.nodes.flatMap((node) => (node.type === 'decl' ? [declaredOf(node)] : []));
  return {
    sheet,
    selectors: rule.selectors,
    conditions,
    declarations,
    line: rule.source?.start?.line ?? 1,
    from: rule.source?.start?.offset ?? 0,
    end: (rule.source?.end?.offset ?? 1) - 1,
    order,
  };
}

function declaredOf(node: Declaration): Declared {
  const from = node.source?.start?.offset ?? 0;
  const to = node.source?.end?.offset ?? 0;
  const valueFrom = from + node.prop.length + (node.raws.between ?? ':').length;
  const raw = (node.raws.value as { raw?: string } | undefined)?.raw ?? node.value;
  return {
    property: node.prop,
    value: node.value,
    important: node.important ?? false,
    from,
    to,
    valueFrom,
    valueTo: valueFrom + raw.length,
    line: node.source?.start?.line ?? 1,
  };
}

/** Specificity of a selector (Selectors Level 4, 17): ids, classes, types. */
export function weightOf(selector: string): [number, number, number] {
  try {
    const { a, b, c } = selectorSpecificity(selectorParser().astSync(selector));
    return [a, b, c];
  } catch {
    return [0, 0, 0];
  }
}

/** A rule that shapes an element, as it came out. */
export interface Shaping {
  rule: SheetRule;
  /** The selectors that match, the weightiest first. */
  selectors: string[];
  weight: [number, number, number];
  /** How far up the element is that it matches: 0, the element itself. */
  up: number;
  /** Its conditions hold: else it shapes nothing now. */
  holds: boolean;
  declarations: (Declared & { wins: boolean })[];
}

/** Properties that an element takes from the one around it (CSS, the initial specifications' property tables). */
const inherited =
  /^(?:--.*|color|font(?:-.*)?|line-height|letter-spacing|word-spacing|text-(?:align|indent|transform|shadow|wrap)|white-space|list-style(?:-.*)?|cursor|visibility|direction|quotes|hyphens|overflow-wrap|border-collapse|border-spacing|caption-side|accent-color|tab-size)$/;

/**
 * The rules that shape an element, weightiest first, then what it takes from the elements around it: each declaration with
 * whether it wins.
 */
export function shapingOf(
  rules: readonly SheetRule[],
  matched: readonly { rule: number; selectors: number[]; up: number; holds: boolean }[],
): Shaping[] {
  const shaping = matched.flatMap(({ rule: number, selectors, up, holds }): Shaping[] => {
    const rule = rules[number];
    if (!rule) return [];
    const named = selectors
      .flatMap((at) => rule.selectors[at] ?? [])
      .map((selector) => ({ selector, weight: weightOf(selector) }))
      .sort((a, b) => Number(/::/.test(a.selector)) - Number(/::/.test(b.selector)) || compare(b.weight, a.weight));
    const [first] = named;
    if (!first) return [];
    const own = rule.declarations.filter(({ property }) => up === 0 || inherited.test(property));
    if (!own.length) return [];
    return [
      {
        rule,
        selectors: named.map((one) => one.selector),
        weight: first.weight,
        up,
        holds,
        declarations: own.map((one) => ({ ...one, wins: false })),
      },
    ];
  });
  shaping.sort(
    (a, b) =>
      a.up - b.up ||
      Number(ofPart(a)) - Number(ofPart(b)) ||
      layered(a) - layered(b) ||
      compare(b.weight, a.weight) ||
      b.rule.order - a.rule.order,
  );
  const taken = new Set<string>();
  for (let up = 0; up <= Math.max(0, ...shaping.map((one) => one.up)); up++) {
    for (const important of [true, false]) {
      for (const one of shaping) {
        if (one.up !== up || !one.holds || ofPart(one)) continue;
        for (const declared of [...one.declarations].reverse()) {
          if (declared.important !== important) continue;
          const names = [declared.property, ...shorthands(declared.property)];
          if (names.some((name) => taken.has(name))) continue;
          taken.add(declared.property);
          declared.wins = true;
        }
      }
    }
  }
  // What shapes a part of the element (`::before`) is reported by itself.
  for (const one of shaping)
    if (one.holds && ofPart(one)) for (const declared of one.declarations) declared.wins = true;
  return shaping;
}

/** It shapes a part of the element only: `::before`. */
const ofPart = ({ selectors }: Shaping): boolean => selectors.every((selector) => /::/.test(selector));

const layered = ({ rule }: Shaping): number => (rule.conditions.some(({ name }) => name === 'layer') ? 1 : 0);

const compare = (a: readonly number[], b: readonly number[]): number => {
  for (let at = 0; at < a.length; at++) if (a[at] !== b[at]) return (a[at] as number) - (b[at] as number);
  return 0;
};

/** The shorthands that set a property: `margin` and `margin-block` for `margin-top`. */
function shorthands(property: string): string[] {
  const parts = property.split('-');
  return parts.slice(1).map((_, at) => parts.slice(0, parts.length - 1 - at).join('-'));
}

/** A change of a style sheet of the shop's. */
export interface SheetChange {
  path: string;
  text: string;
  /** Where the rule begins. */
  caret: number;
}

/** The sheet that the shop's own rules go to: the last that the page links which is the shop's, or holds no rule yet. */
export function ownSheet(sheets: readonly Sheet[], rules: readonly SheetRule[]): number {
  for (let at = sheets.length - 1; at >= 0; at--)
    if (sheets[at]?.own || !rules.some(({ sheet }) => sheet === at)) return at;
  return -1;
}

/**
 * Gives a declaration another value: in its place where its sheet is the shop's; else by a rule of the same selector in the
 * shop's own sheet, which comes later and so wins. Null: the page links no sheet that could be the shop's.
 */
export function withValue(
  sheets: readonly Sheet[],
  rules: readonly SheetRule[],
  rule: SheetRule,
  property: string,
  value: string,
): SheetChange | null {
  const sheet = sheets[rule.sheet];
  const declared = rule.declarations.findLast((one) => one.property === property);
  if (sheet?.own && declared) {
    const text = sheet.text.slice(0, declared.valueFrom) + value + sheet.text.slice(declared.valueTo);
    return { path: sheet.path, text, caret: rule.from };
  }
  const important = declared?.important ? ' !important' : '';
  return withRule(sheets, rules, rule.selectors.join(', '), rule.conditions, property, value + important);
}

/** A rule in the shop's own sheet: one that is there gets the declaration, else it is begun at the sheet's end. */
export function withRule(
  sheets: readonly Sheet[],
  rules: readonly SheetRule[],
  selector: string,
  conditions: SheetRule['conditions'],
  property: string,
  value: string,
): SheetChange | null {
  const at = ownSheet(sheets, rules);
  const sheet = sheets[at];
  if (!sheet) return null;
  const same = rules.find(
    (one) =>
      one.sheet === at &&
      one.selectors.join(', ') === selector &&
      JSON.stringify(one.conditions) === JSON.stringify(conditions),
  );
  const declared = same?.declarations.findLast((one) => one.property === property);
  const { path, text } = sheet;
  if (same && declared) {
    const bare = declared.important ? value.replace(/\s*!important$/, '') : value;
    return { path, text: text.slice(0, declared.valueFrom) + bare + text.slice(declared.valueTo), caret: same.from };
  }
  if (same) {
    const before = text.slice(0, same.end).trimEnd();
    const ended = /[{;]$/.test(before) ? '' : ';';
    const indent = '  '.repeat(conditions.length + 1);
    const whole = `${before}${ended}\n${indent}${property}: ${value};\n${'  '.repeat(conditions.length)}${text.slice(same.end)}`;
    return { path, text: whole, caret: same.from };
  }
  const opening = conditions.map((one, depth) => `${'  '.repeat(depth)}@${one.name} ${one.text} {\n`).join('');
  const inner = '  '.repeat(conditions.length);
  const closing = conditions.map((_, depth) => `${'  '.repeat(conditions.length - 1 - depth)}}\n`).join('');
  const gap = !text || text.endsWith('\n\n') ? '' : text.endsWith('\n') ? '\n' : '\n\n';
  const rule = `${opening}${inner}${selector} {\n${inner}  ${property}: ${value};\n${inner}}\n${closing}`;
  return { path, text: text + gap + rule, caret: text.length + gap.length + opening.length };
}

/** Selectors by which a rule for an element can begin, the narrowest last. */
export function selectorsFor(name: string, classes: readonly string[], around: readonly string[]): string[] {
  const safe = classes.filter((one) => /^[A-Za-z_][\w-]*$/.test(one));
  const own = safe.length ? safe.map((one) => `.${one}`) : [name];
  const all = safe.length > 1 ? [safe.map((one) => `.${one}`).join('')] : [];
  const outer = around.find((one) => /^[A-Za-z_][\w-]*$/.test(one));
  return [...new Set([...own, ...all, ...(outer ? [`.${outer} ${own[0]}`] : [])])];
}
