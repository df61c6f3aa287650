import { record, type RecordValue } from '../language';

export interface LookSetting {
  name: string;
  type: string;
  label: string;
  value: string | number | boolean | null;
}

/** The settings of a `look.json`. Throws a sentence about what is wrong with it. */
export function readLook(text: string): LookSetting[] {
  const read = JSON.parse(text) as { settings?: unknown };
  if (!Array.isArray(read.settings)) throw new TypeError('look.json holds a list “settings”');
  return read.settings.map((one: unknown, at) => {
    const { name, type, label, value } = (one ?? {}) as Record<string, unknown>;
    if (typeof name !== 'string' || !/^[a-z_][a-z0-9_]*$/.test(name))
      throw new TypeError(`Setting ${at + 1} of look.json needs a name`);
    const plain = typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? value : null;
    return {
      name,
      type: typeof type === 'string' ? type : 'text',
      label: typeof label === 'string' ? label : name,
      value: plain,
    };
  });
}

/** The look as templates reach it: each setting's value by its name. Later texts (upper layers) replace and add settings. */
export function lookOf(texts: (string | null)[]): RecordValue {
  const look = record({});
  for (const text of texts) {
    try {
      for (const { name, value } of readLook(text ?? '')) look[name] = value;
    } catch {
      // A look that cannot be read leaves the ones below standing.
    }
  }
  return look;
}
