/** The phrases of one language, by dotted key: a text, or its plural forms by CLDR category. */
export type Words = Map<string, string | Record<string, string>>;

const forms = new Set(['zero', 'one', 'two', 'few', 'many', 'other']);

/** Flattens a words file: `{"cart": {"items": {"one": …, "other": …}}}` gives `cart.items`. Throws on anything but a JSON object. */
export function readWords(text: string): Words {
  const words: Words = new Map();
  const read: unknown = JSON.parse(text);
  if (typeof read !== 'object' || read === null || Array.isArray(read))
    throw new TypeError('A words file holds one JSON object');
  const walk = (node: object, path: string): void => {
    for (const [name, value] of Object.entries(node)) {
      const key = path ? `${path}.${name}` : name;
      if (typeof value === 'string') words.set(key, value);
      else if (typeof value === 'object' && value !== null && !Array.isArray(value)) {
        const entries = Object.entries(value as Record<string, unknown>);
        const plural =
          entries.length > 0 && entries.every(([form, text]) => forms.has(form) && typeof text === 'string');
        if (plural) words.set(key, value as Record<string, string>);
        else walk(value as object, key);
      }
    }
  };
  walk(read, '');
  return words;
}
