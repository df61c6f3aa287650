'use client';
import { keepPreviousData, useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Input, Segmented, Table } from 'antd';
import { useState } from 'react';
import { addressOf } from '@/contract/endpoint';
import { orderEndpoints, orderState, type OrderRow, type OrderState } from '@/contract/orders';
import { call, messageOf, useLater, useMay, usePlace, When } from '@/ui/shared';
import { money } from './money';
import { OneOrder } from './OneOrder';
import { ReceiverDialog } from './ReceiverDialog';
import './orders.css';

/** Each state as it is read, with what an order is once it has it. */
const stateNames: Record<OrderState, string> = { new: 'New', taken: 'Taken', cancelled: 'Cancelled' };

/** What one looks for, kept in the address. */
function useFilter() {
  const { get, go } = usePlace();
  const state = orderState.safeParse(get('state')).data;
  const [words, setWords] = useState(get('words') ?? '');
  const filter = {
    ...(state ? { state } : {}),
    ...(words.trim() ? { words: words.trim() } : {}),
    ...(get('from') ? { from: get('from') as string } : {}),
    ...(get('to') ? { to: get('to') as string } : {}),
  };
  return { filter, words, state, setWords, get, go };
}

/** Orders, the latest first, and beside them the one that is looked at. */
export function OrdersScreen() {
  const { filter, words, state, setWords, get, go } = useFilter();
  const asked = useLater(filter, 200);
  const number = /^\d+$/.test(get('order') ?? '') ? Number(get('order')) : null;
  const { data, error, fetchNextPage, hasNextPage, isFetching } = useInfiniteQuery({
    queryKey: ['orders', asked],
    queryFn: ({ pageParam }) =>
      call(orderEndpoints.list, { ...asked, ...(pageParam === null ? {} : { before: pageParam }) }),
    initialPageParam: null as number | null,
    getNextPageParam: ({ orders, more }) => (more ? (orders.at(-1)?.number ?? null) : null),
    placeholderData: keepPreviousData,
    // New orders come by themselves.
    refetchInterval: 15_000,
  });
  const may = useMay('people');
  const client = useQueryClient();
  const hurry = useMutation({
    mutationFn: () => call(orderEndpoints.hurry, {}),
    // It takes a moment until it was tried.
    onSettled: () => setTimeout(() => void client.invalidateQueries({ queryKey: ['orders'] }), 2500),
  });
  const counts = data?.pages[0]?.counts;
  const stuck = data?.pages[0]?.stuck;
  const all = counts && counts.new + counts.taken + counts.cancelled;
  const orders = data?.pages.flatMap((page) => page.orders) ?? [];
  const narrowed = Object.keys(asked).some((name) => name !== 'state');
  return (
    <main className="orders" data-open={number !== null}>
      <h1 className="unseen">Orders</h1>
      <section aria-label="Orders" className="orders-list">
        <header className="orders-head">
          <Segmented<OrderState | 'all'>
            aria-label="State"
            value={state ?? 'all'}
            onChange={(value) => go({ state: value === 'all' ? null : value }, true)}
            options={[
              { value: 'all', label: `All ${all ?? ''}` },
              ...orderState.options.map((value) => ({ value, label: `${stateNames[value]} ${counts?.[value] ?? ''}` })),
            ]}
          />
          <Input
            className="orders-words"
            aria-label="Words in orders"
            placeholder="Number, address, product"
            allowClear
            value={words}
            onChange={({ target }) => {
              setWords(target.value);
              go({ words: target.value.trim() || null }, true);
            }}
          />
          <span className="orders-days">
            {(['from', 'to'] as const).map((name) => (
              <label key={name} className="orders-day">
                {name === 'from' ? 'From' : 'to'}
                <Input
                  type="date"
                  value={get(name) ?? ''}
                  onChange={({ target }) => go({ [name]: target.value || null }, true)}
                />
              </label>
            ))}
          </span>
          {may && <Button onClick={() => go({ receiver: 'open' })}>What orders do…</Button>}
          <Button className="orders-export" href={addressOf(orderEndpoints.sheet, asked)} download>
            Export as CSV
          </Button>
        </header>
        {stuck && (
          <Alert
            className="orders-stuck"
            type="warning"
            showIcon
            title={`${stuck.count === 1 ? 'One message' : `${stuck.count} messages`} about orders could not be sent yet. ${stuck.said}`}
            action={
              <Button size="small" loading={hurry.isPending} onClick={() => hurry.mutate()}>
                Send now
              </Button>
            }
          />
        )}
        {error && <Alert type="error" showIcon title={messageOf(error)} />}
        <Table<OrderRow>
          rowKey="number"
          size="small"
          pagination={false}
          loading={!data && !error}
          dataSource={orders}
          rowClassName={(one) => (one.number === number ? 'orders-row orders-open' : 'orders-row')}
          onRow={(one) => ({ onClick: () => go({ order: String(one.number) }) })}
          locale={{ emptyText: <Nothing narrowed={narrowed} state={state} /> }}
          columns={[
            {
              title: 'Order',
              width: 84,
              render: (_, one) => (
                <button type="button" className="orders-number" aria-label={`Order ${one.number}`}>
                  {one.number}
                </button>
              ),
            },
            { title: 'Made', width: 118, render: (_, one) => <When at={one.madeAt} /> },
            {
              title: 'Customer',
              render: (_, one) => (
                <>
                  {one.email}
                  {one.madeOn.startsWith('draft ') && <small> tried in {one.madeOn}</small>}
                </>
              ),
            },
            { title: 'Things', width: 72, align: 'right', dataIndex: 'count' },
            { title: 'Total', width: 110, align: 'right', render: (_, one) => money(one.total, one.currency) },
            {
              title: 'State',
              width: 110,
              render: (_, one) => <span className={`orders-state orders-${one.state}`}>{stateNames[one.state]}</span>,
            },
          ]}
        />
        {hasNextPage && (
          <Button loading={isFetching} onClick={() => void fetchNextPage()}>
            Earlier
          </Button>
        )}
      </section>
      {may && <ReceiverDialog open={get('receiver') !== null} close={() => go({ receiver: null })} />}
      {number !== null && <OneOrder key={number} number={number} close={() => go({ order: null })} />}
    </main>
  );
}

function Nothing({ narrowed, state }: { narrowed: boolean; state: OrderState | undefined }) {
  if (narrowed) return <>No order is so.</>;
  return state ? (
    <>No order is {state}.</>
  ) : (
    <>Nobody has ordered yet. An order comes here as soon as a customer sends the form in the cart.</>
  );
}
