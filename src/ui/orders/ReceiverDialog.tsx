'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Input, Modal, Select } from 'antd';
import { useState } from 'react';
import { type HoldRule, orderEndpoints } from '@/contract/orders';
import { call, messageOf } from '@/ui/shared';

/** Where orders are told to: an address of the shop's own system, and the secret by which it knows who tells. */
export function ReceiverDialog({ open, close }: { open: boolean; close: () => void }) {
  const client = useQueryClient();
  const [typed, setTyped] = useState<string | null>(null);
  const key = ['receiver'];
  const { data, error } = useQuery({ queryKey: key, queryFn: () => call(orderEndpoints.receiver, {}), enabled: open });
  const set = useMutation({
    mutationFn: (body: { url?: string | null; newSecret?: boolean; hold?: HoldRule }) =>
      call(orderEndpoints.setReceiver, {}, body),
    onSuccess: (now) => {
      client.setQueryData(key, now);
      setTyped(null);
    },
  });
  const url = typed ?? data?.url ?? '';
  return (
    <Modal
      title="What orders do"
      open={open}
      onCancel={() => {
        setTyped(null);
        set.reset();
        close();
      }}
      footer={null}
      destroyOnHidden
    >
      <form
        className="orders-receiver"
        onSubmit={(event) => {
          event.preventDefault();
          set.mutate({ url: url.trim() || null });
        }}
      >
        <h3>Where they go</h3>
        <p>
          Each order, and what becomes of it, is sent to this address of the shop’s own system within seconds. What is
          not answered with a status of 200 to 299 is sent again, later and later.
        </p>
        {(error ?? set.error) && <Alert type="error" showIcon title={messageOf(error ?? set.error)} />}
        <label>
          Address
          <Input
            value={url}
            placeholder="https://stock.example.org/orders"
            onChange={({ target }) => setTyped(target.value)}
          />
        </label>
        <span className="orders-receiver-do">
          <Button
            type="primary"
            htmlType="submit"
            loading={set.isPending && !set.variables.newSecret}
            disabled={typed === null || typed.trim() === (data?.url ?? '')}
          >
            {url.trim() || !data?.url ? 'Send orders there' : 'Send orders nowhere'}
          </Button>
          {data?.url && typed !== null && <Button onClick={() => setTyped(null)}>Leave it as it is</Button>}
        </span>
        {data?.url && (
          <>
            <label>
              Secret
              <Input.Password readOnly value={data.secret ?? ''} />
              <small>Requests are signed with it (RFC 9421, hmac-sha256, base64). Give it to that system alone.</small>
            </label>
            <span className="orders-receiver-do">
              <Button
                loading={set.isPending && set.variables.newSecret === true}
                onClick={() => set.mutate({ url: data.url, newSecret: true })}
              >
                Make another secret
              </Button>
            </span>
          </>
        )}
        <h3>Stock</h3>
        <label>
          What is ordered is out of stock for others
          <Select<string>
            aria-label="What is ordered is out of stock for others"
            value={String(data?.hold ?? 'no')}
            onChange={(value) => set.mutate({ hold: value === 'no' || value === 'taken' ? value : Number(value) })}
            options={[
              { value: 'no', label: 'Never: stock comes from elsewhere alone' },
              { value: 'taken', label: 'Until the order is taken or cancelled' },
              ...[1, 4, 24, 72].map((hours) => ({
                value: String(hours),
                label: `Until then, but for ${hours === 1 ? 'an hour' : `${hours} hours`} at most`,
              })),
            ]}
          />
          <small>
            Once it is taken, the shop’s own system is to count it: what is held is taken off the stock it sends until
            then.
          </small>
        </label>
      </form>
    </Modal>
  );
}
