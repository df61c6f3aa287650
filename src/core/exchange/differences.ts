/** One field of a record that is to be, or was, another. `undefined` in `before`: it was not there. */
export interface FieldChange {
  field: string;
  before: unknown;
  after: unknown;
}

type Fields = Readonly<Record<string, unknown>>;

/** Whether two values of records are the same: by content, and whatever the order of an object's names. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const names = Object.keys(a);
  return (
    names.length === Object.keys(b).length &&
    names.every((name) => Object.hasOwn(b, name) && sameValue((a as Fields)[name], (b as Fields)[name]))
  );
}

/** What a record that is given, as far as it goes, would change of the one that is there; fields that it lacks stay. */
export function differences(before: Fields, given: Fields): FieldChange[] {
  return Object.entries(given).flatMap(([field, after]) =>
    sameValue(before[field], after) ? [] : [{ field, before: before[field], after }],
  );
}
