import type { Meter } from './meter';
import { Day, Html, isRecord, keyOf, Money, type RecordValue, type Value } from './values';
import { wellFormed } from './escape';

/**
 * A value as JSON. Money as `{"amount", "currency"}` in minor units, a Day as its ISO 8601 text, Html as its markup.
 * An object of the catalogue gives its plain fields; one inside another its name, slug and url.
 */
export function toJson(value: Value, meter: Meter): string {
  return JSON.stringify(plain(value, false, 0, meter)) ?? 'null';
}

/** The same, so that no script element can end in it, and no `<!--` begin. */
export function toScriptJson(value: Value, meter: Meter): string {
  return toJson(value, meter).replace(
    /[<>&\u2028\u2029]/g,
    (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
}

function plain(value: Value, within: boolean, depth: number, meter: Meter): unknown {
  if (value === null || value === undefined || depth > 32) return null;
  meter.charge(typeof value === 'string' ? value.length : value instanceof Html ? value.markup.length : 0);
  if (typeof value === 'string') return wellFormed(value);
  if (typeof value !== 'object') return value;
  if (value instanceof Money) return { amount: value.amount, currency: value.currency };
  if (value instanceof Day) return value.iso;
  if (value instanceof Html) return value.markup;
  if (Array.isArray(value)) return value.map((item) => plain(item, within, depth + 1, meter));
  if (!isRecord(value)) return null;
  const inCatalogue = keyOf(value) !== null;
  if (inCatalogue && within) return reference(value);
  // Without a prototype, so that a field may have any name.
  const fields = Object.create(null) as Record<string, unknown>;
  for (const name of fieldNames(value)) {
    const field = value[name] as Value;
    if (inCatalogue && Array.isArray(field)) continue;
    fields[name] = plain(field, within || inCatalogue, depth + 1, meter);
  }
  return fields;
}

function reference(value: RecordValue): unknown {
  const fields: Record<string, unknown> = {};
  for (const name of ['name', 'slug', 'url']) if (value[name] !== undefined) fields[name] = value[name];
  return fields;
}

/** The fields of a record: those that it holds itself. */
export function fieldNames(value: RecordValue): string[] {
  return Object.keys(value);
}
