'use client';
import { useQuery } from '@tanstack/react-query';
import { Tabs } from 'antd';
import { draftEndpoints } from '@/contract/drafts';
import { releaseEndpoints } from '@/contract/releases';
import { call, usePlace } from '@/ui/shared';
import { Differences } from './Differences';
import { Drafts } from './Drafts';
import { History } from './History';
import { Releases } from './Releases';

/** The draft against what is live, the step that puts it live, drafts and releases, and what was done. */
export function ReleaseScreen() {
  const { draft, get, go } = usePlace();
  const a = get('a') ?? 'live';
  const b = get('b') ?? `draft/${draft}`;
  const drafts = useQuery({ queryKey: ['drafts'], queryFn: () => call(draftEndpoints.list, {}) });
  const releases = useQuery({
    queryKey: ['releases'],
    queryFn: () => call(releaseEndpoints.list, {}),
  });
  const compare = (from: string, to: string) =>
    go({ a: from === 'live' ? null : from, b: to === `draft/${draft}` ? null : to });
  return (
    <main className="release">
      <Drafts draft={draft} drafts={drafts.data} onCompare={(slug) => compare(`draft/${slug}`, `draft/${draft}`)} />
      <Differences
        key={`${a} ${b}`}
        draft={draft}
        a={a}
        b={b}
        drafts={drafts.data?.drafts ?? []}
        releases={releases.data}
        onCompare={compare}
      />
      <section className="release-past" aria-label="Releases and history">
        <Tabs
          size="small"
          items={[
            {
              key: 'releases',
              label: 'Releases',
              children: (
                <Releases releases={releases.data} onCompare={(number) => compare(`release/${number}`, 'live')} />
              ),
            },
            { key: 'history', label: 'History', children: <History draft={draft} /> },
          ]}
        />
      </section>
    </main>
  );
}
