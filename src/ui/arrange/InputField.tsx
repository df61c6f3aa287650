'use client';
import { useQuery } from '@tanstack/react-query';
import { recordEndpoints } from '@/contract/records';
import { Button, Input, InputNumber, Select, Switch } from 'antd';
import { useState } from 'react';
import type { ArrangeAnswer, FieldItem, TakeItem } from '@/contract/arrange';
import type { SubjectKind } from '@/contract/shared';
import { pathOf } from '@/core/address';
import type { InputEntry } from '@/core/theme';
import { RichText } from '@/ui/catalogue';
import { call, ColourField, SubjectField } from '@/ui/shared';
import { PictureField } from './PictureField';
import { textOf, withText } from './arrange-store';

interface Props {
  take: TakeItem;
  value: InputEntry | undefined;
  locales: readonly string[];
  colours?: ArrangeAnswer['colours'];
  /** Fields of the page's subject that it can be bound to. */
  fields?: readonly FieldItem[];
  onChange: (value: InputEntry | undefined) => void;
}

/** The field for an input, by its type; one that is bound or a phrase says so, and can be filled in instead. */
export function InputField({ take, value, locales, colours = [], fields = [], onChange }: Props) {
  const { name, label, help, required } = take;
  const id = `input-${name}`;
  const bound =
    typeof value === 'object' && !Array.isArray(value) && !('texts' in value)
      ? 'field' in value
        ? `the field ${value.field}`
        : `the phrase ${value.phrase}`
      : null;
  const path = typeof value === 'object' && !Array.isArray(value) && 'field' in value ? value.field : null;
  const field = fields.find((one) => one.path === path);
  return (
    <div className="piece-input">
      <span className="piece-label">
        <label htmlFor={id}>
          {label}
          {required && <span aria-hidden> *</span>}
        </label>
        {!bound && fields.length > 0 && (
          <Select
            size="small"
            variant="borderless"
            className="piece-bind"
            aria-label={`${label}: from a field`}
            placeholder="from a field…"
            value={null}
            showSearch={{ optionFilterProp: 'title' }}
            options={fields.map((one) => ({
              value: one.path,
              title: `${one.label} ${one.path}`,
              label: (
                <span className="piece-field">
                  <span>{one.label}</span>
                  <small>
                    {one.value} here
                    {one.empty > 0 &&
                      ` · empty on ${one.empty.toLocaleString('en')} of ${one.total.toLocaleString('en')}`}
                  </small>
                </span>
              ),
            }))}
            onChange={(path: string) => onChange({ field: path })}
            popupMatchSelectWidth={360}
          />
        )}
      </span>
      {help && <span className="quiet">{help}</span>}
      {bound ? (
        <span className="piece-bound">
          From {bound}
          {field && (
            <span className="quiet">
              here: {field.value}
              {field.empty > 0 &&
                `; empty on ${field.empty.toLocaleString('en')} of ${field.total.toLocaleString('en')}`}
            </span>
          )}
          <Button size="small" type="text" onClick={() => onChange(undefined)}>
            Fill it in here
          </Button>
        </span>
      ) : (
        <Field {...{ id, take, value, locales, colours, onChange }} />
      )}
    </div>
  );
}

function Field({ id, take, value, locales, colours = [], onChange }: Props & { id: string }) {
  const { type, options, label, least, most, unit } = take;
  const given = value ?? (type === 'number' || type === 'choice' ? (take.default ?? undefined) : undefined);
  const kind = /^(?:List of )?(Product|Category|Content|Article|Tag|Brand)$/i.exec(type)?.[1]?.toLowerCase() as
    Named | undefined;
  if (type === 'text' || type === 'html')
    return <Texts id={id} rich={type === 'html'} label={label} value={value} locales={locales} onChange={onChange} />;
  if (type === 'number')
    return (
      <InputNumber
        id={id}
        size="small"
        {...(least === null ? {} : { min: least })}
        {...(most === null ? {} : { max: most })}
        suffix={unit}
        value={given === undefined ? null : Number(given)}
        onChange={(next) => onChange(next ?? undefined)}
      />
    );
  if (type === 'boolean')
    return <Switch id={id} size="small" checked={value === true} onChange={(on) => onChange(on || undefined)} />;
  if (type === 'choice' || options.length)
    return (
      <Select
        id={id}
        size="small"
        allowClear
        value={typeof given === 'string' ? given : null}
        options={options.map((one) => ({ value: one, label: one }))}
        onChange={(next: string | null) => onChange(next ?? undefined)}
      />
    );
  if (type === 'colour')
    return (
      <ColourField
        id={id}
        value={typeof value === 'string' ? value : ''}
        offered={colours}
        onChange={(colour) => onChange(colour || undefined)}
      />
    );
  if (type === 'picture')
    return <PictureField id={id} label={label} value={value} shape={take.shape} onChange={onChange} />;
  if (kind && type.startsWith('List of '))
    return <Slugs kind={kind} label={label} value={Array.isArray(value) ? value : []} onChange={onChange} />;
  if (kind || type === 'link') {
    const chosen = typeof value === 'string' && value ? value : null;
    return (
      <span className="piece-link">
        {kind ? (
          <Named kind={kind} label={`${label}: pick`} says={`Pick a ${kind}`} value={chosen} onPick={onChange} />
        ) : (
          <SubjectField
            label={`${label}: pick`}
            placeholder="Pick a page"
            value={chosen}
            onPick={(subject) => onChange(pathOf(subject))}
          />
        )}
        {type === 'link' && <Plain id={id} placeholder="or an address" value={value} onChange={onChange} />}
        {value !== undefined && (
          <Button size="small" type="text" aria-label={`${label}: none`} onClick={() => onChange(undefined)}>
            None
          </Button>
        )}
      </span>
    );
  }
  return <Plain id={id} value={value} onChange={onChange} />;
}

