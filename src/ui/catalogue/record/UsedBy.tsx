'use client';
import { useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { recordEndpoints } from '@/contract/records';
import type { FieldSubject } from '@/core/catalogue';
import { call, usePlace } from '@/ui/shared';

/** What uses a custom field: the templates that read it, shelves that are filled with it, rules that ask for it, and how many subjects have it. */
export function UsedBy({ of, subject, slug }: { of: string; subject: FieldSubject; slug: string }) {
  const { draft } = usePlace();
  const uses = useQuery({
    queryKey: ['field-uses', draft, subject],
    queryFn: () => call(recordEndpoints.usedBy, { draft, subject }),
    enabled: draft !== '',
  });
  const field = uses.data?.fields.find(({ key }) => key === of);
  if (!field || !uses.data) return null;
  const page = slug ? `/${subject}/${slug}` : '/';
  const parts = [
    ...field.templates.map(({ file, line, text }) => (
      <Link key={`${file} ${line}`} title={text} href={`/bench?${new URLSearchParams({ draft, page, file })}`}>
        {file}, line {line}
      </Link>
    )),
    ...field.shelves.map(({ shelf, piece }) => (
      <Link
        key={`shelf ${shelf} ${piece}`}
        href={`/bench?${new URLSearchParams({ draft, page, file: 'shelves.json' })}`}
      >
        {piece} on the shelf {shelf}
      </Link>
    )),
    ...field.rules.map(({ number, label }) => (
      <Link key={`rule ${number}`} href={`/alternates?${new URLSearchParams({ draft, kind: subject })}`}>
        rule {number}, {label}
      </Link>
    )),
  ];
  return (
    <p className="record-uses quiet" role="note">
      {parts.length ? (
        <>Used by {parts.flatMap((part, at) => (at ? [' · ', part] : [part]))}</>
      ) : (
        'No template, shelf or rule uses it'
      )}
      {` · filled on ${field.filled.toLocaleString('en')} of ${uses.data.all.toLocaleString('en')}`}
    </p>
  );
}
