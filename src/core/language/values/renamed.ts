/** Values of fields called `kind` that were renamed, by their old names: themes that use those keep working. */
const renamedKinds: ReadonlyMap<string, string> = new Map([['asked-anew', 'asked-again']]);

/** The present name of a kind. */
export const kindNow = (kind: string): string => renamedKinds.get(kind) ?? kind;

/** The present name of a phrase whose key ends in a renamed kind: `cart.change.asked-anew`. */
export function phraseNow(key: string): string {
  const start = key.lastIndexOf('.') + 1;
  return key.slice(0, start) + kindNow(key.slice(start));
}
