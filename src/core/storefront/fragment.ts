import { World } from '@/core/catalogue';
import { readInput, record, type Template, type Value } from '@/core/language';

/**
 * The inputs of a piece that is asked for by an address of its own, from the address's query: those declared with `served`,
 * and no other. A product or category is named by its slug. Null when the piece takes none that is served.
 */
export function servedInputs(
  template: Template,
  query: Record<string, string>,
  world: World,
): ReturnType<typeof record> | null {
  const served = template.takes.filter((take) => take.served);
  if (!served.length) return null;
  const inputs: Record<string, Value> = {};
  for (const { name, type } of served) {
    const text = Object.hasOwn(query, name) ? query[name] : undefined;
    if (text !== undefined) inputs[name] = inputOf(text, type, query, world);
  }
  return record(inputs);
}

function inputOf(text: string, type: string, query: Record<string, string>, world: World): Value {
  if (/^product$/i.test(type)) {
    const row = world.source.productBySlug(text);
    return row ? (world.products([row], query.variant ?? null)[0] ?? null) : null;
  }
  if (/^category$/i.test(type)) return world.categoryBySlug(text);
  if (/^content$/i.test(type)) return world.content(text);
  // Rich text from an address would be markup from anyone.
  if (type === 'html') return text;
  return readInput(text, type, () => null);
}
