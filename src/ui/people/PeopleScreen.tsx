'use client';
import { Tabs } from 'antd';
import { useMay, useMe, usePlace } from '@/ui/shared';
import { LogTable } from './LogTable';
import { Mine } from './Mine';
import { PeopleTable } from './PeopleTable';
import { Status } from './Status';
import './people.css';

/** Who may work here, the log of what was done, and one's own account. */
export function PeopleScreen() {
  const { get, go } = usePlace();
  const { signedIn } = useMe();
  const people = useMay('people');
  const items = [
    ...(people
      ? [
          { key: 'people', label: 'People', children: <PeopleTable /> },
          { key: 'log', label: 'Log', children: <LogTable /> },
          { key: 'status', label: 'Status', children: <Status /> },
        ]
      : []),
    ...(signedIn ? [{ key: 'mine', label: 'My account', children: <Mine /> }] : []),
  ];
  const tab = get('tab') ?? items[0]?.key ?? 'mine';
  return (
    <main className="people">
      <h1 className="unseen">People</h1>
      <Tabs items={items} activeKey={tab} onChange={(key) => go({ tab: key }, true)} destroyOnHidden />
    </main>
  );
}
