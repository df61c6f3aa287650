'use client';
import { useQueryClient } from '@tanstack/react-query';
import { Alert, Checkbox, Input, Modal, Select } from 'antd';
import { useState } from 'react';
import { recordEndpoints, type RecordKindName } from '@/contract/records';
import { slugOf } from '@/core/exchange';
import { call, messageOf, usePlace } from '@/ui/shared';
import { isHideable, viewOfKind } from '../kinds';
import { fieldHolders, fieldTypes } from './field-types';
import { isInList, Line } from './fields';

interface Props {
  kind: RecordKindName;
  open: boolean;
  onClose: () => void;
  onMade?: () => void;
}

interface Wanted {
  name: string;
  /** As it was written; null: told from the name. */
  slug: string | null;
  type: string;
  unit: string;
  subject: string;
  target: string;
  live: boolean;
}

const nothing: Wanted = { name: '', slug: null, type: 'text', unit: '', subject: 'product', target: '', live: true };

/** A new record as it is sent, with what its kind must have. */
function recordOf(
  kind: RecordKindName,
  slug: string,
  { name, type, unit, subject, target, live }: Wanted,
): Record<string, unknown> {
  const added = new Date().toISOString().slice(0, 10);
  if (kind === 'redirect') return { path: name, target };
  if (kind === 'field') return { subject, key: slug, name, type, unit };
  if (kind === 'content' || kind === 'article') return { slug, title: name, added, live };
  if (kind === 'menu') return { slug, name, items: [] };
  if (kind === 'category') return { slug, name, live };
  return kind === 'product' ? { slug, name, added, live } : { slug, name };
}

/** Makes a record of a name, and opens it. */
export function NewRecord({ kind, open, onClose, onMade }: Props) {
  const queries = useQueryClient();
  const { go } = usePlace();
  const [wanted, setWanted] = useState(nothing);
  const [failed, setFailed] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { one } = viewOfKind(kind);
  const isField = kind === 'field';
  const told = isField
    ? slugOf(wanted.name)
        .replaceAll('-', '_')
        .replace(/^(?=\d)/, '_')
    : slugOf(wanted.name);
  const isRedirect = kind === 'redirect';
  const slug = isRedirect ? wanted.name.trim() : (wanted.slug ?? told);
  const set = (changed: Partial<Wanted>) => {
    setFailed(null);
    setWanted((now) => ({ ...now, ...changed }));
  };
  const close = () => {
    setWanted(nothing);
    setFailed(null);
    onClose();
  };
  const make = async () => {
    if (!wanted.name.trim() || !slug || busy) return;
    setBusy(true);
    try {
      const after = recordOf(kind, slug, { ...wanted, name: wanted.name.trim() });
      const called = isField ? `${wanted.subject} ${slug}` : slug;
      await call(
        recordEndpoints.save,
        {},
        { changes: [{ kind, slug: called, before: null, after }], title: `New ${one} ${wanted.name.trim()}` },
      );
      onMade?.();
      await queries.invalidateQueries();
      close();
      go({ record: called });
    } catch (error) {
      setFailed(messageOf(error));
    }
    setBusy(false);
  };
  return (
    <Modal
      title={`New ${one}`}
      open={open}
      onCancel={close}
      okText="Make it"
      cancelText="Not now"
      okButtonProps={{ disabled: !wanted.name.trim() || !slug, loading: busy }}
      onOk={() => void make()}
      destroyOnHidden
    >
      <div
        className="record-new"
        onKeyDown={(event) => event.key === 'Enter' && !isInList(event.target) && void make()}
      >
        <Line label={isRedirect ? 'From' : kind === 'content' || kind === 'article' ? 'Title' : 'Name'}>
          <Input
            autoFocus
            value={wanted.name}
            placeholder={isRedirect ? '/product/earlier-slug' : ''}
            onChange={({ target }) => set({ name: target.value })}
          />
        </Line>
        {isRedirect && (
          <Line label="To">
            <Input
              value={wanted.target}
              placeholder="/content/… or https://…"
              onChange={({ target }) => set({ target: target.value })}
            />
          </Line>
        )}
        {isField && (
          <>
            <div className="record-line">
              <span>Of</span>
              <Select
                aria-label="Of"
                value={wanted.subject}
                options={fieldHolders}
                onChange={(subject: string) => set({ subject })}
              />
            </div>
            <div className="record-line">
              <span>Type</span>
              <Select
                aria-label="Type"
                value={wanted.type}
                options={fieldTypes}
                onChange={(type: string) => set({ type })}
              />
            </div>
            <Line label="Unit">
              <Input value={wanted.unit} placeholder="none" onChange={({ target }) => set({ unit: target.value })} />
            </Line>
          </>
        )}
        {!isRedirect && (
          <>
            <Line label={isField ? 'Key' : 'Slug'}>
              <Input
                value={slug}
                status={wanted.name.trim() && !slug ? 'error' : ''}
                onChange={({ target }) => set({ slug: target.value })}
              />
            </Line>
            <p className="quiet">
              {wanted.name.trim() && !slug
                ? 'This name has no letter that an address may have: write a slug of small letters, digits and hyphens.'
                : isField
                  ? `Templates read it as ${wanted.subject}.fields.${slug || '…'}`
                  : 'Its name in addresses, templates and rules.'}
            </p>
          </>
        )}
        {isHideable(kind) && (
          <Checkbox checked={!wanted.live} onChange={({ target }) => set({ live: !target.checked })}>
            Not live yet: seen in drafts only
          </Checkbox>
        )}
        {failed && <Alert type="error" showIcon title={failed} />}
      </div>
    </Modal>
  );
}
