import { isFieldSubject } from '@/core/catalogue';
import type { CatalogueWriter, RecordChange } from '@/store';

/** What records of a kind name in lists, and the kinds of what they name. */
const lists: Record<string, string> = { tags: 'tag', categories: 'category', related: 'product', members: 'product' };

/**
 * A change without what it names that is not there any more: a tag, brand, category or custom field that was removed since. With what was
 * left out, in words. `coming`: products that come back with the same undoing.
 */
export function withoutMissing(
  writer: CatalogueWriter,
  change: RecordChange,
  coming: ReadonlySet<string>,
): { change: RecordChange; missing: string[] } {
  const { kind, slug, after } = change;
  const missing: string[] = [];
  const gone = (what: string, name: string) =>
    missing.push(`The ${what} “${name}” is gone: “${slug}” does not get it back`);
  const there = (of: string, name: string) => writer.has(of, name) || (of === 'product' && coming.has(name));
  const next: Record<string, unknown> = { ...after };
  if (kind === 'product')
    for (const [part, of] of Object.entries(lists)) {
      if (!Array.isArray(next[part])) continue;
      next[part] = (next[part] as string[]).filter((name) => there(of, name) || (gone(of, name), false));
    }
  for (const [part, of] of [
    ['brand', 'brand'],
    ['parent', 'category'],
  ] as const) {
    const name = next[part];
    if (typeof name !== 'string' || there(of, name)) continue;
    gone(of, name);
    if (change.what === 'added') next[part] = null;
    else delete next[part];
  }
  for (const part of ['fields', 'fieldTexts'] as const) {
    const values = next[part];
    if (!isFieldSubject(kind) || typeof values !== 'object' || values === null) continue;
    const known = (key: string) => writer.has('field', `${kind} ${key}`);
    if (part === 'fields') {
      for (const key of Object.keys(values)) if (!known(key)) gone('custom field', key);
      next.fields = Object.fromEntries(Object.entries(values).filter(([key]) => known(key)));
    } else
      next.fieldTexts = Object.fromEntries(
        Object.entries(values as Record<string, object>).map(([locale, own]) => [
          locale,
          Object.fromEntries(Object.entries(own).filter(([key]) => known(key))),
        ]),
      );
  }
  return missing.length ? { change: { ...change, after: next }, missing } : { change, missing };
}
