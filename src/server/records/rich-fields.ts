import { isFieldSubject } from '@/core/catalogue';
import { cleanRichText } from '@/server/catalogue';
import type { Shop } from '@/server/shop';
import { eachFieldValue, RecordReader, type GoodsRecord, type RecordChange } from '@/store';
import type { ChangeOf } from './write';

type Texts = Record<string, Record<string, string>>;

/**
 * Where a custom field becomes rich text, pages print as markup what was a text: its values are made safe, in the same change, so that
 * undoing gives each back as it was. They come before the field: undone, the field is a text again before they are.
 */
export function madeRich(shop: Shop, changes: readonly ChangeOf[]): ChangeOf[] {
  return changes.flatMap(([{ kind, slug, what, after }, now]) => {
    const [subject = '', key = ''] = slug.split(' ');
    if (kind !== 'field' || what !== 'changed' || after.type !== 'html' || now?.type === 'html') return [];
    if (!isFieldSubject(subject)) return [];
    const unsafe = [...eachFieldValue(shop.sql, subject, key)].map((one) => one.slug);
    return [...new RecordReader(shop.catalogue()).read(subject, unsafe)].flatMap(([of, record]): ChangeOf[] => {
      const change = cleaned(record, key);
      return change ? [[{ kind: subject, slug: of, what: 'changed', ...change }, record]] : [];
    });
  });
}

function cleaned(record: GoodsRecord, key: string): Pick<RecordChange, 'before' | 'after'> | null {
  const fields = record.fields as Record<string, string>;
  const texts = record.fieldTexts as Texts;
  const safe = { ...fields, ...(fields[key] ? { [key]: cleanRichText(fields[key]) } : {}) };
  const safeTexts = Object.fromEntries(
    Object.entries(texts).map(([locale, own]) => [locale, own[key] ? { ...own, [key]: cleanRichText(own[key]) } : own]),
  );
  const differs = [safe[key] !== fields[key], JSON.stringify(safeTexts) !== JSON.stringify(texts)];
  if (!differs.includes(true)) return null;
  return {
    before: { ...(differs[0] ? { fields } : {}), ...(differs[1] ? { fieldTexts: texts } : {}) },
    after: { ...(differs[0] ? { fields: safe } : {}), ...(differs[1] ? { fieldTexts: safeTexts } : {}) },
  };
}
