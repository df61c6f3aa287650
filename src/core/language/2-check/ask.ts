import type { ElementNode } from '../1-parse/nodes';
import { nearestOf } from '../nearest';
import { fixOf, type Report } from './infer';
import { fixedName } from './walk';

/** The ways of asking, each drawn by `pieces/ask/<type>`. */
export const askTypes = ['text', 'long-text', 'choice', 'drop-down', 'tick'] as const;

/** Holds a question to what asking needs. `asked` gathers the names of a template's questions. */
export function checkAsk(element: ElementNode, asked: Set<string>, report: Report): void {
  const name = fixedName(element);
  const span = { from: element.from, to: element.openTo };
  if (!name || !/^[a-z0-9]+(?:-[a-z0-9]+)*$/.test(name)) {
    report('ask', span, {
      text: '<ask> needs a name of small letters, digits and hyphens, written out: its answer is sent under it',
    });
  } else if (asked.has(name)) {
    report('ask', span, { text: `Two questions are called “${name}”: their answers could not be told apart` });
  } else asked.add(name);
  const at = element.attributes.find((one) => one.name === 'type');
  const type = fixedName(element, 'type') ?? 'text';
  if (!(askTypes as readonly string[]).includes(type)) {
    const near = nearestOf(type, askTypes);
    const text = `There is no kind of question “${type}”; there are ${askTypes.join(', ')}${near ? `. Did you mean “${near.name}”?` : ''}`;
    report('ask', at ?? span, { text }, at?.value ? fixOf(near, at.value) : undefined);
  }
  const options = element.attributes.find((one) => one.name === 'options');
  if ((type === 'choice' || type === 'drop-down') && !options?.value)
    report('ask', span, { text: `A question of kind “${type}” needs its options: options="Plain, Whipped"` });
  if (!element.attributes.some((one) => one.name === 'label' && one.value))
    report('ask', span, { text: 'A question needs a label: what the customer is asked' });
}
