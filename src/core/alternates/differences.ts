import { targetKey, templateOf, type Alternates, type Rule, type Target } from './alternates';
import { sayCondition, sayDays, type Wording } from './words';

/** How two lists of alternates and assignments differ, from the first to the second, a sentence for each. */
export function differencesOf(before: Alternates, after: Alternates, words: Wording): string[] {
  const sentences: string[] = [];
  const pair = <T>(of: (all: Alternates) => readonly T[], key: (one: T) => string) =>
    [before, after].map((all) => new Map(of(all).map((one) => [key(one), one]))) as [Map<string, T>, Map<string, T>];

  const [had, has] = pair(
    ({ alternates }) => alternates,
    (one) => templateOf(one, one.name),
  );
  for (const [name, one] of has) {
    const was = had.get(name);
    if (!was) sentences.push(`Alternate ${name} (“${one.label}”) is new`);
    else if (JSON.stringify(was) !== JSON.stringify(one))
      sentences.push(`Alternate ${name} (“${one.label}”) is registered otherwise`);
  }
  for (const [name, one] of had) if (!has.has(name)) sentences.push(`Alternate ${name} (“${one.label}”) is gone`);

  const where = ({ kind, piece }: Target) => (piece === undefined ? kind : `${kind} in ${piece}`);
  const [pinned, pins] = pair(
    (all) => all.pins,
    (one) => `${where(one)} ${one.slug}`.trim(),
  );
  for (const [subject, { alternate }] of pins) {
    const was = pinned.get(subject)?.alternate;
    if (was !== alternate)
      sentences.push(`${subject} is pinned to ${alternate}${was === undefined ? '' : `, no longer to ${was}`}`);
  }
  for (const [subject, { alternate }] of pinned)
    if (!pins.has(subject)) sentences.push(`${subject} is no longer pinned to ${alternate}`);

  const [ruled, rules] = pair(
    (all) => all.rules,
    (one) => one.id,
  );
  const saidRule = (rule: Rule) => {
    const days = sayDays(rule, words);
    return `${where(rule)}: ${sayCondition(rule.kind, rule.when, words)} → ${rule.alternate}${days ? `, ${days}` : ''}`;
  };
  for (const [id, rule] of rules) {
    const was = ruled.get(id);
    if (!was) sentences.push(`A rule is new: ${saidRule(rule)}`);
    else if (JSON.stringify(was) !== JSON.stringify(rule))
      sentences.push(`A rule is changed: ${saidRule(rule)} (it was ${saidRule(was)})`);
  }
  for (const [id, rule] of ruled) if (!rules.has(id)) sentences.push(`A rule is gone: ${saidRule(rule)}`);

  // Of the rules that both have, whether one goes before another now.
  const order = (all: Alternates, target: string) =>
    all.rules.filter((one) => targetKey(one) === target && ruled.has(one.id) && rules.has(one.id)).map(({ id }) => id);
  for (const target of new Set(after.rules.map(targetKey)))
    if (order(before, target).join('\n') !== order(after, target).join('\n'))
      sentences.push(`The rules for ${target} are in another order`);
  return sentences;
}
