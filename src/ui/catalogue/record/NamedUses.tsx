'use client';
import { useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { recordEndpoints, type ValueUsesAnswer } from '@/contract/records';
import type { NamedThing } from '@/core/editing';
import { call, useMay, usePlace } from '@/ui/shared';

const called: Record<ValueUsesAnswer['uses'][number]['where'], string> = {
  template: '',
  pin: 'a pin',
  rule: 'a rule',
  alternate: 'an alternate’s types',
  shelf: 'a shelf',
  look: 'the look',
};

interface Props {
  of: NamedThing;
  value: string;
  /** Address of the page that templates are opened with. */
  page: string;
}

/** What names something of the catalogue: templates, pins, rules, shelves, menus; and how many products have it. */
export function NamedUses({ of, value, page }: Props) {
  const { draft } = usePlace();
  const source = useMay('source');
  const { data } = useQuery({
    queryKey: ['value-uses', draft, of, value],
    queryFn: () => call(recordEndpoints.valueUses, { draft, of, value }),
    enabled: source && draft !== '' && value !== '',
  });
  if (!data) return null;
  const { uses, menus, having } = data;
  const parts = [
    ...uses.map(({ where, file, line, text }) => (
      <Link key={`${where} ${file} ${line}`} title={text} href={`/bench?${new URLSearchParams({ draft, page, file })}`}>
        {called[where] ? `${called[where]} (${file}, line ${line})` : `${file}, line ${line}`}
      </Link>
    )),
    ...menus.map(({ slug, name }) => (
      <Link key={`menu ${slug}`} href={`/catalogue?${new URLSearchParams({ draft, view: 'menus', record: slug })}`}>
        the menu {name}
      </Link>
    )),
  ];
  return (
    <p className="record-uses quiet" role="note">
      {parts.length ? (
        <>Named by {parts.flatMap((part, at) => (at ? [' · ', part] : [part]))}</>
      ) : (
        'No template, rule, shelf or menu names it'
      )}
      {having !== null && ` · ${having.toLocaleString('en')} ${having === 1 ? 'product has' : 'products have'} it`}
    </p>
  );
}
