'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Checkbox, Input, InputNumber, Table } from 'antd';
import { useState } from 'react';
import { accountEndpoints, passwordLength, type TokenItem } from '@/contract/accounts';
import { type Right, rights, roleSays } from '@/contract/roles';
import { call, messageOf, useMe, When } from '@/ui/shared';

/** One's own account: what one may do, password, sessions, tokens. */
export function Mine() {
  const { called, role, rights: mine } = useMe();
  return (
    <section aria-label="My account" className="people-mine">
      <p>
        <strong>{called}</strong>, {role}: {roleSays[role]}.
      </p>
      <Password />
      <Tokens mine={mine.filter((one) => one !== 'self')} />
    </section>
  );
}

function Password() {
  const { message } = App.useApp();
  const [was, setWas] = useState('');
  const [now, setNow] = useState('');
  const change = useMutation({
    mutationFn: () => call(accountEndpoints.password, {}, { was, now }),
    onSuccess: () => {
      setWas('');
      setNow('');
      void message.success('Changed. Other devices are signed out.');
    },
  });
  const endAll = useMutation({
    mutationFn: () => call(accountEndpoints.endMine, {}),
    // The page that comes is the way in.
    onSuccess: () => window.location.reload(),
  });
  return (
    <form
      className="people-form"
      aria-label="Password"
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate();
      }}
    >
      <h2>Password</h2>
      <label>
        Current password
        <Input.Password autoComplete="current-password" value={was} onChange={({ target }) => setWas(target.value)} />
      </label>
      <label>
        New password
        <Input.Password autoComplete="new-password" value={now} onChange={({ target }) => setNow(target.value)} />
        <small>At least {passwordLength.least} characters.</small>
      </label>
      {change.error && <Alert type="error" showIcon title={messageOf(change.error)} />}
      <span className="people-filter">
        <Button htmlType="submit" disabled={!was || now.length < passwordLength.least} loading={change.isPending}>
          Change it
        </Button>
        <Button onClick={() => endAll.mutate()} loading={endAll.isPending}>
          Sign out on every device
        </Button>
      </span>
    </form>
  );
}

function Tokens({ mine }: { mine: readonly Right[] }) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const [name, setName] = useState('');
  const [chosen, setChosen] = useState<Right[]>([]);
  const [days, setDays] = useState(90);
  const { data } = useQuery({ queryKey: ['tokens'], queryFn: () => call(accountEndpoints.tokens, {}) });
  const again = () => void queries.invalidateQueries({ queryKey: ['tokens'] });
  const make = useMutation({
    mutationFn: () => call(accountEndpoints.makeToken, {}, { name, rights: chosen, days }),
    onSuccess: () => setName(''),
    onSettled: again,
  });
  const end = useMutation({
    mutationFn: ({ id }: TokenItem) => call(accountEndpoints.endToken, { token: id }),
    onError: (error) => void message.error(messageOf(error)),
    onSettled: again,
  });
  return (
    <form
      className="people-form"
      aria-label="Tokens"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate();
      }}
    >
      <h2>Tokens</h2>
      <p>For programs: each says who it is by the header “Authorization: Bearer …”. It may do no more than you may.</p>
      <Table<TokenItem>
        rowKey="id"
        size="small"
        pagination={false}
        dataSource={data?.tokens ?? []}
        locale={{ emptyText: 'You have none.' }}
        columns={[
          { title: 'For', dataIndex: 'name' },
          { title: 'May', render: (_, one) => one.rights.join(', ') },
          { title: 'Until', render: (_, { until }) => until.slice(0, 10) },
          { title: 'Last used', render: (_, { seenAt }) => (seenAt ? <When at={seenAt} /> : 'not yet') },
          {
            title: '',
            align: 'right',
            render: (_, one) => (
              <Button size="small" type="text" danger aria-label={`End ${one.name}`} onClick={() => end.mutate(one)}>
                End
              </Button>
            ),
          },
        ]}
      />
      <label>
        What it is for
        <Input value={name} maxLength={60} onChange={({ target }) => setName(target.value)} />
      </label>
      <Checkbox.Group<Right>
        aria-label="What it may do"
        value={chosen}
        options={mine.map((right) => ({ value: right, label: rights[right].says }))}
        onChange={setChosen}
      />
      <label>
        For how many days
        <InputNumber min={1} max={366} value={days} onChange={(next) => setDays(next ?? 90)} />
      </label>
      {make.error && <Alert type="error" showIcon title={messageOf(make.error)} />}
      {make.data && (
        <Alert
          type="success"
          showIcon
          title={`“${make.data.made.name}”: shown only now`}
          description={
            <Input readOnly aria-label="The token" value={make.data.token} onFocus={({ target }) => target.select()} />
          }
        />
      )}
      <span>
        <Button htmlType="submit" disabled={!name.trim() || !chosen.length} loading={make.isPending}>
          Make a token
        </Button>
      </span>
    </form>
  );
}
