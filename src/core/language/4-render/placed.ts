import type { Take } from '../1-parse/nodes';
import type { PlacedInput, SiteServices } from '../filters/services';
import { Html, isEmpty, type Value } from '../values/values';
import { readInput } from './inputs';
import type { Inputs } from './runtime';

/** What a placed input holds, read as what its piece takes. `bound`: a field of the page's subject. */
export function placedValue(
  input: PlacedInput,
  type: string,
  services: SiteServices,
  bound: (path: string) => Value,
): Value {
  if ('field' in input) {
    const held = bound(input.field);
    // A custom field holds a picture by its path.
    return /^(?:picture|media)$/i.test(type) && typeof held === 'string' ? readPlaced(held, type, services) : held;
  }
  if ('phrase' in input) {
    const phrase = services.phrase(input.phrase);
    return typeof phrase === 'string' ? phrase : (phrase?.other ?? null);
  }
  const { value } = input;
  if (typeof value === 'object') {
    const item = type.replace(/^List of /, '').toLowerCase();
    return value.map((one) => readPlaced(one, item, services)).filter((one) => !isEmpty(one));
  }
  return typeof value === 'string' ? readPlaced(value, type, services) : value;
}

/** What a placement names by its slug; the service that finds it is called so too. */
const named = ['product', 'category', 'content', 'article', 'tag', 'brand'] as const;

function readPlaced(text: string, type: string, services: SiteServices): Value {
  const of = type.toLowerCase();
  const kind = named.find((one) => one === of);
  if (kind) return services[kind]?.(text) ?? null;
  if (of === 'picture' || of === 'media') return services.picture?.(text) ?? null;
  if (of === 'html') return new Html(services.rich?.(text) ?? text);
  // A page of this site, in the language that is spoken here.
  if (of === 'link' && /^\/(?!\/)/.test(text)) return services.address?.(text) ?? text;
  return readInput(text, type, () => null);
}

/** The first required input of a piece that is empty as it is placed; null: it can be shown. */
export const missingInput = (takes: readonly Take[], given: Inputs): Take | null =>
  takes.find((take) => take.required && take.default === null && isEmpty(given[`$${take.name}`] ?? null)) ?? null;

/** What a placed piece is given, by the names that it takes. */
export function placedInputs(
  inputs: Readonly<Record<string, PlacedInput>>,
  takes: readonly Take[],
  services: SiteServices,
  bound: (path: string) => Value,
): Inputs {
  const types = new Map(takes.map(({ name, type }) => [name, type]));
  return Object.fromEntries(
    Object.entries(inputs).map(([name, input]) => [
      `$${name}`,
      placedValue(input, types.get(name) ?? 'text', services, bound),
    ]),
  );
}
