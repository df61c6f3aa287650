/** Lists of what is called by its name alone. */
const named = new Set(['tags', 'categories', 'related', 'members']);
/** What an entry of a list of a record is called. */
const entry: Record<string, string> = { variants: 'variant', options: 'option', media: 'picture' };

/** Names a value of a record, as people read it: `lead_time`, `price of R-1`, `name in fr`, `tag sale`. */
export function pathInWords({ path }: { path: readonly string[] }): string {
  const [field = '', one, ...inside] = path;
  if (one === undefined) return field;
  if (field === 'fields') return one;
  if (field === 'texts' || field === 'fieldTexts') return [inside.join(' ') || 'texts', 'in', one].join(' ');
  if (named.has(field)) return `${field === 'categories' ? 'category' : field.replace(/s$/, '')} ${one}`;
  if (field === 'attributes')
    return inside[0] === undefined || inside[0] === 'value' ? one : `${inside.join(' ')} of ${one}`;
  return inside.length ? `${inside.join(' ')} of ${one}` : `${entry[field] ?? field} ${one}`;
}
