'use client';
import { useState } from 'react';
import { FieldValue, type FormProps } from './fields';
import { UsedBy } from './UsedBy';

/** Custom fields of a record, each with what uses it while one is in it. */
export function CustomFields({ store, answer: { fields, kind, slug }, record }: FormProps) {
  const [focused, setFocused] = useState('');
  const values = (record.fields ?? {}) as Record<string, string>;
  if (!fields.length || (kind !== 'product' && kind !== 'category')) return null;
  return (
    <>
      <h3>Custom fields</h3>
      {fields.map(({ key, name, type, unit }) => {
        const label = unit ? `${name}, ${unit}` : name;
        return (
          <div key={key} onFocus={() => setFocused(key)}>
            <div className="record-line" data-rich={type === 'html' || undefined}>
              <span>{label}</span>
              <FieldValue
                type={type}
                label={label}
                value={values[key] ?? ''}
                onChange={(value) => {
                  const { [key]: _, ...others } = values;
                  store.set({ fields: value === '' ? others : { ...others, [key]: value } });
                }}
              />
            </div>
            {focused === key && <UsedBy of={key} subject={kind} slug={slug} />}
          </div>
        );
      })}
    </>
  );
}
