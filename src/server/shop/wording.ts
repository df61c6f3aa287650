import type { FactSpec } from '@/core/catalogue';
import type { Wording } from '@/core/alternates';
import { formatFor, Money, Day, printed, unmetered } from '@/core/language';
import { productTypes } from '@/store';
import type { Shop } from './shop';

type Of = NonNullable<FactSpec['of']>;

/** How rules are said in this shop: by the names of its tags, categories and brands, prices in its currency. */
export function wordingOf(shop: Shop): Wording & { has(of: Of, slug: string): boolean } {
  const source = shop.catalogue();
  const { currency, locale } = source.shop();
  const format = { format: formatFor(locale) };
  const dates = new Intl.DateTimeFormat(locale, { dateStyle: 'medium', timeZone: 'UTC' });
  const named = new Map<Of, Map<string, string>>();
  const rows = (of: Of): { slug: string; name: string }[] => {
    if (of === 'tag') return source.allTags();
    if (of === 'category') return source.categories();
    if (of === 'brand') return source.brands();
    return productTypes(shop.sql).map((type) => ({ slug: type, name: type }));
  };
  const names = (of: Of): Map<string, string> => {
    let found = named.get(of);
    if (!found) named.set(of, (found = new Map(rows(of).map(({ slug, name }) => [slug, name]))));
    return found;
  };
  return {
    money: (minor) => printed(new Money(minor, currency), { ...unmetered, ...format }),
    day: (iso) => (Day.read(iso) ? dates.format(new Date(`${iso}T00:00:00Z`)) : iso),
    name: (of, slug) => names(of).get(slug) ?? slug,
    has: (of, slug) => names(of).has(slug),
    definitions: (kind) => source.fieldDefinitions(kind),
  };
}
