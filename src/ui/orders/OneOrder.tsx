'use client';
import { CloseOutlined, PrinterOutlined } from '@ant-design/icons';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Skeleton } from 'antd';
import { orderEndpoints, type OrderEventItem, type OrderState } from '@/contract/orders';
import { call, messageOf, When } from '@/ui/shared';
import { money } from './money';

/** What an order can be made next, with the words on its button; the first is what is mostly wanted. */
const next: Record<OrderState, readonly { state: OrderState; label: string }[]> = {
  new: [
    { state: 'taken', label: 'Take it' },
    { state: 'cancelled', label: 'Cancel the order' },
  ],
  taken: [
    { state: 'new', label: 'Not taken after all' },
    { state: 'cancelled', label: 'Cancel the order' },
  ],
  cancelled: [{ state: 'new', label: 'Not cancelled after all' }],
};

/** One order: to read, to print, and to say what became of it. */
export function OneOrder({ number, close }: { number: number; close: () => void }) {
  const client = useQueryClient();
  const { notification } = App.useApp();
  const key = ['order', number];
  const { data: order, error } = useQuery({
    queryKey: key,
    queryFn: () => call(orderEndpoints.one, { order: number }),
    // Until the shop’s own system has been told.
    refetchInterval: ({ state }) => (state.data?.events.some(({ dueAt }) => dueAt !== null) ? 2000 : 15_000),
  });
  const set = useMutation({
    mutationFn: ({ state, was }: { state: OrderState; was: OrderState }) =>
      call(orderEndpoints.set, { order: number }, { state, was }),
    onSuccess: (now) => client.setQueryData(key, now),
    onError: (wrong) => {
      notification.error({ title: messageOf(wrong) });
      void client.invalidateQueries({ queryKey: key });
    },
    onSettled: () => client.invalidateQueries({ queryKey: ['orders'] }),
  });
  const send = useMutation({
    mutationFn: (event: number) => call(orderEndpoints.send, { order: number }, { event }),
    onSuccess: (now) => client.setQueryData(key, now),
    onError: (wrong) => notification.error({ title: messageOf(wrong) }),
  });
  if (error && !order) return <Alert className="order" type="error" showIcon title={messageOf(error)} />;
  if (!order)
    return (
      <article className="order">
        <Skeleton active />
      </article>
    );
  const amount = (minor: number) => money(minor, order.currency);
  return (
    <article className="order" aria-label={`Order ${number}`}>
      <header className="order-head">
        <h2>Order {number}</h2>
        <Button className="unprinted" icon={<PrinterOutlined />} onClick={() => window.print()}>
          Print
        </Button>
        <Button
          className="unprinted"
          type="text"
          aria-label="Close the order"
          icon={<CloseOutlined />}
          onClick={close}
        />
      </header>
      <dl>
        <dt>Made</dt>
        <dd>
          <time dateTime={order.madeAt}>{new Date(order.madeAt).toLocaleString('en-GB')}</time>
          {order.madeOn.startsWith('draft ') && <strong> tried in {order.madeOn}: nobody waits for it</strong>}
        </dd>
        <dt>Customer</dt>
        <dd>
          <a href={`mailto:${order.email}?subject=${encodeURIComponent(`Order ${number}`)}`}>{order.email}</a>
          <small> in {languageName(order.locale)}</small>
        </dd>
        <dt>State</dt>
        <dd className="order-state">
          {order.state === 'new' ? 'New: nobody has taken it yet' : order.state === 'taken' ? 'Taken' : 'Cancelled'}
          {order.changedAt && (
            <small>
              {' '}
              by {order.by}, <When at={order.changedAt} />
            </small>
          )}
        </dd>
      </dl>
      <table className="order-lines">
        <thead>
          <tr>
            <th>What</th>
            <th>How many</th>
            <th>Each</th>
            <th>Together</th>
          </tr>
        </thead>
        <tbody>
          {order.lines.map((line, at) => (
            <tr key={at}>
              <td>
                {line.name}
                {line.variant && <> · {line.variant}</>}
                <small>{line.sku}</small>
                {line.answers.map(({ label, value }, of) => (
                  <small key={of}>
                    {label}: <strong>{value}</strong>
                  </small>
                ))}
              </td>
              <td>{line.quantity}</td>
              <td>{amount(line.price)}</td>
              <td>{amount(line.total)}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th colSpan={3}>Total</th>
            <td>{amount(order.total)}</td>
          </tr>
        </tfoot>
      </table>
      <section className="unprinted" aria-label="What happened">
        <h3>What happened</h3>
        <ol className="order-events">
          {order.events.map((event) => (
            <li key={event.id}>
              <span>
                {whats[event.what]}
                {event.by && <> by {event.by}</>}, <When at={event.at} />
                {(order.sends || event.sentAt) && <small>{toldOf(event)}</small>}
              </span>
              {order.sends && (
                <Button
                  size="small"
                  loading={send.isPending && send.variables === event.id}
                  onClick={() => send.mutate(event.id)}
                >
                  {event.sentAt ? 'Send again' : 'Send now'}
                </Button>
              )}
            </li>
          ))}
        </ol>
      </section>
      <footer className="order-do unprinted">
        {next[order.state].map(({ state, label }, at) => (
          <Button
            key={state}
            type={at === 0 && order.state === 'new' ? 'primary' : 'default'}
            loading={set.isPending && set.variables.state === state}
            onClick={() => set.mutate({ state, was: order.state })}
          >
            {label}
          </Button>
        ))}
      </footer>
    </article>
  );
}

const whats: Record<OrderEventItem['what'], string> = {
  made: 'Made',
  new: 'New again',
  taken: 'Taken',
  cancelled: 'Cancelled',
};

/** Whether the shop’s own system knows, and what came of telling it. */
function toldOf({ sentAt, dueAt, tries, said }: OrderEventItem): string {
  const at = (moment: string) => new Date(moment).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
  if (sentAt) return `Sent ${at(sentAt)}${tries > 1 ? `, at the ${ordinal(tries)} try` : ''}. ${said}`;
  if (dueAt && tries)
    return `Not sent yet, after ${tries === 1 ? 'one try' : `${tries} tries`}: ${said} Again ${at(dueAt)}.`;
  return dueAt ? 'Being sent.' : 'Not sent.';
}

function ordinal(number: number): string {
  const ends: Partial<Record<Intl.LDMLPluralRule, string>> = { one: 'st', two: 'nd', few: 'rd' };
  return `${number}${ends[new Intl.PluralRules('en', { type: 'ordinal' }).select(number)] ?? 'th'}`;
}

const languageName = (locale: string): string => new Intl.DisplayNames('en', { type: 'language' }).of(locale) ?? locale;
