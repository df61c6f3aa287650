/** Letters that decomposing does not turn into plain ones, as they are usually written without accents. */
const written: Record<string, string> = {
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ø: 'o',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ł: 'l',
  ı: 'i',
};

/**
 * A name as it stands in addresses: small letters, digits and single hyphens. '' for a name with no Latin letter or digit,
 * which needs another (its article number, say).
 */
export function slugOf(name: string): string {
  return name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[ßæœøđðþłı]/g, (letter) => written[letter] ?? '')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/['’]/g, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 80)
    .replace(/-+$/, '');
}
