'use client';
import { catalogueEndpoints } from '@/contract/catalogue';
import { useQuery } from '@tanstack/react-query';
import { Select } from 'antd';
import { MultiSelect } from './MultiSelect';
import type { DefaultOptionType } from 'antd/es/select';
import { useEffect, useState } from 'react';
import type { SubjectItem, SubjectKind } from '@/contract/shared';
import { call } from './api';

const says: Record<SubjectKind, string> = {
  home: 'home',
  product: 'product',
  category: 'category',
  listing: 'listing',
  content: 'content',
  article: 'article',
  articles: 'articles',
  cart: 'cart',
};

/** Pages that hold these words. What was found for earlier words is sifted at once, so that the list never offers what was not meant. */
function useSubjects(words: string, kind?: SubjectKind) {
  const [asked, setAsked] = useState(words);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(words), 120);
    return () => clearTimeout(timer);
  }, [words]);
  const { data = [], isFetching } = useQuery({
    queryKey: ['subjects', asked, kind],
    queryFn: () => call(catalogueEndpoints.subjects, { q: asked, ...(kind ? { kind } : {}) }),
    placeholderData: (before) => before,
  });
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = data.filter(({ name, slug }) => wanted.every((word) => `${name} ${slug}`.toLowerCase().includes(word)));
  return { found, isFetching: isFetching || asked !== words };
}

const keyOf = ({ kind, slug }: { kind: string; slug: string }) => `${kind} ${slug}`;

function optionOf(subject: SubjectItem): DefaultOptionType & { subject: SubjectItem } {
  return {
    value: keyOf(subject),
    subject,
    label: (
      <span className="subject-option">
        <span>{subject.name}</span>
        <small>
          {subject.kind === 'product' && subject.detail ? subject.detail : (says[subject.kind] ?? subject.kind)}
        </small>
      </span>
    ),
  };
}

interface OneProps {
  /** Only subjects of this kind. */
  kind?: SubjectKind;
  value: string | null;
  onPick: (subject: SubjectItem) => void;
  id?: string;
  label: string;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  className?: string;
  placeholder?: string;
  /** Shown in its tooltip. */
  keys?: string;
}

/** One field to go to any page: find by name, pick with keys or pointer. */
export function SubjectField({
  kind,
  value,
  onPick,
  id,
  label,
  open,
  onOpenChange,
  className,
  placeholder,
  keys,
}: OneProps) {
  const [words, setWords] = useState('');
  const { found, isFetching } = useSubjects(words, kind);
  return (
    <Select
      {...(id ? { id } : {})}
      {...(open === undefined ? {} : { open })}
      {...(onOpenChange ? { onOpenChange } : {})}
      className={className ?? ''}
      aria-label={label}
      title={keys ? `${label} (${keys})` : label}
      showSearch={{ filterOption: false, onSearch: setWords, searchValue: words }}
      value={value}
      placeholder={placeholder ?? 'Go to a page'}
      options={found.map(optionOf)}
      loading={isFetching}
      notFoundContent={isFetching ? 'Looking…' : words ? `No page is called “${words}”` : 'Type a name'}
      onSelect={(_, option) => {
        setWords('');
        onPick((option as unknown as { subject: SubjectItem }).subject);
      }}
      popupMatchSelectWidth={360}
    />
  );
}

interface ManyProps {
  kind: SubjectKind;
  value: SubjectItem[];
  onChange: (subjects: SubjectItem[]) => void;
  id?: string;
}

/** Several subjects of a kind, picked by name. */
export function SubjectsField({ kind, value, onChange, id }: ManyProps) {
  const [words, setWords] = useState('');
  const { found, isFetching } = useSubjects(words, kind);
  const known = new Map([...value, ...found].map((subject) => [keyOf(subject), subject]));
  return (
    <MultiSelect
      {...(id ? { id } : {})}
      autoFocus
      style={{ width: '100%' }}
      showSearch={{ filterOption: false, onSearch: setWords, searchValue: words, autoClearSearchValue: true }}
      value={value.map(keyOf)}
      placeholder={`Find by name`}
      options={[...known.values()].map(optionOf)}
      optionLabelProp="title"
      labelRender={({ value: key }) => known.get(String(key))?.name ?? String(key)}
      notFoundContent={isFetching ? 'Looking…' : 'Nothing of that name'}
      onChange={(keys) => {
        setWords('');
        onChange(keys.flatMap((key) => known.get(String(key)) ?? []));
      }}
    />
  );
}
