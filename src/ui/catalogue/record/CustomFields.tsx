'use client';
import type { FieldItem } from '@/contract/records';
import { isFieldSubject } from '@/core/catalogue';
import { FieldValue, languageName, type FormProps, withText } from './fields';

/** Custom fields of a record. */
export function CustomFields({ store, answer: { fields, kind, locales }, record }: FormProps) {
  const values = (record.fields ?? {}) as Record<string, string>;
  const texts = (record.fieldTexts ?? {}) as Record<string, Record<string, string>>;
  if (!fields.length || !isFieldSubject(kind)) return null;
  return (
    <>
      <h3>Custom fields</h3>
      {fields.map((field) => {
        const { key, name, type, unit, help } = field;
        const label = unit ? `${name}, ${unit}` : name;
        const spoken = isSpoken(field) ? locales : locales.slice(0, 1);
        const set = (locale: string, value: string) => {
          if (locale !== locales[0]) return store.set({ fieldTexts: withText(texts, locale, key, value) });
          const { [key]: _, ...others } = values;
          store.set({ fields: value === '' ? others : { ...others, [key]: value } });
        };
        return (
          <div key={key} data-part={`fields.${key}`}>
            <div className="record-line" data-rich={type === 'html' || undefined}>
              <span>{label}</span>
              <div className="record-languages" data-many={spoken.length > 1 || undefined}>
                {spoken.map((locale, at) => (
                  <FieldValue
                    key={locale}
                    field={at ? { ...field, choices: [] } : field}
                    label={spoken.length > 1 ? `${label}, ${languageName(locale)}` : label}
                    {...(at ? { placeholder: `as in ${languageName(locales[0] ?? '')}` } : {})}
                    value={(at ? texts[locale]?.[key] : values[key]) ?? ''}
                    onChange={(value) => set(locale, value)}
                  />
                ))}
              </div>
            </div>
            {help && <p className="record-help quiet">{help}</p>}
          </div>
        );
      })}
    </>
  );
}

/** Whether each language has its own: what is chosen from a list, counted, dated or linked is the same in all. */
const isSpoken = ({ type, choices }: FieldItem): boolean =>
  type === 'html' || (type === 'text' && choices.length === 0);
