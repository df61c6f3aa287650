'use client';
import { Input } from 'antd';
import { addressOf, isAddressed } from '@/core/catalogue';
import { type FormProps, Line } from './fields';
import { NamedUses } from './NamedUses';

/** The slug of a record that has an address, with what names it: all of that follows another one. */
export function SlugLine({ store, answer: { kind, slug }, record }: FormProps) {
  if (!isAddressed(kind)) return null;
  const written = String(record.slug ?? '');
  return (
    <>
      <Line label="Slug">
        <Input value={written} spellCheck={false} onChange={({ target }) => store.set({ slug: target.value })} />
      </Line>
      {written !== slug && (
        <p className="record-uses">
          Once saved, {addressOf(kind, slug)} redirects to {addressOf(kind, written)}. What names it is taken along:
        </p>
      )}
      <NamedUses of={kind} value={slug} page={addressOf(kind, slug)} />
    </>
  );
}
