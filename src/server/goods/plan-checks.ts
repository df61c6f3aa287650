import { mediaFiles, type RecordChange, type RecordReader, type Staging } from '@/store';

/** Products that are read at once. */
const batch = 500;

/** Products that the file does not have go, where it is to replace all. */
export function stageRemoved(reader: RecordReader, staging: Staging, seen: ReadonlySet<string>): void {
  const gone = reader.productSlugs().filter((slug) => !seen.has(slug));
  for (let at = 0; at < gone.length; at += batch)
    for (const [slug, before] of reader.read('product', gone.slice(at, at + batch)))
      staging.putChange({ kind: 'product', slug, what: 'removed', before, after: {} });
}

/** Pictures that are named and not there yet: they can come later, but are said. */
export function checkPictures(reader: RecordReader, staging: Staging, coming: readonly string[] = []): void {
  const come = new Set(coming);
  const named = new Map<string, string>();
  for (const { slug, after } of staging.withFields('product', ['media']))
    for (const { kind, path } of (after.media ?? []) as { kind: string; path: string }[])
      if (kind === 'image' && !/^[a-z]+:|^\//i.test(path) && !named.has(path)) named.set(path, slug);
  const known = mediaFiles(reader.source.sql, [...named.keys()]);
  for (const [path, slug] of named)
    if (!known.has(path) && !come.has(path))
      staging.putIssue({
        ...{ line: 0, column: 'pictures', value: path, severity: 'warning' },
        message: `There is no picture “${path}” yet, which “${slug}” names: bring it in too`,
      });
}

/** Products that others name as related or as members must be there afterwards: the name is left out of those that are not. */
export function checkNamed(reader: RecordReader, staging: Staging, seen: ReadonlySet<string>): void {
  const there = new Set([...reader.productSlugs(), ...seen]);
  for (const slug of staging.removed('product')) there.delete(slug);
  const wrong: { change: RecordChange; field: string; missing: string[] }[] = [];
  const lists = ['related', 'members'];
  for (const change of staging.withFields('product', lists))
    for (const field of lists) {
      const missing = ((change.after[field] ?? []) as string[]).filter((slug) => !there.has(slug));
      if (missing.length) wrong.push({ change, field, missing });
    }
  for (const { change, field, missing } of wrong) {
    staging.keepNamed(
      change,
      field,
      (change.after[field] as string[]).filter((slug) => there.has(slug)),
    );
    for (const value of missing)
      staging.putIssue({
        ...{ line: 0, column: field, value, severity: 'warning' },
        message: `“${change.slug}” names “${value}”, which is no product: the name is left out`,
      });
  }
}
