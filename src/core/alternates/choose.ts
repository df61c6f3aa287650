import { inSeason } from './season';
import { templateOf, type Alternates, type Rule, type Target } from './alternates';
import { leavesOf, testOf, groupOf, wrongLeaf, type Condition, type Leaf } from './condition';
import type { Definitions, Facts } from '@/core/catalogue';

/** Which template serves a subject, and why. */
export interface Choice {
  /** Name of the template: `product/default`. */
  template: string;
  because: 'tried' | 'pin' | 'rule' | 'default';
  /** The rule that decided. */
  rule: string | null;
  /** The template of an assignment that would have decided, and has no file. */
  broken: string | null;
}

/** Assignments of one theme made ready: what a subject is asked, on a day. */
export interface Chooser {
  readonly today: string;
  /**
   * The template for a subject of a target: the one tried, else its pin's, else that of the first rule that holds, else the
   * default. What has no file is passed over. `facts` is asked only where rules need it.
   */
  choose(target: Target, slug: string, facts: Facts, tried?: string | null): Choice;
  /** Whether a target has assignments at all. */
  has(target: Target): boolean;
}

type Held = (facts: Facts) => boolean;

/** A condition as one test of a subject. */
export function compile(of: Condition, today: string): Held {
  const group = groupOf(of);
  if (!group) {
    const one = of as Leaf;
    const test = testOf(one, today);
    return (facts) => test(facts(one));
  }
  const parts = group.parts.map((part) => compile(part, today));
  if (group.name === 'all') return (facts) => parts.every((part) => part(facts));
  if (group.name === 'any') return (facts) => parts.some((part) => part(facts));
  return (facts) => !parts.some((part) => part(facts));
}

/** Why a rule cannot be asked at all; null when it can. Such a rule is left out whole: half a condition would hold for others than was meant. */
export function wrongRule(
  rule: Pick<Rule, 'kind' | 'when'>,
  definitions: Definitions,
): { code: 'gone' | 'type'; says: string; leaf: Leaf } | null {
  for (const leaf of leavesOf(rule.when)) {
    const wrong = wrongLeaf(rule.kind, leaf, definitions);
    if (wrong) return { ...wrong, leaf };
  }
  return null;
}

/** Whether a condition holds of a subject of a kind; one that cannot be asked holds of none. */
export const holds = (
  rule: Pick<Rule, 'kind' | 'when'>,
  facts: Facts,
  today: string,
  definitions: Definitions,
): boolean => !wrongRule(rule, definitions) && compile(rule.when, today)(facts);

/** Makes assignments ready to choose by. `exists` says whether the theme has a template of that name. */
export function chooser(
  { pins, rules }: Alternates,
  exists: (template: string) => boolean,
  today: string,
  definitions: Definitions,
): Chooser {
  interface Assigned {
    pins: Map<string, string>;
    rules: { rule: Rule; template: string; held: Held }[];
  }
  const byTarget = new Map<string, Assigned>();
  const keyOf = ({ kind, piece }: Target) => `${kind} ${piece ?? ''}`;
  const at = (target: Target): Assigned => {
    const key = keyOf(target);
    let found = byTarget.get(key);
    if (!found) byTarget.set(key, (found = { pins: new Map(), rules: [] }));
    return found;
  };
  for (const pin of pins) {
    const { pins: known } = at(pin);
    if (!known.has(pin.slug)) known.set(pin.slug, templateOf(pin, pin.alternate));
  }
  for (const rule of rules) {
    if (!inSeason(rule, today) || wrongRule(rule, definitions)) continue;
    at(rule).rules.push({ rule, template: templateOf(rule, rule.alternate), held: compile(rule.when, today) });
  }
  return {
    today,
    has: (target) => byTarget.has(keyOf(target)),
    choose(target, slug, facts, tried = null) {
      if (tried !== null) {
        const template = templateOf(target, tried);
        if (exists(template)) return { template, because: 'tried', rule: null, broken: null };
      }
      const assigned = byTarget.get(keyOf(target));
      let broken: string | null = null;
      const pinned = assigned?.pins.get(slug);
      if (pinned !== undefined) {
        if (exists(pinned)) return { template: pinned, because: 'pin', rule: null, broken };
        broken = pinned;
      }
      for (const { rule, template, held } of assigned?.rules ?? []) {
        if (!held(facts)) continue;
        if (exists(template)) return { template, because: 'rule', rule: rule.id, broken };
        broken ??= template;
      }
      return { template: templateOf(target, 'default'), because: 'default', rule: null, broken };
    },
  };
}
