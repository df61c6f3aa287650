/** Values of fields called `kind` that once had another name, by that name: themes that know them by it go on. */
const renamedKinds: ReadonlyMap<string, string> = new Map([['asked-anew', 'asked-again']]);

/** What a kind is called now. */
export const kindNow = (kind: string): string => renamedKinds.get(kind) ?? kind;

/** What a phrase is called now: `cart.change.asked-anew` ends in a kind. */
export function phraseNow(key: string): string {
  const start = key.lastIndexOf('.') + 1;
  return key.slice(0, start) + kindNow(key.slice(start));
}
