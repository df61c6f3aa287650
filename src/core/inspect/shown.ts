import {
  Day,
  Html,
  isEmpty,
  isRecord,
  Money,
  plainText,
  type RecordValue,
  type Value,
  type LocaleFormat,
} from '@/core/language';

/** A value as the Bench shows it: its kind, what it is in a few words, and what of it can be seen. */
export interface Shown {
  kind: 'none' | 'text' | 'number' | 'flag' | 'money' | 'day' | 'html' | 'list' | 'record';
  text: string;
  empty: boolean;
  /** Address of a picture. */
  picture?: string;
  /** A CSS colour. */
  colour?: string;
  /** Of a list: how many items. */
  count?: number;
}

/** Most characters of a text that are shown. */
const maxText = 90;

/** A value for people: texts and rich text shortened, money and days in the locale, records by their name. */
export function shownValue(value: Value, format: LocaleFormat): Shown {
  const empty = isEmpty(value);
  if (value === null || value === undefined) return { kind: 'none', text: 'none', empty };
  if (typeof value === 'string') {
    const colour = /^#(?:[0-9a-f]{3,4}|[0-9a-f]{6}|[0-9a-f]{8})$/i.test(value) ? { colour: value } : {};
    return { kind: 'text', text: value ? shortened(value) : 'an empty text', empty, ...colour };
  }
  if (typeof value === 'number') return { kind: 'number', text: String(value), empty };
  if (typeof value === 'boolean') return { kind: 'flag', text: String(value), empty };
  if (value instanceof Money) return { kind: 'money', text: format.money(value), empty };
  if (value instanceof Day) return { kind: 'day', text: value.iso, empty };
  if (value instanceof Html) return { kind: 'html', text: shortened(value.plain(plainText)) || 'no text', empty };
  if (Array.isArray(value)) {
    const first = value.slice(0, 3).map((item) => brief(item, format));
    const more = value.length > 3 ? ', …' : '';
    const text = value.length
      ? `${value.length} ${value.length === 1 ? 'item' : 'items'}: ${first.join(', ')}${more}`
      : 'no items';
    return { kind: 'list', text: shortened(text), empty, count: value.length };
  }
  const picture = pictureOf(value);
  return { kind: 'record', text: nameOf(value) ?? 'a record', empty, ...(picture ? { picture } : {}) };
}

/** A value in a line of prose: `£12.50`, “Navy”, none. */
export function inProse(value: Value, format: LocaleFormat): string {
  const { kind, text, empty } = shownValue(value, format);
  if (kind === 'none' || (empty && kind !== 'flag'))
    return kind === 'list' ? 'an empty list' : kind === 'text' ? 'an empty text' : 'empty';
  return kind === 'text' || kind === 'html' ? `“${shortened(text, 50)}”` : text;
}

function brief(value: Value, format: LocaleFormat): string {
  if (isRecord(value)) return nameOf(value) ?? 'a record';
  return Array.isArray(value) ? `a list of ${value.length}` : shortened(shownValue(value, format).text, 24);
}

function nameOf(value: RecordValue): string | null {
  for (const field of ['name', 'title', 'label', 'alt', 'number', 'url', 'key']) {
    const found = field in value ? value[field] : null;
    if (typeof found === 'string' && found) return shortened(found, 60);
    if (typeof found === 'number') return `${field} ${found}`;
  }
  return null;
}

function pictureOf(value: RecordValue): string | null {
  return value.kind === 'image' && typeof value.url === 'string' ? value.url : null;
}

export function shortened(text: string, most = maxText): string {
  const plain = text.replace(/\s+/g, ' ').trim();
  return plain.length > most ? `${plain.slice(0, most - 1).trimEnd()}…` : plain;
}
