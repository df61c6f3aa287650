'use client';
import { useQuery } from '@tanstack/react-query';
import { Input, Select } from 'antd';
import type { ReactNode } from 'react';
import { recordEndpoints, type FieldItem, type RecordAnswer } from '@/contract/records';
import { severalValues } from '@/core/catalogue';
import { playerOf } from '@/core/language';
import { call, usePlace, MultiSelect } from '@/ui/shared';
import { RichText } from './RichText';
import type { Fields, RecordStore } from './record-store';

export interface FormProps {
  store: RecordStore;
  answer: RecordAnswer;
  record: Fields;
}

export const languageName = (locale: string): string =>
  new Intl.DisplayNames('en', { type: 'language' }).of(locale) ?? locale;

/** Whether a key is pressed in a list to pick from: there Enter picks, and sends nothing. */
export const isInList = (target: EventTarget): boolean =>
  target instanceof HTMLElement && target.getAttribute('role') === 'combobox';

/** A label with its field. */
export function Line({ label, part, children }: { label: string; part?: string; children: ReactNode }) {
  return (
    <label className="record-line" data-part={part}>
      <span>{label}</span>
      {children}
    </label>
  );
}

interface TextsProps {
  label: string;
  field: string;
  record: Fields;
  locales: readonly string[];
  set: (changed: Fields) => void;
  /** Lines of a longer text; none: it is one line. `rich`: it has markup. */
  rows?: number;
  rich?: boolean;
}

type Texts = Record<string, Record<string, string>>;

/** A record's texts with one of them changed; '' takes it out, and a language without texts with it. */
export function withText(texts: Texts, locale: string, field: string, value: string): Texts {
  const { [field]: _, ...rest } = texts[locale] ?? {};
  const own = value ? { ...rest, [field]: value } : rest;
  const { [locale]: __, ...others } = texts;
  return Object.keys(own).length ? { ...others, [locale]: own } : others;
}

/** A text in each of the shop's languages, side by side. */
export function Texts({ label, field, record, locales, set, rows, rich }: TextsProps) {
  const [first = ''] = locales;
  const texts = (record.texts ?? {}) as Texts;
  const change = (locale: string, value: string) =>
    set(locale === first ? { [field]: value } : { texts: withText(texts, locale, field, value) });
  return (
    <div className="record-line" data-rich={rich || undefined} data-part={field}>
      <span>{label}</span>
      <div className="record-languages" data-many={locales.length > 1 || undefined}>
        {locales.map((locale) => {
          const value = String((locale === first ? record[field] : texts[locale]?.[field]) ?? '');
          const called = locales.length > 1 ? `${label}, ${languageName(locale)}` : label;
          if (rich)
            return (
              <RichText
                key={locale}
                label={called}
                lang={locale}
                value={value}
                placeholder={locale === first ? '' : `as in ${languageName(first)}`}
                onChange={(next) => change(locale, next)}
              />
            );
          const props = {
            value,
            lang: locale,
            'aria-label': called,
            placeholder: locale === first ? '' : `as in ${languageName(first)}`,
            onChange: (event: { target: { value: string } }) => change(locale, event.target.value),
          };
          return rows ? (
            <Input.TextArea key={locale} autoSize={{ minRows: rows, maxRows: 10 }} {...props} />
          ) : (
            <Input key={locale} {...props} />
          );
        })}
      </div>
    </div>
  );
}

interface ValueProps {
  field: Pick<FieldItem, 'type' | 'several' | 'choices'>;
  value: string;
  label: string;
  placeholder?: string;
  onChange: (value: string) => void;
}

/** The value of a custom field, as its type is written. */
export function FieldValue({
  field: { type, several, choices },
  value,
  label,
  placeholder = 'empty',
  onChange,
}: ValueProps) {
  if (several)
    return (
      <MultiSelect
        mode={choices.length ? 'multiple' : 'tags'}
        aria-label={label}
        placeholder={placeholder}
        tokenSeparators={['\n']}
        value={severalValues(value)}
        options={choices.map((one) => ({ value: one, label: one }))}
        onChange={(list: string[]) => onChange(list.join('\n'))}
      />
    );
  if (choices.length)
    return (
      <Select
        allowClear
        showSearch
        aria-label={label}
        placeholder={placeholder}
        value={value || undefined}
        options={[...new Set([...choices, ...(value ? [value] : [])])].map((one) => ({
          value: one,
          label: choices.includes(one) ? one : `${one} (no choice any more)`,
        }))}
        onChange={(next: string | undefined) => onChange(next ?? '')}
      />
    );
  if (type === 'flag')
    return (
      <Select
        allowClear
        aria-label={label}
        placeholder="not said"
        value={value || undefined}
        options={[
          { value: 'true', label: 'yes' },
          { value: 'false', label: 'no' },
        ]}
        onChange={(next: string | undefined) => onChange(next ?? '')}
      />
    );
  if (type === 'html')
    return <RichText label={label} lang="" value={value} placeholder={placeholder} onChange={onChange} />;
  if (type === 'link') return <LinkField label={label} value={value} onChange={onChange} />;
  return (
    <Input
      aria-label={label}
      value={value}
      placeholder={placeholder}
      {...(type === 'number' ? { inputMode: 'decimal' as const } : {})}
      {...(type === 'day' ? { type: 'date' } : {})}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

/** A link; told at once is whether it is a film's that the draft's theme has a player for. */
export function LinkField({ label, value, onChange, placeholder = 'https://… or /…' }: Omit<ValueProps, 'field'>) {
  const { draft } = usePlace();
  const { data: players = [] } = useQuery({
    queryKey: ['players', draft],
    queryFn: () => call(recordEndpoints.players, { draft }),
    enabled: draft !== '',
  });
  const isFilm = playerOf(players, value) !== null;
  return (
    <div>
      <Input
        aria-label={label}
        value={value}
        placeholder={placeholder}
        onChange={(event) => onChange(event.target.value)}
      />
      {players.length > 0 && /^https?:/.test(value.trim()) && (
        <small className="quiet" role="status">
          {isFilm
            ? 'A film: the theme has a player for it.'
            : 'A link like any other: the theme knows no player for it.'}
        </small>
      )}
    </div>
  );
}
