import type { FieldSubject } from '@/core/catalogue';
import type { ExplainAnswer, ExplanationItem, SaidOutcome } from '@/contract/alternates';
import {
  sameTarget,
  templateOf,
  type Target,
  chooser,
  explain,
  type Outcome,
  type Step,
  pieceTried,
  sayCondition,
  sayDays,
  sayLeaf,
  sayValue,
  type Wording,
} from '@/core/alternates';
import { subjectAt } from '@/core/storefront';
import { pathOf } from '@/core/address';
import type { StateRow } from '@/store';
import { targetsIn } from './coverage';
import { requestOf } from '@/server/storefront';
import { readAsk } from '@/server/bench';
import { refuse } from '@/server/http';
import { type Shop, wordingOf } from '@/server/shop';

export type { ExplainAnswer, SaidOutcome };

const words: Record<string, string> = { all: 'all of these', any: 'any of these', not: 'none of these' };

function describedOutcome(kind: Target['kind'], outcome: Outcome, wording: Wording): SaidOutcome {
  if ('leaf' in outcome) {
    const { leaf, spec, held, value } = outcome;
    return { held, text: sayLeaf(kind, leaf, wording), value: sayValue(kind, leaf, spec, value, wording), parts: [] };
  }
  const { group, held, parts } = outcome;
  const text = parts.length ? (words[group] as string) : group === 'any' ? 'never' : 'always';
  return { held, text, value: null, parts: parts.map((part) => describedOutcome(kind, part, wording)) };
}

/** Why the subject at an address gets its templates in a state: each pin and rule, held or not, with the values that decided. */
export function explainAt(
  shop: Shop,
  state: StateRow,
  address: string,
  { on = null, tried = null }: { on?: string | null; tried?: string | null } = {},
): ExplainAnswer {
  const request = requestOf(shop, state, { ...readAsk(address, tried), ...(on === null ? {} : { on }) });
  const { theme, alternates, source, today } = request;
  const found =
    subjectAt(request) ?? refuse(404, 'page', `There is no page “${address}”: write it as /product/… or /category/….`);
  const { subject, name, seen } = found;
  const wording = wordingOf(shop);
  const exists = (template: string) => theme.file(`${template}.html`) !== null;
  const definitions = (kind: FieldSubject) => source.fieldDefinitions(kind);
  const choose = chooser(alternates, exists, today, definitions);
  const own: Target = { kind: subject.kind };
  const pieces = targetsIn(alternates).filter(({ kind, piece }) => piece !== undefined && kind === seen.kind);
  const type = String(seen.facts({ fact: 'type' }) ?? '');
  const triedPiece = pieceTried(alternates, tried);

  const explained = [own, ...pieces].map((target): ExplanationItem => {
    const labels = alternates.alternates.filter((one) => sameTarget(one, target));
    const labelOf = (alternate: string) => labels.find((one) => one.name === alternate)?.label ?? alternate;
    const named =
      target.piece === undefined ? tried : triedPiece && sameTarget(triedPiece, target) ? triedPiece.name : null;
    const slug = target.piece === undefined ? subject.slug : seen.slug;
    const one = explain(
      alternates,
      target,
      { slug, facts: seen.facts },
      { chooser: choose, exists, definitions, tried: named },
    );
    return {
      target,
      template: one.template,
      label: labelOf(
        one.template === templateOf(target, 'default') ? 'default' : (one.template.split('/').pop() as string),
      ),
      because: one.because,
      rule: one.rule,
      steps: one.steps.map((step) => stepOf(step, target, labelOf, alternates.rules, wording)),
      choices: [
        { name: 'default', label: 'default' },
        ...labels
          .filter((label) => exists(templateOf(target, label.name)))
          .filter(({ types }) => target.kind !== 'product' || !types.length || types.includes(type))
          .map(({ name: given, label }) => ({ name: given, label })),
      ],
    };
  });
  return { subject: { ...subject, name }, address: pathOf(subject), on: today, explanations: explained };
}

function stepOf(
  step: Step,
  target: Target,
  labelOf: (alternate: string) => string,
  rules: Parameters<typeof explain>[0]['rules'],
  wording: Wording,
): ExplanationItem['steps'][number] {
  const { kind, decides } = step;
  const missing = (is: boolean) => (is ? ', whose file is missing' : '');
  if (step.kind === 'default') {
    return {
      kind,
      id: null,
      alternate: 'default',
      label: 'default',
      held: true,
      decides,
      outcome: null,
      text: decides ? 'nothing before it decides' : 'not needed',
    };
  }
  if (step.kind === 'pin') {
    const { alternate, others } = step;
    const text =
      alternate !== null
        ? `pinned${missing(step.missing)}`
        : others
          ? `no pin names it; ${others} name${others === 1 ? 's' : ''} others`
          : 'no pin names it';
    return {
      kind,
      id: null,
      alternate,
      label: alternate === null ? null : labelOf(alternate),
      held: step.held,
      decides,
      outcome: null,
      text,
    };
  }
  const rule = rules.find(({ id }) => id === step.id);
  const days = sayDays(step.days, wording);
  const when = rule ? sayCondition(target.kind, rule.when, wording) : '';
  const why =
    step.wrong !== null
      ? `left out: ${step.wrong}`
      : step.days.state === 'before'
        ? `not yet: ${days}`
        : step.days.state === 'after'
          ? `over: ${days}`
          : step.held && !decides
            ? 'holds, but what goes before it decides'
            : days;
  const { id, alternate, held } = step;
  return {
    kind,
    id,
    alternate,
    label: labelOf(alternate),
    held,
    decides,
    text: `${when}${missing(step.missing)}${why ? ` — ${why}` : ''}`,
    outcome: describedOutcome(target.kind, step.outcome, wording),
  };
}
