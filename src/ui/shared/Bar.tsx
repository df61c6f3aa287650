'use client';
import { DownOutlined, MoonOutlined, SunOutlined, UserOutlined } from '@ant-design/icons';
import { useQuery } from '@tanstack/react-query';
import { Button, Dropdown, Tooltip } from 'antd';
import Link from 'next/link';
import { usePathname, useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { Right } from '@/contract/roles';
import { draftEndpoints } from '@/contract/drafts';
import { alternateEndpoints } from '@/contract/alternates';
import { call } from './api';
import { useMay, useMe } from './me';
import { OthersHere } from './OthersHere';
import { usePlace } from './place';
import { ReviewHere } from './ReviewHere';
import { problemsNow, useTyped } from './typed-problems';
import { useMode } from './Providers';

/** The places of the workbench, each for whom it is. */
const places: readonly { path: string; name: string; right: Right }[] = [
  { path: '/bench', name: 'Bench', right: 'look' },
  { path: '/theme', name: 'Theme', right: 'arrange' },
  { path: '/alternates', name: 'Alternates', right: 'source' },
  { path: '/catalogue', name: 'Catalogue', right: 'look' },
  { path: '/release', name: 'Release', right: 'source' },
  { path: '/orders', name: 'Orders', right: 'orders' },
];

/** Where one is, in another draft: the page stays, what is only in this draft goes. */
function inDraft(slug: string): string {
  const url = new URL(window.location.href);
  for (const name of ['layer', 'try', 'a', 'b']) url.searchParams.delete(name);
  url.searchParams.set('draft', slug);
  return url.pathname + url.search;
}

/** The bar at the top: the places of the workbench, the draft one is in, its problems, and the way to publish. */
export function Bar() {
  const path = usePathname();
  const router = useRouter();
  const { draft } = usePlace();
  const { mode, setMode } = useMode();
  const me = useMe();
  const source = useMay('source');
  const people = useMay('people');
  const drafts = useQuery({ queryKey: ['drafts'], queryFn: () => call(draftEndpoints.list, {}) });
  const changes = useQuery({
    enabled: source,
    queryKey: ['changes', draft],
    queryFn: () => call(draftEndpoints.changes, { draft }),
  });
  // The catalogue is gone through for these: not while the screen is coming up.
  const [settled, setSettled] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(true), 1500);
    return () => clearTimeout(timer);
  }, []);
  const assignments = useQuery({
    enabled: settled && source,
    queryKey: ['assignment-problems', draft],
    queryFn: () => call(alternateEndpoints.problems, { draft }),
  });
  const name = drafts.data?.drafts.find((one) => one.slug === draft)?.name ?? draft;
  const { first, ...known } = problemsNow(changes.data, useTyped(draft));
  const [unfit] = assignments.data?.problems ?? [];
  const count = known.count + (assignments.data?.problems.length ?? 0);
  return (
    <header className="bar">
      <Link href="/bench" className="bar-name" aria-label="Last: the Bench">
        <svg width="22" height="12" viewBox="0 0 22 12" aria-hidden="true">
          <path d="M0 3a3 3 0 0 1 3-3h8c5 0 11 4 11 8v1a3 3 0 0 1-3 3H3a3 3 0 0 1-3-3z" fill="var(--leather)" />
        </svg>
        Last
      </Link>
      <nav aria-label="Places">
        {places
          .filter(({ right }) => me.rights.includes(right))
          .map((place) => (
            <Link
              key={place.path}
              href={`${place.path}?draft=${draft}`}
              aria-current={path === place.path ? 'page' : undefined}
            >
              {place.path === '/theme' && !source ? 'Words' : place.name}
            </Link>
          ))}
      </nav>
      <span className="bar-space" />
      <OthersHere draft={draft} />
      <Dropdown
        trigger={['click']}
        menu={{
          selectedKeys: [draft],
          items: [
            ...(drafts.data?.drafts ?? []).map((one) => ({ key: one.slug, label: one.name })),
            ...(source ? [{ type: 'divider' as const }, { key: ' all', label: 'All drafts and releases' }] : []),
          ],
          onClick: ({ key }) => router.push(key === ' all' ? `/release?draft=${draft}` : inDraft(key)),
        }}
      >
        <button type="button" className="bar-draft" aria-haspopup="menu">
          Draft <strong>{name}</strong> <DownOutlined aria-hidden="true" />
        </button>
      </Dropdown>
      {!source ? null : first || unfit ? (
        <Link
          className="bar-problems"
          href={
            first && first.file !== 'alternates.json'
              ? `/bench?${new URLSearchParams({ draft, file: first.file, source: first.file })}`
              : `/alternates?draft=${draft}&show=problems${unfit ? `&of=${unfit.target.piece ?? unfit.target.kind}` : ''}`
          }
          title={first ? `${first.file}, line ${first.line}: ${first.message}` : unfit?.says}
        >
          ● {count} {count === 1 ? 'problem' : 'problems'}
        </Link>
      ) : (
        <span className="bar-fine">No problems</span>
      )}
      <Tooltip title={mode === 'dark' ? 'Light' : 'Dark'}>
        <Button
          type="text"
          aria-label={mode === 'dark' ? 'Change to light' : 'Change to dark'}
          icon={mode === 'dark' ? <SunOutlined /> : <MoonOutlined />}
          onClick={() => setMode(mode === 'dark' ? 'light' : 'dark')}
        />
      </Tooltip>
      {me.signedIn && <ReviewHere draft={draft} />}
      {(me.signedIn || people) && <WhoIsHere />}
      {source && (
        <Link className="bar-publish" href={`/release?draft=${draft}`}>
          Review &amp; publish
        </Link>
      )}
    </header>
  );
}

/** Who is signed in, the way to their account and to the others, and out. */
function WhoIsHere() {
  const me = useMe();
  const router = useRouter();
  const people = useMay('people');
  const out = useRef<HTMLFormElement>(null);
  const items = [
    ...(people
      ? [
          { key: 'people', label: 'People' },
          { key: 'log', label: 'Log' },
        ]
      : []),
    ...(me.signedIn
      ? [
          { key: 'mine', label: 'My account' },
          { key: 'out', label: 'Sign out' },
        ]
      : []),
  ];
  return (
    <>
      <Dropdown
        trigger={['click']}
        menu={{
          items,
          onClick: ({ key }) => (key === 'out' ? out.current?.submit() : router.push(`/people?tab=${key}`)),
        }}
      >
        <button type="button" className="bar-who" aria-haspopup="menu" aria-label={me.called || 'People'}>
          <UserOutlined aria-hidden="true" />
          {me.called && ` ${me.called}`}
        </button>
      </Dropdown>
      <form ref={out} method="post" action="/sign-out" hidden />
    </>
  );
}
