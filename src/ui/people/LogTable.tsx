'use client';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { Alert, Button, Input, Select, Table } from 'antd';
import { useState } from 'react';
import { accountEndpoints, type LogEntry } from '@/contract/accounts';
import { addressOf } from '@/contract/endpoint';
import { call, messageOf, useLater } from '@/ui/shared';

/** Who did what, the latest first; filtered, and taken along as CSV. */
export function LogTable() {
  const [by, setBy] = useState('');
  const [what, setWhat] = useState('');
  const [words, setWords] = useState('');
  const filter = { by, what, words: useLater(words, 200) };
  const { data, error, fetchNextPage, hasNextPage, isFetching } = useInfiniteQuery({
    queryKey: ['log', filter],
    queryFn: ({ pageParam }) =>
      call(accountEndpoints.log, { ...filter, ...(pageParam === null ? {} : { before: pageParam }) }),
    initialPageParam: null as number | null,
    getNextPageParam: ({ entries, more }) => (more ? (entries.at(-1)?.id ?? null) : null),
    placeholderData: keepPreviousData,
  });
  const first = data?.pages[0];
  return (
    <section aria-label="Log">
      <header className="people-head">
        <span className="people-filter">
          <Select
            aria-label="Who"
            value={by}
            options={[
              { value: '', label: 'Anyone' },
              ...(first?.people ?? []).filter(Boolean).map((one) => ({ value: one, label: one })),
            ]}
            onChange={setBy}
            popupMatchSelectWidth={false}
          />
          <Select
            aria-label="What"
            value={what}
            options={[
              { value: '', label: 'Anything' },
              ...(first?.kinds ?? []).map((one) => ({ value: one, label: one })),
            ]}
            onChange={setWhat}
            popupMatchSelectWidth={false}
          />
          <Input
            aria-label="Words in the log"
            placeholder="Find words"
            allowClear
            value={words}
            onChange={({ target }) => setWords(target.value)}
          />
        </span>
        <Button href={addressOf(accountEndpoints.logSheet, filter)} download>
          Export as CSV
        </Button>
      </header>
      {error && <Alert type="error" showIcon title={messageOf(error)} />}
      <Table<LogEntry>
        rowKey="id"
        size="small"
        pagination={false}
        loading={!data && !error}
        dataSource={data?.pages.flatMap(({ entries }) => entries) ?? []}
        locale={{ emptyText: by || what || words ? 'Nothing in the log is so.' : 'Nothing was done yet.' }}
        columns={[
          { title: 'When', width: 190, render: (_, { at }) => <time dateTime={at}>{when(at)}</time> },
          { title: 'Who', width: 160, render: (_, one) => one.by || <small>nobody</small> },
          { title: 'What', width: 140, dataIndex: 'what' },
          { title: 'About', dataIndex: 'about' },
        ]}
      />
      {hasNextPage && (
        <Button loading={isFetching} onClick={() => void fetchNextPage()}>
          Earlier
        </Button>
      )}
    </section>
  );
}

const when = (at: string): string =>
  new Date(at).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
  });
