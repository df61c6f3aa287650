import { explainAt, type ExplainAnswer, type SaidOutcome } from '@/server/alternates';
import { stateOf } from '@/server/shop';
import { onShop, stateNamed, writing } from './on-shop';
import type { Say } from './said';

/** `last explain`: which template an address gets in a state, and why; as JSON, the same as the workbench is told. */
export function explainCommand(
  address: string,
  options: { state: string; on?: string; try?: string; json?: boolean },
  say: Say,
  complain: Say,
): Promise<number> {
  return onShop(complain, (shop) => {
    const { on = null, try: tried = null } = options;
    if (on !== null && !/^\d{4}-\d{2}-\d{2}$/.test(on))
      throw new RangeError(`“${on}” is not a day: write it as 2026-12-24.`);
    const explained = explainAt(shop, stateOf(shop, stateNamed(options.state)), address, { on, tried });
    if (tried !== null && !explained.explanations.some(({ because }) => because === 'tried'))
      throw new RangeError(
        `There is no “${tried}” to try at ${address}: there ${explained.explanations.map(({ target, choices }) => `${target.piece === undefined ? 'is' : `in ${target.piece} is`} ${choices.map(({ name }) => name).join(', ')}`).join('; ')}.`,
      );
    if (options.json) say(JSON.stringify(explained, null, 2));
    else for (const line of linesOf(explained)) say(line);
  });
}

function* linesOf({ subject, on, explanations }: ExplainAnswer): Generator<string> {
  for (const { target, template, because, steps } of explanations) {
    const what = target.piece === undefined ? subject.name : `${subject.name}, in ${target.piece}`;
    yield `${what}: ${template} (${because}, on ${on})`;
    for (const { kind, held, decides, label, text, outcome } of steps) {
      const sign = decides ? '→' : held ? '✓' : '–';
      yield `  ${sign} ${kind}${label ? ` ${label}` : ''}: ${text}`;
      if (outcome && !held) yield* outcomeLines(outcome, '      ');
    }
  }
}

function* outcomeLines({ held, text, value, parts }: SaidOutcome, indent: string): Generator<string> {
  yield `${indent}${held ? '✓' : '–'} ${text}${value === null ? '' : `; here: ${value}`}`;
  for (const part of parts) yield* outcomeLines(part, `${indent}  `);
}

/** `last retire-tag`: takes a tag out of the catalogue. */
export function retireTagCommand(slug: string, say: Say, complain: Say): Promise<number> {
  return writing('retire-tag', { slug }, say, complain);
}
