import type { RecordAnswer, RecordKindName } from '@/contract/records';
import { isFieldSubject } from '@/core/catalogue';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import { productTypes, RecordReader } from '@/store';

/** A record with what it may name. Refused where there is none of that slug. */
export function readRecord(shop: Shop, kind: RecordKindName, slug: string): RecordAnswer {
  const source = shop.catalogue();
  const reader = new RecordReader(source);
  const record =
    reader.read(kind, [slug]).get(slug) ??
    refuse(404, 'gone', `There is no ${kind} “${slug}”: it may have been removed.`);
  const { locales, locale, currency } = source.shop();
  const named = (rows: readonly { slug: string; name: string }[]) =>
    Object.fromEntries(rows.map(({ slug: one, name }) => [one, name]));
  return {
    ...{ kind, slug, record, currency, locales: [locale, ...locales.filter((one) => one !== locale)] },
    fields: isFieldSubject(kind)
      ? source.fieldDefinitions(kind).map((one) => ({ ...one, choices: [...one.choices] }))
      : [],
    names: { brand: named(source.brands()), tag: named(source.allTags()), category: named(source.categories()) },
    types: productTypes(shop.sql),
  };
}
