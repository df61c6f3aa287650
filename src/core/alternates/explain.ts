import { assignedTo, templateOf, type Alternates, type Target } from './alternates';
import { seasonOn, type Season } from './season';
import { wrongRule, type Choice, type Chooser } from './choose';
import { groupOf, testOf, type Condition, type GroupName, type Leaf } from './condition';
import { specOf, type Definitions, type Facts, type FactSpec, type FactValue } from '@/core/catalogue';

/** A condition with how each of its parts came out. */
export type Outcome =
  | { group: GroupName; held: boolean; parts: Outcome[] }
  | { leaf: Leaf; spec: FactSpec | null; held: boolean; value: FactValue };

/** One assignment, and why it held or did not. */
export type Step =
  | { kind: 'pin'; held: boolean; alternate: string | null; others: number; missing: boolean; decides: boolean }
  | {
      kind: 'rule';
      id: string;
      alternate: string;
      held: boolean;
      decides: boolean;
      /** Its template has no file. */
      missing: boolean;
      /** It is not in force on this day: before it begins, or after it ended. */
      days: Season & { state: 'before' | 'after' | 'in' };
      /** Why it cannot be asked. */
      wrong: string | null;
      outcome: Outcome;
    }
  | { kind: 'default'; decides: boolean };

export interface Explanation extends Choice {
  steps: Step[];
}

/** How a condition came out for a subject, part by part: nothing is left out, so that each part tells its value. */
export function outcomeOf(
  of: Condition,
  facts: Facts,
  today: string,
  kind: Target['kind'],
  definitions: Definitions,
): Outcome {
  const group = groupOf(of);
  if (!group) {
    const leaf = of as Leaf;
    const spec = specOf(kind, leaf, definitions);
    const value = spec ? facts(leaf) : null;
    return { leaf, spec, held: spec !== null && testOf(leaf, today)(value), value };
  }
  const parts = group.parts.map((part) => outcomeOf(part, facts, today, kind, definitions));
  const held =
    group.name === 'all'
      ? parts.every((part) => part.held)
      : group.name === 'any'
        ? parts.some((part) => part.held)
        : !parts.some((part) => part.held);
  return { group: group.name, held, parts };
}

/** Every assignment of a target with why it holds for a subject or not, in their order, and what comes of it. */
export function explain(
  alternates: Alternates,
  target: Target,
  subject: { slug: string; facts: Facts },
  chosen: { chooser: Chooser; exists: (template: string) => boolean; definitions: Definitions; tried?: string | null },
): Explanation {
  const { chooser, exists, definitions, tried = null } = chosen;
  const { today } = chooser;
  const choice = chooser.choose(target, subject.slug, subject.facts, tried);
  const { pins, rules } = assignedTo(alternates, target);
  const steps: Step[] = [];
  const own = pins.find(({ slug }) => slug === subject.slug);
  const pinned = own ? templateOf(target, own.alternate) : null;
  steps.push({
    kind: 'pin',
    held: own !== undefined,
    alternate: own?.alternate ?? null,
    others: pins.filter(({ slug }) => slug !== subject.slug).length,
    missing: pinned !== null && !exists(pinned),
    decides: choice.because === 'pin',
  });
  for (const rule of rules) {
    const outcome = outcomeOf(rule.when, subject.facts, today, rule.kind, definitions);
    const wrong = wrongRule(rule, definitions)?.says ?? null;
    const state = seasonOn(rule, today);
    steps.push({
      kind: 'rule',
      id: rule.id,
      alternate: rule.alternate,
      held: outcome.held && state === 'in' && wrong === null,
      decides: choice.rule === rule.id,
      missing: !exists(templateOf(rule, rule.alternate)),
      days: { from: rule.from, to: rule.to, yearly: rule.yearly, state },
      wrong,
      outcome,
    });
  }
  steps.push({ kind: 'default', decides: choice.because === 'default' });
  return { ...choice, steps };
}
