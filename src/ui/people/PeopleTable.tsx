'use client';
import { EllipsisOutlined, PlusOutlined } from '@ant-design/icons';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Dropdown, Input, Modal, Select, Switch, Table } from 'antd';
import { useState } from 'react';
import { accountEndpoints, type LinkItem, type PersonItem } from '@/contract/accounts';
import { type Role, roles, roleSays } from '@/contract/roles';
import { call, messageOf, useMe, When } from '@/ui/shared';

const options = roles.map((role) => ({ value: role, label: role, title: roleSays[role] }));

/** A link that is shown this once, and whom it is for. */
interface Shown {
  called: string;
  link: LinkItem;
}

/** All accounts: their roles, when they were here, and what can be done. */
export function PeopleTable() {
  const { message, modal } = App.useApp();
  const { signedIn } = useMe();
  const queries = useQueryClient();
  const [inviting, setInviting] = useState(false);
  const [shown, setShown] = useState<Shown | null>(null);
  const { data, error } = useQuery({ queryKey: ['people'], queryFn: () => call(accountEndpoints.people, {}) });
  const again = () => void queries.invalidateQueries({ queryKey: ['people'] });
  const fails = (why: unknown) => void message.error(messageOf(why));
  const change = useMutation({
    mutationFn: ({ id, role }: { id: number; role: Role }) => call(accountEndpoints.change, { account: id }, { role }),
    onSettled: again,
    onError: fails,
  });
  const makeLink = useMutation({
    mutationFn: async ({ id, called }: PersonItem) => ({
      called,
      link: await call(accountEndpoints.link, { account: id }),
    }),
    onSuccess: setShown,
    onSettled: again,
    onError: fails,
  });
  const end = useMutation({
    mutationFn: ({ id }: PersonItem) => call(accountEndpoints.endSessions, { account: id }),
    onSuccess: () => void message.success('Signed out on every device.'),
    onSettled: again,
    onError: fails,
  });
  const remove = useMutation({
    mutationFn: ({ id }: PersonItem) => call(accountEndpoints.remove, { account: id }),
    onSettled: again,
    onError: fails,
  });
  const doWith = (one: PersonItem) => [
    { key: 'link', label: 'Link to a new password…', onClick: () => makeLink.mutate(one) },
    { key: 'end', label: 'Sign out on every device', onClick: () => end.mutate(one) },
    {
      key: 'remove',
      label: 'Remove…',
      danger: true,
      onClick: () =>
        void modal.confirm({
          title: `Remove ${one.called}?`,
          content: 'Their sessions, links and tokens end at once. What they did stays in the log and the histories.',
          okText: 'Remove',
          onOk: () => remove.mutateAsync(one).catch(() => {}),
        }),
    },
  ];
  return (
    <section aria-label="People">
      <header className="people-head">
        <p>
          {signedIn
            ? 'Who may work here, and what they may do.'
            : 'On this machine Last opens for one person without signing in. Where others can reach it, these may come in.'}
        </p>
        <Button type="primary" icon={<PlusOutlined aria-hidden />} onClick={() => setInviting(true)}>
          Invite someone…
        </Button>
      </header>
      {error && <Alert type="error" showIcon title={messageOf(error)} />}
      <Table<PersonItem>
        rowKey="id"
        size="small"
        pagination={false}
        loading={!data && !error}
        dataSource={data?.people ?? []}
        locale={{ emptyText: 'Nobody has an account yet.' }}
        columns={[
          {
            title: 'Name',
            render: (_, one) => (
              <>
                <strong>{one.called}</strong> <small>{one.name}</small>
              </>
            ),
          },
          {
            title: 'Role',
            render: (_, one) => (
              <span className="people-role">
                <Select<Role>
                  size="small"
                  aria-label={`Role of ${one.called}`}
                  value={one.role}
                  options={options}
                  onChange={(role) => change.mutate({ id: one.id, role })}
                  popupMatchSelectWidth={false}
                />
                <small>{roleSays[one.role]}</small>
              </span>
            ),
          },
          {
            title: 'Last here',
            render: (_, { seenAt, joined, sessions }) => (
              <small>
                {seenAt ? <When at={seenAt} /> : joined ? 'not yet' : 'invited: their link is open'}
                {sessions > 0 && ` · signed in on ${sessions} ${sessions === 1 ? 'device' : 'devices'}`}
              </small>
            ),
          },
          {
            title: '',
            align: 'right',
            render: (_, one) => (
              <Dropdown menu={{ items: doWith(one) }} autoFocus trigger={['click']} placement="bottomRight">
                <Button
                  size="small"
                  type="text"
                  icon={<EllipsisOutlined aria-hidden />}
                  aria-label={`What to do with ${one.called}`}
                />
              </Dropdown>
            ),
          },
        ]}
      />
      {signedIn && <StaffPublish />}
      {inviting && (
        <Invite
          onClose={() => setInviting(false)}
          onMade={(made) => {
            setInviting(false);
            setShown(made);
            again();
          }}
        />
      )}
      {shown && <OneTimeLink {...shown} onClose={() => setShown(null)} />}
    </section>
  );
}

