'use client';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Input, Modal, Skeleton } from 'antd';
import { useState } from 'react';
import type { RecordPlaceItem } from '@/contract/bench';
import { recordEndpoints, type RecordAnswer } from '@/contract/records';
import type { WholeProduct } from '@/core/exchange';
import { call, messageOf } from '@/ui/shared';
import { nameOfRecord, viewOfKind } from '../kinds';
import { FieldValue, isInList, Texts } from './fields';
import { MoneyField } from './MoneyField';
import type { Fields } from './record-store';

interface Props {
  place: RecordPlaceItem;
  onClose: () => void;
  /** It was saved: pages are others now. */
  onSaved: () => void;
}

const labels: Record<string, string> = { wasPrice: 'Price before', sku: 'Article number', gtin: 'GTIN', body: 'Text' };
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** What a value is called: a custom field by its name, an attribute by its own, else its field. */
function labelOf({ path }: RecordPlaceItem, answer: RecordAnswer | undefined): string {
  const [field = '', name = '', inner] = path;
  if (field === 'fields') return answer?.fields.find(({ key }) => key === name)?.name ?? name;
  if (field === 'attributes') return name;
  const last = inner ?? field;
  return `${labels[last] ?? capital(last)}${field === 'variants' ? ` of ${name}` : ''}`;
}

/** A value of the catalogue by itself, changed where it stands on a page. It is live once it is saved. */
export function ValueEditor({ place, onClose, onSaved }: Props) {
  const queries = useQueryClient();
  const { kind, slug } = place;
  const [changed, setChanged] = useState<Fields>({});
  const [failed, setFailed] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { data: answer, error } = useQuery({
    queryKey: ['record-value', kind, slug],
    queryFn: () => call(recordEndpoints.record, { kind, slug }),
    gcTime: 0,
  });
  const before = answer?.record ?? {};
  const record = { ...before, ...changed };
  const label = labelOf(place, answer);
  const called = nameOfRecord(before, slug);
  const save = async () => {
    if (busy || !answer) return;
    if (!Object.keys(changed).length) return onClose();
    setBusy(true);
    try {
      const was = Object.fromEntries(Object.keys(changed).map((name) => [name, before[name]]));
      const change = { kind, slug, before: was, after: { ...changed } };
      await call(recordEndpoints.save, {}, { changes: [change], title: `${slug}: ${label}`.slice(0, 200) });
      onSaved();
      onClose();
      await queries.invalidateQueries();
    } catch (refused) {
      setFailed(messageOf(refused));
    }
    setBusy(false);
  };
  return (
    <Modal
      title={answer ? `${label} of ${called}` : 'One moment'}
      open
      onCancel={onClose}
      destroyOnHidden
      footer={[
        <Button key="record" href={`/catalogue?${new URLSearchParams({ view: viewOfKind(kind).view, record: slug })}`}>
          The whole record
        </Button>,
        <Button key="close" onClick={onClose}>
          Leave it
        </Button>,
        <Button key="save" type="primary" loading={busy} disabled={!answer} onClick={() => void save()}>
          Save, live at once
        </Button>,
      ]}
    >
      <div
        className="record-new"
        onKeyDown={(event) => {
          const isLong = event.target instanceof HTMLTextAreaElement || (event.target as HTMLElement).isContentEditable;
          if (event.key === 'Enter' && !isInList(event.target) && (!isLong || event.ctrlKey || event.metaKey)) {
            event.preventDefault();
            void save();
          }
        }}
      >
        {answer ? (
          <Value
            place={place}
            answer={answer}
            record={record}
            label={label}
            set={(fields) => {
              setFailed(null);
              setChanged((now) => ({ ...now, ...fields }));
            }}
          />
        ) : (
          !error && <Skeleton active paragraph={{ rows: 1 }} />
        )}
        {(failed ?? error) && <Alert type="error" showIcon title={failed ?? messageOf(error)} />}
      </div>
    </Modal>
  );
}

interface ValueProps {
  place: RecordPlaceItem;
  answer: RecordAnswer;
  record: Fields;
  label: string;
  set: (changed: Fields) => void;
}

const texts = new Set(['name', 'title', 'summary', 'description', 'body']);

/** The field that fits the value. */
function Value({ place: { kind, path }, answer, record, label, set }: ValueProps) {
  const [field = '', name = '', inner = ''] = path;
  const { locales, currency } = answer;
  if (field === 'fields') {
    const values = record.fields as Record<string, string>;
    return (
      <FieldValue
        field={answer.fields.find(({ key }) => key === name) ?? { type: 'text', several: false, choices: [] }}
        label={label}
        value={values[name] ?? ''}
        onChange={(value) => {
          const { [name]: _, ...others } = values;
          set({ fields: value === '' ? others : { ...others, [name]: value } });
        }}
      />
    );
  }
  const product = record as unknown as WholeProduct;
  if (field === 'attributes')
    return (
      <Input
        autoFocus
        aria-label={label}
        value={product.attributes.find((one) => one.name === name)?.value ?? ''}
        onChange={({ target }) =>
          set({
            attributes: product.attributes.map((one) => (one.name === name ? { ...one, value: target.value } : one)),
          })
        }
      />
    );
  if (field === 'variants') {
    const variant = product.variants.find(({ sku }) => sku === name);
    if (!variant) return <p>This variant is not there any more.</p>;
    const put = (value: number | null) =>
      set({ variants: product.variants.map((one) => (one.sku === name ? { ...one, [inner]: value } : one)) });
    if (inner !== 'stock')
      return (
        <MoneyField
          label={label}
          value={variant[inner as 'price' | 'wasPrice']}
          currency={currency}
          onChange={(value) => (value !== null || inner === 'wasPrice') && put(value)}
        />
      );
    return (
      <Input
        autoFocus
        aria-label={label}
        inputMode="numeric"
        value={String(variant.stock)}
        onChange={({ target }) => Number.isInteger(Number(target.value)) && put(Number(target.value))}
      />
    );
  }
  if (texts.has(field) && kind !== 'shop') {
    const rich = field === 'description' || field === 'body';
    const own = kind === 'brand' && field === 'name' ? locales.slice(0, 1) : locales;
    return (
      <Texts
        label={label}
        field={field}
        record={record}
        locales={own}
        set={set}
        rich={rich}
        {...(field === 'summary' ? { rows: 2 } : {})}
      />
    );
  }
  return (
    <Input
      autoFocus
      aria-label={label}
      value={String(record[field] ?? '')}
      {...(field === 'added' ? { type: 'date' } : {})}
      onChange={({ target }) => set({ [field]: target.value })}
    />
  );
}