function Plain({
  id,
  value,
  placeholder,
  onChange,
}: Pick<Props, 'value' | 'onChange'> & { id: string; placeholder?: string }) {
  return (
    <Input
      id={id}
      size="small"
      placeholder={placeholder ?? ''}
      value={typeof value === 'string' ? value : ''}
      onChange={({ target }) => onChange(target.value || undefined)}
    />
  );
}

interface TextsProps {
  id: string;
  rich: boolean;
  label: string;
  value: InputEntry | undefined;
  locales: readonly string[];
  onChange: (value: InputEntry | undefined) => void;
}

/** A text in each language of the shop: the first one is open, the others say where they are missing. */
function Texts({ id, rich, label, value, locales, onChange }: TextsProps) {
  const [locale, setLocale] = useState(locales[0] ?? 'en');
  const first = locales[0] ?? 'en';
  const put = (text: string) => onChange(withText(value, locale, text, first));
  const textIn = (one: string) => (typeof value === 'string' && one !== first ? '' : textOf(value, one));
  // What no language has is empty, not missing.
  const missing = (one: string) => textIn(one) === '' && locales.some((other) => textIn(other) !== '');
  return (
    <div className="piece-texts">
      {locales.length > 1 && (
        <span className="piece-languages" role="group" aria-label={`Languages of ${label}`}>
          {locales.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={one === locale}
              data-missing={missing(one) || undefined}
              onClick={() => setLocale(one)}
            >
              {one}
              {missing(one) && ': missing'}
            </button>
          ))}
        </span>
      )}
      {rich ? (
        <RichText
          key={locale}
          label={`${label}, ${locale}`}
          lang={locale}
          value={textIn(locale)}
          placeholder=""
          onChange={put}
        />
      ) : (
        <Input.TextArea
          id={id}
          aria-label={`${label}, ${locale}`}
          lang={locale}
          autoSize={{ minRows: 1, maxRows: 6 }}
          value={textIn(locale)}
          onChange={({ target }) => put(target.value)}
        />
      )}
    </div>
  );
}

/** What an input may name by its slug. */
type Named = Extract<SubjectKind, 'product' | 'category' | 'content' | 'article'> | 'tag' | 'brand';

/** One of a kind, found by its name: those that have pages among all subjects, tags and brands in their lists. */
function Named({
  kind,
  label,
  says,
  value,
  onPick,
}: {
  kind: Named;
  label: string;
  says: string;
  value: string | null;
  onPick: (slug: string) => void;
}) {
  if (kind === 'tag' || kind === 'brand') return <Listed {...{ kind, label, says, value, onPick }} />;
  return (
    <SubjectField kind={kind} label={label} placeholder={says} value={value} onPick={({ slug }) => onPick(slug)} />
  );
}

function Listed({
  kind,
  label,
  says,
  value,
  onPick,
}: {
  kind: 'tag' | 'brand';
  label: string;
  says: string;
  value: string | null;
  onPick: (slug: string) => void;
}) {
  const { data } = useQuery({
    queryKey: ['listed to pick', kind],
    queryFn: () => call(recordEndpoints.list, { kind }),
  });
  return (
    <Select
      size="small"
      aria-label={label}
      placeholder={says}
      value={value}
      showSearch={{ optionFilterProp: 'label' }}
      options={(data ?? []).map(({ slug, name }) => ({ value: slug, label: name }))}
      loading={!data}
      onChange={onPick}
    />
  );
}

/** Several subjects by their slugs, in their order: moved by buttons, and by Alt with the arrows. */
function Slugs({
  kind,
  label,
  value,
  onChange,
}: {
  kind: Named;
  label: string;
  value: string[];
  onChange: (value: InputEntry | undefined) => void;
}) {
  const put = (slugs: string[]) => onChange(slugs.length ? slugs : undefined);
  const move = (at: number, by: number) => {
    const to = at + by;
    if (to < 0 || to >= value.length) return;
    const slugs = value.filter((_, place) => place !== at);
    slugs.splice(to, 0, value[at] as string);
    put(slugs);
  };
  return (
    <>
      <ol className="piece-slugs" aria-label={label}>
        {value.map((slug, at) => (
          <li
            key={slug}
            onKeyDown={(event) => {
              const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
              if (!event.altKey || by === undefined) return;
              event.preventDefault();
              move(at, by);
            }}
          >
            <code>{slug}</code>
            <Button
              size="small"
              type="text"
              disabled={!at}
              aria-label={`${slug}: up`}
              title="Up (Alt ↑)"
              onClick={() => move(at, -1)}
            >
              ↑
            </Button>
            <Button
              size="small"
              type="text"
              disabled={at === value.length - 1}
              aria-label={`${slug}: down`}
              title="Down (Alt ↓)"
              onClick={() => move(at, 1)}
            >
              ↓
            </Button>
            <Button
              size="small"
              type="text"
              aria-label={`${slug}: remove`}
              onClick={() => put(value.filter((one) => one !== slug))}
            >
              ✕
            </Button>
          </li>
        ))}
      </ol>
      <Named
        kind={kind}
        label={`${label}: add`}
        says={`Add a ${kind}`}
        value={null}
        onPick={(slug) => !value.includes(slug) && put([...value, slug])}
      />
    </>
  );
}