function Invite({ onClose, onMade }: { onClose: () => void; onMade: (shown: Shown) => void }) {
  const [name, setName] = useState('');
  const [called, setCalled] = useState('');
  const [role, setRole] = useState<Role>('staff');
  const invite = useMutation({
    mutationFn: () => call(accountEndpoints.invite, {}, { name, called: called || name, role }),
    onSuccess: ({ person, link }) => onMade({ called: person.called, link }),
  });
  const ready = name.trim() !== '' && !/\s/.test(name.trim());
  return (
    <Modal
      open
      title="Invite someone"
      okText="Make the link"
      okButtonProps={{ disabled: !ready, loading: invite.isPending }}
      onOk={() => invite.mutate()}
      onCancel={onClose}
    >
      <form
        className="people-form"
        onSubmit={(event) => {
          event.preventDefault();
          if (ready) invite.mutate();
        }}
      >
        <label>
          Name to sign in with
          <Input autoFocus value={name} maxLength={120} onChange={({ target }) => setName(target.value)} />
        </label>
        <label>
          What colleagues call them
          <Input value={called} maxLength={60} placeholder={name} onChange={({ target }) => setCalled(target.value)} />
        </label>
        <label>
          Role
          <Select<Role> aria-label="Role" value={role} options={options} onChange={setRole} />
          <small>{roleSays[role]}</small>
        </label>
        {invite.error && <Alert type="error" showIcon title={messageOf(invite.error)} />}
        <button type="submit" hidden />
      </form>
    </Modal>
  );
}

function OneTimeLink({ called, link, onClose }: Shown & { onClose: () => void }) {
  const whole = new URL(link.path, window.location.origin).href;
  return (
    <Modal open title={`A link for ${called}`} footer={<Button onClick={onClose}>Done</Button>} onCancel={onClose}>
      <p>
        Give it to {called} yourself: Last sends no mail. It can be used once, until{' '}
        {new Date(link.until).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })}, and is shown only now.
      </p>
      <Input readOnly aria-label={`The link for ${called}`} value={whole} onFocus={({ target }) => target.select()} />
    </Modal>
  );
}

/** Whether staff may publish by themselves what is content alone. */
function StaffPublish() {
  const { message } = App.useApp();
  const queries = useQueryClient();
  const { data } = useQuery({ queryKey: ['settings'], queryFn: () => call(accountEndpoints.settings, {}) });
  const set = useMutation({
    mutationFn: (staffPublish: boolean) => call(accountEndpoints.set, {}, { staffPublish }),
    onSuccess: (now) => queries.setQueryData(['settings'], now),
    onError: (why) => void message.error(messageOf(why)),
  });
  if (!data) return null;
  return (
    <label className="people-setting">
      <Switch size="small" checked={data.staffPublish} loading={set.isPending} onChange={(on) => set.mutate(on)} />
      <span>
        Staff may publish by themselves
        <small>
          {' '}
          where only pieces on shelves and words differ from what is live; all else waits for a developer’s review.
        </small>
      </span>
    </label>
  );
}
