/** Rows by a key that several may share, each group in the rows' order. */
export function grouped<T, Key = number>(rows: readonly T[], key: (row: T) => Key): Map<Key, T[]> {
  const groups = new Map<Key, T[]>();
  for (const row of rows) {
    const group = groups.get(key(row));
    if (group) group.push(row);
    else groups.set(key(row), [row]);
  }
  return groups;
}
