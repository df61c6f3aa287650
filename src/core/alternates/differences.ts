import type { Alternates } from './alternates';

/** How two lists of alternates and assignments differ, from the first to the second, a sentence for each. */
export function differencesOf(before: Alternates, after: Alternates): string[] {
  const said: string[] = [];
  const keyed = <T>(list: readonly T[], key: (one: T) => string) => new Map(list.map((one) => [key(one), one]));
  const [had, has] = [before, after].map(({ alternates }) => keyed(alternates, (one) => `${one.kind}/${one.name}`)) as [
    Map<string, Alternates['alternates'][number]>,
    Map<string, Alternates['alternates'][number]>,
  ];
  for (const [name, one] of has) {
    const was = had.get(name);
    if (!was) said.push(`Alternate ${name} (“${one.label}”) is new`);
    else if (JSON.stringify(was) !== JSON.stringify(one))
      said.push(`Alternate ${name} (“${one.label}”) is registered otherwise`);
  }
  for (const [name, one] of had) if (!has.has(name)) said.push(`Alternate ${name} (“${one.label}”) is gone`);
  const [pinned, pins] = [before, after].map((list) => keyed(list.pins, (one) => `${one.kind} ${one.slug}`.trim())) as [
    Map<string, Alternates['pins'][number]>,
    Map<string, Alternates['pins'][number]>,
  ];
  for (const [subject, { alternate }] of pins) {
    const was = pinned.get(subject)?.alternate;
    if (was !== alternate)
      said.push(`${subject} is pinned to ${alternate}${was === undefined ? '' : `, no longer to ${was}`}`);
  }
  for (const [subject, { alternate }] of pinned)
    if (!pins.has(subject)) said.push(`${subject} is no longer pinned to ${alternate}`);
  return said;
}
