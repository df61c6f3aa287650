'use client';
import { useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { recordEndpoints, type RecordKindName } from '@/contract/records';
import { call, usePlace } from '@/ui/shared';
import { pageOfRecord } from '../kinds';

interface Props {
  kind: RecordKindName;
  /** As catalogue files call it; a custom field is `fields.lead_time`. */
  part: string;
  /** The record that one is in; '': none. */
  slug: string;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Links that are shown; the rest is counted. */
const most = 12;

/** What uses a part of records: the templates that read it, shelves that are filled with it, rules that ask for it, and how many records have it. */
export function UsedBy({ kind, part, slug }: Props) {
  const { draft } = usePlace();
  const { data } = useQuery({
    queryKey: ['field-uses', draft, kind, part],
    queryFn: () => call(recordEndpoints.usedBy, { draft, kind, part }),
    enabled: draft !== '',
  });
  if (!data) return null;
  const page = (slug && pageOfRecord(kind, slug)) || '/';
  const parts = [
    ...data.templates.map(({ file, line, text }) => (
      <Link key={`${file} ${line}`} title={text} href={`/bench?${new URLSearchParams({ draft, page, file })}`}>
        {file}, line {line}
      </Link>
    )),
    ...data.shelves.map(({ shelf, piece }) => (
      <Link
        key={`shelf ${shelf} ${piece}`}
        href={`/bench?${new URLSearchParams({ draft, page, file: 'shelves.json' })}`}
      >
        {piece} on the shelf {shelf}
      </Link>
    )),
    ...data.rules.map(({ number, label }) => (
      <Link key={`rule ${number}`} href={`/alternates?${new URLSearchParams({ draft, kind })}`}>
        rule {number}, {label}
      </Link>
    )),
  ];
  const shown = parts.slice(0, most);
  const filled = `filled on ${data.filled.toLocaleString('en')} of ${data.all.toLocaleString('en')}`;
  return (
    <p className="record-uses quiet" role="note">
      {parts.length ? (
        <>
          {capital(filled)}. Used by {shown.flatMap((one, at) => (at ? [' · ', one] : [one]))}
          {parts.length > most && ` · and ${parts.length - most} more places`}
        </>
      ) : (
        `No template, shelf or rule uses it · ${filled}`
      )}
    </p>
  );
}
