import type { GoodsRecord, RecordChange, RecordReader } from '@/store';

/** Records that are read at once. */
const batch = 500;

/** The same in parts of a batch each. */
export function* inBatches<T>(all: Iterable<T>): Generator<T[]> {
  let some: T[] = [];
  for (const one of all) {
    some.push(one);
    if (some.length < batch) continue;
    yield some;
    some = [];
  }
  if (some.length) yield some;
}

/** Records as they are now, for these changes. */
export function recordsOf(
  reader: RecordReader,
  changes: readonly RecordChange[],
): Map<RecordChange, GoodsRecord | undefined> {
  const kinds = new Set(changes.map(({ kind }) => kind));
  const found = new Map<RecordChange, GoodsRecord | undefined>();
  for (const kind of kinds) {
    const own = changes.filter((change) => change.kind === kind);
    const records = reader.read(
      kind,
      own.map(({ slug }) => slug),
    );
    for (const change of own) found.set(change, records.get(change.slug));
  }
  return found;
}
